package ancora.core.planner;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.plan.Silence;
import ancora.core.plan.Silencing;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Laps;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.recording.TakingOut;
import ancora.core.show.PartId;
import ancora.core.stage.Erase;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import ancora.core.vamp.Breather;
import ancora.core.vamp.HeardLive;
import ancora.core.vamp.Loop;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/**
 * When which notes of a sounding clip are silent: heard live just now, or being taken out. That is
 * said ahead, so that they are not heard however late the next plan comes.
 *
 * @param heard what was heard live
 * @param recording what is, or was, being recorded onto the clip
 * @param erasing what is being erased
 */
public record Silences(
    HeardLive heard, Optional<Silences.Recorded> recording, Optional<Silences.Erased> erasing)
    implements Silencing {

  /**
   * What of a recording makes notes silent.
   *
   * @param way what becomes of what was there
   * @param takesOut whether it takes out notes of the take that is heard
   * @param takesPassed whether it takes out what is passed from now on, as far as is known: a punch
   *     does once something is played in its lap
   * @param since the first tick at which old notes are silent
   * @param outFrom the first tick from which what is passed is taken out
   * @param beginsAtLine whether that is a line: what was early for it is taken out too
   * @param end the first tick at which they sound again, as far as is known
   * @param old notes of layers with a lower number are old
   * @param ages the first tick at which all that is there now is old
   * @param range of a punch: its places
   * @param edge so many ticks before a line a note counts for it that lies as it was played
   * @param loop the loop
   */
  record Recorded(
      Way way,
      boolean takesOut,
      boolean takesPassed,
      long since,
      long outFrom,
      boolean beginsAtLine,
      long end,
      int old,
      long ages,
      Optional<LoopRecording.Range> range,
      long edge,
      Loop loop) {

    Silence of(int layer, Note note) {
      if (way == Way.TAKES) {
        return whileItGoesOn(end);
      }
      long early = note.isAsPlayed() ? edge : 0;
      if (!takesOut || !takesAt(wrapped(note.meant() + early))) {
        return Silence.NONE;
      }
      if (layer >= old) {
        return ages == Ticks.OPEN ? Silence.NONE : Silence.from(ages);
      }
      long from = beginsAtLine ? outFrom - early : outFrom;
      boolean goes = takesPassed && loop.passed(note.meant(), from) < end - early;
      if (end == Ticks.OPEN || goes) {
        // it is taken out when it is passed, and does not come back
        return Silence.from(since);
      }
      return whileItGoesOn(end - early);
    }

    private Silence whileItGoesOn(long until) {
      if (until == Ticks.OPEN) {
        return Silence.from(since);
      }
      return until <= since ? Silence.NONE : new Silence(since, until - 1);
    }

    boolean takesAt(long place) {
      return range.isEmpty() || range.get().contains(place);
    }

    private long wrapped(long place) {
      LoopWindow window = loop.window();
      return window.contains(place) ? place : window.wrap(place);
    }
  }

  /**
   * What of a hold of erase makes notes silent.
   *
   * @param down the pitches that are held
   * @param end the first tick at which it erases no more: a take is heard from there on
   * @param loop the loop
   */
  record Erased(List<Erase.Stroke> down, long end, Loop loop) {

    Silence of(Note note) {
      return down.stream()
          .filter(stroke -> stroke.pitch() == note.pitch() && isPassed(note, stroke.from()))
          .map(stroke -> Silence.from(stroke.from()))
          .reduce(Silence.NONE, Silence::orLater);
    }

    /** What is passed before the end is taken out, and does not come back; a drone is at once. */
    private boolean isPassed(Note note, long from) {
      boolean drone = note.length() >= loop.length();
      return end == Ticks.OPEN || (drone ? from : loop.passed(note.meant(), from)) < end;
    }
  }

  /** Of a clip as it sounds, or will sound. */
  static Silences of(Stage stage, PartId part, Vamp vamp, Clip clip) {
    return new Silences(
        vamp.heard(),
        recordingOnto(stage, part, clip).flatMap(r -> recorded(stage, part, vamp, clip, r)),
        stage
            .hands()
            .eraseOn(part)
            .filter(e -> e.clip().equals(clip.id()) && e.take() == clip.take().number())
            .map(
                erase ->
                    new Erased(erase.open().toList(), hears(stage, part), sounding(vamp, clip))));
  }

  /** A loop as it stands, wherever it came in. */
  /** The same, where a rest that it sounds through is a pass like any other. */
  private static Loop sounding(Vamp vamp, Clip clip) {
    boolean through = true;
    for (Optional<Breather> b = vamp.breather(); b.isPresent(); b = b.get().before()) {
      through &= b.get().soundsThrough(clip.window().length());
    }
    return standing(through ? vamp.withBreather(Optional.empty()) : vamp, clip);
  }

  private static Loop standing(Vamp vamp, Clip clip) {
    return Vamp.of(clip.id(), vamp.phase(), 0).withBreather(vamp.breather()).in(clip.window());
  }

  private static long hears(Stage stage, PartId part) {
    return stage.on(part).hears().map(TakeSwitch::at).orElse(Ticks.OPEN);
  }

  /** Of a clip onto which nothing is recorded. */
  static Silences heardIn(Vamp vamp) {
    return new Silences(vamp.heard(), Optional.empty(), Optional.empty());
  }

  @Override
  public Silence of(int layer, Note note) {
    Silence silence = Silence.NONE;
    OptionalLong live = heard.at(note.id());
    if (live.isPresent()) {
      silence = Silence.through(live.getAsLong());
    }
    if (recording.isPresent()) {
      silence = silence.orLater(recording.get().of(layer, note));
    }
    return erasing.isPresent() ? silence.orLater(erasing.get().of(note)) : silence;
  }

  @Override
  public Optional<Set<Long>> since(Silencing before) {
    return before instanceof Silences other
            && other.recording.equals(recording)
            && other.erasing.equals(erasing)
        ? Optional.of(heard.since(other.heard))
        : Optional.empty();
  }

  private static Optional<LoopRecording> recordingOnto(Stage stage, PartId part, Clip clip) {
    return stage.on(part).recording().filter(r -> r.clip().equals(clip.id()));
  }

  private static Optional<Recorded> recorded(
      Stage stage, PartId part, Vamp vamp, Clip clip, LoopRecording recording) {
    boolean takesOut = recording.way().takesOut() && clip.take().number() == recording.take();
    if (!recording.isOpen() || !takesOut && recording.way() != Way.TAKES) {
      return Optional.empty();
    }
    long end = end(stage, part, vamp, clip);
    return Optional.of(
        new Recorded(
            recording.way(),
            takesOut,
            takesPassed(recording),
            recording.since(),
            Math.max(recording.outFrom(), vamp.from()),
            recording.outFrom() == recording.since()
                && TakingOut.isBarLine(stage, vamp.in(clip.window()), recording.since()),
            end,
            old(recording),
            ages(stage, part, recording),
            recording.range(),
            recording.edge(),
            standing(vamp, clip)));
  }

  private static boolean takesPassed(LoopRecording recording) {
    return recording.way() != Way.PUNCH
        || recording.laps().stream().anyMatch(lap -> !lap.ended() && lap.isPlayed());
  }

  /**
   * What controllers do in a pass of a clip: as with notes, what is being taken out does nothing.
   *
   * @param moves what they would do
   */
  static List<ControllerMove> moves(
      Stage stage, PartId part, Vamp vamp, Clip clip, List<ControllerMove> moves) {
    Optional<LoopRecording> on =
        recordingOnto(stage, part, clip)
            .filter(LoopRecording::isOpen)
            .filter(r -> vamp.from() < end(stage, part, vamp, clip));
    if (on.isEmpty()) {
      return moves;
    }
    if (on.get().way() == Way.TAKES) {
      return List.of();
    }
    if (!on.get().way().takesOut() || clip.take().number() != on.get().take()) {
      return moves;
    }
    Set<Long> old = new HashSet<>();
    clip.layers().stream()
        .filter(layer -> layer.number() < old(on.get()))
        .forEach(layer -> layer.moves().forEach(move -> old.add(move.id())));
    return moves.stream()
        .filter(move -> !old.contains(move.id()) || !on.get().takesAt(move.place()))
        .toList();
  }

  /**
   * Where a recording will end by itself, or another take is heard, as far as is known; it has
   * ended where a window that is too short for it begins to sound.
   */
  private static long end(Stage stage, PartId part, Vamp vamp, Clip clip) {
    if (Sounding.isShort(stage, clip)) {
      return vamp.from();
    }
    return Math.min(hears(stage, part), Endings.ownEnd(stage, part).orElse(Ticks.OPEN));
  }

  /** In a punch that goes on an attempt is old once its pass is over. */
  private static long ages(Stage stage, PartId part, LoopRecording recording) {
    boolean goesOn = recording.isOpen(Way.PUNCH) && stage.show().recording().punchGoesOn();
    return goesOn
        ? recording.underWay().stream()
            .mapToLong(lap -> Laps.endOf(stage, part, lap))
            .max()
            .orElse(Ticks.OPEN)
        : Ticks.OPEN;
  }

  /** A punch that goes on takes out the attempts before as it does the old. */
  private static int old(LoopRecording recording) {
    if (recording.way() == Way.REPLACE) {
      return recording.old();
    }
    return recording.laps().stream()
        .filter(lap -> lap.hasLayer() && !lap.ended())
        .mapToInt(Lap::layer)
        .max()
        .orElse(Integer.MAX_VALUE);
  }
}
