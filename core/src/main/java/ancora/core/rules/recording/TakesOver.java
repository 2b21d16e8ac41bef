package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.note.Note;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.rules.Steps;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Takes are over: which of them there are, and which is heard (rule 8). */
public final class TakesOver {

  private TakesOver() {}

  /**
   * Takes are over: the last complete one is heard; if none is complete, the fullest. One without
   * notes vanishes. All of them are one step.
   */
  static Stage end(Stage stage, PartId part, LoopRecording recording, long tick) {
    Stage next = stage;
    List<Integer> played = new ArrayList<>();
    for (Lap lap : recording.laps()) {
      Optional<Clip> clip = next.show().part(part).clip(recording.clip());
      Optional<Take> take = clip.flatMap(c -> c.findTake(lap.take()));
      if (take.isEmpty() || isFirst(recording, lap)) {
        continue;
      }
      if (take.get().sounding().allMatch(Note::isPedal)) {
        next = dropped(next, part, clip.get(), take.get());
      } else {
        boolean partial = !isWhole(next, part, recording, lap);
        next = next.withClip(part, clip.get().mapTake(lap.take(), t -> t.withPartial(partial)));
        played.add(lap.take());
      }
    }
    return heard(noted(next, part, recording, played), part, recording, played, tick);
  }

  public static boolean isFirst(LoopRecording recording, Lap lap) {
    return recording.closed().isPresent() && lap.begin() == recording.from();
  }

  private static boolean isWhole(Stage stage, PartId part, LoopRecording recording, Lap lap) {
    // a take is whole in the window that the loop has now
    Optional<Vamp> vamp =
        stage
            .on(part)
            .vamp()
            .filter(v -> v.clip().equals(recording.clip()))
            .or(() -> Sounding.vampAt(stage, part, recording.clip(), lap.begin()));
    long loop = stage.clip(part, recording.clip()).window().length();
    return vamp.filter(v -> recording.isWhole(lap, v.phase(), loop)).isPresent();
  }

  public static Stage dropped(Stage stage, PartId part, Clip clip, Take take) {
    List<Long> notes =
        take.allLayers().flatMap(layer -> layer.notes().stream()).map(Note::id).toList();
    return NoteTaking.left(stage.withClip(part, clip.without(take.number())), part, notes);
  }

  private static Stage noted(
      Stage stage, PartId part, LoopRecording recording, List<Integer> played) {
    Clip clip = stage.clip(part, recording.clip());
    String words = "takes of " + Steps.name(stage, part, clip);
    if (recording.fromNothing()) {
      return Steps.noted(
          stage,
          List.of(new Change.OfClip(part, clip.id(), Optional.empty(), Optional.of(clip))),
          words);
    }
    List<Change> came = new ArrayList<>();
    for (int number : played) {
      came.add(
          new Change.OfTake(
              part, clip.id(), number, Optional.empty(), clip.findTake(number), false));
    }
    return came.isEmpty() ? stage : Steps.noted(stage, came, words);
  }

  private static Stage heard(
      Stage stage, PartId part, LoopRecording recording, List<Integer> played, long tick) {
    if (played.isEmpty()) {
      return stage;
    }
    Clip before = stage.clip(part, recording.clip());
    int best =
        played.stream()
            .filter(n -> !before.take(n).partial())
            .reduce((a, b) -> b)
            .orElseGet(
                () ->
                    played.stream()
                        .max(Comparator.comparingInt(n -> before.take(n).noteCount()))
                        .orElseThrow());
    Stage next = stage.withClip(part, before.withHeard(best));
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    return vamp.isEmpty() ? next : switched(next, part, vamp.get(), before, tick);
  }

  /** Another take sounds from a tick on; what it and the one before have in common sounds on. */
  public static Stage switched(Stage stage, PartId part, Vamp vamp, Clip before, long tick) {
    Vamp entered =
        vamp.withFrom(
            Math.max(tick, vamp.from()), new Vamp.Entry(0, before.manner().underWay(), false));
    return stage.mapOn(
        part,
        p ->
            p.withVamp(entered)
                .withPast(
                    vamp.from() < tick
                        ? Optional.of(new PastVamp(vamp, before, tick, false, p.stutter()))
                        : p.past()));
  }
}
