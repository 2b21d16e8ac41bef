package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Comp;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Row;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.Together;
import ancora.core.rules.cues.Cues;
import ancora.core.rules.press.Pressing;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Laps;
import ancora.core.rules.recording.NoteTaking;
import ancora.core.rules.recording.Recordings;
import ancora.core.rules.recording.TakesOver;
import ancora.core.rules.recording.Transition;
import ancora.core.show.Leaving;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.time.TempoMap;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/** Playing several takes of a clip, one each pass, and choosing among them (rule 8). */
public final class Taking {

  /** No more takes are laid one after another. */
  private static final int MOST_IN_A_ROW = 64;

  private Taking() {}

  /**
   * Where nothing sounds it is the main press that begins: the first pass is take 1. A first
   * recording that is on goes on with takes once it is closed.
   */
  public static Result set(Stage stage, boolean on, Moment moment) {
    if (!on) {
      return Result.to(off(stage, moment));
    }
    PartId part = stage.armedPart();
    if (stage.on(part).first().isPresent()) {
      return Result.to(goingOn(stage, f -> true, AfterClosing.TAKES));
    }
    boolean silent = stage.map().isEmpty() || stage.on(part).vamp().isEmpty();
    return silent
        ? Pressing.begin(stage, moment, Optional.of(AfterClosing.TAKES))
        : Together.each(
            stage, (s, p) -> Recordings.begin(s, p, Way.TAKES, Optional.empty(), moment));
  }

  private static Stage off(Stage stage, Moment moment) {
    return goingOn(
        Recordings.off(stage, Way.TAKES, moment),
        first -> first.then() == AfterClosing.TAKES,
        AfterClosing.VAMP);
  }

  private static Stage goingOn(Stage stage, Predicate<FirstRecording> which, AfterClosing after) {
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      next =
          next.mapOn(
              part, on -> on.withFirst(on.first().map(f -> which.test(f) ? f.withThen(after) : f)));
    }
    return next;
  }

  /** The newest pass of takes that go on is dropped: what was played in it is in hindsight. */
  public static Stage dropNewest(Stage stage, PartId part, long tick) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    Lap lap = newest(stage, part).orElseThrow();
    Clip clip = stage.clip(part, recording.clip());
    Stage next = TakesOver.dropped(stage, part, clip, clip.take(lap.take()));
    LoopRecording without = recording.dropping(lap, clip.take(lap.take()));
    LoopRecording cut =
        tick > lap.begin() && tick < Laps.endOf(stage, part, lap) ? without.cut(tick) : without;
    return next.mapOn(part, on -> on.withRecording(cut));
  }

  /** The take that was dropped last, of those that go on, is back in the pass of its own. */
  static Stage restoreDropped(Stage stage, PartId part) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    Take take = recording.dropped().get(recording.dropped().size() - 1).take();
    Clip clip = stage.clip(part, recording.clip());
    List<Long> notes =
        take.allLayers().flatMap(layer -> layer.notes().stream()).map(Note::id).toList();
    return NoteTaking.back(stage.withClip(part, clip.with(take)), part, notes)
        .mapOn(part, on -> on.withRecording(recording.restored()));
  }

  /** Whether a take was dropped of those that go on. */
  static boolean hasDropped(Stage stage, PartId part) {
    return stage
        .on(part)
        .open()
        .filter(r -> r.way() == Way.TAKES && !r.dropped().isEmpty())
        .filter(r -> stage.show().part(part).clip(r.clip()).isPresent())
        .isPresent();
  }

  /** The newest pass that has brought a take. */
  public static Optional<Lap> newest(Stage stage, PartId part) {
    return stage.on(part).open().filter(r -> r.way() == Way.TAKES).stream()
        .flatMap(
            recording ->
                recording.laps().stream().filter(lap -> lap.take() != 0 && !recording.isFirst(lap)))
        .reduce((a, b) -> b);
  }

  /** Hears another take: at the next entry point, or at once. */
  public static Stage hear(
      Stage stage, PartId part, ClipId id, int number, boolean atOnce, Moment moment) {
    Clip clip = stage.clip(part, id);
    clip.take(number);
    boolean sounds =
        stage.on(part).vamp().map(vamp -> vamp.clip().equals(id)).orElse(false)
            && stage.map().isPresent();
    if (!sounds) {
      return stage.withClip(part, clip.withHeard(number));
    }
    TempoMap map = stage.map().orElseThrow();
    EntryUnit unit = clip.manner().entersOn().orElse(stage.show().recording().entersOn());
    long now = map.firstTickFrom(moment.audible());
    long at = atOnce ? now : Cues.boundary(stage, unit, moment);
    TakeSwitch hears = new TakeSwitch(at, number, moment.stamp(), at < now);
    return stage.mapOn(part, on -> on.withHears(Optional.of(hears)));
  }

  /** A take that is gone is not waited for. */
  public static Stage withoutTakesGone(Stage stage) {
    return stage.forEachPart(
        (s, part) -> isThere(s, part) ? s : s.mapOn(part, on -> on.withHears(Optional.empty())));
  }

  private static boolean isThere(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    return on.hears().isEmpty()
        || on.vamp()
            .flatMap(vamp -> stage.show().part(part).clip(vamp.clip()))
            .flatMap(clip -> clip.findTake(on.hears().get().take()))
            .isPresent();
  }

  /** The take that is due is heard; what was recorded onto the one before is over. */
  public static Stage enter(Stage before, PartId part) {
    TakeSwitch hears = before.on(part).hears().orElseThrow();
    Stage stage =
        Endings.endAll(before, part, hears.at()).mapOn(part, p -> p.withHears(Optional.empty()));
    Optional<Vamp> vamp = stage.on(part).vamp();
    Optional<Clip> clip = vamp.flatMap(v -> stage.show().part(part).clip(v.clip()));
    if (clip.isEmpty() || clip.get().findTake(hears.take()).isEmpty()) {
      return stage;
    }
    if (clip.get().take().number() == hears.take()) {
      return stage;
    }
    Vamp entered = hears.of(vamp.get(), clip.get());
    boolean rings = stage.show().part(part).leaving() == Leaving.LET_RING;
    return Transition.to(stage, part, hears.at(), clip.get(), Optional.of(entered), rings)
        .withClip(part, clip.get().withHeard(hears.take()));
  }

  /** Where another take is heard by now, since one has come or gone, it sounds at once, in step. */
  public static Stage otherHeard(Stage before, Stage after, PartId part, Moment moment) {
    Optional<Vamp> vamp = after.on(part).vamp();
    boolean same =
        vamp.isEmpty()
            || before.on(part).vamp().map(v -> !v.clip().equals(vamp.get().clip())).orElse(true)
            || after.map().isEmpty();
    if (same) {
      return after;
    }
    Clip was = before.clip(part, vamp.get().clip());
    Clip is = after.clip(part, vamp.get().clip());
    return was.take().number() == is.take().number()
        ? after
        : TakesOver.switched(
            after, part, vamp.get(), was, after.map().get().firstTickFrom(moment.audible()));
  }

  public static Stage rename(Stage stage, PartId part, ClipId id, int number, String name) {
    Clip clip = stage.clip(part, id);
    clip.take(number);
    return stage.withClip(part, clip.mapTake(number, take -> take.withName(name)));
  }

  public static Stage delete(Stage stage, PartId part, ClipId id, int number) {
    Clip clip = stage.clip(part, id);
    clip.take(number);
    Refusal.unless(
        clip.take().number() != number, "Take %s is heard: choose another one first.", number);
    refuseOpen(stage, part, id);
    return stage.withClip(part, clip.without(number));
  }

  /** Keeps the take that is heard, and lets the others go. */
  public static Stage crop(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(clip.takes().size() > 1, "Clip %s has one take only.", clip.letter());
    refuseOpen(stage, part, id);
    return stage.withClip(part, clip.withTakes(List.of(clip.take())));
  }

  /** Each other take becomes a clip of its own; the one that is heard stays. */
  public static Stage spread(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(clip.takes().size() > 1, "Clip %s has one take only.", clip.letter());
    refuseOpen(stage, part, id);
    Stage next = stage.withClip(part, clip.withTakes(List.of(clip.take())));
    for (Take take : clip.takes()) {
      if (take.number() == clip.take().number()) {
        continue;
      }
      Show show = next.show();
      Clip own =
          new Clip(
              show.nextClipId(),
              show.part(part).freeLetter(),
              take.name(),
              clip.window(),
              clip.halvedFrom(),
              clip.unit(),
              clip.recordedAt(),
              clip.manner(),
              List.of(take.withNumber(1).withName("").withPartial(false)),
              List.of(1),
              2,
              clip.sound());
      next = next.withShow(show.withNextId(show.nextId() + 1)).withClip(part, own);
    }
    return next;
  }

  /** Takes one after another make a longer clip, beside theirs. */
  public static Stage layInRow(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(clip.takes().size() > 1, "Clip %s has one take only.", clip.letter());
    return layInRow(stage, part, id, clip.takes().stream().map(Take::number).sorted().toList());
  }

  /** Some takes are laid one after another in a clip of their own, in the order that is given. */
  public static Stage layInRow(Stage stage, PartId part, ClipId id, List<Integer> takes) {
    Clip clip = stage.clip(part, id);
    refuseOpen(stage, part, id);
    Refusal.unless(
        !takes.isEmpty() && takes.size() <= MOST_IN_A_ROW,
        "Choose 1 to %s takes to lay in a row.",
        MOST_IN_A_ROW);
    Show show = stage.show();
    long length = clip.window().length() * takes.size();
    Refusal.unless(
        length <= RecordingSettings.MOST_BARS * show.meter().barTicks(),
        "In a row these takes are longer than %s bars: delete one first.",
        RecordingSettings.MOST_BARS);
    Layer row = Row.of(clip, takes, show.nextId() + 1);
    Clip own =
        Clip.of(
                show.nextClipId(),
                show.part(part).freeLetter(),
                new LoopWindow(clip.window().start(), length),
                row)
            .withRecorded(clip.recordedAt(), clip.unit());
    return stage.withShow(show.withNextId(show.nextId() + 1 + own.noteCount())).withClip(part, own);
  }

  /** Puts a take together from stretches of others, which is heard like any take. */
  public static Stage comp(
      Stage stage, PartId part, ClipId id, List<Stretch> stretches, Moment moment) {
    Clip clip = stage.clip(part, id);
    refuseOpen(stage, part, id);
    Take comp = Comp.of(clip, stretches, stage.show().nextId());
    Stage with = Steps.counted(stage.withClip(part, clip.with(comp)));
    Stage noted = Steps.noted(stage, with, "comp of " + Steps.name(stage, part, clip));
    return hear(noted, part, id, comp.number(), false, moment);
  }

  /** Draws a stretch of a comp anew, and changes nothing else of it. */
  public static Stage redraw(Stage stage, PartId part, ClipId id, int number, Stretch stretch) {
    Clip clip = stage.clip(part, id);
    Take comp = Comp.redrawn(clip, number, stretch, stage.show().nextId());
    return Steps.counted(stage.withClip(part, clip.with(comp)));
  }

  static void refuseOpen(Stage stage, PartId part, ClipId clip) {
    Refusal.unless(
        stage.on(part).open().map(r -> r.way() != Way.TAKES || !r.clip().equals(clip)).orElse(true),
        "Takes are being played: end that first.");
  }
}
