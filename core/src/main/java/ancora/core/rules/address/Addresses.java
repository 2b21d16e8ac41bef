package ancora.core.rules.address;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Take;
import ancora.core.show.Address;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.stage.FormStage;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.vamp.Cue;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;

/** What addresses name on a stage; refuses where it is not there. */
final class Addresses {

  private Addresses() {}

  static PartId part(Stage stage, Address address) {
    List<Part> parts = stage.show().parts();
    if (address.isNumber()) {
      int number = Integer.parseInt(address.name());
      Refusal.unless(number <= parts.size(), "There is no part %s in this show.", number);
      return parts.get(number - 1).id();
    }
    Refusal.unless(!parts.isEmpty(), "Add a part first.");
    PartId armed = stage.armed().orElse(parts.get(0).id());
    int place = parts.indexOf(stage.show().part(armed)) + address.further();
    Refusal.unless(
        place >= 0 && place < parts.size(), "No part comes %s.", place < 0 ? "before" : "next");
    return parts.get(place).id();
  }

  static ClipId clip(Stage stage, PartId id, Address address) {
    Part part = stage.show().part(id);
    PartStage on = stage.on(id);
    if (address.is("in hand")) {
      return on.inHand()
          .orElseThrow(() -> new Refusal(part.name() + " has no loop yet: record one first."));
    }
    List<Clip> shelf = part.shelf();
    if (address.further() == 0) {
      return shelf.stream()
          .filter(clip -> clip.letter().equals(address.name()))
          .findFirst()
          .map(Clip::id)
          .orElseThrow(() -> noClip(part, address.name()));
    }
    Optional<ClipId> here = on.cue().flatMap(Cue::clip).or(on::inHand);
    int place = here.flatMap(part::clip).map(shelf::indexOf).orElse(-1) + address.further();
    Refusal.unless(place >= 0, "%s has no clip before this one.", part.name());
    Refusal.unless(place < shelf.size(), "%s has no clip after this one.", part.name());
    return shelf.get(place).id();
  }

  private static Refusal noClip(Part part, String letter) {
    return new Refusal(part.name() + " has no clip " + letter + " yet.");
  }

  static SectionId section(Stage stage, Address address) {
    List<Section> form = stage.show().form();
    Refusal.unless(!form.isEmpty(), "The form has no sections: make one of what sounds.");
    if (!address.is("now") && address.further() == 0) {
      return form.stream()
          .filter(section -> section.letter().equals(address.name()))
          .findFirst()
          .map(Section::id)
          .orElseThrow(
              () -> new Refusal("There is no section " + address.name() + " in this show."));
    }
    List<SectionId> ids = form.stream().map(Section::id).toList();
    Optional<SectionId> next = stage.form().next().map(FormStage.Next::section);
    int here = next.or(stage.form()::now).map(ids::indexOf).orElse(-1);
    int place = here < 0 ? 0 : here + address.further();
    Refusal.unless(here >= 0 || !address.is("now"), "No section sounds: cue one.");
    Refusal.unless(place >= 0, "That is the first section already.");
    Refusal.unless(place < ids.size(), "That is the last section already.");
    return ids.get(place);
  }

  static int take(Stage stage, PartId part, ClipId id, Address address) {
    Clip clip = stage.clip(part, id);
    if (address.isNumber()) {
      return Integer.parseInt(address.name());
    }
    List<Integer> numbers = clip.takes().stream().map(Take::number).toList();
    if (address.is("last")) {
      return numbers.get(numbers.size() - 1);
    }
    PartStage on = stage.on(part);
    boolean sounds = on.vamp().map(Vamp::clip).filter(id::equals).isPresent();
    int heard =
        on.hears().filter(hears -> sounds).map(TakeSwitch::take).orElse(clip.take().number());
    int place = numbers.indexOf(heard) + address.further();
    Refusal.unless(place >= 0, "That is the first take already.");
    Refusal.unless(place < numbers.size(), "That is the last take already.");
    return numbers.get(place);
  }
}
