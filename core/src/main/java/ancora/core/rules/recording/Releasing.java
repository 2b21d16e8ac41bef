package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.show.PartId;
import ancora.core.stage.Hands;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.LongStream;

/** Notes end where their keys come up, or where a foot lifts that sustains them. */
public final class Releasing {

  private Releasing() {}

  /** Ends the note that a key made, wherever it is by now. */
  public static Stage endNote(Stage stage, HeldKey down, long stamp) {
    long off = Math.max(stamp, down.onMicros());
    Stage next =
        stage.mapOn(
            down.part(),
            on -> on.withHindsight(on.hindsight().map(down.noteId(), p -> p.withOff(off))));
    if (stage.map().isEmpty()) {
      return next;
    }
    TempoMap map = stage.map().get();
    if (down.nextLine().isPresent()) {
      return Repeats.release(next, down, map.tickAt(off));
    }
    Optional<InputKey> foot = footThatSustains(stage, down);
    if (foot.isPresent()) {
      List<Hands.Sustained> sustained = new ArrayList<>(stage.hands().sustained());
      sustained.add(new Hands.Sustained(foot.get(), down));
      return next.withHands(next.hands().withSustained(sustained));
    }
    return releaseNote(next, down, off);
  }

  /**
   * The pedal that holds an added note, if the clip has a pedal line of its own: the foot's is not
   * recorded then, and the note lasts until the foot lifts.
   */
  private static Optional<InputKey> footThatSustains(Stage stage, HeldKey key) {
    if (key.key().isPedal()) {
      return Optional.empty();
    }
    return stage.heldKeys().stream()
        .filter(held -> held.key().isPedal() && held.part().equals(key.part()))
        .findFirst()
        .filter(
            foot ->
                Onto.of(stage, key.part())
                    .filter(on -> on.clip().holds(key.noteId()))
                    .filter(NoteTaking::addsToPedalLine)
                    .isPresent())
        .map(HeldKey::key);
  }

  /** The transport stops: what a foot holds ends. */
  public static Stage releaseAllSustained(Stage stage, long stamp) {
    Stage next = stage;
    for (Hands.Sustained sustained : stage.hands().sustained()) {
      next = releaseNote(next, sustained.key(), Math.max(stamp, sustained.key().onMicros()));
    }
    return next.withHands(next.hands().withSustained(List.of()));
  }

  public static Stage releaseSustained(Stage stage, InputKey pedal, long stamp) {
    Stage next = stage;
    List<Hands.Sustained> others = new ArrayList<>();
    for (Hands.Sustained sustained : stage.hands().sustained()) {
      if (sustained.pedal().equals(pedal)) {
        next = releaseNote(next, sustained.key(), Math.max(stamp, sustained.key().onMicros()));
      } else {
        others.add(sustained);
      }
    }
    return next.withHands(next.hands().withSustained(others));
  }

  private static Stage releaseNote(Stage next, HeldKey down, long off) {
    if (next.map().isEmpty()) {
      return next;
    }
    TempoMap map = next.map().get();
    long onTick = map.tickAt(down.onMicros());
    InputGrid grid = NoteTaking.gridFor(next, down.part(), down.pitch());
    Meter meter = next.show().meter();
    return withCopies(
        NoteTaking.mapNote(
            next,
            down.part(),
            down.noteId(),
            note -> {
              long meant = onTick + note.meant() - note.played();
              return note.held()
                  ? note.released(
                      note.isPedal()
                          ? map.tickAt(off) - meant
                          : grid.length(onTick, map.tickAt(off), meant, meter))
                  : note;
            }),
        down);
  }

  /** A clip was doubled, or repeated, while a key of it was down: the copies come now. */
  private static Stage withCopies(Stage stage, HeldKey key) {
    Optional<Clip> clip =
        key.copied()
            .flatMap(
                copied ->
                    stage.show().part(key.part()).shelf().stream()
                        .filter(c -> c.window().equals(copied.window()) && c.holds(key.noteId()))
                        .findFirst());
    if (clip.isEmpty()) {
      return stage;
    }
    Clip next = clip.get();
    long id = stage.show().nextId();
    for (long later : key.copied().orElseThrow().later()) {
      next = next.withCopy(key.noteId(), id++, later);
    }
    return stage.withShow(stage.show().withNextId(id)).withClip(key.part(), next);
  }

  /**
   * A clip goes round several times in one now: notes of it whose keys are down are copied once
   * those come up.
   */
  public static Stage copiedLater(Stage stage, PartId part, Clip before, Clip after) {
    long once = before.window().length();
    long times = after.window().length() / once;
    boolean again =
        times >= 2
            && after.window().length() == times * once
            && after.window().start() == before.window().start()
            && after.halvedFrom().isEmpty()
            && before.halvedFrom().isEmpty();
    if (!again) {
      return stage;
    }
    HeldKey.Copied copied =
        new HeldKey.Copied(
            after.window(), LongStream.range(1, times).map(n -> n * once).boxed().toList());
    UnaryOperator<HeldKey> marked =
        key ->
            key.part().equals(part) && after.holds(key.noteId())
                ? key.withCopied(Optional.of(copied))
                : key;
    Hands hands = stage.hands();
    return stage.withHands(
        hands
            .mapKeys(key -> true, marked)
            .withSustained(
                hands.sustained().stream()
                    .map(s -> new Hands.Sustained(s.pedal(), marked.apply(s.key())))
                    .toList()));
  }
}
