package ancora.core.rules.shelf;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.WholeClip;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.TempoAndMeter;
import ancora.core.rules.cues.Forms;
import ancora.core.show.Letters;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.show.WholeShow;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Taking in music from elsewhere: all of it, or none (rule 20). */
final class Arriving {

  private final Arrival arrival;
  private final Map<PartId, PartId> parts = new HashMap<>();
  private final Map<ClipId, ClipId> clips = new HashMap<>();
  private Show show;

  private Arriving(Show show, Arrival arrival) {
    this.show = show;
    this.arrival = arrival;
  }

  /**
   * The stage with the music. At standstill its first section stands ready, where the show had no
   * form; else each new part's first clip does.
   */
  static Result take(Stage stage, Arrival arrival, Moment moment) {
    Show before = stage.show();
    boolean empty = before.parts().stream().allMatch(part -> part.shelf().isEmpty());
    Stage timed =
        empty
            ? TempoAndMeter.taken(
                stage,
                arrival.tempo().orElse(before.tempo()),
                arrival.meter().orElse(before.meter()),
                moment)
            : stage;
    Show show = new Arriving(timed.show(), arrival).taken();
    Stage after = timed.withShow(show);
    if (stage.map().isEmpty() && before.form().isEmpty() && !show.form().isEmpty()) {
      after = Forms.standReady(after, show.form().get(0));
    } else if (stage.map().isEmpty()) {
      for (Part part : show.parts()) {
        if (before.parts().stream().noneMatch(p -> p.id().equals(part.id()))) {
          Optional<ClipId> first = part.shelf().stream().findFirst().map(Clip::id);
          after = after.mapOn(part.id(), on -> on.withReady(first));
        }
      }
    }
    return Result.to(Steps.noted(stage, after, "bring in " + words(arrival)));
  }

  private static String words(Arrival arrival) {
    long clips = arrival.parts().stream().mapToLong(part -> part.shelf().size()).sum();
    return clips == 1 ? "a clip" : clips + " clips";
  }

  private Show taken() {
    Refusal.unless(!arrival.parts().isEmpty(), "Choose something to bring in.");
    arrival.parts().forEach(this::take);
    List<Section> form = new ArrayList<>(show.form());
    Set<String> letters = new TreeSet<>();
    form.forEach(section -> letters.add(section.letter()));
    Map<SectionId, SectionId> sections = new HashMap<>();
    for (Section section : arrival.form()) {
      sections.put(section.id(), show.nextSectionId());
      show = show.withNextId(show.nextId() + 1);
    }
    arrival.form().forEach(section -> form.add(section(section, sections, letters)));
    return show.withForm(form);
  }

  private void take(Part part) {
    PartId id = arrival.ontoOf(part).orElseGet(show::nextPartId);
    if (arrival.ontoOf(part).isEmpty()) {
      Part bare =
          part.withId(id)
              .withShelf(List.of())
              .withPennant(Math.floorMod(id.value() - 1, Part.PENNANTS));
      List<Part> next = new ArrayList<>(show.parts());
      next.add(bare);
      show = show.withParts(next).withNextId(show.nextId() + 1);
    }
    show.part(id);
    parts.put(part.id(), id);
    part.shelf().forEach(clip -> take(clip, id));
  }

  private void take(Clip clip, PartId onto) {
    WholeClip.check(clip);
    check(clip.window(), clip.letter());
    ClipId id = show.nextClipId();
    Ids ids = new Ids(show.nextId() + 1);
    Clip own = clip.mapTakes(ids::copy).withId(id).withLetter(show.part(onto).freeLetter());
    clips.put(clip.id(), id);
    show = show.withNextId(ids.next()).mapPart(onto, part -> part.withClip(own));
  }

  private void check(LoopWindow window, String letter) {
    long quarter = show.meter().beatTicks() / WholeShow.PARTS_OF_A_BEAT;
    Refusal.unless(
        window.length() % quarter == 0,
        "Clip %s that arrives does not fit the show's meter, %s: its length is no number of beats.",
        letter,
        show.meter());
    Refusal.unless(
        window.length() <= RecordingSettings.MOST_BARS * show.meter().barTicks(),
        "Clip %s that arrives is longer than %s bars.",
        letter,
        RecordingSettings.MOST_BARS);
  }

  private Section section(
      Section section, Map<SectionId, SectionId> sections, Set<String> letters) {
    Map<PartId, Optional<ClipId>> lineUp = new HashMap<>();
    section
        .lineUp()
        .forEach(
            (part, clip) -> {
              if (parts.containsKey(part)) {
                lineUp.put(parts.get(part), clip.map(clips::get));
              }
            });
    return section
        .withId(sections.get(section.id()))
        .withLetter(freeLetter(letters))
        .withLineUp(lineUp)
        .withGoesOn(
            section
                .goesOn()
                .filter(on -> sections.containsKey(on.to()))
                .map(on -> new Section.GoesOn(on.bars(), sections.get(on.to()))));
  }

  private static String freeLetter(Set<String> letters) {
    String letter = Letters.free('A', letters::contains);
    letters.add(letter);
    return letter;
  }
}
