package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.Overdub;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import java.util.Optional;

/** Taking layers off and putting them back, while the loop goes round. */
final class Peeling {

  private Peeling() {}

  static Stage peel(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    if (stage.on(part).first().isPresent()) {
      return startAfresh(stage, part, moment);
    }
    Clip clip = clipInHand(stage, part);
    refuseOldLayers(stage, part, clip, clip.layers().size() - 1);
    return stage.withClip(part, clip.peel());
  }

  static Stage restore(Stage stage) {
    PartId part = stage.armedPart();
    return stage.withClip(part, clipInHand(stage, part).restore());
  }

  static Stage peelAll(Stage stage) {
    PartId part = stage.armedPart();
    Clip clip = clipInHand(stage, part);
    int keep =
        stage.on(part).overdub().map(Overdub::layersBefore).map(n -> Math.max(1, n)).orElse(1);
    Refusal.unless(
        clip.layers().size() > keep, "Nothing has been added to %s since.", clip.letter());
    refuseOldLayers(stage, part, clip, keep);
    while (clip.layers().size() > keep) {
      clip = clip.peel();
    }
    return stage.withClip(part, clip);
  }

  static Stage clear(Stage stage) {
    PartId part = stage.armedPart();
    Refusal.unless(
        stage.on(part).first().isEmpty(),
        "A loop is being recorded: peel starts it afresh, stop ends it.");
    return Shelves.delete(stage, part, clipInHand(stage, part).id());
  }

  /** What was there is being mended: only what has been played since can be peeled. */
  private static void refuseOldLayers(Stage stage, PartId part, Clip clip, int keep) {
    boolean erasing = stage.hands().erase().filter(erase -> erase.part().equals(part)).isPresent();
    int old =
        stage
            .on(part)
            .overdub()
            .filter(o -> o.isOpen() && o.before().isPresent())
            .map(o -> o.before().get().layers().stream().mapToInt(Layer::number).max().orElse(0))
            .orElse(0);
    boolean mended =
        clip.layers().subList(Math.max(0, keep), clip.layers().size()).stream()
            .anyMatch(layer -> layer.number() <= old);
    Refusal.unless(!erasing && !mended, "Clip %s is being mended: end that first.", clip.letter());
  }

  /** The clip that the armed part sounds, or that stands ready on it. */
  private static Clip clipInHand(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    Optional<ClipId> id = on.vamp().map(Vamp::clip).or(on::ready);
    return stage.clip(
        part,
        id.orElseThrow(
            () ->
                new Refusal(
                    stage.show().part(part).name() + " has no loop yet: record one first.")));
  }

  /**
   * Peeled before it is closed, a first recording is dropped, and begins at the next entry. What it
   * held does not come back with it.
   */
  private static Stage startAfresh(Stage stage, PartId part, Moment moment) {
    FirstRecording first = stage.on(part).first().orElseThrow();
    RecordingSettings settings = stage.show().recording();
    boolean begun = stage.map().map(map -> moment.tick(map) >= first.start()).orElse(false);
    Refusal.unless(begun, "The recording has not begun: a main press calls it off.");
    long start =
        EntryPoint.of(
            moment.stamp(),
            settings.entersOn(),
            settings.forgiveness(),
            stage.show().meter(),
            stage.map().orElseThrow());
    double since = Math.min(moment.stamp(), stage.map().orElseThrow().microsOf(start));
    return FirstRecordings.cue(FirstRecordings.drop(stage, part), part, start, since);
  }
}
