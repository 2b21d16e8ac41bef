package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * All that one performance needs; what is saved and opened.
 *
 * @param title its name
 * @param tempo the tempo at which it starts
 * @param meter its meter
 * @param click the metronome
 * @param recording how recordings begin and close
 * @param master what all parts go through
 * @param parts its instruments, in the order of the staves
 * @param form its sections, in their order
 * @param nextId an id that nothing in the show has had yet
 */
@RecordBuilder
public record Show(
    String title,
    Tempo tempo,
    Meter meter,
    Click click,
    RecordingSettings recording,
    Master master,
    List<Part> parts,
    List<Section> form,
    long nextId)
    implements ShowBuilder.With {

  /** A show has no more parts than this. */
  public static final int MOST_PARTS = 16;

  public Show {
    title = Names.checked("show", title);
    parts = List.copyOf(parts);
    form = List.copyOf(form);
    Refusal.unless(
        parts.size() <= MOST_PARTS, "A show has %s parts at most: delete one first.", MOST_PARTS);
    Refusal.unless(
        form.size() <= Section.MOST,
        "A form has %s sections at most: delete one first.",
        Section.MOST);
  }

  /** An empty show at 120 in 4/4. */
  public static Show named(String title) {
    return new Show(
        title,
        Tempo.of(120),
        Meter.COMMON,
        Click.DEFAULT,
        RecordingSettings.DEFAULT,
        Master.DEFAULT,
        List.of(),
        List.of(),
        1);
  }

  /** The part with an id; refuses one that is not there. */
  public Part part(PartId id) {
    for (Part part : parts) {
      if (part.id().equals(id)) {
        return part;
      }
    }
    throw new Refusal("There is no such part in this show.");
  }

  public Show mapPart(PartId id, UnaryOperator<Part> change) {
    part(id);
    List<Part> next = new ArrayList<>(parts);
    next.replaceAll(part -> part.id().equals(id) ? change.apply(part) : part);
    return withParts(next);
  }

  /** The section with an id; refuses one that is not there. */
  public Section section(SectionId id) {
    return form.stream()
        .filter(section -> section.id().equals(id))
        .findFirst()
        .orElseThrow(() -> new Refusal("There is no such section in this show."));
  }

  /** The id that the next clip gets. */
  public ClipId nextClipId() {
    return new ClipId((int) nextId);
  }

  /** The id that the next part gets. */
  public PartId nextPartId() {
    return new PartId((int) nextId);
  }

  /** The id that the next section gets. */
  public SectionId nextSectionId() {
    return new SectionId((int) nextId);
  }

  /** Whether only some parts are heard. */
  public boolean hasSolo() {
    return parts.stream().anyMatch(part -> part.balance().solo());
  }

  /**
   * How loud a part is heard, as a factor of amplitude: 0 if it is muted, or if others are solo.
   */
  public double gainOf(Part part) {
    return isHeard(part) ? part.balance().gain() : 0;
  }

  /** Whether a part is neither muted nor silent because others are solo. */
  public boolean isHeard(Part part) {
    Balance balance = part.balance();
    return !balance.muted() && (!hasSolo() || balance.solo());
  }

  /** This show with one more part at the end. */
  public Show withNewPart(String name, Sound sound) {
    List<Part> next = new ArrayList<>(parts);
    next.add(Part.of(nextPartId(), name, sound));
    return withParts(next).withNextId(nextId + 1);
  }
}
