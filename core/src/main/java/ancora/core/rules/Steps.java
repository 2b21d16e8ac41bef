package ancora.core.rules;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.history.Step;
import ancora.core.note.Note;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/** Keeping what was done in the history, with words for it. */
public final class Steps {

  private Steps() {}

  /** What leads from one stage to another; it may be nothing. */
  public static Step between(String words, Stage before, Stage after) {
    Map<PartId, Vamp> ended = new TreeMap<>();
    before
        .partStages()
        .forEach(
            (part, on) -> {
              if (on.vamp().isPresent() && after.on(part).vamp().isEmpty()) {
                ended.put(part, on.vamp().get());
              }
            });
    return new Step(words, List.of(Change.between(before.show(), after.show())), ended);
  }

  /** The stage after something was done, which knows how to undo it. */
  public static Stage noted(Stage before, Stage after, String words) {
    return after.withHistory(after.history().with(Steps.between(words, before, after)));
  }

  /** The stage that knows how to undo what was done to a window, by knob or else. */
  public static Stage notedWindow(
      Stage before, Stage after, List<Reshaping> reshapings, String clip, long asked) {
    Step step = Steps.between(words(reshapings) + " in " + clip, before, after);
    boolean byKnob =
        reshapings.stream()
            .allMatch(r -> r instanceof Reshaping.ToWindow || r instanceof Reshaping.Shift);
    return after.withHistory(
        byKnob ? after.history().withTurn(step.turnedAt(asked)) : after.history().with(step));
  }

  /** The stage that knows how to undo some changes. */
  public static Stage noted(Stage after, List<Change> changes, String words) {
    return after.withHistory(after.history().with(new Step(words, changes, Map.of())));
  }

  /** The stage that knows how to undo layers that were recorded. */
  public static Stage notedLayers(Stage after, List<Change> layers, String words) {
    if (layers.isEmpty()) {
      return after;
    }
    Step step = new Step(words, layers, Map.of());
    Optional<Step> handOff = layers.get(0).part().flatMap(part -> handedOff(after, part));
    return after.withHistory(
        handOff
            .map(before -> after.history().withBefore(step, before))
            .orElseGet(() -> after.history().withLayer(step)));
  }

  /** The stage that knows how to undo a first recording; it comes before a hand-off from there. */
  public static Stage notedFirst(Stage after, PartId part, ClipId clip, String name) {
    Step step = new Step("the recording of " + name, List.of(came(after, part, clip)), Map.of());
    return after.withHistory(
        handedOff(after, part)
            .map(handOff -> after.history().withBefore(step, handOff))
            .orElseGet(() -> after.history().with(step)));
  }

  /** That a clip which is there has come. */
  public static Change came(Stage after, PartId part, ClipId clip) {
    Show show = after.show();
    return Change.between(show.mapPart(part, p -> p.withoutClip(clip)), show);
  }

  /** That a take which is there has come; it may be the only one. */
  public static Change came(Stage after, PartId part, ClipId clip, int take) {
    Clip with = after.clip(part, clip);
    List<Take> others = with.takes().stream().filter(t -> t.number() != take).toList();
    return Change.between(
        after.withClip(part, with.with(c -> c.takes(others))).show(), after.show());
  }

  /** The hand-off that a part's last pass is finished for. */
  private static Optional<Step> handedOff(Stage stage, PartId part) {
    return stage.hands().handOvers().stream()
        .filter(over -> over.from().equals(part))
        .flatMap(over -> stage.history().done().stream().filter(step -> brings(step, over.to())))
        .reduce((a, b) -> b);
  }

  private static boolean brings(Step step, PartId part) {
    return step.changes().stream().anyMatch(change -> change.brings(part));
  }

  /** A layer that is nothing any more is in no step either. */
  public static Stage withoutLayer(Stage stage, ClipId clip, int take, int layer) {
    return stage.mapHistory(
        history -> history.map(change -> change.withoutLayer(clip, take, layer)));
  }

  /** Notes that were never recorded, as is known only now, are in no step either. */
  public static Stage withoutNotes(Stage stage, Set<Long> notes) {
    return notes.isEmpty()
        ? stage
        : stage.mapHistory(history -> history.map(change -> change.withoutNotes(notes)));
  }

  /** A take that is nothing any more has been brought by no step. */
  public static Stage withoutTake(Stage stage, ClipId clip, int take) {
    return stage.mapHistory(history -> history.map(change -> change.withoutTake(clip, take)));
  }

  /** The stage with a next id that no note of its clips has. */
  public static Stage counted(Stage stage) {
    long most =
        stage.show().parts().stream()
            .flatMap(part -> part.shelf().stream())
            .flatMap(Clip::allLayers)
            .flatMap(layer -> layer.notes().stream())
            .mapToLong(Note::id)
            .max()
            .orElse(0);
    return most < stage.show().nextId() ? stage : stage.withShow(stage.show().withNextId(most + 1));
  }

  /** As a performer calls a clip: the part's name and the clip's letter. */
  public static String name(Stage stage, PartId part, Clip clip) {
    return stage.show().part(part).name() + " " + clip.letter();
  }

  public static String words(List<Reshaping> reshapings) {
    Reshaping last = reshapings.get(reshapings.size() - 1);
    if (last instanceof Reshaping.Halve) {
      return "halve";
    }
    if (last instanceof Reshaping.Twice) {
      return "double";
    }
    if (last instanceof Reshaping.Times) {
      return "repeat";
    }
    return last instanceof Reshaping.Shift ? "shift" : "set the window";
  }
}
