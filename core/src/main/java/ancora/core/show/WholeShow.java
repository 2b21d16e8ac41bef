package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.WholeClip;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What is true of every show that was made here, and has to be of one that comes from elsewhere.
 */
public final class WholeShow {

  private static final int MOST_CLIPS = 1000;

  /** A clip's length is a number of beats, or of halves or quarters of one. */
  public static final int PARTS_OF_A_BEAT = 4;

  private static final long MOST_ID = Integer.MAX_VALUE / 2;

  private WholeShow() {}

  /** Refuses, in a sentence, a show that could not have been made here. */
  public static void check(Show show) {
    Refusal.unless(
        show.nextId() >= 1 && show.nextId() <= MOST_ID, "The show's next id is out of reach.");
    Set<Integer> ids = new HashSet<>();
    show.parts().forEach(part -> own(ids, show, part.id().value()));
    show.form().forEach(section -> own(ids, show, section.id().value()));
    Set<ClipId> clips = new HashSet<>();
    Set<Long> notes = new HashSet<>();
    for (Part part : show.parts()) {
      Refusal.unless(
          part.shelf().size() <= MOST_CLIPS, "%s has more than %s clips.", part.name(), MOST_CLIPS);
      Set<String> letters = new HashSet<>();
      for (Clip clip : part.shelf()) {
        own(ids, show, clip.id().value());
        clips.add(clip.id());
        WholeClip.check(clip);
        check(show, part, clip, letters);
        clip.allLayers()
            .flatMap(layer -> layer.notes().stream())
            .forEach(
                note ->
                    Refusal.unless(
                        note.id() < show.nextId() && notes.add(note.id()),
                        "A note of clip %s has no id of its own.",
                        clip.letter()));
      }
    }
    Set<String> letters = new HashSet<>();
    for (Section section : show.form()) {
      Refusal.unless(
          letters.add(section.letter()) && section.letter().matches("[A-Z]{1,2}"),
          "Two sections have one letter.");
      check(show, section, clips);
    }
  }

  private static void own(Set<Integer> ids, Show show, int id) {
    Refusal.unless(
        id >= 1 && id < show.nextId() && ids.add(id),
        "Something in the show has no id of its own.");
  }

  private static void check(Show show, Part part, Clip clip, Set<String> letters) {
    Refusal.unless(
        letters.add(clip.letter()),
        "Two clips of %s have the letter %s.",
        part.name(),
        clip.letter());
    long quarter = show.meter().beatTicks() / PARTS_OF_A_BEAT;
    Refusal.unless(
        clip.window().length() % quarter == 0
            && clip.window().length() <= RecordingSettings.MOST_BARS * show.meter().barTicks(),
        "Clip %s of %s is no number of beats long, or longer than %s bars.",
        clip.letter(),
        part.name(),
        RecordingSettings.MOST_BARS);
  }

  private static void check(Show show, Section section, Set<ClipId> clips) {
    Set<Integer> parts = new HashSet<>();
    show.parts().forEach(part -> parts.add(part.id().value()));
    section
        .lineUp()
        .forEach(
            (part, clip) ->
                Refusal.unless(
                    parts.contains(part.value()) && clip.map(clips::contains).orElse(true),
                    "Section %s names a clip, or a part, that is not there.",
                    section.letter()));
    Optional<SectionId> to = section.goesOn().map(Section.GoesOn::to);
    Stream<SectionId> all = show.form().stream().map(Section::id);
    Refusal.unless(
        to.isEmpty() || all.anyMatch(to.get()::equals),
        "Section %s goes on to one that is not there.",
        section.letter());
  }
}
