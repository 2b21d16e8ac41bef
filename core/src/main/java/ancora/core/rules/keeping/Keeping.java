package ancora.core.rules.keeping;

import ancora.core.Refusal;
import ancora.core.analysis.FoundTempo;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Phrase;
import ancora.core.record.Played;
import ancora.core.record.PlayedMove;
import ancora.core.record.Timing;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.TempoAndMeter;
import ancora.core.rules.cues.Cues;
import ancora.core.rules.cues.Transports;
import ancora.core.rules.recording.Consequences;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.Kept;
import ancora.core.stage.PastRun;
import ancora.core.stage.Reading;
import ancora.core.stage.Stage;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Making a clip of what was played while nothing was recording (rule 15). */
public final class Keeping {

  private static final int MOST_BARS = 32;

  /** Less than this a tempo that was found is said to be steady, as a part of itself. */
  private static final double DRIFTS = 0.01;

  /** How a clip is made of what was played. */
  private record Asked(boolean ofLoopLength, boolean cue, int more) {
    Asked(boolean ofLoopLength, boolean cue) {
      this(ofLoopLength, cue, 0);
    }
  }

  private Keeping() {}

  /** The last phrase played on the armed part, on its shelf. */
  static Result keep(Stage stage, KeepCommand.Keep command, Moment moment) {
    PartId part = stage.playedPart();
    return phrase(stage, part, part, new Asked(command.ofLoopLength(), command.cue()), moment);
  }

  static Result onto(Stage stage, KeepCommand.KeepOnto command, Moment moment) {
    stage.show().part(command.onto());
    Asked asked = new Asked(command.ofLoopLength(), command.cue());
    return phrase(stage, stage.playedPart(), command.onto(), asked, moment);
  }

  private static Result phrase(Stage stage, PartId part, PartId onto, Asked asked, Moment moment) {
    Optional<Kept> again = keptJustNow(stage, part, moment);
    if (again.isPresent()) {
      Stage before = takenBack(stage, again.get());
      Optional<Remembered> other = phrase(before, part, !again.get().isOfRun(), moment);
      if (other.isPresent()) {
        return made(before, part, onto, other.get(), asked, moment);
      }
    }
    // what was played at standstill lies before the run that goes on, and after the last that ended
    boolean rolling = stage.map().isPresent();
    Remembered newest =
        phrase(stage, part, rolling, moment)
            .or(() -> phrase(stage, part, !rolling, moment))
            .orElseThrow(() -> nothing(stage, part));
    return made(stage, part, onto, newest, asked, moment);
  }

  private static Optional<Remembered> phrase(
      Stage stage, PartId part, boolean ofRun, Moment moment) {
    return ofRun
        ? ofRun(stage, part, WhichPhrase.LAST, moment)
        : AtStandstill.newest(stage, part, WhichPhrase.LAST, Optional.empty());
  }

  /** What was kept last, as long as it can be taken otherwise. */
  public static Optional<Kept> changeable(Stage stage) {
    return stage.kept().filter(kept -> isNewest(stage, kept));
  }

  static Result bars(Stage stage, KeepCommand.KeepBars command, Moment moment) {
    Refusal.unless(
        command.bars() >= 1 && command.bars() <= MOST_BARS, "Keep 1 to %s bars.", MOST_BARS);
    stage.show().part(command.onto());
    Timing timing =
        timing(stage, command.part(), moment)
            .orElseThrow(() -> new Refusal("Nothing has been played with the transport running."));
    Phrase phrase =
        Phrase.bars(stage.on(command.part()).hindsight(), timing, command.bars())
            .orElseThrow(() -> new Refusal("Nothing was played in those bars."));
    return made(
        stage,
        command.part(),
        command.onto(),
        Remembered.ofRun(phrase, timing),
        new Asked(false, command.cue()),
        moment);
  }

  static Result stretch(Stage stage, KeepCommand.KeepStretch command, Moment moment) {
    Refusal.unless(command.from() < command.until(), "Choose a stretch of what was played.");
    PartId part = command.part();
    stage.show().part(command.onto());
    Optional<Timing> timing =
        timing(stage, part, moment)
            .filter(t -> command.until() > t.map().microsOf(0) && command.from() < t.until());
    Optional<Remembered> run =
        timing.flatMap(
            t ->
                Phrase.stretch(stage.on(part).hindsight(), t, command.from(), command.until())
                    .map(phrase -> Remembered.ofRun(phrase, t)));
    Remembered chosen =
        run.or(
                () ->
                    AtStandstill.between(
                        stage, part, command.from(), command.until(), Optional.empty()))
            .orElseThrow(() -> new Refusal("Nothing was played in that stretch."));
    return made(stage, part, command.onto(), chosen, new Asked(false, command.cue()), moment);
  }

  /** The tempo of what was kept is taken otherwise: the step is made anew. */
  static Result change(Stage stage, Otherwise by, Moment moment) {
    Kept kept = newest(stage);
    Refusal.unless(stage.isStill(), "Stop first: then it can be taken otherwise.");
    Reading reading =
        kept.reading()
            .orElseThrow(() -> new Refusal("What was played in a run has the run's tempo."));
    Stage before = takenBack(stage, kept);
    if (by == Otherwise.GIVE_UP) {
      return Result.to(before.withKept(Optional.empty()), "Given up: what was played stays.");
    }
    boolean metered = by == Otherwise.THREE || by == Otherwise.FOUR;
    Refusal.unless(
        !metered || TempoAndMeter.isNobodys(before),
        "The show has music in %s: its meter stays.",
        before.show().meter());
    Remembered otherwise =
        AtStandstill.between(
                before, kept.played(), kept.since(), kept.until(), Optional.of(by.of(reading)))
            .orElseThrow(() -> nothing(stage, kept.played()));
    return made(
        before,
        kept.played(),
        kept.part(),
        otherwise,
        new Asked(false, false, kept.more()),
        moment);
  }

  /** The step is made anew, with so many phrases more, or fewer. */
  static Result phrases(Stage stage, int by, Moment moment) {
    Refusal.unless(by == 1 || by == -1, "One phrase more, or one fewer.");
    Kept kept = newest(stage);
    boolean sounds =
        stage.on(kept.part()).vamp().filter(vamp -> vamp.clip().equals(kept.clip())).isPresent();
    Refusal.unless(!sounds, "What was kept sounds already: let it go tacet first.");
    Refusal.unless(
        kept.isOfRun() || stage.isStill(), "Stop first: then it can be taken otherwise.");
    Stage before = takenBack(stage, kept);
    WhichPhrase which = new WhichPhrase(kept.more() + by, kept.until());
    Optional<Remembered> phrase =
        kept.isOfRun()
            ? ofRun(before, kept.played(), which, moment)
            : AtStandstill.newest(before, kept.played(), which, kept.reading());
    return made(
        before,
        kept.played(),
        kept.part(),
        phrase.orElseThrow(() -> nothing(stage, kept.played())),
        new Asked(
            false,
            stage.on(kept.part()).cue().flatMap(Cue::clip).equals(Optional.of(kept.clip())),
            which.more()),
        moment);
  }

  /** What was kept stands ready alone, and time begins. */
  static Result hear(Stage stage, Moment moment) {
    Kept kept = newest(stage);
    Stage alone =
        stage.forEachPart(
            (s, part) ->
                s.mapOn(
                    part,
                    on ->
                        on.withReady(
                            part.equals(kept.part())
                                ? Optional.of(kept.clip())
                                : Optional.empty())));
    return Result.to(Transports.startAtOnce(alone, moment));
  }

  private static Refusal nothing(Stage stage, PartId part) {
    return new Refusal("Nothing was played on " + stage.show().part(part).name() + " yet.");
  }

  private static Optional<Remembered> ofRun(
      Stage stage, PartId part, WhichPhrase which, Moment moment) {
    return timing(stage, part, moment)
        .map(timing -> timing.endedBy(which.until()))
        .flatMap(
            timing ->
                Phrase.newest(stage.on(part).hindsight(), timing, which.more())
                    .map(phrase -> Remembered.ofRun(phrase, timing)));
  }

  /** How the run that goes on lies in time, or the one that ended last. */
  private static Optional<Timing> timing(Stage stage, PartId part, Moment moment) {
    Optional<TempoMap> map = stage.map().or(() -> stage.lastRun().map(PastRun::map));
    double until =
        stage.map().isPresent()
            ? Double.POSITIVE_INFINITY
            : stage.lastRun().map(PastRun::ended).map(Long::doubleValue).orElse(0.0);
    Show show = stage.show();
    return map.map(
        m ->
            new Timing(
                show.part(part).inputGrid(),
                show.recording().forgiveness(),
                show.meter(),
                m,
                Double.NEGATIVE_INFINITY,
                until,
                stage.map().isPresent() ? moment.tick(m) : m.tickAt(until)));
  }

  /** What was kept last, if nothing was done since. */
  private static Kept newest(Stage stage) {
    return stage
        .kept()
        .filter(kept -> isNewest(stage, kept))
        .orElseThrow(() -> new Refusal("Something else was done since: keep it again."));
  }

  private static Optional<Kept> keptJustNow(Stage stage, PartId part, Moment moment) {
    return stage
        .kept()
        .filter(kept -> kept.played().equals(part) && isNewest(stage, kept))
        .filter(
            kept -> moment.stamp() >= kept.stamp() && moment.stamp() - kept.stamp() <= Kept.WITHIN);
  }

  /** Nothing was done since, nor is anything being added to it. */
  private static boolean isNewest(Stage stage, Kept kept) {
    boolean newest =
        stage.history().last().stream()
            .flatMap(step -> step.changes().stream())
            .anyMatch(change -> change.brings(kept.clip()));
    boolean addedTo =
        stage
            .on(kept.part())
            .open()
            .filter(recording -> recording.clip().equals(kept.clip()))
            .filter(recording -> !recording.underWay().isEmpty())
            .isPresent();
    return newest && !addedTo;
  }

  /** As if it had not been kept. */
  private static Stage takenBack(Stage stage, Kept kept) {
    Show show = stage.history().last().orElseThrow().takenBackIn(stage.show());
    show = stage.map().isPresent() ? show.withTempo(stage.show().tempo()) : show;
    Stage back = Consequences.reconciled(stage.withShow(show), Map.of());
    return back.withHistory(stage.history().withoutLast())
        .withKept(Optional.empty())
        .mapOn(
            kept.part(),
            on ->
                on.ready().filter(kept.clip()::equals).isPresent()
                    ? on.withReady(Optional.empty())
                    : on);
  }

  private static Result made(
      Stage stage, PartId played, PartId onto, Remembered remembered, Asked asked, Moment moment) {
    Phrase phrase = remembered.phrase();
    boolean free = remembered.reading().isPresent() && TempoAndMeter.isNobodys(stage);
    Stage timed = free ? withTempo(stage, remembered, moment) : stage;
    long length = FirstRecordings.lengths(timed, onto).allowedFrom(phrase.until() - phrase.from());
    long from = phrase.from();
    Optional<Vamp> vamp = stage.on(onto).vamp();
    if (asked.ofLoopLength() && vamp.isPresent() && remembered.reading().isEmpty()) {
      length = stage.clip(onto, vamp.get().clip()).window().length();
      LoopWindow window = stage.clip(onto, vamp.get().clip()).window();
      from = vamp.get().in(window).lineFrom(phrase.until()) - length;
    }
    Part part = timed.show().part(onto);
    Clip clip = clip(timed, part, remembered, from, length, moment);
    Stage kept =
        timed
            .withShow(timed.show().withNextId(clip.id().value() + 1L + clip.noteCount()))
            .withClip(onto, clip);
    String name = Steps.name(kept, onto, clip);
    Stage noted =
        Steps.noted(stage, kept, "keep " + name)
            .withKept(
                Optional.of(
                    new Kept(
                        onto,
                        clip.id(),
                        played,
                        moment.stamp(),
                        phrase.notes().get(0).onMicros(),
                        until(phrase),
                        remembered.reading(),
                        remembered.tempo(),
                        remembered.sureness(),
                        asked.more())));
    String word = words(remembered, length, timed.show()) + " as " + name + ".";
    if (stage.map().isEmpty()) {
      return Result.to(noted.mapOn(onto, on -> on.withReady(Optional.of(clip.id()))), word);
    }
    return asked.cue()
        ? new Result(Cues.clip(noted, onto, clip.id(), moment).stage(), Optional.of(word))
        : Result.to(noted, word);
  }

  private static long until(Phrase phrase) {
    return phrase.lastOnset() + 1;
  }

  /** A show without music takes tempo and meter of what was played. */
  private static Stage withTempo(Stage stage, Remembered remembered, Moment moment) {
    Tempo tempo = remembered.tempo().orElse(stage.show().tempo());
    return TempoAndMeter.taken(stage, tempo, remembered.meter(), moment);
  }

  private static String words(Remembered remembered, long length, Show show) {
    long bars = Math.max(1, length / show.meter().barTicks());
    String many = bars == 1 ? "Kept 1 bar" : "Kept " + bars + " bars";
    if (remembered.reading().isEmpty()) {
      return many + " of the run";
    }
    return remembered
        .tempo()
        .map(
            tempo ->
                many
                    + " at "
                    + plain(tempo.bpm())
                    + drift(remembered)
                    + ", "
                    + FoundTempo.inAWord(remembered.sureness())
                    + ",")
        .orElse(many + " at the show's tempo");
  }

  private static String drift(Remembered remembered) {
    if (Math.abs(remembered.drift()) < DRIFTS) {
      return "";
    }
    boolean steady = remembered.reading().orElseThrow().steady();
    return (remembered.drift() > 0 ? ", faster by " : ", slower by ")
        + plain(Math.abs(remembered.drift()) * 100)
        + (steady ? " % and made steady" : " % as played");
  }

  private static String plain(double number) {
    return BigDecimal.valueOf(number)
        .setScale(1, RoundingMode.HALF_UP)
        .stripTrailingZeros()
        .toPlainString();
  }

  private static Clip clip(
      Stage stage, Part part, Remembered remembered, long from, long length, Moment moment) {
    Show show = stage.show();
    Timing timing = remembered.timing();
    TempoMap map = timing.map();
    ClipId id = show.nextClipId();
    FirstRecording recording =
        FirstRecording.cued(id, part.freeLetter(), from, AfterClosing.VAMP, moment.stamp())
            .withUntil(from + length);
    List<Note> notes = new ArrayList<>();
    for (Played played : remembered.phrase().notes()) {
      Played over = played.isHeld() ? played.withOff(heldUntil(stage, timing, moment)) : played;
      recording.take(over, timing.grid(), show.meter(), map).ifPresent(notes::add);
    }
    long origin = recording.origin(show.meter());
    List<ControllerMove> moves =
        remembered.phrase().moves().stream()
            .map(move -> placed(move, map, origin))
            .limit(Clip.MOST_MOVES)
            .toList();
    Clip clip =
        recording
            .withNotes(notes)
            .withMoves(moves)
            .close(timing.grid(), show.meter(), map, false, false)
            .clip()
            .orElseThrow(() -> new Refusal("Nothing of what was played falls into that loop."));
    // notes that another clip has already are here once more: all get ids of their own
    return clip.mapTakes(new Ids(show.nextId() + 1)::copy)
        .withRecorded(from, show.recording().closesOn());
  }

  private static long heldUntil(Stage stage, Timing timing, Moment moment) {
    return stage.map().isPresent() || Double.isInfinite(timing.until())
        ? moment.stamp()
        : (long) timing.until();
  }

  private static ControllerMove placed(PlayedMove move, TempoMap map, long origin) {
    return new ControllerMove(move.controller(), map.tickAt(move.micros()) - origin, move.value());
  }
}
