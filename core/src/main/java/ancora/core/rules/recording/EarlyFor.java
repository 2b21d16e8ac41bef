package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.vamp.Vamp;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;

/**
 * The line for which a note is early that is played shortly before it, onto a loop.
 *
 * @param what what is at the line
 * @param line its tick
 * @param moves whether the note is meant there, and not where it was played
 */
record EarlyFor(What what, long line, boolean moves) {

  /** What a note is early for. */
  enum What {
    /** The recording begins. */
    BEGIN,
    /**
     * A take of it begins: a recording of its own, with what is early for it at its start, whatever
     * the take before has there.
     */
    TAKE,
    /** A pass of it begins, after a rest. */
    PASS,
    /**
     * Its first recording has closed, its takes have ended, or a replace ends by itself: nothing
     * begins there.
     */
    CLOSING
  }

  /**
   * The line for which a note is early, if there is one.
   *
   * @param tick at which it was played
   */
  static Optional<EarlyFor> of(Stage stage, PartId part, LoopRecording recording, long tick) {
    return begin(stage, part, recording, tick)
        .or(() -> take(stage, part, recording, tick))
        .or(() -> pass(stage, part, recording, tick))
        .or(() -> closing(stage, part, recording, tick));
  }

  private static Optional<EarlyFor> begin(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    long from = recording.from();
    boolean begins = from == recording.since() && from < recording.until();
    if (tick >= from || !begins || recording.closed().isPresent()) {
      return Optional.empty();
    }
    Meter meter = stage.show().meter();
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), from);
    boolean atLine =
        Math.floorMod(from, meter.barTicks()) == 0
            || vamp.filter(v -> isBarOf(stage, part, recording, v, from)).isPresent();
    boolean takes = recording.way() == Way.TAKES;
    long tolerance =
        takes
            ? tolerance(stage, part, from)
            : EarlyNotes.toleranceOnto(grid(stage, part), from, meter, stage.map().orElseThrow());
    return atLine && from - tick <= tolerance
        ? Optional.of(
            new EarlyFor(
                What.BEGIN,
                from,
                takes || hasGrid(stage, part) || restsAt(stage, part, recording, tick)))
        : Optional.empty();
  }

  private static Optional<EarlyFor> take(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    long since = Math.max(tick, recording.closed().orElse(tick));
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), since);
    if (recording.way() != Way.TAKES || clip.isEmpty() || vamp.isEmpty()) {
      return Optional.empty();
    }
    LoopWindow window = Sounding.windowAt(stage, part, vamp.get(), clip.get());
    long line = recording.nextBegin(tick, vamp.get(), window);
    return line < recording.until() && line - tick <= tolerance(stage, part, line)
        ? Optional.of(new EarlyFor(What.TAKE, line, true))
        : Optional.empty();
  }

  /** Nothing is recorded where it was played: it is meant for the line, be there a grid or none. */
  private static Optional<EarlyFor> pass(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), tick);
    if (clip.isEmpty() || vamp.isEmpty()) {
      return Optional.empty();
    }
    LoopWindow window = Sounding.windowAt(stage, part, vamp.get(), clip.get());
    long line = recording.nextBegin(tick, vamp.get(), window);
    return restsAt(stage, part, recording, tick)
            && line < recording.until()
            && line - tick
                <= EarlyNotes.toleranceOnto(
                    grid(stage, part), line, stage.show().meter(), stage.map().orElseThrow())
        ? Optional.of(new EarlyFor(What.PASS, line, true))
        : Optional.empty();
  }

  private static boolean restsAt(Stage stage, PartId part, LoopRecording recording, long tick) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    return clip.isPresent()
        && Sounding.vampAt(stage, part, recording.clip(), tick)
            .filter(
                vamp ->
                    recording.rests(tick, vamp, Sounding.windowAt(stage, part, vamp, clip.get())))
            .isPresent();
  }

  /** Whether a tick is a whole number of bars from a line of the loop. */
  private static boolean isBarOf(
      Stage stage, PartId part, LoopRecording recording, Vamp vamp, long tick) {
    return stage
        .show()
        .part(part)
        .clip(recording.clip())
        .map(clip -> Sounding.windowAt(stage, part, vamp, clip))
        .filter(window -> (tick - vamp.lineBy(tick, window)) % stage.show().meter().barTicks() == 0)
        .isPresent();
  }

  private static Optional<EarlyFor> closing(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    long line = recording.closed().orElse(Long.MIN_VALUE);
    if (tick >= line && isEndOfTakes(stage, part, recording)) {
      line = recording.until();
    }
    if (recording.way() == Way.REPLACE) {
      line = endOfReplace(stage, part, recording).orElse(line);
    }
    return tick < line && line - tick <= tolerance(stage, part, line)
        ? Optional.of(new EarlyFor(What.CLOSING, line, hasGrid(stage, part)))
        : Optional.empty();
  }

  /** The line at which a replace ends by itself, or has ended. */
  private static OptionalLong endOfReplace(Stage stage, PartId part, LoopRecording recording) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), recording.line());
    if (clip.isEmpty() || vamp.isEmpty()) {
      return OptionalLong.empty();
    }
    long end = recording.line() + Sounding.windowAt(stage, part, vamp.get(), clip.get()).length();
    return recording.until() >= end ? OptionalLong.of(end) : OptionalLong.empty();
  }

  /** Whether takes have ended at a line of their loop. */
  private static boolean isEndOfTakes(Stage stage, PartId part, LoopRecording recording) {
    if (recording.way() != Way.TAKES || recording.isOpen()) {
      return false;
    }
    long until = recording.until();
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), until - 1);
    if (clip.isEmpty() || vamp.isEmpty()) {
      return false;
    }
    LoopWindow window = Sounding.windowAt(stage, part, vamp.get(), clip.get());
    return until - vamp.get().lineBy(until - 1, window) == window.length();
  }

  /** Whether what closes at its line has the note's pitch at its start already: it is left then. */
  boolean isThere(Stage stage, PartId part, LoopRecording recording, int pitch, long tick) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (what != What.CLOSING || clip.isEmpty()) {
      return false;
    }
    boolean ofTake =
        recording.way() == Way.TAKES && tick >= recording.closed().orElse(Long.MIN_VALUE);
    Stream<Note> notes =
        ofTake
            ? Adding.takeAt(stage, part, clip.get(), tick).stream().flatMap(t -> t.sounding())
            : clip.get().notes();
    long start = clip.get().window().start();
    long end = start + tolerance(stage, part, line);
    return notes.anyMatch(n -> n.pitch() == pitch && n.meant() >= start && n.meant() <= end);
  }

  private static long tolerance(Stage stage, PartId part, long line) {
    return EarlyNotes.tolerance(
        grid(stage, part), line, stage.show().meter(), stage.map().orElseThrow());
  }

  private static boolean hasGrid(Stage stage, PartId part) {
    return grid(stage, part).grid() != Grid.OFF;
  }

  private static InputGrid grid(Stage stage, PartId part) {
    return stage.show().part(part).inputGrid();
  }
}
