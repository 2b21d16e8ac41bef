package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.record.Hindsight;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Steps;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.Erase;
import ancora.core.stage.Hands;
import ancora.core.stage.Stage;
import ancora.core.vamp.Loop;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/** Laps of a recording, and the layers that they make: begun, ended as steps, cut by mends. */
public final class Laps {

  private Laps() {}

  // laps and their layers

  record Layered(Stage stage, Lap lap) {}

  /** A lap with a layer of its own; in takes that is the first layer of a new take. */
  static Layered layered(Stage stage, PartId part, Lap lap) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Clip clip = stage.clip(part, recording.clip());
    if (lap.hasLayer()
        && clip.findTake(lap.take()).flatMap(t -> t.layer(lap.layer())).isPresent()) {
      return new Layered(stage, lap);
    }
    // where its layer has gone to another owner it makes another one
    Lap bare = Lap.at(lap.begin());
    if (recording.way() == Way.TAKES) {
      int number = clip.nextTake();
      Stage with = stage.withClip(part, clip.with(Take.empty(number).begun()));
      return new Layered(with, bare.withLayer(number, 1));
    }
    int layer = clip.take(recording.take()).nextLayer();
    Stage with = mapTake(stage, part, clip.id(), recording.take(), Take::begun);
    return new Layered(with, bare.withLayer(recording.take(), layer));
  }

  /**
   * What is being recorded onto a clip, or taken out of it, ends as a layer of its own: its notes
   * are about to go to another owner. What is played next makes another.
   */
  public static Stage apart(Stage stage, PartId part, ClipId clip, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    // edits are of the moment at which they are made
    long tick = moment.over(stage.map().get()) + 1;
    boolean erases =
        stage.hands().eraseOn(part).filter(erase -> erase.clip().equals(clip)).isPresent();
    Stage next = erases ? Erasing.cut(stage, part, tick) : stage;
    return next.on(part).open().filter(r -> r.clip().equals(clip)).isPresent()
        ? cut(next, part, tick)
        : next;
  }

  /** A lap that is over by now becomes a step. */
  static Stage finishedLap(Stage stage, PartId part, long begin, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = lap(recording, begin);
    Optional<Loop> loop = Onto.of(stage, part).flatMap(on -> on.loopAt(begin));
    boolean lateTake = recording.way() == Way.TAKES && !recording.isOpen();
    if (lap.ended() && !lateTake || loop.isEmpty()) {
      return stage;
    }
    boolean isOver = !recording.isOpen() || recording.lapEnd(lap, loop.get()) <= over + 1;
    Stage next = isOver ? endLap(stage, part, begin) : stage;
    return lateTake && lap.hasLayer() ? TakesOver.late(next, part, lap, over + 1) : next;
  }

  /** The laps that are under way on a part: those with a layer that is no step yet. */
  public static List<Lap> underWay(Stage stage, PartId part) {
    Optional<LoopRecording> open = stage.on(part).open();
    return open.isPresent() ? open.get().underWay() : List.of();
  }

  /** The first lap that is under way. */
  public static Optional<Lap> nextToEnd(Stage stage, PartId part) {
    List<Lap> laps = underWay(stage, part);
    return laps.isEmpty() ? Optional.empty() : Optional.of(laps.get(0));
  }

  public static long endOf(Stage stage, PartId part, Lap lap) {
    Onto on = Onto.of(stage, part).orElseThrow();
    return on.recording().lapEnd(lap, on.loopAt(lap.begin()).orElseThrow());
  }

  /** A lap ends: its layer is a step of the history. In takes all of them together will be one. */
  public static Stage endLap(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Stage edged = recording.way() == Way.PUNCH ? Edges.edgesOfPunch(stage, part, begin) : stage;
    Lap lap = lap(edged.on(part).recording().orElseThrow(), begin);
    Stage next = withLap(edged, part, lap.withEnded());
    if (!lap.hasLayer() || recording.way() == Way.TAKES) {
      return next;
    }
    if (isEmptied(next, part, lap)) {
      // what it had was deleted, and comes back by undo
      Stage without =
          mapTake(next, part, recording.clip(), lap.take(), t -> t.without(lap.layer()));
      return withLap(without, part, new Lap(begin, 0, 0, true, lap.brought()));
    }
    long old = begin - next.map().orElseThrow().ticksBefore(begin, Hindsight.SPAN);
    return Steps.notedLayers(
            next, List.of(change(next, part, recording, lap)), words(next, part, recording, lap))
        .mapOn(part, on -> on.withRecording(on.recording().map(r -> r.withoutLapsBefore(old))));
  }

  /**
   * No layer takes out what redo has taken away: only what came since the undo can have. What comes
   * back by another redo it takes out still.
   *
   * @param before as it was before the redo
   */
  public static Stage withoutStray(Stage stage, Show before) {
    Set<Clip> same = clipsOf(before);
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        Optional<Clip> was =
            same.contains(clip)
                ? Optional.empty()
                : before.parts().stream()
                    .filter(p -> p.id().equals(part.id()))
                    .flatMap(p -> p.clip(clip.id()).stream())
                    .findFirst();
        next = was.isPresent() ? withoutStray(next, part.id(), was.get(), clip) : next;
      }
    }
    return next;
  }

  private static Stage withoutStray(Stage stage, PartId part, Clip was, Clip is) {
    Set<Long> gone = noteIds(was);
    gone.removeAll(noteIds(is));
    Predicate<Long> there = id -> !gone.contains(id);
    return gone.isEmpty()
        ? stage
        : stage.withClip(
            part, is.mapTakes(take -> withoutStray(stage, part, is.id(), take, there)));
  }

  /**
   * No layer takes out what was never recorded, as is known only now; one that took out no more
   * than that is none, and in no step.
   *
   * @param before the clip with those notes
   */
  static Stage withoutStray(Stage stage, PartId part, Clip before) {
    Stage next = withoutStray(stage, part, before, stage.clip(part, before.id()));
    for (Take take : stage.clip(part, before.id()).takes()) {
      Take left = next.clip(part, before.id()).take(take.number());
      for (Layer layer : take.allLayers().toList()) {
        next =
            left.layer(layer.number()).isEmpty()
                ? Steps.withoutLayer(next, before.id(), take.number(), layer.number())
                : next;
      }
    }
    return next;
  }

  /** A layer that took out no more than that goes too, and comes back where the redo is undone. */
  private static Take withoutStray(
      Stage stage, PartId part, ClipId clip, Take take, Predicate<Long> there) {
    Take next = take;
    for (Layer layer : take.allLayers().toList()) {
      List<Long> out = layer.notesOut().stream().filter(there).toList();
      Layer left = layer.withOut(out, layer.movesOut());
      boolean goes =
          left.isEmpty()
              && !layer.isEmpty()
              && layer.number() > 1
              && !isUnderWay(stage, part, clip, take.number(), layer.number());
      next = goes ? next.without(layer.number()) : next.mapLayer(layer.number(), l -> left);
    }
    return next;
  }

  private static boolean isUnderWay(Stage stage, PartId part, ClipId clip, int take, int layer) {
    return stage.on(part).recording().filter(r -> r.isUnderWay(clip, take, layer)).isPresent();
  }

  private static Set<Long> noteIds(Clip clip) {
    Set<Long> ids = new HashSet<>();
    clip.takes().stream()
        .flatMap(Take::allLayers)
        .forEach(layer -> layer.notes().forEach(note -> ids.add(note.id())));
    return ids;
  }

  private static Set<Clip> clipsOf(Show show) {
    Set<Clip> clips = Collections.newSetFromMap(new IdentityHashMap<>());
    show.parts().forEach(part -> clips.addAll(part.shelf()));
    return clips;
  }

  /**
   * Layers that undo or redo has left with nothing are none, but for the first, and for those in
   * which something is being recorded.
   *
   * @param before clips that are as they were in this show are left alone
   */
  public static Stage withoutEmptied(Stage stage, Show before) {
    Set<Clip> same = clipsOf(before);
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        boolean any = clip.allLayers().anyMatch(layer -> layer.number() > 1 && layer.isEmpty());
        for (Take take : any && !same.contains(clip) ? clip.takes() : List.<Take>of()) {
          next = withoutEmptied(next, part.id(), clip.id(), take);
        }
      }
    }
    return next;
  }

  private static Stage withoutEmptied(Stage stage, PartId part, ClipId clip, Take take) {
    Stage next = stage;
    for (Layer layer : take.allLayers().filter(Layer::isEmpty).toList()) {
      int number = layer.number();
      if (number > 1 && !isUnderWay(stage, part, clip, take.number(), number)) {
        // that it came on is no step any more; what has brought it something may be done again
        next =
            mapTake(next, part, clip, take.number(), t -> t.without(number))
                .mapHistory(
                    h -> h.map(change -> change.withoutTurning(clip, take.number(), number)));
      }
    }
    return next;
  }

  private static boolean isEmptied(Stage stage, PartId part, Lap lap) {
    return Onto.of(stage, part)
        .filter(on -> !on.recording().isFirst(lap))
        .flatMap(on -> on.clip().findTake(lap.take()))
        .flatMap(take -> take.layer(lap.layer()))
        .filter(Layer::isEmpty)
        .isPresent();
  }

  static Change change(Stage stage, PartId part, LoopRecording recording, Lap lap) {
    return Change.layerOn(stage.show(), part, recording.clip(), lap.take(), lap.layer());
  }

  static String words(Stage stage, PartId part, LoopRecording recording, Lap lap) {
    String clip = Steps.name(stage, part, stage.clip(part, recording.clip()));
    return recording.way() == Way.ADD
        ? "layer " + lap.layer() + " of " + clip
        : recording.way().words() + " in " + clip;
  }

  /** What comes from a tick on makes another layer; what is under way until there is a step. */
  public static Stage cut(Stage stage, PartId part, long tick) {
    if (stage.on(part).open().isEmpty()) {
      return stage;
    }
    Stage next = stage;
    long from = tick;
    for (Lap lap : underWay(stage, part)) {
      next = endLap(next, part, lap.begin());
      if (lap.begin() >= tick) {
        // it was begun after the hand acted, but before that was known; what is early for its
        // beginning came before that
        from = Math.max(from, Math.max(lap.begin(), lap.last()) + 1);
      }
    }
    long at = from;
    return next.mapOn(
        part,
        on ->
            on.withRecording(
                on.recording().map(r -> r.cut(Math.max(at, r.from())).withOutFrom(at))));
  }

  /** A replacing comes to the line from which its pass is counted: what was before it is a step. */
  public static Stage reachLine(Stage stage, PartId part, long line) {
    Stage next = stage;
    for (Lap lap : underWay(stage, part)) {
      next = lap.begin() < line ? endLap(next, part, lap.begin()) : next;
    }
    return next.mapOn(
        part, on -> on.withRecording(on.recording().map(r -> r.hasLapAt(line) ? r : r.cut(line))));
  }

  /** What has come back by now is taken out only where it is passed from now on. */
  public static Stage takeOutFromNow(Stage stage, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    long from = moment.over(stage.map().get()) + 1;
    Stage next = stage;
    for (PartId part : stage.partStages().keySet()) {
      if (stage.on(part).open().filter(r -> r.way().takesOut()).isPresent()) {
        next =
            next.mapOn(
                part,
                on ->
                    on.withRecording(
                        on.recording().map(r -> r.withOutFrom(Math.max(from, r.outFrom())))));
      }
    }
    UnaryOperator<List<Erase>> fromNow =
        erases -> erases.stream().map(e -> e.withOutFrom(Math.max(from, e.outFrom()))).toList();
    Hands hands = next.hands();
    return next.withHands(
        hands.withErases(fromNow.apply(hands.erases())).withErased(fromNow.apply(hands.erased())));
  }

  /** A layer of a lap that neither adds nor takes out is none; its number is spent. */
  static Stage withoutEmpty(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = lap(recording, begin);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Take> take = clip.flatMap(c -> c.findTake(lap.take()));
    boolean empty = take.flatMap(t -> t.layer(lap.layer())).map(Layer::isEmpty).orElse(false);
    return !empty || recording.isFirst(lap) ? stage : withoutLayer(stage, part, lap);
  }

  /** A lap whose layer has gone from a clip has none: what still comes for it begins another. */
  public static Stage withoutGone(Stage stage, PartId part, Clip was) {
    Stage next = stage;
    for (Lap lap :
        stage
            .on(part)
            .recording()
            .filter(recording -> recording.clip().equals(was.id()))
            .map(LoopRecording::laps)
            .orElse(List.of())) {
      boolean wasThere = was.findTake(lap.take()).flatMap(t -> t.layer(lap.layer())).isPresent();
      Optional<Take> take = stage.clip(part, was.id()).findTake(lap.take());
      if (wasThere && take.flatMap(t -> t.layer(lap.layer())).isEmpty()) {
        next = withLap(next, part, lap.withoutLayer());
      }
    }
    return next;
  }

  /** The layer of a lap is none, in takes its take. */
  static Stage withoutLayer(Stage stage, PartId part, Lap lap) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    ClipId clip = recording.clip();
    Stage without =
        recording.way() == Way.TAKES
            ? stage.withClip(part, stage.clip(part, clip).without(lap.take()))
            : mapTake(stage, part, clip, lap.take(), t -> t.without(lap.layer()));
    Stage next = withLap(without, part, lap.withoutLayer());
    return recording.way() == Way.TAKES
        ? Steps.withoutTake(next, clip, lap.take())
        : Steps.withoutLayer(next, clip, lap.take(), lap.layer());
  }

  static Lap lap(LoopRecording recording, long begin) {
    return recording
        .lapOf(begin)
        .orElseThrow(() -> new IllegalStateException("no lap at " + begin));
  }

  static Stage withLap(Stage stage, PartId part, Lap lap) {
    return stage.mapOn(part, on -> on.withRecording(on.recording().map(r -> r.with(lap))));
  }

  static Stage mapTake(
      Stage stage, PartId part, ClipId clip, int take, UnaryOperator<Take> change) {
    return stage.withClip(part, stage.clip(part, clip).mapTake(take, change));
  }

  static Stage mapLayer(
      Stage stage, PartId part, ClipId clip, Lap lap, UnaryOperator<Layer> change) {
    return mapTake(stage, part, clip, lap.take(), take -> take.mapLayer(lap.layer(), change));
  }
}
