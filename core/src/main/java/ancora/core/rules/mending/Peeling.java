package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.history.Step;
import ancora.core.record.FirstRecording;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.FirstPresses;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.Together;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Laps;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.shelf.Shelves;
import ancora.core.show.PartId;
import ancora.core.stage.FirstPress;
import ancora.core.stage.Stage;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/** Taking layers off and putting them back, while the loop goes round (rule 6). */
public final class Peeling {

  private Peeling() {}

  /**
   * Takes the newest layer off the armed part's clip; of those armed alongside only what was played
   * in the same pass. All of it is one step. While takes go on it drops what the open pass has; the
   * take before only on the second of two presses.
   */
  public static Result peel(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    if (stage.on(part).first().isPresent()) {
      return Result.to(startAfresh(stage, moment));
    }
    Optional<Lap> newest = Taking.newest(stage, part);
    if (newest.isPresent()) {
      return isOpen(stage, part, newest.get(), moment)
              || !FirstPresses.onlySays(stage, FirstPress.Of.PEEL, false, moment)
          ? Result.to(dropTakes(stage, moment).withFirstPress(Optional.empty()))
          : FirstPresses.said(
              stage,
              FirstPress.Of.PEEL,
              "Nothing is played in this take yet, take %s is before it"
                  .formatted(newest.get().take()),
              moment);
    }
    Clip clip = clipInHand(stage, part);
    refuseTakes(stage, part);
    Stage cut = cut(stage, moment);
    int layer =
        cut.clip(part, clip.id())
            .take()
            .peelable()
            .map(Layer::number)
            .orElseThrow(
                () ->
                    new Refusal(
                        "Only the first recording is left: clear takes "
                            + Steps.name(stage, part, clip)
                            + " off."));
    Stage next = takenOff(cut, part, layer);
    for (PartId other : Together.of(stage)) {
      if (!other.equals(part)) {
        Optional<Integer> same = playedWith(cut, part, layer, other);
        next = same.isPresent() ? takenOff(next, other, same.get()) : next;
      }
    }
    return Result.to(
        Steps.noted(
            cut,
            Laps.takeOutFromNow(next, moment),
            "peel layer " + layer + " of " + Steps.name(stage, part, clip)));
  }

  /** Whether a take was played in the pass that goes on at a press. */
  private static boolean isOpen(Stage stage, PartId part, Lap take, Moment moment) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    long tick = Sounding.tick(stage, moment);
    return Sounding.loopAt(stage, part, stage.clip(part, recording.clip()), tick)
        .filter(loop -> take.begin() >= recording.passBegin(tick, loop))
        .isPresent();
  }

  private static Stage takenOff(Stage stage, PartId part, int layer) {
    Clip clip = clipInHand(stage, part);
    return stage.withClip(part, clip.mapHeard(take -> take.takenOff(layer)));
  }

  /** Takes the newest layer off a clip, be it in hand or not. */
  public static Result peel(Stage stage, PartId part, ClipId id, Moment moment) {
    if (isInPlayedHand(stage, part, id)) {
      return peel(stage, moment);
    }
    Clip clip = clipAtRest(stage, part, id);
    int layer =
        clip.take()
            .peelable()
            .map(Layer::number)
            .orElseThrow(
                () ->
                    new Refusal("Only the first recording of clip " + clip.letter() + " is left."));
    return Result.to(
        Steps.noted(
            stage,
            stage.withClip(part, clip.mapHeard(take -> take.takenOff(layer))),
            "peel layer " + layer + " of " + Steps.name(stage, part, clip)));
  }

  /** Puts the layer that went off last back onto a clip, be it in hand or not. */
  public static Stage restore(Stage stage, PartId part, ClipId id, Moment moment) {
    if (isInPlayedHand(stage, part, id)) {
      return restore(stage, moment);
    }
    Clip clip = clipAtRest(stage, part, id);
    List<Layer> off = clip.take().off();
    Refusal.unless(!off.isEmpty(), "Nothing has been taken off clip %s.", clip.letter());
    return Steps.noted(
        stage,
        stage.withClip(part, clip.mapHeard(Take::restored).checked()),
        "restore layer %s of %s"
            .formatted(off.get(off.size() - 1).number(), Steps.name(stage, part, clip)));
  }

  private static boolean isInPlayedHand(Stage stage, PartId part, ClipId clip) {
    return stage.armed().filter(part::equals).isPresent()
        && stage.on(part).inHand().equals(Optional.of(clip));
  }

  private static Clip clipAtRest(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(
        stage.on(part).open().filter(recording -> recording.clip().equals(id)).isEmpty(),
        "Clip %s is being recorded onto: end that first.",
        clip.letter());
    return clip;
  }

  /** The newest layer of another part, if it was played in the same pass as a layer. */
  private static Optional<Integer> playedWith(Stage stage, PartId part, int layer, PartId other) {
    Optional<Lap> lap = lapOf(stage, part, layer);
    Optional<ClipId> id = stage.on(other).inHand();
    if (lap.isEmpty() || id.isEmpty()) {
      return Optional.empty();
    }
    Optional<Layer> newest = stage.clip(other, id.get()).take().peelable();
    long loop = clipInHand(stage, part).window().length();
    return newest
        .map(Layer::number)
        .filter(
            number ->
                lapOf(stage, other, number)
                    .filter(
                        l -> l.begin() >= lap.get().begin() && l.begin() < lap.get().begin() + loop)
                    .isPresent());
  }

  /** The lap that made a layer of the take that is heard. */
  private static Optional<Lap> lapOf(Stage stage, PartId part, int layer) {
    Clip clip = clipInHand(stage, part);
    return stage.on(part).recording().stream()
        .filter(recording -> recording.clip().equals(clip.id()))
        .flatMap(recording -> recording.laps().stream())
        .filter(lap -> lap.layer() == layer && lap.take() == clip.take().number())
        .findFirst();
  }

  /** What is under way on the parts that are played is a layer, so that it can be taken off. */
  private static Stage cut(Stage stage, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    long tick = Sounding.tick(stage, moment);
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      next = Erasing.isUnderWay(next, part) ? Erasing.cut(next, part, tick) : next;
      next = Laps.cut(next, part, tick);
    }
    return next;
  }

  /**
   * Puts back the layer that went off last, and what went off with it; while takes go on, the take
   * that was dropped last.
   */
  public static Stage restore(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    if (Taking.hasDropped(stage, part)) {
      Stage back = stage;
      for (PartId each : Together.of(stage)) {
        back = Taking.hasDropped(back, each) ? Taking.restoreDropped(back, each) : back;
      }
      return back;
    }
    Clip clip = clipInHand(stage, part);
    Refusal.unless(
        !clip.take().off().isEmpty(),
        "Nothing has been taken off %s.",
        Steps.name(stage, part, clip));
    Stage cut = cut(stage, moment);
    int layer = lastOff(cut, part).orElseThrow();
    Stage next = cut.withClip(part, cut.clip(part, clip.id()).mapHeard(Take::restored).checked());
    for (PartId other : Together.of(stage)) {
      Optional<Integer> last = other.equals(part) ? Optional.empty() : lastOff(cut, other);
      if (last.isPresent() && wentWith(cut, part, layer, other, last.get())) {
        next = next.withClip(other, clipInHand(next, other).mapHeard(Take::restored).checked());
      }
    }
    return Steps.noted(
        cut,
        Laps.takeOutFromNow(next, moment),
        "restore layer " + layer + " of " + Steps.name(stage, part, clip));
  }

  private static Optional<Integer> lastOff(Stage stage, PartId part) {
    return stage
        .on(part)
        .inHand()
        .map(id -> stage.clip(part, id).take().off())
        .filter(off -> !off.isEmpty())
        .map(off -> off.get(off.size() - 1).number());
  }

  private static boolean wentWith(
      Stage stage, PartId part, int layer, PartId other, int otherLayer) {
    Predicate<Change> ofPart = isAbout(stage, part, layer);
    Predicate<Change> ofOther = isAbout(stage, other, otherLayer);
    List<Step> done = stage.history().done();
    for (int i = done.size() - 1; i >= 0; i--) {
      boolean one = done.get(i).changes().stream().anyMatch(ofPart);
      boolean both = done.get(i).changes().stream().anyMatch(ofOther);
      if (one || both) {
        return one && both;
      }
    }
    return false;
  }

  /** What is about a layer of the take that is heard of the clip in hand. */
  private static Predicate<Change> isAbout(Stage stage, PartId part, int layer) {
    Clip clip = clipInHand(stage, part);
    return change -> change.isAbout(clip.id(), clip.take().number(), layer);
  }

  /** Back to where recording was last switched on, as one step. */
  public static Stage peelAll(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    if (stage.on(part).first().isPresent()) {
      return startAfresh(stage, moment);
    }
    Clip clip = clipInHand(stage, part);
    Stage next = stage;
    if (Taking.newest(stage, part).isPresent()) {
      while (Taking.newest(next, part).isPresent()) {
        next = dropTakes(next, moment);
      }
      return next;
    }
    Stage cut = cut(stage, moment);
    next = cut;
    Take take = cut.clip(part, clip.id()).take();
    int old =
        cut.on(part)
            .recording()
            .filter(r -> r.clip().equals(clip.id()))
            .map(r -> r.take() == take.number() ? r.old() : Integer.MAX_VALUE)
            .orElse(2);
    List<Integer> since =
        take.layers().stream().map(Layer::number).filter(number -> number >= old).toList();
    Refusal.unless(
        !since.isEmpty(), "Nothing has been added to %s since.", Steps.name(stage, part, clip));
    for (int i = since.size() - 1; i >= 0; i--) {
      next = takenOff(next, part, since.get(i));
    }
    return Steps.noted(
        cut, Laps.takeOutFromNow(next, moment), "peel all of " + Steps.name(stage, part, clip));
  }

  /** Takes the clip off the shelf; one that sounds only on the second press. */
  public static Result clear(Stage stage, boolean sure, Moment moment) {
    PartId part = stage.armedPart();
    Refusal.unless(
        stage.on(part).first().isEmpty(),
        "A loop is being recorded: peel starts it afresh, stop ends it.");
    Clip clip = clipInHand(stage, part);
    String name = Steps.name(stage, part, clip);
    if (FirstPresses.onlySays(stage, FirstPress.Of.CLEAR, sure, moment)
        && stage.on(part).vamp().isPresent()) {
      return FirstPresses.said(stage, FirstPress.Of.CLEAR, "Clear takes " + name + " off", moment);
    }
    Stage ended =
        stage.map().isPresent() ? Endings.endAll(stage, part, Sounding.tick(stage, moment)) : stage;
    Stage cleared = Shelves.delete(ended, part, clip.id());
    return Result.to(Steps.noted(ended, cleared, "clear " + name));
  }

  private static void refuseTakes(Stage stage, PartId part) {
    Refusal.unless(
        stage.on(part).open().filter(r -> r.isOpen(Way.TAKES)).isEmpty(),
        "No take has been played yet: play one, or switch takes off.");
  }

  private static Stage dropTakes(Stage stage, Moment moment) {
    long tick = Sounding.tick(stage, moment);
    long begin = Taking.newest(stage, stage.armedPart()).orElseThrow().begin();
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      Optional<Lap> newest = Taking.newest(stage, part);
      if (newest.filter(lap -> lap.begin() >= begin).isPresent()) {
        next = Taking.dropNewest(next, part, tick);
      }
    }
    return next;
  }

  /** The clip that the armed part sounds, or that stands ready on it. */
  static Clip clipInHand(Stage stage, PartId part) {
    return stage.clip(
        part,
        stage
            .on(part)
            .inHand()
            .orElseThrow(
                () ->
                    new Refusal(
                        stage.show().part(part).name() + " has no loop yet: record one first.")));
  }

  /**
   * Taken off before it is closed, a first recording is dropped, and begins at the next entry, with
   * those armed alongside, be they under way or to come. What it held does not come back with it.
   */
  static Stage startAfresh(Stage stage, Moment moment) {
    FirstRecording first = stage.on(stage.armedPart()).first().orElseThrow();
    boolean begun = stage.map().map(map -> moment.tick(map) >= first.start()).orElse(false);
    Refusal.unless(begun, "The recording has not begun: a main press calls it off.");
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      boolean records = stage.on(part).first().isPresent();
      next = records ? FirstRecordings.afresh(next, part, moment) : next;
    }
    return next;
  }
}
