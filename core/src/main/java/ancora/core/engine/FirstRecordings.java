package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.LoopLength;
import ancora.core.record.Overdub;
import ancora.core.record.PassLog;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The life of a first recording: cued, called off, closing, closed. */
final class FirstRecordings {

  private FirstRecordings() {}

  /** Cues a recording; notes that belong to it already are drawn from hindsight. */
  static Stage cue(Stage stage, PartId part, long start) {
    long bar = stage.show().meter().barTicks();
    double since = stage.map().orElseThrow().microsOf(start - bar);
    long heldSince =
        stage.heldKeys().stream()
            .filter(key -> key.part().equals(part))
            .mapToLong(HeldKey::onMicros)
            .min()
            .orElse(Long.MAX_VALUE);
    return cue(stage, part, start, Math.min(since, heldSince));
  }

  /**
   * Cues a recording.
   *
   * @param since notes that went down at this instant or later may belong to it
   */
  static Stage cue(Stage stage, PartId part, long start, double since) {
    Show show = stage.show();
    ClipId id = new ClipId((int) show.nextId());
    FirstRecording first = FirstRecording.cued(id, show.part(part).freeLetter(), start);
    Stage cued =
        stage
            .withShow(show.withNextId(show.nextId() + 1))
            .mapOn(
                part,
                on -> on.withFirst(first).withOverdub(Optional.empty()).withCue(Optional.empty()));
    RecordingSettings settings = show.recording();
    if (settings.fixedUnits() > 0) {
      long unit = settings.closesOn().ticks(show.meter());
      long length = lengths(stage, part).allowedFrom(settings.fixedUnits() * unit);
      cued = withUntil(cued, part, start + length);
    }
    return NoteTaking.takeFromHindsight(cued, part, since);
  }

  /** Lets the loop close at a tick, or not yet, if that is {@link Ticks#OPEN}. */
  static Stage withUntil(Stage stage, PartId part, long until) {
    return stage.mapOn(part, on -> on.withFirst(on.first().orElseThrow().withUntil(until)));
  }

  /** Calls a recording off; what was played stays in hindsight. */
  static Stage drop(Stage stage, PartId part) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    return leave(stage, part, first.notes().stream().map(Note::id).toList())
        .mapOn(part, on -> on.withFirst(Optional.empty()));
  }

  /** What comes of a part's first recording if it closes where it is set to close. */
  static FirstRecording.Closed closed(Stage stage, PartId part, boolean keepPastWindow) {
    return stage
        .on(part)
        .first()
        .orElseThrow()
        .close(
            stage.show().part(part).inputGrid(),
            stage.show().meter(),
            stage.map().orElseThrow(),
            keepPastWindow);
  }

  /** The clip goes on the shelf and vamps; a recording without notes leaves nothing. */
  static Stage close(Stage stage, PartId part, boolean keepPastWindow) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    FirstRecording.Closed closed = closed(stage, part, keepPastWindow);
    if (closed.clip().isEmpty()) {
      return drop(stage, part);
    }
    Part on = stage.show().part(part);
    Clip clip =
        closed
            .clip()
            .get()
            .withRecorded(first.start(), stage.show().recording().closesOn())
            .withLetter(on.hasLetter(first.letter()) ? on.freeLetter() : first.letter());
    boolean goesOn = stage.show().recording().overdubAfter();
    Overdub overdub =
        Mends.breathing(
            stage,
            Overdub.adding(
                clip.id(), first.start(), goesOn ? Ticks.OPEN : first.until(), first.until(), 1),
            clip);
    Vamp vamp = Vamp.of(clip.id(), first.start(), first.until()).withPasses(passes(first, closed));
    Stage shelved =
        leave(stage, part, closed.left())
            .withClip(part, clip)
            .mapOn(part, p -> p.withFirst(Optional.empty()).withVamp(vamp).withOverdub(overdub));
    TempoMap map = stage.map().orElseThrow();
    return goesOn && !keepPastWindow
        ? NoteTaking.takeFromHindsight(shelved, part, map.microsOf(first.until()))
        : shelved;
  }

  /** The log of a loop's passes at its closing: notes meant for the line were heard on it. */
  static PassLog passes(FirstRecording first, FirstRecording.Closed closed) {
    Map<Long, Long> heard = new HashMap<>();
    closed.movedToLine().forEach(id -> heard.put(id, first.until()));
    return PassLog.ofFirst(heard);
  }

  /** The lengths that a loop of this part may have. */
  static LoopLength lengths(Stage stage, PartId part) {
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

  /** Notes go back to hindsight alone. */
  private static Stage leave(Stage stage, PartId part, List<Long> noteIds) {
    Hindsight memory = stage.on(part).hindsight();
    for (long id : noteIds) {
      memory = memory.map(id, played -> played.withRecorded(false));
    }
    Hindsight left = memory;
    return stage.mapOn(part, on -> on.withHindsight(left));
  }
}
