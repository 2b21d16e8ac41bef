package ancora.core.rules.undo;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.history.Change;
import ancora.core.history.History;
import ancora.core.history.Step;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.FirstPresses;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.TempoAndMeter;
import ancora.core.rules.Together;
import ancora.core.rules.cues.Stopping;
import ancora.core.rules.mending.Taking;
import ancora.core.rules.recording.Consequences;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Laps;
import ancora.core.rules.recording.NoteTaking;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.recording.Transition;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.FirstPress;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Undoing what was done and doing it again, while the music goes on (rule 17). What is pending is
 * newer than what is under way, and that is newer than any step.
 */
public final class Undoing {

  private Undoing() {}

  /** Something that undo takes back. */
  private sealed interface Back {}

  /**
   * What is pending does not come.
   *
   * @param words what it is
   * @param asked when it was asked for
   * @param calledOff the stage without it
   */
  private record Pending(String words, long asked, CallOff calledOff) implements Back {}

  @FunctionalInterface
  private interface CallOff {
    Stage apply(Stage stage, Moment moment);
  }

  /** What was played in first recordings is dropped. */
  private record OpenFirst(List<PartId> parts) implements Back {}

  /** The newest pass of takes is dropped. */
  private record OpenTake(List<PartId> parts) implements Back {}

  /** What is under way becomes a layer, and goes off. */
  private record OpenLayers(List<PartId> parts) implements Back {}

  /** The newest step is taken back. */
  private record Done(Step step) implements Back {}

  /** What undo takes back next, in words; empty if there is nothing. */
  public static String words(Stage stage) {
    return next(stage).map(back -> words(stage, back)).orElse("");
  }

  public static String words(Stage stage, Back back) {
    if (back instanceof Pending pending) {
      return pending.words();
    }
    if (back instanceof OpenFirst first) {
      return "what was played on " + names(stage, first.parts());
    }
    if (back instanceof OpenTake take) {
      return "this take of " + names(stage, take.parts());
    }
    return back instanceof OpenLayers layers
        ? "this pass of " + names(stage, layers.parts())
        : ((Done) back).step().words();
  }

  private static String names(Stage stage, List<PartId> parts) {
    return String.join(", ", parts.stream().map(p -> stage.show().part(p).name()).toList());
  }

  private static Optional<Back> next(Stage stage) {
    List<Pending> pending = new ArrayList<>();
    for (Part part : stage.show().parts()) {
      addPending(pending, stage, part);
    }
    Optional<Pending> newest = pending.stream().reduce((a, b) -> b.asked() >= a.asked() ? b : a);
    if (newest.isPresent()) {
      return Optional.of(newest.get());
    }
    Optional<Back> open = underWay(stage, Together.of(stage));
    for (Part part : stage.show().parts()) {
      open = open.or(() -> underWay(stage, List.of(part.id())));
    }
    return open.or(() -> stage.history().last().map(Done::new));
  }

  private static void addPending(List<Pending> pending, Stage stage, Part part) {
    PartId id = part.id();
    PartStage on = stage.on(id);
    on.change()
        .ifPresent(
            change ->
                pending.add(
                    new Pending(
                        Steps.words(change.reshapings()) + " in " + part.name(),
                        change.asked(),
                        (s, m) -> s.mapOn(id, p -> p.withChange(Optional.empty())))));
    on.hears()
        .ifPresent(
            hears ->
                pending.add(
                    new Pending(
                        "take " + hears.take() + " of " + part.name(),
                        hears.asked(),
                        (s, m) -> s.mapOn(id, p -> p.withHears(Optional.empty())))));
    on.open()
        .filter(recording -> recording.asked().isPresent())
        .ifPresent(
            recording ->
                pending.add(
                    new Pending(
                        recording.way().words() + " that is to begin on " + part.name(),
                        recording.asked().getAsLong(),
                        (s, m) -> Endings.end(s, id, recording.since()))));
    on.first().ifPresent(first -> addFirst(pending, stage, part, first));
  }

  private static void addFirst(
      List<Pending> pending, Stage stage, Part part, FirstRecording first) {
    if (first.isAskedToClose()) {
      pending.add(
          new Pending(
              "closing " + part.name(),
              first.asked(),
              (s, m) -> FirstRecordings.withUntil(s, part.id(), first.set(), m)));
    } else if (!first.round() && isToCome(first)) {
      pending.add(
          new Pending(
              "the recording that is to begin on " + part.name(),
              first.asked(),
              (s, m) -> {
                boolean countIn = s.map().map(map -> m.tick(map) < 0).orElse(true);
                return countIn
                    ? Stopping.stop(s, m)
                    : handedBack(FirstRecordings.drop(s, part.id()), part.id());
              }));
    }
  }

  /** Whether nothing was played in a recording yet. */
  private static boolean isToCome(FirstRecording first) {
    return first.notes().isEmpty() && first.moves().isEmpty();
  }

  /** Hands are not led on to a part any more whose recording was called off. */
  private static Stage handedBack(Stage stage, PartId part) {
    return stage.withHands(
        stage
            .hands()
            .withHandOvers(
                stage.hands().handOvers().stream()
                    .map(over -> over.to().equals(part) ? over.calledOff() : over)
                    .toList()));
  }

  private static Optional<Back> underWay(Stage stage, List<PartId> parts) {
    List<PartId> first =
        parts.stream()
            .filter(p -> stage.on(p).first().filter(f -> !isToCome(f)).isPresent())
            .toList();
    if (!first.isEmpty()) {
      return Optional.of(new OpenFirst(first));
    }
    List<PartId> takes =
        parts.stream()
            .filter(
                p ->
                    Taking.newest(stage, p).isPresent()
                        || stage
                            .on(p)
                            .open()
                            .filter(r -> r.way() == Way.TAKES && r.fromNothing())
                            .isPresent())
            .toList();
    if (!takes.isEmpty()) {
      return Optional.of(new OpenTake(takes));
    }
    List<PartId> layers =
        parts.stream()
            .filter(
                p ->
                    Erasing.isUnderWay(stage, p)
                        || Laps.underWay(stage, p).stream().anyMatch(Lap::hasLayer))
            .toList();
    return layers.isEmpty() ? Optional.empty() : Optional.of(new OpenLayers(layers));
  }

  public static Result undo(Stage stage, boolean sure, Moment moment) {
    Back back = next(stage).orElseThrow(() -> new Refusal("There is nothing to undo."));
    String words = words(stage, back);
    if (back instanceof Pending pending) {
      return Result.to(pending.calledOff().apply(stage, moment), "Called off: " + words + ".");
    }
    if (back instanceof OpenFirst first) {
      Stage next = stage;
      for (PartId part : first.parts()) {
        next = FirstRecordings.afresh(next, part, moment);
      }
      return Result.to(next, "Undone: " + words + ".");
    }
    if (back instanceof OpenTake take) {
      return Result.to(withoutTake(stage, take.parts(), moment), "Undone: " + words + ".");
    }
    Stage noted =
        back instanceof OpenLayers layers ? asLayers(stage, layers.parts(), moment) : stage;
    return undoStep(noted, stage, sure, moment);
  }

  /** What is under way on some parts is one step, which can then be taken back. */
  private static Stage asLayers(Stage stage, List<PartId> parts, Moment moment) {
    long tick = Sounding.tick(stage, moment);
    Stage next = stage;
    for (PartId part : parts) {
      next = Erasing.isUnderWay(next, part) ? Erasing.cut(next, part, tick) : next;
      next = Laps.cut(next, part, tick);
    }
    List<Step> done = next.history().done();
    // the oldest may have gone as these came
    int before = stage.history().last().map(step -> done.lastIndexOf(step) + 1).orElse(0);
    if (parts.size() < 2 || done.size() <= before + 1) {
      return next;
    }
    List<Change> together =
        done.subList(before, done.size()).stream().flatMap(s -> s.changes().stream()).toList();
    Step step = new Step("this pass of " + names(stage, parts), together, Map.of());
    List<Step> joined = new ArrayList<>(done.subList(0, before));
    joined.add(step);
    return next.withHistory(new History(joined, next.history().undone()));
  }

  private static Stage withoutTake(Stage stage, List<PartId> parts, Moment moment) {
    long tick = Sounding.tick(stage, moment);
    long newest =
        parts.stream()
            .flatMap(p -> Taking.newest(stage, p).stream())
            .mapToLong(Lap::begin)
            .max()
            .orElse(Long.MIN_VALUE);
    Stage next = stage;
    for (PartId part : parts) {
      Optional<Lap> lap = Taking.newest(stage, part);
      if (lap.isPresent() && lap.get().begin() == newest) {
        next = Taking.dropNewest(next, part, tick);
      } else if (lap.isEmpty()) {
        next = emptied(next, part, moment);
      }
    }
    return next;
  }

  /** The first recording of a loop that is recorded on goes; the empty loop goes round. */
  private static Stage emptied(Stage stage, PartId part, Moment moment) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    Clip clip = stage.clip(part, recording.clip());
    List<Long> notes =
        clip.allLayers().flatMap(layer -> layer.notes().stream()).map(Note::id).toList();
    Stage without =
        NoteTaking.left(
            Consequences.reconciled(
                stage.withShow(stage.show().mapPart(part, p -> p.withoutClip(clip.id()))),
                Map.of()),
            part,
            notes);
    return goingRound(stage, without, part, moment);
  }

  /** Where a loop has gone that was recorded on, it goes round empty until something is played. */
  private static Stage goingRound(Stage before, Stage after, PartId part, Moment moment) {
    LoopRecording recording = before.on(part).open().orElseThrow();
    Vamp vamp = before.on(part).vamp().orElseThrow();
    TempoMap map = before.map().orElseThrow();
    long tick = moment.tick(map);
    LoopWindow window = before.clip(part, recording.clip()).window();
    long start = Math.max(recording.since(), vamp.in(window).lineBy(tick));
    Show show = after.show();
    ClipId id = show.nextClipId();
    FirstRecording round =
        FirstRecording.cued(
                id,
                show.part(part).freeLetter(),
                start,
                recording.way() == Way.TAKES ? AfterClosing.TAKES : AfterClosing.OVERDUB,
                moment.stamp())
            .withSet(start + window.length())
            .withRound();
    return after
        .withShow(show.withNextId(show.nextId() + 1))
        .mapOn(part, on -> on.withFirst(round).withRecording(Optional.empty()));
  }

  private static Result undoStep(Stage stage, Stage asItWas, boolean sure, Moment moment) {
    Stage from = stage;
    while (true) {
      Step step = from.history().last().orElseThrow(() -> new Refusal("There is nothing to undo."));
      Stage ended = endedWhereItCannotGoOn(from, step, moment);
      // what ends because of it is a step before it
      from = ended.withHistory(ended.history().withLast(step));
      Stage back = goingRoundWhereRecorded(from, backed(from, step, moment), moment);
      Step redo = Steps.between(step.words(), from, back);
      if (redo.isNothing()) {
        from = from.mapHistory(History::withoutLast);
        continue;
      }
      Optional<String> silenced = silenced(from, back);
      if (silenced.isPresent() && FirstPresses.onlySays(stage, FirstPress.Of.UNDO, sure, moment)) {
        return FirstPresses.said(
            asItWas,
            FirstPress.Of.UNDO,
            "Undo takes " + silenced.get() + " away, which sounds",
            moment);
      }
      Stage next = Laps.withoutEmptied(back.withHistory(from.history().undone(redo)), from.show());
      return Result.to(Laps.takeOutFromNow(next, moment), "Undone: " + step.words() + ".");
    }
  }

  public static Result redo(Stage stage, Moment moment) {
    List<Step> undone = stage.history().undone();
    Refusal.unless(!undone.isEmpty(), "There is nothing to do again.");
    Step step = undone.get(undone.size() - 1);
    Stage ended = endedWhereItCannotGoOn(withoutEmptyLoops(stage, step), step, moment);
    Stage ready = ended.withHistory(ended.history().withNext(step));
    // what is kept is how to get from the state before the undoing to the one after it
    Stage again = Laps.withoutStray(backed(ready, step, moment), ready.show());
    Step undo = Steps.between(step.words(), ready, again);
    return Result.to(
        Laps.takeOutFromNow(
            Laps.withoutEmptied(again.withHistory(ready.history().redone(undo)), ready.show()),
            moment),
        "Done again: " + step.words() + ".");
  }

  /**
   * What is recorded onto a clip ends where a step brings back another take, or a window in which
   * nothing can be recorded.
   */
  private static Stage endedWhereItCannotGoOn(Stage stage, Step step, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    long tick = stage.map().get().firstTickFrom(moment.audible());
    Stage back = backed(stage, step, moment);
    return stage.forEachPart(
        (next, part) -> {
          Optional<Clip> was =
              stage.on(part).vamp().flatMap(v -> stage.show().part(part).clip(v.clip()));
          Optional<Clip> is =
              was.filter(clip -> back.show().parts().stream().anyMatch(p -> p.id().equals(part)))
                  .flatMap(clip -> back.show().part(part).clip(clip.id()));
          if (is.isEmpty()) {
            return next;
          }
          if (is.get().take().number() != was.get().take().number()) {
            return Endings.endAll(next, part, tick);
          }
          boolean open =
              next.on(part).open().filter(r -> r.clip().equals(was.get().id())).isPresent();
          boolean becomesShort =
              Sounding.isShort(stage, is.get()) && !Sounding.isShort(stage, was.get());
          return open && becomesShort ? Endings.end(next, part, tick) : next;
        });
  }

  /** An empty loop that goes round gives way to the one that comes back. */
  private static Stage withoutEmptyLoops(Stage stage, Step step) {
    Stage next = stage;
    for (PartId part : step.ended().keySet()) {
      boolean empty = stage.on(part).first().filter(f -> f.round() && isToCome(f)).isPresent();
      next = empty ? next.mapOn(part, on -> on.withFirst(Optional.empty())) : next;
    }
    return next;
  }

  /** The loop that sounds before and not after, by its name. */
  private static Optional<String> silenced(Stage before, Stage after) {
    if (before.map().isEmpty()) {
      return Optional.empty();
    }
    for (Part part : before.show().parts()) {
      Optional<Vamp> vamp = before.on(part.id()).vamp();
      boolean still = after.on(part.id()).vamp().map(Vamp::clip).equals(vamp.map(Vamp::clip));
      if (vamp.isPresent() && !still) {
        Clip clip = before.clip(part.id(), vamp.get().clip());
        if (!soundsElsewhere(clip, after)) {
          return Optional.of(Steps.name(before, part.id(), clip));
        }
      }
    }
    return Optional.empty();
  }

  /** What was split from another part sounds there again. */
  private static boolean soundsElsewhere(Clip clip, Stage after) {
    return clip.notes()
        .findFirst()
        .map(
            note ->
                after.show().parts().stream()
                    .flatMap(p -> after.on(p.id()).vamp().stream().map(v -> p.clipOf(v.clip())))
                    .anyMatch(c -> c.holds(note.id())))
        .orElse(false);
  }

  // steps taken back

  /** The stage with the changes of a step taken back, the last first. */
  private static Stage backed(Stage stage, Step step, Moment moment) {
    Show show = step.takenBackIn(stage.show());
    TempoAndMeter.checkMeter(stage.withShow(staying(stage.show(), show)), show.meter());
    // while time goes on it goes on as it does
    boolean stays = stage.map().isPresent() || !TempoAndMeter.isOpen(stage);
    show = stays ? show.withTempo(stage.show().tempo()) : show;
    for (Part part : show.parts()) {
      // clips that have come since may have got a letter that is wanted back
      show = show.mapPart(part.id(), Part::withLettersApart);
    }
    checkFull(stage.show(), show);
    Stage next = Consequences.reconciled(stage.withShow(show), step.ended());
    for (Part part : show.parts()) {
      next = otherWindow(stage, next, part.id(), moment);
      next = Taking.otherHeard(stage, next, part.id(), moment);
    }
    return Consequences.withoutPhantoms(next, stage.show());
  }

  /** Refuses what would bring back more layers than fit beside those that have come since. */
  private static void checkFull(Show before, Show after) {
    for (Part part : after.parts()) {
      for (Clip clip : part.shelf()) {
        boolean same =
            before.parts().stream()
                .filter(p -> p.id().equals(part.id()))
                .anyMatch(p -> p.clip(clip.id()).filter(c -> c == clip).isPresent());
        if (!same) {
          clip.checked();
        }
      }
    }
  }

  /**
   * A show with the clips alone that are in another too: those that came with the meter go with it.
   */
  private static Show staying(Show show, Show after) {
    Set<ClipId> clips =
        after.parts().stream()
            .flatMap(part -> part.shelf().stream())
            .map(Clip::id)
            .collect(Collectors.toSet());
    return show.withParts(
        show.parts().stream()
            .map(
                part ->
                    part.withShelf(
                        part.shelf().stream().filter(clip -> clips.contains(clip.id())).toList()))
            .toList());
  }

  /** Where a clip that sounds has another window by now, it is in step with what was on before. */
  private static Stage otherWindow(Stage before, Stage after, PartId part, Moment moment) {
    Optional<Vamp> vamp = after.on(part).vamp();
    Optional<Clip> was =
        vamp.filter(v -> before.on(part).vamp().map(Vamp::clip).equals(Optional.of(v.clip())))
            .map(v -> before.clip(part, v.clip()));
    if (was.isEmpty() || after.map().isEmpty()) {
      return after;
    }
    Clip is = after.clip(part, was.get().id());
    if (is.window().equals(was.get().window())) {
      return after;
    }
    long at = Math.max(after.map().get().firstTickFrom(moment.audible()), vamp.get().from());
    return Transition.toWindow(
        after, part, at, was.get(), is, recording -> recording.cut(at).withOutFrom(at));
  }

  private static Stage goingRoundWhereRecorded(Stage before, Stage after, Moment moment) {
    Stage next = after;
    for (Part part : before.show().parts()) {
      boolean there = after.show().parts().stream().anyMatch(p -> p.id().equals(part.id()));
      Optional<LoopRecording> open = before.on(part.id()).open();
      boolean gone =
          there
              && open.filter(r -> r.way() == Way.ADD || r.way() == Way.TAKES).isPresent()
              && after.show().part(part.id()).clip(open.get().clip()).isEmpty()
              && before.on(part.id()).vamp().isPresent();
      next = gone ? goingRound(before, next, part.id(), moment) : next;
    }
    return next;
  }
}
