package ancora.core.rules.shelf;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Music that comes into a show: from a file, a run, or another show. The ids in it are its own;
 * what it becomes gets the show's.
 *
 * @param tempo of a show without clips, then; else the show's holds
 * @param meter likewise
 * @param parts with their clips, a part for each that is new
 * @param onto by part of these, the part of the show whose shelf its clips go to instead
 * @param form sections of these clips, which come at the end of the form
 */
public record Arrival(
    Optional<Tempo> tempo,
    Optional<Meter> meter,
    List<Part> parts,
    List<Onto> onto,
    List<Section> form) {

  /** No more clips arrive at once. */
  public static final int MOST_CLIPS = 1024;

  /** Clips that go to a part that is there. */
  public record Onto(PartId arriving, PartId part) {}

  public Arrival {
    parts = List.copyOf(parts);
    onto = List.copyOf(onto);
    form = List.copyOf(form);
    long clips = parts.stream().mapToLong(part -> part.shelf().size()).sum();
    Refusal.unless(clips <= MOST_CLIPS, "More than %s clips are too many at once.", MOST_CLIPS);
    Set<PartId> ids = new HashSet<>();
    Set<ClipId> clipIds = new HashSet<>();
    for (Part part : parts) {
      Refusal.unless(ids.add(part.id()), "Two parts that arrive have one id.");
      part.shelf()
          .forEach(
              clip -> Refusal.unless(clipIds.add(clip.id()), "Two clips that arrive have one id."));
    }
  }

  Optional<PartId> ontoOf(Part part) {
    return onto.stream().filter(o -> o.arriving().equals(part.id())).map(Onto::part).findFirst();
  }
}
