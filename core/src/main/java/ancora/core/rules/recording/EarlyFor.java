package ancora.core.rules.recording;

import ancora.core.clip.Take;
import ancora.core.note.Grid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import java.util.Optional;
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
  static Optional<EarlyFor> of(Onto on, long tick) {
    return begin(on, tick)
        .or(() -> take(on, tick))
        .or(() -> pass(on, tick))
        .or(() -> closing(on, tick));
  }

  private static Optional<EarlyFor> begin(Onto on, long tick) {
    LoopRecording recording = on.recording();
    long from = recording.from();
    boolean begins = from == recording.since() && from < recording.until();
    if (tick >= from || !begins || recording.closed().isPresent()) {
      return Optional.empty();
    }
    long bar = on.meter().barTicks();
    boolean atLine =
        Math.floorMod(from, bar) == 0
            || on.loopAt(from).filter(loop -> (from - loop.lineBy(from)) % bar == 0).isPresent();
    boolean takes = recording.way() == Way.TAKES;
    long tolerance = takes ? tolerance(on, from) : toleranceOnto(on, from);
    return atLine && from - tick <= tolerance
        ? Optional.of(new EarlyFor(What.BEGIN, from, takes || hasGrid(on) || on.restsAt(tick)))
        : Optional.empty();
  }

  private static Optional<EarlyFor> take(Onto on, long tick) {
    LoopRecording recording = on.recording();
    return on.loopAt(Math.max(tick, recording.closed().orElse(tick)))
        .filter(loop -> recording.way() == Way.TAKES)
        .map(loop -> recording.nextBegin(tick, loop))
        .filter(line -> line < recording.until() && line - tick <= tolerance(on, line))
        .map(line -> new EarlyFor(What.TAKE, line, true));
  }

  /** Nothing is recorded where it was played: it is meant for the line, be there a grid or none. */
  private static Optional<EarlyFor> pass(Onto on, long tick) {
    LoopRecording recording = on.recording();
    return on.loopAt(tick)
        .filter(loop -> recording.rests(tick, loop))
        .map(loop -> recording.nextBegin(tick, loop))
        .filter(line -> line < recording.until() && line - tick <= toleranceOnto(on, line))
        .map(line -> new EarlyFor(What.PASS, line, true));
  }

  private static Optional<EarlyFor> closing(Onto on, long tick) {
    LoopRecording recording = on.recording();
    long line = recording.closed().orElse(Long.MIN_VALUE);
    if (tick >= line && isEndOfTakes(on)) {
      line = recording.until();
    }
    if (recording.way() == Way.REPLACE) {
      line = endOfReplace(on).orElse(line);
    }
    return tick < line && line - tick <= tolerance(on, line)
        ? Optional.of(new EarlyFor(What.CLOSING, line, hasGrid(on)))
        : Optional.empty();
  }

  /** The line at which a replace ends by itself, or has ended. */
  private static Optional<Long> endOfReplace(Onto on) {
    LoopRecording recording = on.recording();
    return on.loopAt(recording.line())
        .map(loop -> recording.line() + loop.length())
        .filter(end -> recording.until() >= end);
  }

  /** Whether takes have ended at a line of their loop. */
  private static boolean isEndOfTakes(Onto on) {
    LoopRecording recording = on.recording();
    long until = recording.until();
    return recording.way() == Way.TAKES
        && !recording.isOpen()
        && on.loopAt(until - 1)
            .filter(loop -> until - loop.lineBy(until - 1) == loop.length())
            .isPresent();
  }

  /** Whether what closes at its line has the note's pitch at its start already: it is left then. */
  boolean isThere(Onto on, int pitch, long tick) {
    if (what != What.CLOSING) {
      return false;
    }
    boolean ofTake =
        on.recording().way() == Way.TAKES && tick >= on.recording().closed().orElse(Long.MIN_VALUE);
    Stream<Note> notes =
        ofTake ? takeAt(on, tick).stream().flatMap(Take::sounding) : on.clip().notes();
    long start = on.clip().window().start();
    long end = start + tolerance(on, line);
    return notes.anyMatch(n -> n.pitch() == pitch && n.meant() >= start && n.meant() <= end);
  }

  /** The take that a pass has brought by now that goes on at a tick. */
  private static Optional<Take> takeAt(Onto on, long tick) {
    return on.loopAt(tick)
        .map(loop -> on.recording().lapAt(tick, loop))
        .filter(Lap::hasLayer)
        .flatMap(lap -> on.clip().findTake(lap.take()));
  }

  private static long tolerance(Onto on, long line) {
    return EarlyNotes.tolerance(on.grid(), line, on.meter(), on.map());
  }

  private static long toleranceOnto(Onto on, long line) {
    return EarlyNotes.toleranceOnto(on.grid(), line, on.meter(), on.map());
  }

  private static boolean hasGrid(Onto on) {
    return on.grid().grid() != Grid.OFF;
  }
}
