package ancora.core.engine;

import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.show.PartId;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * What hands and feet hold, and what is made of it.
 *
 * @param keys keys that are down, in the order in which they went down
 * @param erase the erasing that goes on
 * @param repeat how held keys are repeated
 * @param sustained notes whose key is up, and whose end waits for a foot to lift
 * @param handOvers where what is played goes over from one part to the next
 */
public record Hands(
    List<HeldKey> keys,
    Optional<Erase> erase,
    Optional<NoteRepeat> repeat,
    List<Sustained> sustained,
    List<HandOver> handOvers) {

  /** Nothing is held. */
  public static final Hands FREE =
      new Hands(List.of(), Optional.empty(), Optional.empty(), List.of(), List.of());

  public Hands {
    keys = List.copyOf(keys);
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
    HandOver calledOff() {
      return new HandOver(from, to, NEVER);
    }

    boolean isToCome() {
      return at != NEVER;
    }

    private static final long NEVER = Long.MIN_VALUE / 2;
  }

  Hands withKeys(List<HeldKey> newKeys) {
    return new Hands(newKeys, erase, repeat, sustained, handOvers);
  }

  Hands mapKeys(Predicate<HeldKey> which, UnaryOperator<HeldKey> change) {
    return withKeys(keys.stream().map(key -> which.test(key) ? change.apply(key) : key).toList());
  }

  Hands withErase(Optional<Erase> newErase) {
    return new Hands(keys, newErase, repeat, sustained, handOvers);
  }

  Hands withRepeat(Optional<NoteRepeat> newRepeat) {
    return new Hands(keys, erase, newRepeat, sustained, handOvers);
  }

  Hands withHandOvers(List<HandOver> overs) {
    return new Hands(keys, erase, repeat, sustained, overs);
  }

  Hands withSustained(List<Sustained> notes) {
    return new Hands(keys, erase, repeat, notes, handOvers);
  }
}
