package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.history.Step;
import ancora.core.note.Note;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.rules.Steps;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** Takes are over: which of them there are, and which is heard (rule 8). */
public final class TakesOver {

  private TakesOver() {}

  /**
   * Takes are over: of those that they have brought and the one that was heard before, the last
   * complete one is heard; if none is complete, the fullest. One without notes vanishes. All that
   * they have brought is one step.
   */
  static Stage end(Stage stage, PartId part, LoopRecording recording, long tick) {
    Stage next = stage;
    List<Integer> played = new ArrayList<>();
    for (Lap lap : recording.laps()) {
      Optional<Clip> clip = next.show().part(part).clip(recording.clip());
      Optional<Take> take = clip.flatMap(c -> c.findTake(lap.take()));
      if (take.isEmpty() || recording.isFirst(lap)) {
        continue;
      }
      if (take.get().sounding().allMatch(Note::isPedal)) {
        next = dropped(next, part, clip.get(), take.get());
      } else {
        boolean partial = !isWhole(next, part, lap);
        next = next.withClip(part, clip.get().mapTake(lap.take(), t -> t.withPartial(partial)));
        played.add(lap.take());
      }
    }
    return heard(noted(next, part, recording, played), part, recording, played, tick);
  }

  private static boolean isWhole(Stage stage, PartId part, Lap lap) {
    // in the window in which it was played, or in one that it covers
    Onto on = Onto.of(stage, part).orElseThrow();
    return Stream.concat(on.loopAt(lap.begin()).stream(), on.loop().stream())
        .anyMatch(loop -> on.recording().isWhole(lap, loop));
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
      return remade(stage, part, clip)
          .orElseGet(() -> Steps.noted(stage, List.of(Steps.came(stage, part, clip.id())), words));
    }
    // they may have been ended before, later than is known now
    List<Change> came =
        played.stream()
            .filter(number -> !isNoted(stage, clip, number))
            .map(number -> Steps.came(stage, part, clip.id(), number))
            .toList();
    return came.isEmpty() ? stage : Steps.noted(stage, came, words);
  }

  /**
   * A key arrives when takes are over already: what it makes is judged as if it had come in time.
   */
  static Stage late(Stage stage, PartId part, Lap lap, long tick) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    boolean partial = !isWhole(stage, part, lap);
    Clip clip = stage.clip(part, recording.clip());
    Stage marked = stage.withClip(part, clip.mapTake(lap.take(), t -> t.withPartial(partial)));
    Clip now = marked.clip(part, recording.clip());
    Stage noted = notedLate(marked, part, now, lap.take(), recording.fromNothing());
    List<Integer> played =
        recording.laps().stream()
            .filter(l -> l.hasLayer() && !recording.isFirst(l))
            .map(Lap::take)
            .filter(number -> now.findTake(number).isPresent())
            .toList();
    return heard(noted, part, recording, played, tick);
  }

  /** A take that came late is of the step that brought the others, if nothing was done since. */
  private static Stage notedLate(Stage stage, PartId part, Clip clip, int take, boolean making) {
    Change came = Steps.came(stage, part, clip.id(), take);
    Optional<Step> brought =
        stage.history().done().stream()
            .filter(step -> step.changes().stream().anyMatch(c -> c.brings(clip.id(), take)))
            .findFirst();
    if (brought.isPresent()) {
      Step complete = brought.get().map(c -> c.withoutTake(clip.id(), take)).with(came);
      return stage.mapHistory(history -> history.replacing(brought.get(), complete));
    }
    Optional<Step> others =
        stage.history().last().filter(s -> isOnly(s, c -> c.bringsOnlyTakesOf(clip.id())));
    if (others.isPresent()) {
      return stage.mapHistory(history -> history.withMore(others.get().with(came)));
    }
    Optional<Stage> remade = making ? remade(stage, part, clip) : Optional.empty();
    Step step = new Step("takes of " + Steps.name(stage, part, clip), List.of(came), Map.of());
    return remade.orElseGet(() -> stage.mapHistory(history -> history.withLayer(step)));
  }

  /** The stage whose newest step, which has made a clip, makes it as it is now. */
  private static Optional<Stage> remade(Stage stage, PartId part, Clip clip) {
    return stage
        .history()
        .last()
        .filter(step -> isOnly(step, change -> change.brings(clip.id())))
        .map(step -> step.with(List.of(Steps.came(stage, part, clip.id()))))
        .map(step -> stage.mapHistory(history -> history.withMore(step)));
  }

  private static boolean isNoted(Stage stage, Clip clip, int take) {
    return stage.history().done().stream()
        .flatMap(step -> step.changes().stream())
        .anyMatch(change -> change.brings(clip.id(), take));
  }

  private static boolean isOnly(Step step, Predicate<Change> what) {
    return step.changes().stream().allMatch(what);
  }

  private static Stage heard(
      Stage stage, PartId part, LoopRecording recording, List<Integer> played, long tick) {
    if (played.isEmpty()) {
      return stage;
    }
    Clip before = stage.clip(part, recording.clip());
    List<Take> all = new ArrayList<>();
    before.findTake(recording.take()).filter(t -> !played.contains(t.number())).ifPresent(all::add);
    played.forEach(number -> all.add(before.take(number)));
    int best = best(all).number();
    Stage next = stage.withClip(part, before.withHeard(best));
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    return vamp.isEmpty() || best == before.take().number()
        ? next
        : switched(next, part, vamp.get(), before, tick);
  }

  /** The last complete take, or else the fullest. */
  private static Take best(List<Take> takes) {
    return takes.stream()
        .filter(take -> !take.partial())
        .reduce((a, b) -> b)
        .orElseGet(
            () -> takes.stream().max(Comparator.comparingInt(Take::noteCount)).orElseThrow());
  }

  /** A clip as it would be heard were its takes to end now. */
  public static Clip wouldBeHeard(Stage stage, PartId part, Clip clip) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    List<Take> all = new ArrayList<>(clip.findTake(recording.take()).stream().toList());
    for (Lap lap : recording.laps()) {
      clip.findTake(lap.take())
          .filter(take -> lap.hasLayer() && !recording.isFirst(lap))
          .filter(take -> !take.sounding().allMatch(Note::isPedal))
          .map(take -> take.withPartial(!isWhole(stage, part, lap)))
          .ifPresent(all::add);
    }
    return all.isEmpty() ? clip : clip.withHeard(best(all).number());
  }

  /** Another take sounds from a tick on; what it and the one before have in common sounds on. */
  public static Stage switched(Stage stage, PartId part, Vamp vamp, Clip before, long tick) {
    Vamp entered =
        vamp.withFrom(Math.max(tick, vamp.from()), Vamp.Entry.inStep(before.manner().underWay()));
    return Transition.to(stage, part, tick, before, Optional.of(entered), false);
  }
}
