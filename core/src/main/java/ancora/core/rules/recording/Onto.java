package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.record.LoopRecording;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Loop;
import java.util.Optional;

/**
 * A recording onto a loop as things stand: what it is about is found once, and handed on.
 *
 * @param stage the stage
 * @param part the part that is played
 * @param recording what is recorded, or was
 * @param clip what it is recorded onto, as it is by now
 */
record Onto(Stage stage, PartId part, LoopRecording recording, Clip clip) {

  /** Empty if nothing was recorded, or if the clip has gone. */
  static Optional<Onto> of(Stage stage, PartId part) {
    return stage
        .on(part)
        .recording()
        .flatMap(
            recording ->
                stage
                    .show()
                    .part(part)
                    .clip(recording.clip())
                    .map(clip -> new Onto(stage, part, recording, clip)));
  }

  /** The loop that sounds, if it is the one that is recorded onto. */
  Optional<Loop> loop() {
    return stage
        .on(part)
        .vamp()
        .filter(vamp -> vamp.clip().equals(clip.id()))
        .map(vamp -> vamp.in(clip.window()));
  }

  /** The loop as it went round at a tick: before its window was changed, as it was then. */
  Optional<Loop> loopAt(long tick) {
    return Sounding.loopAt(stage, part, clip, tick);
  }

  /** Whether nothing is recorded at a tick, so as to get ready. */
  boolean restsAt(long tick) {
    return loopAt(tick).filter(loop -> recording.rests(tick, loop)).isPresent();
  }

  Meter meter() {
    return stage.show().meter();
  }

  TempoMap map() {
    return stage.map().orElseThrow();
  }

  InputGrid grid() {
    return stage.show().part(part).inputGrid();
  }
}
