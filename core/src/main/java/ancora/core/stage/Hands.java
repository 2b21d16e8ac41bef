package ancora.core.stage;

import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.show.PartId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * What hands and feet hold, and what is made of it.
 *
 * @param keys keys that are down, in the order in which they went down
 * @param erases the erasing that goes on, and of each part the one that ended last: a key may
 *     arrive late
 * @param repeat how held keys are repeated
 * @param sustained notes whose key is up, and whose end waits for a foot to lift
 * @param handOvers where what is played goes over from one part to the next
 */
@RecordBuilder
public record Hands(
    List<HeldKey> keys,
    List<Erase> erases,
    Optional<NoteRepeat> repeat,
    List<Sustained> sustained,
    List<HandOver> handOvers)
    implements HandsBuilder.With {

  /** Nothing is held. */
  public static final Hands FREE =
      new Hands(List.of(), List.of(), Optional.empty(), List.of(), List.of());

  public Hands {
    keys = List.copyOf(keys);
    erases = List.copyOf(erases);
    sustained = List.copyOf(sustained);
    handOvers = List.copyOf(handOvers);
  }

  /**
   * A note that lasts as long as a foot holds it.
   *
   * @param pedal the pedal
   * @param key the key that made it, as it was
   */
  public record Sustained(InputKey pedal, HeldKey key) {}

  /**
   * What is played before a tick goes to the part that was armed before.
   *
   * @param from the part that was armed before
   * @param to the part that takes over
   * @param at the tick at which it does
   */
  public record HandOver(PartId from, PartId to, long at) {

    /** Nothing goes over any more; but it is known which part was armed before. */
    public HandOver calledOff() {
      return new HandOver(from, to, NEVER);
    }

    public boolean isToCome() {
      return at != NEVER;
    }

    private static final long NEVER = Long.MIN_VALUE / 2;
  }

  public Hands mapKeys(Predicate<HeldKey> which, UnaryOperator<HeldKey> change) {
    return withKeys(keys.stream().map(key -> which.test(key) ? change.apply(key) : key).toList());
  }

  /** Whether erase is held. */
  public boolean isErasing() {
    return erases.stream().anyMatch(Erase::isOpen);
  }

  /** The erasing that goes on on a part. */
  public Optional<Erase> eraseOn(PartId part) {
    return erases.isEmpty()
        ? Optional.empty()
        : erases.stream().filter(e -> e.isOpen() && e.part().equals(part)).findFirst();
  }

  /** The erasing that went on on a part at a tick, as far as is remembered. */
  public Optional<Erase> eraseOn(PartId part, long tick) {
    return erases.isEmpty()
        ? Optional.empty()
        : erases.stream().filter(e -> e.part().equals(part) && e.covers(tick)).findFirst();
  }

  /** These hands with an erasing in place of the one that began there, and of older ones. */
  public Hands with(Erase erase) {
    List<Erase> next = new ArrayList<>();
    for (Erase other : erases) {
      boolean here = other.part().equals(erase.part());
      boolean older = !erase.isOpen() && other.from() < erase.from();
      if (!here || other.from() != erase.from() && !older) {
        next.add(other);
      }
    }
    next.add(erase);
    return withErases(next);
  }

  /** These hands with the erasing of a part changed. */
  public Hands mapErase(PartId part, UnaryOperator<Erase> change) {
    return withErases(
        erases.stream()
            .map(e -> e.isOpen() && e.part().equals(part) ? change.apply(e) : e)
            .toList());
  }
}
