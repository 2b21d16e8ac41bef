package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Going through the form: sections cued, entered, made and changed. */
final class Forms {

  private Forms() {}

  /** A section enters at the next entry point; what is cued already is called off. */
  static Step cue(Stage stage, SectionId id, Moment moment) {
    Section section = stage.show().section(id);
    if (stage.map().isEmpty()) {
      return Step.to(standReady(stage, section));
    }
    boolean again = stage.form().next().map(next -> next.section().equals(id)).orElse(false);
    if (again) {
      return Step.to(calledOff(stage), "Section " + section.letter() + " is called off.");
    }
    long at = Cues.boundary(stage, stage.show().recording().entersOn(), moment);
    return cueAt(stage, section, at, moment);
  }

  /**
   * The section so many places on in the form.
   *
   * @param places 1 for the next, −1 for the one before
   */
  static Step cueFurther(Stage stage, int places, Moment moment) {
    List<SectionId> form = stage.show().form().stream().map(Section::id).toList();
    Refusal.unless(!form.isEmpty(), "The form has no sections: make one of what sounds.");
    Optional<SectionId> here =
        stage.form().next().map(FormStage.Next::section).or(stage.form()::now);
    int place = here.map(form::indexOf).orElse(-1);
    int next = place < 0 ? 0 : place + places;
    Refusal.unless(next >= 0, "That is the first section already.");
    Refusal.unless(next < form.size(), "That is the last section already.");
    return cue(stage, form.get(next), moment);
  }

  /** The section that is cued does not come; what parts were cued by it go on as they are. */
  static Stage calledOff(Stage stage) {
    if (stage.form().next().isEmpty()) {
      return stage;
    }
    long at = stage.form().next().get().at();
    return stage
        .forEachPart(
            (s, part) -> s.mapOn(part, on -> on.withCue(on.cue().filter(cue -> cue.at() != at))))
        .withForm(stage.form().withNext(Optional.empty()));
  }

  /** The section that is due is where the performance is; it may lead on by itself. */
  static Stage enter(Stage stage) {
    FormStage.Next next = stage.form().next().orElseThrow();
    Stage entered =
        stage.withForm(new FormStage(Optional.of(next.section()), next.at(), Optional.empty()));
    Optional<Section.GoesOn> goesOn = stage.show().section(next.section()).goesOn();
    Optional<Section> to =
        goesOn.flatMap(
            g -> stage.show().form().stream().filter(s -> s.id().equals(g.to())).findFirst());
    if (to.isEmpty()) {
      return entered;
    }
    long at = next.at() + goesOn.get().bars() * stage.show().meter().barTicks();
    long micros = Math.round(stage.map().orElseThrow().microsOf(next.at()));
    return cueAt(entered, to.get(), at, new Moment(micros, micros)).stage();
  }

  private static Step cueAt(Stage stage, Section section, long at, Moment moment) {
    Stage next = calledOff(stage);
    Optional<String> word = Optional.empty();
    for (Part part : stage.show().parts()) {
      Optional<ClipId> clip = section.lineUp().get(part.id());
      boolean named = clip != null;
      if (named || section.othersTacet()) {
        Optional<Clip> enters = named ? clip.flatMap(part::clip) : Optional.empty();
        boolean silent =
            next.on(part.id()).vamp().isEmpty() && next.on(part.id()).first().isEmpty();
        if (enters.isPresent() || !silent) {
          Step step = Cues.set(next, part.id(), enters, at, moment);
          next = step.stage();
          word = step.word().or(() -> step.word());
        } else {
          next = next.mapOn(part.id(), on -> on.withCue(Optional.empty()));
        }
      }
    }
    return new Step(
        next.withForm(next.form().withNext(Optional.of(new FormStage.Next(section.id(), at)))),
        word);
  }

  private static Stage standReady(Stage stage, Section section) {
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      Optional<ClipId> clip = section.lineUp().get(part.id());
      boolean named = clip != null;
      if (named || section.othersTacet()) {
        Optional<ClipId> ready = named ? clip : Optional.empty();
        next = next.mapOn(part.id(), on -> on.withReady(ready));
      }
    }
    return next.withForm(new FormStage(Optional.of(section.id()), 0, Optional.empty()));
  }

  /** Makes a section of what sounds, or stands ready, now; the other parts are tacet in it. */
  static Stage make(Stage stage, String name) {
    Show show = stage.show();
    Map<PartId, Optional<ClipId>> lineUp = new HashMap<>();
    for (Part part : show.parts()) {
      PartStage on = stage.on(part.id());
      lineUp.put(part.id(), stage.map().isPresent() ? on.vamp().map(Vamp::clip) : on.ready());
    }
    Section section =
        new Section(
            new SectionId((int) show.nextId()),
            freeLetter(show),
            name,
            lineUp,
            false,
            Optional.empty());
    List<Section> form = new ArrayList<>(show.form());
    form.add(section);
    return stage.withShow(show.withForm(form).withNextId(show.nextId() + 1));
  }

  /** Puts a section in the place of the one with its id; its letter stays. */
  static Stage set(Stage stage, Section section) {
    Show show = stage.show();
    String letter = show.section(section.id()).letter();
    section
        .lineUp()
        .forEach(
            (id, clip) -> {
              Part part = show.part(id);
              clip.ifPresent(part::clipOf);
            });
    section.goesOn().ifPresent(goesOn -> show.section(goesOn.to()));
    return stage.withShow(
        show.withForm(
            show.form().stream()
                .map(s -> s.id().equals(section.id()) ? section.withLetter(letter) : s)
                .toList()));
  }

  static Stage delete(Stage stage, SectionId id) {
    stage.show().section(id);
    Stage next =
        stage.form().next().map(n -> n.section().equals(id)).orElse(false)
            ? calledOff(stage)
            : stage;
    List<Section> form =
        stage.show().form().stream()
            .filter(section -> !section.id().equals(id))
            .map(
                section ->
                    section.withGoesOn(section.goesOn().filter(goesOn -> !goesOn.to().equals(id))))
            .toList();
    FormStage now = next.form();
    return next.withShow(next.show().withForm(form))
        .withForm(new FormStage(now.now().filter(s -> !s.equals(id)), now.since(), now.next()));
  }

  /** Moves a section to a place in the form, from 0. */
  static Stage move(Stage stage, SectionId id, int place) {
    Section section = stage.show().section(id);
    List<Section> form = new ArrayList<>(stage.show().form());
    form.remove(section);
    form.add(Math.max(0, Math.min(place, form.size())), section);
    return stage.withShow(stage.show().withForm(form));
  }

  private static String freeLetter(Show show) {
    for (char letter = 'A'; letter <= 'Z'; letter++) {
      String candidate = String.valueOf(letter);
      if (show.form().stream().noneMatch(section -> section.letter().equals(candidate))) {
        return candidate;
      }
    }
    throw new Refusal("A form has 26 sections at most: delete one first.");
  }
}
