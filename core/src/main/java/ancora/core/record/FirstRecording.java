package ancora.core.record;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The first recording of a clip, from the moment it is cued until its loop is closed.
 *
 * @param clip the id that the clip will have
 * @param letter the letter that the clip will have
 * @param start A: the tick at which it begins
 * @param set the tick at which it closes by itself; {@link Ticks#OPEN} if it does not
 * @param until the tick at which it closes; {@link Ticks#OPEN} while that is not known
 * @param then what it goes on with once it is closed
 * @param round whether a pass of it has gone by in silence: it goes round until something is played
 * @param asked the instant at which its start, or its closing, was asked for last
 * @param notes what was played so far, on the material's axis, in the order of arrival
 * @param moves what controllers did so far
 */
@RecordBuilder
public record FirstRecording(
    ClipId clip,
    String letter,
    long start,
    long set,
    long until,
    AfterClosing then,
    boolean round,
    long asked,
    List<Note> notes,
    List<ControllerMove> moves)
    implements FirstRecordingBuilder.With {

  public FirstRecording {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
  }

  /** A recording in which nothing has been played yet. */
  public static FirstRecording cued(
      ClipId clip, String letter, long start, AfterClosing then, long asked) {
    return new FirstRecording(
        clip, letter, start, Ticks.OPEN, Ticks.OPEN, then, false, asked, List.of(), List.of());
  }

  /** Whether it is known where it closes. */
  public boolean isClosing() {
    return until != Ticks.OPEN;
  }

  /** Whether a press has said where it closes. */
  public boolean isAskedToClose() {
    return until != set;
  }

  /** This recording that closes by itself at a tick. */
  public FirstRecording withSet(long tick) {
    return new FirstRecording(clip, letter, start, tick, tick, then, round, asked, notes, moves);
  }

  /** This recording, of which a pass has gone by in silence. */
  public FirstRecording withRound() {
    return new FirstRecording(clip, letter, start, set, until, then, true, asked, notes, moves);
  }

  public FirstRecording with(Note note) {
    List<Note> next = new ArrayList<>(notes.size() + 1);
    next.addAll(notes);
    next.add(note);
    return withNotes(next);
  }

  /** W: the window's start. Material tick 0 is a bar line, so this is A mod bar. */
  public long windowStart(Meter meter) {
    return Math.floorMod(start, meter.barTicks());
  }

  /** What to take from a tick of the transport to get to the material's axis. */
  public long origin(Meter meter) {
    return start - windowStart(meter);
  }

  /**
   * The note that a played one becomes here; empty if it is none of this recording's. From a bar
   * before the start on all belongs to it, and what began earlier if it is held into it for longer
   * than it lasted before: what comes early by no more than the tolerance is meant for the start;
   * what comes before that is material before the window.
   */
  public Optional<Note> take(Played played, InputGrid grid, Meter meter, TempoMap map) {
    long tick = map.tickAt(played.onMicros());
    if (played.isPedal()) {
      return takePedal(played, tick, meter, map);
    }
    long off = played.isHeld() ? Ticks.OPEN : map.tickAt(played.offMicros());
    boolean longBefore = tick < start - meter.barTicks();
    if (tick >= until || longBefore && off - start <= start - tick) {
      return Optional.empty();
    }
    boolean early =
        tick < start && start - tick <= EarlyNotes.toleranceAtStart(grid, start, meter, map);
    long meant = early ? start : grid.meant(tick, meter);
    long length = played.isHeld() ? 0 : grid.length(tick, off, meant, meter);
    return Optional.of(Taken.of(played, tick, meant, length).at(meant - origin(meter)));
  }

  /** A pedal that is down at the start begins there; it is never moved to a grid. */
  private Optional<Note> takePedal(Played played, long tick, Meter meter, TempoMap map) {
    long off = played.isHeld() ? Ticks.OPEN : map.tickAt(played.offMicros());
    if (tick >= until || off <= start) {
      return Optional.empty();
    }
    long from = Math.max(tick, start);
    return Optional.of(Taken.of(played, tick, from, off - from).at(from - origin(meter)));
  }

  /**
   * What comes of a recording when it closes.
   *
   * @param clip the clip; empty if no note falls in its window
   * @param left ids of notes that are not in the clip, and stay in hindsight
   * @param heard for each note of the clip the tick of its meant onset, at which it was heard
   */
  public record Closed(Optional<Clip> clip, List<Long> left, Map<Long, Long> heard) {}

  /**
   * Closes the loop at {@link #until}. A note that comes shortly before the closing line is meant
   * for the line: it goes to the window's start, unless that pitch is there already, when it is
   * left to hindsight. Without a grid it stays where it is.
   *
   * @param keepPastWindow whether notes past the window stay as material; else they are left to
   *     hindsight
   * @param takeFollows whether a take begins at the line: what is early for it is its own
   */
  public Closed close(
      InputGrid grid, Meter meter, TempoMap map, boolean keepPastWindow, boolean takeFollows) {
    LoopWindow window = new LoopWindow(windowStart(meter), until - start);
    long tolerance = EarlyNotes.tolerance(grid, until, meter, map);
    List<Note> kept = new ArrayList<>();
    List<Long> left = new ArrayList<>();
    Map<Long, Long> heard = new TreeMap<>();
    for (Note played : notes) {
      Note note = earlyOrNot(played, grid, meter, map);
      heard.put(note.id(), origin(meter) + note.meant());
      if (note.isPedal() && note.meant() < window.end()) {
        kept.add(note);
        continue;
      }
      if (isMostlyBefore(note, window, meter.barTicks())) {
        left.add(note.id());
        continue;
      }
      boolean pastWindow = note.played() >= window.end();
      boolean earlyForLine = !pastWindow && note.played() >= window.end() - tolerance;
      if (pastWindow) {
        if (keepPastWindow) {
          kept.add(note);
        } else {
          left.add(note.id());
        }
      } else if (earlyForLine && (takeFollows || startHas(note.pitch(), window, tolerance))) {
        left.add(note.id());
      } else if (earlyForLine && grid.grid() != Grid.OFF) {
        kept.add(note.withMeant(window.end()).meantAt(window.start()));
        heard.put(note.id(), until);
      } else if (note.meant() < window.start() && note.played() < window.start()) {
        kept.add(note);
      } else {
        kept.add(note.meantAt(window.wrap(note.meant())));
      }
    }
    heard.keySet().removeAll(left);
    if (kept.stream().noneMatch(note -> !note.isPedal() && soundsIn(note, window))) {
      return new Closed(Optional.empty(), notes.stream().map(Note::id).toList(), Map.of());
    }
    return new Closed(
        Optional.of(
            Clip.of(
                clip,
                letter,
                window,
                new Layer(1, byId(kept), movesIn(window), List.of(), List.of()))),
        left,
        heard);
  }

  /**
   * Without a grid it takes the tempo up to the start to say how early a note was: it may have
   * changed since.
   */
  private Note earlyOrNot(Note note, InputGrid grid, Meter meter, TempoMap map) {
    long early = windowStart(meter) - note.played();
    if (grid.grid() != Grid.OFF || note.isPedal() || early <= 0) {
      return note;
    }
    boolean forStart = early <= EarlyNotes.toleranceAtStart(grid, start, meter, map);
    return note.meantAt(forStart ? windowStart(meter) : note.played());
  }

  private static List<Note> byId(List<Note> notes) {
    return notes.stream().sorted(Comparator.comparingLong(Note::id)).toList();
  }

  private List<ControllerMove> movesIn(LoopWindow window) {
    return moves.stream().filter(move -> window.contains(move.place())).toList();
  }

  private static boolean soundsIn(Note note, LoopWindow window) {
    boolean carriedIn =
        note.meant() < window.start()
            && (note.held() || note.meant() + note.length() > window.start());
    return carriedIn || window.contains(note.meant());
  }

  /**
   * A note held over the start, more of which lies before it, stays in hindsight; so does one that
   * began more than a bar before it.
   */
  private static boolean isMostlyBefore(Note note, LoopWindow window, long bar) {
    long end = note.meant() + note.length();
    boolean overOrFar = end > window.start() || note.played() < window.start() - bar;
    return note.meant() < window.start()
        && !note.held()
        && overOrFar
        && end - window.start() <= window.start() - note.meant();
  }

  private boolean startHas(int pitch, LoopWindow window, long tolerance) {
    return notes.stream()
        .anyMatch(
            note ->
                note.pitch() == pitch
                    && note.meant() >= window.start()
                    && note.meant() <= window.start() + tolerance);
  }
}
