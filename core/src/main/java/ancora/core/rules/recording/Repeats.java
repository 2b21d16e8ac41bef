package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.note.NoteRepeat;
import ancora.core.record.FirstRecording;
import ancora.core.record.Taken;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.HeldKey;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;

/**
 * Note repeat: a held key sounds on every line of a grid. The player sounds it from its own keys;
 * what is recorded is computed here, from the stamps.
 */
public final class Repeats {

  private Repeats() {}

  /** Keys that are down are repeated from the next line of the grid on, or sound as they are. */
  public static Stage set(Stage stage, Optional<NoteRepeat> repeat, Moment moment) {
    Stage next = stage;
    if (stage.map().isPresent()) {
      long tick = moment.tick(stage.map().get());
      for (HeldKey key : stage.heldKeys()) {
        next = anew(next, key, repeat, tick);
      }
    }
    return next.withHands(next.hands().withRepeat(repeat));
  }

  /** A key that sounds as it is goes on so; one that is repeated changes over. */
  private static Stage anew(Stage stage, HeldKey key, Optional<NoteRepeat> repeat, long tick) {
    if (key.nextLine().isEmpty()) {
      return stage;
    }
    OptionalLong line =
        repeat.isPresent()
            ? OptionalLong.of(repeat.get().lineFrom(tick, stage.show().meter()))
            : OptionalLong.of(Long.MAX_VALUE);
    return mapKey(release(stage, key, tick), key, k -> k.withNextLine(line));
  }

  /** The first line that a key pressed at an instant counts for. */
  public static long firstLine(Stage stage, NoteRepeat repeat, long stamp) {
    TempoMap map = stage.map().orElseThrow();
    return repeat.firstLine(map.tickAt(stamp), stage.show().meter(), map);
  }

  /**
   * Records what held keys have sounded by a tick. What is mended is taken out up to each line
   * before, so that it makes no difference how often time is told.
   */
  public static Stage passTo(Stage stage, long tick) {
    if (stage.hands().repeat().isEmpty()) {
      return stage;
    }
    NoteRepeat repeat = stage.hands().repeat().get();
    Meter meter = stage.show().meter();
    Stage next = stage;
    for (Optional<HeldKey> key = first(next, tick); key.isPresent(); key = first(next, tick)) {
      long line = key.get().nextLine().orElseThrow();
      OptionalLong after = OptionalLong.of(repeat.lineFrom(line + 1, meter));
      next =
          mapKey(
              record(TakingOut.passTo(next, line - 1), key.get(), line, repeat.length()),
              key.get(),
              k -> k.withNextLine(after));
    }
    return next;
  }

  /** The tick at which the next repeat is due; {@link Long#MAX_VALUE} for none. */
  public static long nextLine(Stage stage) {
    long next = Long.MAX_VALUE;
    for (HeldKey key : stage.hands().repeat().isPresent() ? stage.heldKeys() : List.<HeldKey>of()) {
      next = Math.min(next, key.nextLine().orElse(Long.MAX_VALUE));
    }
    return next;
  }

  /** The key whose repeat is due first, of those due by a tick. */
  private static Optional<HeldKey> first(Stage stage, long tick) {
    return stage.heldKeys().stream()
        .filter(key -> key.nextLine().orElse(Long.MAX_VALUE) <= tick)
        .min(Comparator.comparingLong(key -> key.nextLine().orElseThrow()));
  }

  /** What was recorded of a key after its release is taken back; what sounds then ends there. */
  static Stage release(Stage stage, HeldKey key, long tick) {
    List<Long> after =
        key.repeated().stream()
            .filter(repeat -> repeat.line() >= tick)
            .map(HeldKey.Repeated::noteId)
            .toList();
    Stage next = NoteTaking.without(stage, key.part(), after);
    for (HeldKey.Repeated repeat : key.repeated()) {
      boolean sounds =
          repeat.line() < tick
              && stage.hands().repeat().map(r -> repeat.line() + r.length() > tick).orElse(false);
      if (sounds) {
        next =
            NoteTaking.mapNote(
                next,
                key.part(),
                repeat.noteId(),
                note -> note.withLength(Math.min(note.length(), tick - repeat.line())));
      }
    }
    return next;
  }

  private static Stage mapKey(Stage stage, HeldKey key, UnaryOperator<HeldKey> change) {
    return stage.withHands(stage.hands().mapKeys(k -> k.noteId() == key.noteId(), change));
  }

  private static Stage record(Stage stage, HeldKey key, long line, long length) {
    PartId part = key.part();
    PartStage on = stage.on(part);
    long id = stage.show().nextId();
    Taken note = new Taken(id, key.pitch(), key.velocity(), line, line, length, false);
    Stage counted =
        mapKey(
            stage.withShow(stage.show().withNextId(id + 1)),
            key,
            k -> k.with(new HeldKey.Repeated(id, line)));
    Optional<FirstRecording> first = on.first().filter(f -> line >= f.start() && line < f.until());
    if (first.isPresent()) {
      long origin = first.get().origin(stage.show().meter());
      return first.get().notes().size() < Clip.MOST_NOTES
          ? counted.mapOn(part, p -> p.withFirst(first.get().with(note.at(line - origin))))
          : stage;
    }
    return Onto.of(counted, part)
        .flatMap(onto -> Adding.add(onto, note, false, line))
        .orElse(stage);
  }
}
