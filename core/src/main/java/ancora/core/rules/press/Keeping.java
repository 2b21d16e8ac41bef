package ancora.core.rules.press;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.note.InputGrid;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Phrase;
import ancora.core.record.Played;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.cues.Cues;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.Vamp;
import java.util.Optional;

/** Making a clip of what was played while nothing was recording (rule 15). */
public final class Keeping {

  private Keeping() {}

  /** The last phrase goes on the armed part's shelf. */
  public static Result keep(Stage stage, PressCommand.Keep command, Moment moment) {
    TempoMap map =
        stage
            .map()
            .orElseThrow(
                () -> new Refusal("Keep works while the transport runs: start it, and play."));
    PartId id = stage.armedPart();
    Part part = stage.show().part(id);
    PartStage on = stage.on(id);
    Meter meter = stage.show().meter();
    Phrase phrase =
        Phrase.last(
                on.hindsight(),
                part.inputGrid(),
                stage.show().recording().forgiveness(),
                meter,
                map,
                moment.tick(map))
            .orElseThrow(() -> new Refusal("Nothing has been played on " + part.name() + " yet."));
    long length = FirstRecordings.lengths(stage, id).allowedFrom(phrase.until() - phrase.from());
    long from = phrase.from();
    if (command.ofLoopLength() && on.vamp().isPresent()) {
      Vamp vamp = on.vamp().get();
      length = stage.clip(id, vamp.clip()).window().length();
      from = vamp.phase() + Ticks.ceil(phrase.until() - vamp.phase(), length) - length;
    }
    Clip clip = clip(stage, part, phrase, from, length, moment);
    Stage kept =
        stage
            .withShow(stage.show().withNextId(clip.id().value() + 1L + clip.noteCount()))
            .withClip(id, clip);
    Stage noted = Steps.noted(stage, kept, "keep " + Steps.name(stage, id, clip));
    String word = "Kept as " + Steps.name(stage, id, clip) + ".";
    return command.cue()
        ? new Result(Cues.clip(noted, id, clip.id(), moment).stage(), Optional.of(word))
        : Result.to(noted, word);
  }

  private static Clip clip(
      Stage stage, Part part, Phrase phrase, long from, long length, Moment moment) {
    Show show = stage.show();
    TempoMap map = stage.map().orElseThrow();
    InputGrid grid = part.inputGrid();
    ClipId id = show.nextClipId();
    FirstRecording recording =
        FirstRecording.cued(id, part.freeLetter(), from, AfterClosing.VAMP, moment.stamp())
            .withUntil(from + length);
    for (Played played : phrase.notes()) {
      Played over = played.isHeld() ? played.withOff(moment.stamp()) : played;
      Optional<FirstRecording> with =
          recording.take(over, grid, show.meter(), map).map(recording::with);
      recording = with.orElse(recording);
    }
    Clip clip =
        recording
            .close(grid, show.meter(), map, false)
            .clip()
            .orElseThrow(() -> new Refusal("Nothing of what was played falls into that loop."));
    // notes that another clip has already are here once more: all get ids of their own
    return clip.mapTakes(new Ids(show.nextId() + 1)::copy)
        .withRecorded(from, show.recording().closesOn());
  }
}
