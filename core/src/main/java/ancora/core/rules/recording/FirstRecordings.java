package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.EarlyNotes;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.record.LoopRecording;
import ancora.core.record.Played;
import ancora.core.rules.Moment;
import ancora.core.rules.Steps;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.RunUp;
import ancora.core.show.Show;
import ancora.core.stage.HeldKey;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.HeardLive;
import ancora.core.vamp.Vamp;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The life of a first recording: cued, called off, closing, closed. */
public final class FirstRecordings {

  private FirstRecordings() {}

  /** Cues a recording; notes that belong to it already are drawn from hindsight. */
  public static Stage cue(Stage stage, PartId part, long start, Moment moment) {
    return cue(stage, part, start, afterClosing(stage), moment);
  }

  /** What a recording goes on with, as the show is set. */
  public static AfterClosing afterClosing(Stage stage) {
    RecordingSettings settings = stage.show().recording();
    if (settings.takesAfter()) {
      return AfterClosing.TAKES;
    }
    return settings.overdubAfter() ? AfterClosing.OVERDUB : AfterClosing.VAMP;
  }

  /** The boundary that a press counts for. */
  public static long entry(Stage stage, long stamp) {
    RecordingSettings settings = stage.show().recording();
    return EntryPoint.of(
        stamp,
        settings.entersOn(),
        settings.forgiveness(),
        stage.show().meter(),
        stage.map().orElseThrow());
  }

  /** Where a recording begins: the entry point of a press, or the end of a run-up to come. */
  public static long start(Stage stage, long stamp) {
    long entry = entry(stage, stamp);
    return stage
        .show()
        .recording()
        .runUp()
        .filter(runUp -> runUp.of() == RunUp.Of.TRANSPORT)
        .map(runUp -> Math.max(entry, runUp.ticks(stage.show().meter())))
        .orElse(entry);
  }

  public static Stage cue(Stage stage, PartId part, long start, AfterClosing then, Moment moment) {
    long bar = stage.show().meter().barTicks();
    double since = stage.map().orElseThrow().microsOf(start - bar);
    long heldSince =
        stage.heldKeys().stream()
            .filter(key -> key.part().equals(part))
            .mapToLong(HeldKey::onMicros)
            .min()
            .orElse(Long.MAX_VALUE);
    return cue(stage, part, start, then, Math.min(since, heldSince), moment);
  }

  /**
   * Cues a recording.
   *
   * @param since notes that went down at this instant or later may belong to it
   */
  public static Stage cue(
      Stage stage, PartId part, long start, AfterClosing then, double since, Moment moment) {
    Show show = stage.show();
    ClipId id = show.nextClipId();
    FirstRecording first =
        setLength(
            show,
            FirstRecording.cued(id, show.part(part).freeLetter(), start, then, moment.stamp()));
    Stage cued =
        stage
            .withShow(show.withNextId(show.nextId() + 1))
            .mapOn(part, on -> on.withFirst(first).withCue(Optional.empty()));
    return NoteTaking.takeFromHindsight(cued, part, since, moment);
  }

  /** A set length need not be an allowed one. */
  private static FirstRecording setLength(Show show, FirstRecording first) {
    RecordingSettings settings = show.recording();
    if (settings.fixedUnits() == 0) {
      return first;
    }
    long unit = settings.closesOn().ticks(show.meter());
    return first.withSet(first.start() + settings.fixedUnits() * unit);
  }

  /** What was played is dropped, and it begins at the next entry point. */
  public static Stage afresh(Stage stage, PartId part, Moment moment) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    long start = entry(stage, moment.stamp());
    return cue(drop(stage, part), part, start, first.then(), moment.stamp(), moment);
  }

  /** Lets the loop close at a tick; where it is set to, if nothing else is asked for. */
  public static Stage withUntil(Stage stage, PartId part, long until, Moment moment) {
    return stage.mapOn(
        part,
        on -> on.withFirst(on.first().orElseThrow().withUntil(until).withAsked(moment.stamp())));
  }

  /** Calls a recording off; what was played stays in hindsight. */
  public static Stage drop(Stage stage, PartId part) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    return NoteTaking.left(stage, part, first.notes().stream().map(Note::id).toList())
        .mapOn(part, on -> on.withFirst(Optional.empty()));
  }

  /** What comes of a part's first recording if it closes where it is set to close. */
  public static FirstRecording.Closed closed(
      Stage stage, PartId part, boolean keepPastWindow, boolean forGood) {
    return stage
        .on(part)
        .first()
        .orElseThrow()
        .close(
            stage.show().part(part).inputGrid(),
            stage.show().meter(),
            stage.map().orElseThrow(),
            keepPastWindow,
            takeFollows(stage, part, forGood));
  }

  /** Whether a take begins at the line at which a first recording closes. */
  private static boolean takeFollows(Stage stage, PartId part, boolean forGood) {
    boolean takes = stage.on(part).first().orElseThrow().then() == AfterClosing.TAKES;
    return takes && !forGood && stage.show().recording().breatherBars() == 0;
  }

  /**
   * The clip goes on the shelf and vamps; it is a step, but where takes go on. A recording without
   * notes leaves nothing; one that was set to go on recording goes round until something is played.
   *
   * @param forGood whether the transport stops: then nothing goes on
   */
  public static Stage close(Stage stage, PartId part, boolean keepPastWindow, boolean forGood) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    FirstRecording.Closed closed = closed(stage, part, keepPastWindow, forGood);
    if (closed.clip().isEmpty()) {
      boolean lapses = first.until() == first.set() && !forGood;
      Stage next = lapses && goesRound(first) ? roundAgain(stage, part) : drop(stage, part);
      return lapses ? next.mapOn(part, on -> on.withLapsed(Optional.of(first))) : next;
    }
    Part on = stage.show().part(part);
    Clip clip =
        closed
            .clip()
            .get()
            .withRecorded(first.start(), stage.show().recording().closesOn())
            .withLetter(on.hasLetter(first.letter()) ? on.freeLetter() : first.letter());
    LoopRecording recording = Recordings.after(stage, part, first, clip, forGood);
    Vamp bare = vamp(stage, part, first, closed);
    Vamp vamp = forGood ? bare.withBreather(Optional.empty()) : bare;
    Stage shelved =
        NoteTaking.left(stage, part, closed.left())
            .withClip(part, clip)
            .mapOn(
                part, p -> p.withFirst(Optional.empty()).withVamp(vamp).withRecording(recording));
    Stage noted =
        recording.fromNothing() && recording.isOpen()
            ? shelved
            : Steps.notedFirst(shelved, part, clip.id(), Steps.name(shelved, part, clip));
    if (forGood) {
      return noted;
    }
    long micros = Ticks.round(stage.map().orElseThrow().microsOf(first.until()));
    Moment line = new Moment(micros, micros, micros);
    long early =
        takeFollows(stage, part, false)
            ? EarlyNotes.tolerance(
                on.inputGrid(), first.until(), stage.show().meter(), stage.map().orElseThrow())
            : 0;
    double since = stage.map().orElseThrow().microsOf(first.until() - early);
    return NoteTaking.takeFromHindsight(noted, part, since, line);
  }

  /** Where the loop stands that a recording closes as. */
  public static Vamp vamp(
      Stage stage, PartId part, FirstRecording first, FirstRecording.Closed closed) {
    Vamp vamp =
        Vamp.of(first.clip(), first.start(), first.until()).withHeard(HeardLive.of(closed.heard()));
    return first.then() == AfterClosing.VAMP
        ? vamp
        : Breathers.from(stage, part, vamp.in(closed.clip().orElseThrow().window()), first.start());
  }

  private static boolean goesRound(FirstRecording first) {
    return first.then() != AfterClosing.VAMP;
  }

  /** So long after it has closed a recording without notes waits for some, in microseconds. */
  private static final double LAPSES_AFTER = 1e6;

  /**
   * Whether a note belongs to a recording that closed with nothing in it, and arrives no later than
   * that waits for it.
   *
   * @param over the last tick that is over
   */
  static boolean isOfLapsed(Stage stage, PartId part, Played played, long over) {
    PartStage on = stage.on(part);
    if (on.lapsed().isEmpty() || on.vamp().isPresent()) {
      return false;
    }
    FirstRecording lapsed = on.lapsed().get();
    TempoMap map = stage.map().orElseThrow();
    InputGrid grid = stage.show().part(part).inputGrid();
    return lapsed.take(played, grid, stage.show().meter(), map).isPresent()
        && map.microsOf(over) - map.microsOf(lapsed.until()) <= LAPSES_AFTER;
  }

  /** A note arrives that makes a recording that closed with nothing in it: as if it had in time. */
  static Stage lateIntoLapsed(Stage stage, PartId part, long over) {
    FirstRecording lapsed = stage.on(part).lapsed().orElseThrow();
    Stage free = stage.on(part).first().isPresent() ? drop(stage, part) : stage;
    Stage open =
        free.mapOn(
            part, on -> on.withLapsed(Optional.empty()).withFirst(lapsed.withNotes(List.of())));
    double since =
        stage.map().orElseThrow().microsOf(lapsed.start() - stage.show().meter().barTicks());
    Stage taken = NoteTaking.takeFromHindsight(open, part, since, over);
    return close(taken, part, false, false);
  }

  /** Whatever else is done to a part, a recording that closed with nothing in it is over there. */
  public static Stage endLapsed(Stage before, Stage after) {
    Stage next = after;
    for (Part part : after.show().parts()) {
      PartStage on = after.on(part.id());
      if (on.lapsed().isPresent() && on != before.on(part.id())) {
        next = next.mapOn(part.id(), p -> p.withLapsed(Optional.empty()));
      }
    }
    return next;
  }

  /** An empty loop goes round: the first pass with notes is the first recording. */
  private static Stage roundAgain(Stage stage, PartId part) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    long length = first.until() - first.start();
    long rest = Breathers.ticks(stage, part, length);
    FirstRecording again =
        FirstRecording.cued(
                first.clip(), first.letter(), first.until() + rest, first.then(), first.asked())
            .withSet(first.until() + rest + length)
            .withRound();
    Stage next =
        NoteTaking.left(stage, part, first.notes().stream().map(Note::id).toList())
            .mapOn(part, on -> on.withFirst(again));
    long micros = Ticks.round(stage.map().orElseThrow().microsOf(first.until()));
    Moment line = new Moment(micros, micros, micros);
    return NoteTaking.takeFromHindsight(next, part, micros, line);
  }

  /** The lengths that a loop of this part may have. */
  public static LoopLength lengths(Stage stage, PartId part) {
    Show show = stage.show();
    List<Clip> clips =
        switch (show.recording().lengthRule()) {
          case OF_THE_PARTS_FIRST -> show.part(part).shelf();
          default -> show.parts().stream().map(Part::shelf).flatMap(List::stream).toList();
        };
    long first =
        clips.stream()
            .min(Comparator.comparingInt(clip -> clip.id().value()))
            .map(clip -> clip.window().length())
            .orElse(0L);
    return LoopLength.of(show.recording(), show.meter(), first);
  }
}
