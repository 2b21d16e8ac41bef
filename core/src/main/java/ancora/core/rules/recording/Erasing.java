package ancora.core.rules.recording;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.note.Note;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.Together;
import ancora.core.show.PartId;
import ancora.core.stage.Erase;
import ancora.core.stage.Hands;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Stage;
import ancora.core.vamp.Loop;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * Held erase (rule 9): pitches held with it are taken out of the loop as they pass, as long as
 * their keys are down. It never touches the pedal.
 */
public final class Erasing {

  private Erasing() {}

  public static Result set(Stage stage, boolean on, Moment moment) {
    if (!on) {
      Stage next = stage;
      for (Erase erase : stage.hands().erases()) {
        next = end(next, erase.part(), Sounding.tick(stage, moment));
      }
      return Result.to(next);
    }
    return stage.hands().isErasing()
        ? Result.to(stage)
        : Together.each(stage, (s, part) -> begin(s, part, moment));
  }

  private static Stage begin(Stage stage, PartId part, Moment moment) {
    Clip clip = Sounding.soundingClip(stage, part);
    Refusal.unless(
        stage.on(part).open().map(r -> r.way() == Way.ADD).orElse(true),
        "One way of recording at a time: switch the other off first.");
    long tick = Sounding.tick(stage, moment);
    Erase erase = Erase.begun(part, clip.id(), clip.take().number(), tick);
    for (HeldKey key : stage.heldKeys()) {
      boolean erases = key.part().equals(part) && !key.key().isPedal();
      erase = erases ? erase.down(key.pitch(), tick) : erase;
    }
    Stage cut = Laps.cut(stage, part, tick);
    return passTo(cut.withHands(cut.hands().with(erase)), moment.over(stage.map().orElseThrow()));
  }

  /**
   * A key of a pitch goes down while erase is held, or was down as it began, however late that is
   * known: what has passed since is taken out.
   *
   * @param over the last tick that is over
   */
  public static Stage down(Stage stage, Erase erase, int pitch, long tick, long over) {
    Erase more = erase.down(pitch, tick);
    Stage down = stage.withHands(stage.hands().with(more));
    if (erase.isOpen()) {
      return down;
    }
    Stage passed = passTo(down, more, over);
    Erase now = now(passed, more);
    return erase.layer() == 0 ? noted(passed, now) : passed;
  }

  /** A key of a pitch came up, however late that is known: what was taken out since is back. */
  public static Stage up(Stage stage, Erase erase, int pitch, long tick) {
    Erase less = erase.up(pitch, tick);
    Stage back = backed(stage.withHands(stage.hands().with(less)), less);
    boolean nothing = erase.layer() != 0 && now(back, less).layer() == 0;
    return nothing && !erase.isOpen()
        ? Steps.withoutLayer(back, erase.clip(), erase.take(), erase.layer())
        : back;
  }

  /** An erasing as it is by now. */
  private static Erase now(Stage stage, Erase erase) {
    Hands hands = stage.hands();
    return Stream.concat(hands.erases().stream(), hands.erased().stream())
        .filter(e -> e.part().equals(erase.part()) && e.from() == erase.from())
        .findFirst()
        .orElse(erase);
  }

  static Stage passTo(Stage stage, long tick) {
    Stage next = stage;
    for (Erase erase : stage.hands().erases()) {
      next = passTo(next, erase, tick);
    }
    return next;
  }

  private static Stage passTo(Stage stage, Erase erase, long tick) {
    Optional<Take> take = takeOf(stage, erase);
    Optional<Loop> loop =
        stage
            .on(erase.part())
            .vamp()
            .filter(vamp -> take.isPresent() && vamp.clip().equals(erase.clip()))
            .map(vamp -> vamp.in(stage.clip(erase.part(), erase.clip()).window()));
    if (loop.isEmpty()) {
      return stage;
    }
    List<Brought> out = new ArrayList<>();
    int own = erase.layer() == 0 ? Integer.MAX_VALUE : erase.layer();
    Set<Long> gone = take.get().notesOut();
    for (Layer layer : take.get().layers()) {
      for (Note note : layer.number() < own ? layer.notes() : List.<Note>of()) {
        if (!note.isPedal()
            && loop.get().window().contains(note.meant())
            && !gone.contains(note.id())) {
          OptionalLong at = erasedAt(note, erase, loop.get(), tick);
          at.ifPresent(t -> out.add(new Brought(Kind.NOTE_OUT, note.id(), t, t)));
        }
      }
    }
    if (out.isEmpty()) {
      return stage;
    }
    out.sort(Comparator.comparingLong(Brought::tick).thenComparingLong(Brought::id));
    return withOut(stage, erase, take.get(), out);
  }

  private static Stage withOut(Stage stage, Erase erase, Take take, List<Brought> out) {
    // what it took out may have gone since, and its layer with that
    boolean begins = take.layer(erase.layer()).isEmpty();
    int number = begins ? take.nextLayer() : erase.layer();
    List<Brought> all = new ArrayList<>(erase.out());
    all.addAll(out);
    Stage next =
        mapTake(
            stage,
            erase,
            t ->
                (begins ? t.begun() : t)
                    .mapLayer(
                        number,
                        layer -> layer.takingOut(TakingOut.ids(out, Kind.NOTE_OUT), List.of())));
    return next.withHands(next.hands().with(erase.withLayer(number).withOut(all)));
  }

  /**
   * The first tick, up to one, at which a note is taken out: where it is passed while its pitch is
   * held, or at once if it is a drone.
   */
  private static OptionalLong erasedAt(Note note, Erase erase, Loop loop, long tick) {
    return erase.strokes().stream()
        .filter(stroke -> stroke.pitch() == note.pitch())
        .mapToLong(
            stroke -> {
              long from = Math.max(Math.max(stroke.from(), erase.outFrom()), loop.vamp().from());
              boolean drone = note.length() >= loop.length();
              long at = drone ? from : loop.tickOf(note.meant(), from);
              return at < stroke.until() ? at : Long.MAX_VALUE;
            })
        .filter(at -> at <= tick)
        .min();
  }

  /** Ends a hold of erase, however late that is known; what it has taken out is one layer. */
  public static Stage end(Stage stage, PartId part, long tick) {
    Erase erase = stage.hands().eraseOn(part).orElseThrow().ended(tick);
    Stage back = backed(stage, erase);
    return Laps.cut(noted(back, now(back, erase)), part, tick);
  }

  /** What a hold has taken out so far is a step; what it takes out from a tick on is another. */
  public static Stage cut(Stage stage, PartId part, long tick) {
    Stage noted = noted(stage, stage.hands().eraseOn(part).orElseThrow());
    return noted.withHands(noted.hands().mapErase(part, e -> e.cut(tick)));
  }

  /** Whether a hold has taken anything out that is no step yet. */
  public static boolean isUnderWay(Stage stage, PartId part) {
    return stage.hands().eraseOn(part).filter(erase -> erase.layer() != 0).isPresent();
  }

  /** What was taken out may have been deleted since: then the hold is no step. */
  private static Stage noted(Stage stage, Erase erase) {
    Optional<Clip> clip =
        stage
            .show()
            .part(erase.part())
            .clip(erase.clip())
            .filter(c -> c.findTake(erase.take()).flatMap(t -> t.layer(erase.layer())).isPresent());
    return clip.isEmpty()
        ? stage
        : Steps.notedLayers(
            stage,
            List.of(change(stage, erase)),
            "erase in " + Steps.name(stage, erase.part(), clip.get()));
  }

  static Change change(Stage stage, Erase erase) {
    return Change.layerOn(stage.show(), erase.part(), erase.clip(), erase.take(), erase.layer());
  }

  /** What was taken out at ticks at which its pitch was not held after all is back. */
  private static Stage backed(Stage stage, Erase erase) {
    Optional<Take> take = takeOf(stage, erase);
    if (take.isEmpty()) {
      return stage.withHands(stage.hands().with(erase.withLayer(0)));
    }
    List<Brought> stays = new ArrayList<>();
    List<Long> back = new ArrayList<>();
    Map<Long, Integer> pitches = new HashMap<>();
    take.get()
        .allLayers()
        .flatMap(layer -> layer.notes().stream())
        .forEach(note -> pitches.put(note.id(), note.pitch()));
    for (Brought out : erase.out()) {
      // a note that an edit has taken elsewhere is not back
      Integer pitch = pitches.get(out.id());
      if (pitch == null || erase.strokes().stream().anyMatch(s -> s.holds(pitch, out.tick()))) {
        stays.add(out);
      } else {
        back.add(out.id());
      }
    }
    Stage next =
        mapTake(stage, erase, t -> t.mapLayer(erase.layer(), l -> l.puttingBack(back, List.of())));
    Erase left = erase.withOut(stays);
    if (stays.isEmpty() && erase.layer() != 0) {
      next = mapTake(next, erase, t -> t.without(erase.layer()));
      left = left.withLayer(0);
    }
    return next.withHands(next.hands().with(left));
  }

  private static Stage mapTake(Stage stage, Erase erase, UnaryOperator<Take> change) {
    return stage.withClip(
        erase.part(), stage.clip(erase.part(), erase.clip()).mapTake(erase.take(), change));
  }

  private static Optional<Take> takeOf(Stage stage, Erase erase) {
    return stage
        .show()
        .part(erase.part())
        .clip(erase.clip())
        .flatMap(c -> c.findTake(erase.take()));
  }
}
