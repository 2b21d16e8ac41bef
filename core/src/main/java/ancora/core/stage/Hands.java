package ancora.core.stage;

import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.show.PartId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * What hands and feet hold, and what is made of it.
 *
 * @param keys keys that are down, in the order in which they went down
 * @param erases the erasing that goes on, by part
 * @param erased of each part the erasing that ended last: a key of it may still arrive
 * @param repeat how held keys are repeated
 * @param sustained notes whose key is up, and whose end waits for a foot to lift
 * @param handOvers where what is played goes over from one part to the next
 * @param sweep a take that is held, and goes into a comp
 */
@RecordBuilder
public record Hands(
    List<HeldKey> keys,
    List<Erase> erases,
    List<Erase> erased,
    Optional<NoteRepeat> repeat,
    List<Sustained> sustained,
    List<HandOver> handOvers,
    Optional<Sweep> sweep)
    implements HandsBuilder.With {

  /** Nothing is held. */
  public static final Hands FREE =
      new Hands(
          List.of(),
          List.of(),
          List.of(),
          Optional.empty(),
          List.of(),
          List.of(),
          Optional.empty());

  public Hands {
    keys = List.copyOf(keys);
    erases = List.copyOf(erases);
    erased = List.copyOf(erased);
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
    return !erases.isEmpty();
  }

  /** The erasing that goes on on a part. */
  public Optional<Erase> eraseOn(PartId part) {
    return erases.isEmpty()
        ? Optional.empty()
        : erases.stream().filter(erase -> erase.part().equals(part)).findFirst();
  }

  /** The erasing that went on on a part at a tick, as far as is remembered. */
  public Optional<Erase> eraseOn(PartId part, long tick) {
    return Stream.concat(erases.stream(), erased.stream())
        .filter(erase -> erase.part().equals(part) && erase.covers(tick))
        .findFirst();
  }

  /** These hands with an erasing as it is by now; of those that ended the last is remembered. */
  public Hands with(Erase erase) {
    Predicate<Erase> others = other -> !other.part().equals(erase.part());
    if (erase.isOpen()) {
      return withErases(put(erases, others, erase));
    }
    return withErases(
            erases.stream().filter(e -> others.test(e) || e.from() != erase.from()).toList())
        .withErased(put(erased, others, erase));
  }

  private static List<Erase> put(List<Erase> erases, Predicate<Erase> others, Erase erase) {
    return Stream.concat(erases.stream().filter(others), Stream.of(erase)).toList();
  }

  /** These hands with the erasing of a part changed. */
  public Hands mapErase(PartId part, UnaryOperator<Erase> change) {
    return withErases(
        erases.stream().map(e -> e.part().equals(part) ? change.apply(e) : e).toList());
  }
}
