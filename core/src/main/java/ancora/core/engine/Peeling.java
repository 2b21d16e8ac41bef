package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.Overdub;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Taking layers off and putting them back, while the loop goes round. */
final class Peeling {

  private Peeling() {}

  static Stage peel(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    return stage.on(part).first().isPresent()
        ? startAfresh(stage, part, moment)
        : stage.withClip(part, clipInHand(stage, part).peel());
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
    Clip clip = clipInHand(stage, part);
    List<Cleared> cleared = new ArrayList<>(stage.cleared());
    cleared.add(new Cleared(part, clip, stage.on(part).vamp()));
    return stage
        .withShow(stage.show().mapPart(part, p -> p.withoutClip(clip.id())))
        .withCleared(cleared)
        .mapOn(
            part,
            on ->
                on.withVamp(Optional.empty())
                    .withReady(Optional.empty())
                    .withOverdub(Optional.empty()));
  }

  static Stage unclear(Stage stage) {
    List<Cleared> cleared = stage.cleared();
    Refusal.unless(!cleared.isEmpty(), "Nothing has been cleared.");
    Cleared last = cleared.get(cleared.size() - 1);
    PartId part = last.part();
    PartStage on = stage.on(part);
    Clip clip = last.clip();
    boolean letterTaken =
        stage.show().part(part).shelf().stream()
            .anyMatch(other -> other.letter().equals(clip.letter()));
    Clip back = letterTaken ? clip.withLetter(stage.show().part(part).freeLetter()) : clip;
    boolean free = on.vamp().isEmpty() && on.first().isEmpty() && on.ready().isEmpty();
    Stage shelved = stage.withClip(part, back).withCleared(cleared.subList(0, cleared.size() - 1));
    if (!free) {
      return shelved;
    }
    return shelved.mapOn(
        part,
        p ->
            stage.map().isPresent()
                ? p.withVamp(last.vamp())
                : p.withReady(Optional.of(clip.id())));
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
