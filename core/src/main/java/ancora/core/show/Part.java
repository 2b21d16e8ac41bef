package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.note.InputGrid;
import ancora.core.sound.Sound;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * One instrument of the arrangement.
 *
 * @param id within the show
 * @param name as the performer calls it
 * @param pennant the figure that identifies it, 0 to 15
 * @param sound what it sounds like
 * @param inputGrid how its playing is moved to a grid as it comes in
 * @param input what it takes of what is played
 * @param leaving what becomes of its notes where a clip leaves
 * @param balance how it stands in the whole
 * @param output the outside device on which it sounds; empty if on none
 * @param shelf its clips, a first
 */
@RecordBuilder
public record Part(
    PartId id,
    String name,
    int pennant,
    Sound sound,
    InputGrid inputGrid,
    PartInput input,
    Leaving leaving,
    Balance balance,
    Optional<PartOutput> output,
    List<Clip> shelf)
    implements PartBuilder.With {

  /** So many pennants there are. */
  public static final int PENNANTS = 16;

  public Part {
    shelf = List.copyOf(shelf);
    name = Names.checked("part", name);
    Refusal.unless(pennant >= 0 && pennant < PENNANTS, "There are pennants 0 to 15.");
  }

  /** A part with everything as usual. */
  public static Part of(PartId id, String name, Sound sound) {
    return new Part(
        id,
        name,
        Math.floorMod(id.value() - 1, PENNANTS),
        sound,
        InputGrid.SIXTEENTHS,
        PartInput.OPEN,
        Leaving.CUT,
        Balance.DEFAULT,
        Optional.empty(),
        List.of());
  }

  public Optional<Clip> clip(ClipId clipId) {
    return shelf.stream().filter(clip -> clip.id().equals(clipId)).findFirst();
  }

  /**
   * This part with a clip on its shelf, instead of the one with its id, in the order of letters.
   */
  public Part withClip(Clip clip) {
    List<Clip> next = new ArrayList<>(withoutClip(clip.id()).shelf);
    next.add(clip);
    next.sort(BY_LETTER);
    return withShelf(next);
  }

  public Part withoutClip(ClipId clipId) {
    return withShelf(shelf.stream().filter(clip -> !clip.id().equals(clipId)).toList());
  }

  /** The clip with an id; refuses one that is not there. */
  public Clip clipOf(ClipId clipId) {
    return clip(clipId)
        .orElseThrow(() -> new Refusal("There is no such clip on the shelf of " + name + "."));
  }

  /** The first letter that no clip of the shelf has: a to z, then aa, ab … */
  public String freeLetter() {
    return Letters.free('a', this::hasLetter);
  }

  /** Clips in the order of their letters: a to z, then aa. */
  public static final Comparator<Clip> BY_LETTER =
      Comparator.comparingInt((Clip clip) -> clip.letter().length()).thenComparing(Clip::letter);

  /** Whether a clip of the shelf has a letter. */
  public boolean hasLetter(String letter) {
    return shelf.stream().anyMatch(clip -> clip.letter().equals(letter));
  }

  /** This part with a free letter for each clip whose letter an older one has as well. */
  public Part withLettersApart() {
    Part next = this;
    List<Clip> byAge =
        shelf.stream().sorted(Comparator.comparingInt(clip -> clip.id().value())).toList();
    Set<String> given = new HashSet<>();
    for (Clip clip : byAge) {
      if (!given.add(clip.letter())) {
        next = next.withClip(clip.withLetter(next.freeLetter()));
        given.add(next.clipOf(clip.id()).letter());
      }
    }
    return next;
  }
}
