package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.record.Overdub;
import ancora.core.record.PassLog;
import ancora.core.record.Played;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** From keys to notes: what is played is remembered, and recorded where a recording goes on. */
final class Playing {

  /** More keys than these cannot be down at once. */
  private static final int MOST_KEYS = 512;

  private Playing() {}

  static Stage keyDown(Stage stage, Command.KeyDown press, Moment moment) {
    Refusal.unless(
        press.velocity() >= 0 && press.velocity() <= 127,
        "Velocity %s does not exist: use 0 to 127.",
        press.velocity());
    if (press.velocity() == 0) {
      return keyUp(stage, press.key(), moment.stamp());
    }
    Optional<HeldKey> already = held(stage, press.key());
    if (already.isPresent()) {
      HeldKey first = already.get();
      double bounce = Note.SHORTEST * stage.show().tempo().microsPerTick();
      if (moment.stamp() - first.onMicros() <= bounce) {
        return louder(stage, first, press.velocity());
      }
      return keyDown(keyUp(stage, press.key(), moment.stamp()), press, moment);
    }
    Refusal.unless(stage.heldKeys().size() < MOST_KEYS, "Too many keys are down: press panic.");
    Show show = stage.show();
    PartId part = stage.armed().orElseGet(() -> firstPart(show));
    Stage started =
        stage.transport() instanceof Transport.AwaitingFirstNote awaiting
                && awaiting.part().equals(part)
            ? FirstRecordings.cue(Transports.start(stage, 0, moment.stamp()), part, 0)
            : stage;
    long id = started.show().nextId();
    Played played = Played.down(id, press.key().pitch(), press.velocity(), moment.stamp());
    List<HeldKey> keys = new ArrayList<>(started.heldKeys());
    keys.add(new HeldKey(press.key(), part, id, moment.stamp()));
    Stage remembered =
        started
            .withShow(started.show().withNextId(id + 1))
            .withHeldKeys(keys)
            .mapOn(part, on -> on.withHindsight(on.hindsight().with(played)));
    return take(remembered, part, played);
  }

  /** A key comes up; one that is not down is ignored. */
  static Stage keyUp(Stage stage, InputKey key, long stamp) {
    return held(stage, key)
        .map(
            down ->
                endNote(stage, down, stamp)
                    .withHeldKeys(
                        stage.heldKeys().stream().filter(k -> !k.key().equals(key)).toList()))
        .orElse(stage);
  }

  static Stage deviceGone(Stage stage, String device, long stamp) {
    Stage next = stage;
    for (HeldKey down : stage.heldKeys()) {
      if (down.key().device().equals(device)) {
        next = keyUp(next, down.key(), stamp);
      }
    }
    return next;
  }

  static Stage panic(Stage stage, long stamp) {
    Stage next = stage;
    for (HeldKey down : stage.heldKeys()) {
      next = keyUp(next, down.key(), stamp);
    }
    return next;
  }

  /** Ends the note that a key made, wherever it is by now. */
  static Stage endNote(Stage stage, HeldKey down, long stamp) {
    long off = Math.max(stamp, down.onMicros());
    Stage next =
        stage.mapOn(
            down.part(),
            on -> on.withHindsight(on.hindsight().map(down.noteId(), p -> p.withOff(off))));
    if (stage.map().isEmpty()) {
      return next;
    }
    TempoMap map = stage.map().get();
    long onTick = map.tickAt(down.onMicros());
    InputGrid grid = stage.show().part(down.part()).inputGrid();
    Meter meter = stage.show().meter();
    return mapNote(
        next,
        down,
        note -> {
          long meant = onTick + note.meant() - note.played();
          return note.held()
              ? note.released(grid.length(onTick, map.tickAt(off), meant, meter))
              : note;
        });
  }

  /** Takes what was played since an instant and is in no clip yet. */
  static Stage takeFromHindsight(Stage stage, PartId part, double sinceMicros) {
    Stage next = stage;
    for (Played played : stage.on(part).hindsight().since(sinceMicros)) {
      if (!played.recorded()) {
        next = take(next, part, played);
      }
    }
    return next;
  }

  /** Records a note if a recording goes on at its stamp; else it stays in hindsight alone. */
  private static Stage take(Stage stage, PartId part, Played played) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    TempoMap map = stage.map().get();
    PartStage on = stage.on(part);
    InputGrid grid = stage.show().part(part).inputGrid();
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      if (first.notes().size() >= Clip.MOST_NOTES) {
        return stage;
      }
      return first
          .take(played, grid, stage.show().meter(), map)
          .map(
              note -> recorded(stage, part, played).mapOn(part, p -> p.withFirst(first.with(note))))
          .orElse(stage);
    }
    long tick = map.tickAt(played.onMicros());
    return on.overdub()
        .filter(overdub -> overdub.covers(tick))
        .map(overdub -> overdub(stage, part, overdub, played, tick))
        .orElse(stage);
  }

  private static Stage overdub(
      Stage stage, PartId part, Overdub overdub, Played played, long tick) {
    Vamp vamp = stage.on(part).vamp().orElseThrow();
    Clip clip = stage.clip(part, overdub.clip());
    if (clip.noteCount() >= Clip.MOST_NOTES) {
      return stage;
    }
    TempoMap map = stage.map().orElseThrow();
    Meter meter = stage.show().meter();
    InputGrid grid = stage.show().part(part).inputGrid();
    long meant = grid.meant(tick, meter);
    long place = vamp.placeAt(meant, clip.window());
    long length =
        played.isHeld()
            ? Note.SHORTEST
            : grid.length(tick, map.tickAt(played.offMicros()), meant, meter);
    Note note =
        new Note(
            played.noteId(),
            played.pitch(),
            played.velocity(),
            place + tick - meant,
            place,
            length,
            played.isHeld());
    PassLog.Added added =
        vamp.passes()
            .forgetting(tick - 2 * clip.window().length())
            .add(
                clip,
                note,
                vamp.passAt(tick, clip.window()),
                vamp.passAt(meant, clip.window()),
                meant);
    return recorded(stage, part, played)
        .withClip(part, added.clip())
        .mapOn(part, on -> on.withVamp(vamp.withPasses(added.log())));
  }

  private static Stage recorded(Stage stage, PartId part, Played played) {
    return stage.mapOn(
        part,
        on -> on.withHindsight(on.hindsight().map(played.noteId(), p -> p.withRecorded(true))));
  }

  private static Stage louder(Stage stage, HeldKey down, int velocity) {
    Stage remembered =
        stage.mapOn(
            down.part(),
            on ->
                on.withHindsight(
                    on.hindsight()
                        .map(
                            down.noteId(), p -> p.withVelocity(Math.max(p.velocity(), velocity)))));
    return mapNote(
        remembered,
        down,
        note ->
            new Note(
                note.id(),
                note.pitch(),
                Math.max(note.velocity(), velocity),
                note.played(),
                note.meant(),
                note.length(),
                note.held()));
  }

  private static Stage mapNote(Stage stage, HeldKey down, UnaryOperator<Note> change) {
    PartStage on = stage.on(down.part());
    if (on.first().isPresent()
        && on.first().get().notes().stream().anyMatch(note -> note.id() == down.noteId())) {
      FirstRecording first = on.first().get();
      return stage.mapOn(
          down.part(),
          p ->
              p.withFirst(
                  first.withNotes(
                      first.notes().stream()
                          .map(note -> note.id() == down.noteId() ? change.apply(note) : note)
                          .toList())));
    }
    return stage.show().part(down.part()).shelf().stream()
        .filter(clip -> clip.holds(down.noteId()))
        .findFirst()
        .map(clip -> stage.withClip(down.part(), clip.mapNote(down.noteId(), change)))
        .orElse(stage);
  }

  private static Optional<HeldKey> held(Stage stage, InputKey key) {
    return stage.heldKeys().stream().filter(down -> down.key().equals(key)).findFirst();
  }

  private static PartId firstPart(Show show) {
    Refusal.unless(!show.parts().isEmpty(), "Add a part first, so that there is a sound to play.");
    return show.parts().get(0).id();
  }
}
