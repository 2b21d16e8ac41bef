package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.note.Controller;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.record.EarlyNotes;
import ancora.core.record.Overdub;
import ancora.core.record.Played;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;

/** From keys to notes: what hands and feet do is remembered, and held until it is released. */
final class Playing {

  private static final int PEDAL_VELOCITY = 127;

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
      if (placed(stage, first, moment.stamp()) - first.onMicros() <= bounce) {
        return louder(stage, first, press.velocity());
      }
      return keyDown(keyUp(stage, press.key(), moment.stamp()), press, moment);
    }
    Refusal.unless(stage.heldKeys().size() < MOST_KEYS, "Too many keys are down: press panic.");
    Stage next = stage;
    for (PartId part : partsFor(stage, moment.stamp())) {
      next = keyDown(next, part, press, moment);
    }
    return next;
  }

  private static Stage keyDown(Stage stage, PartId part, Command.KeyDown press, Moment moment) {
    PartInput input = stage.show().part(part).input();
    OptionalInt pitch = input.pitch(press.key().pitch());
    if (!input.hears(press.key().channel()) || pitch.isEmpty()) {
      return stage;
    }
    int velocity = input.velocity().orElse(press.velocity());
    Stage started =
        stage.transport() instanceof Transport.AwaitingFirstNote awaiting
                && awaiting.part().equals(part)
            ? FirstRecordings.cue(Transports.start(stage, 0, moment.stamp()), part, 0)
            : stage;
    return down(
        started, press.key(), part, pitch.getAsInt(), velocity, input.placed(moment.stamp()));
  }

  /** The foot goes down or up. It is kept as a note is, and never moved to a grid. */
  static Stage sustain(Stage stage, Command.Sustain press, Moment moment) {
    InputKey pedal = InputKey.pedal(press.device(), press.channel());
    boolean down = press.value() >= Controller.SUSTAIN;
    if (!down || held(stage, pedal).isPresent()) {
      return down ? stage : keyUp(stage, pedal, moment.stamp());
    }
    Stage next = stage;
    for (PartId part : partsFor(stage, moment.stamp())) {
      PartInput input = stage.show().part(part).input();
      next =
          input.hears(press.channel())
              ? down(next, pedal, part, Note.PEDAL, PEDAL_VELOCITY, input.placed(moment.stamp()))
              : next;
    }
    return next;
  }

  /** What is repeated while a key is pressed sounds as loud as it is pressed. */
  static Stage pressure(Stage stage, InputKey key, int value) {
    boolean fixed =
        held(stage, key)
            .map(h -> stage.show().part(h.part()).input().velocity().isPresent())
            .orElse(true);
    return value == 0 || fixed
        ? stage
        : stage.withHands(
            stage
                .hands()
                .mapKeys(held -> held.key().equals(key), held -> held.withVelocity(value)));
  }

  /** The parts that hands play on, the armed one first. */
  static List<PartId> partsFor(Stage stage, long stamp) {
    List<PartId> parts = new ArrayList<>(List.of(partFor(stage, stamp)));
    stage.show().parts().stream()
        .map(Part::id)
        .filter(part -> stage.alongside().contains(part) && !parts.contains(part))
        .forEach(parts::add);
    return parts;
  }

  /**
   * The part that hands play on first: the armed one, or before a hand-over the one armed before.
   */
  static PartId partFor(Stage stage, long stamp) {
    PartId armed = stage.armed().orElseGet(() -> firstPart(stage.show()));
    if (stage.hands().handOver().isEmpty() || stage.map().isEmpty()) {
      return armed;
    }
    Hands.HandOver over = stage.hands().handOver().get();
    TempoMap map = stage.map().get();
    InputGrid grid = stage.show().part(armed).inputGrid();
    boolean before = map.tickAt(stamp) < over.at() - EarlyNotes.tolerance(grid, over.at(), map);
    boolean there = stage.show().parts().stream().anyMatch(p -> p.id().equals(over.from()));
    return before && there ? over.from() : armed;
  }

  private static Stage down(
      Stage stage, InputKey key, PartId part, int pitch, int velocity, long stamp) {
    long id = stage.show().nextId();
    boolean erases =
        !key.isPedal()
            && stage.hands().erase().filter(erase -> erase.part().equals(part)).isPresent();
    Optional<NoteRepeat> repeat =
        stage.map().isEmpty() || erases || key.isPedal()
            ? Optional.empty()
            : stage.hands().repeat();
    OptionalLong firstLine =
        repeat.isPresent()
            ? OptionalLong.of(Repeats.firstLine(stage, repeat.get(), stamp))
            : OptionalLong.empty();
    HeldKey held = new HeldKey(key, part, id, pitch, velocity, stamp, erases, firstLine, List.of());
    List<HeldKey> keys = new ArrayList<>(stage.heldKeys());
    keys.add(held);
    Hands hands = stage.hands().withKeys(keys);
    if (erases) {
      long tick = stage.map().map(map -> map.tickAt(stamp)).orElse(0L);
      hands = hands.withErase(hands.erase().map(erase -> erase.down(pitch, tick)));
    }
    Played played = Played.down(id, pitch, velocity, stamp).withPlain(!erases && repeat.isEmpty());
    Stage remembered =
        stage
            .withShow(stage.show().withNextId(id + 1))
            .withHands(hands)
            .mapOn(part, on -> on.withHindsight(on.hindsight().with(played)));
    return played.plain() ? NoteTaking.take(remembered, part, played) : remembered;
  }

  /** A key comes up; one that is not down is ignored. */
  static Stage keyUp(Stage stage, InputKey key, long stamp) {
    Stage next = stage;
    for (HeldKey down : stage.heldKeys()) {
      if (down.key().equals(key)) {
        next = keyUp(next, key, down, placed(next, down, stamp));
      }
    }
    return next;
  }

  private static long placed(Stage stage, HeldKey key, long stamp) {
    return stage.show().part(key.part()).input().placed(stamp);
  }

  private static Stage keyUp(Stage stage, InputKey key, HeldKey down, long stamp) {
    Stage ended =
        key.isPedal()
            ? releaseSustained(endNote(stage, down, stamp), key, stamp)
            : endNote(stage, down, stamp);
    Hands hands =
        ended
            .hands()
            .withKeys(
                ended.heldKeys().stream().filter(held -> held.noteId() != down.noteId()).toList());
    if (down.erases() && stage.map().isPresent()) {
      long tick = stage.map().get().tickAt(stamp);
      hands = hands.withErase(hands.erase().map(erase -> erase.up(down.pitch(), tick)));
    }
    return ended.withHands(hands);
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
    if (down.nextLine().isPresent()) {
      return Repeats.release(next, down, map.tickAt(off));
    }
    Optional<InputKey> foot = footThatSustains(stage, down);
    if (foot.isPresent()) {
      List<Hands.Sustained> sustained = new ArrayList<>(stage.hands().sustained());
      sustained.add(new Hands.Sustained(foot.get(), down));
      return next.withHands(next.hands().withSustained(sustained));
    }
    return releaseNote(next, down, off);
  }

  /**
   * The pedal that holds an added note, if the clip has a pedal line of its own: the foot's is not
   * recorded then, and the note lasts until the foot lifts.
   */
  private static Optional<InputKey> footThatSustains(Stage stage, HeldKey key) {
    boolean inOwnLine =
        !key.key().isPedal()
            && stage
                .on(key.part())
                .overdub()
                .filter(overdub -> addsToPedalLine(stage, key, overdub))
                .isPresent();
    return stage.heldKeys().stream()
        .filter(held -> inOwnLine && held.key().isPedal() && held.part().equals(key.part()))
        .map(HeldKey::key)
        .findFirst();
  }

  private static boolean addsToPedalLine(Stage stage, HeldKey key, Overdub overdub) {
    boolean added =
        overdub
            .clipOn(stage.show().part(key.part()))
            .filter(clip -> clip.holds(key.noteId()))
            .isPresent();
    return added && NoteTaking.hasOldPedal(stage, key.part(), overdub);
  }

  /** The transport stops: what a foot holds ends. */
  static Stage releaseAllSustained(Stage stage, long stamp) {
    Stage next = stage;
    for (Hands.Sustained sustained : stage.hands().sustained()) {
      next = releaseNote(next, sustained.key(), Math.max(stamp, sustained.key().onMicros()));
    }
    return next.withHands(next.hands().withSustained(List.of()));
  }

  private static Stage releaseSustained(Stage stage, InputKey pedal, long stamp) {
    Stage next = stage;
    List<Hands.Sustained> others = new ArrayList<>();
    for (Hands.Sustained sustained : stage.hands().sustained()) {
      if (sustained.pedal().equals(pedal)) {
        next = releaseNote(next, sustained.key(), Math.max(stamp, sustained.key().onMicros()));
      } else {
        others.add(sustained);
      }
    }
    return next.withHands(next.hands().withSustained(others));
  }

  private static Stage releaseNote(Stage next, HeldKey down, long off) {
    if (next.map().isEmpty()) {
      return next;
    }
    TempoMap map = next.map().get();
    long onTick = map.tickAt(down.onMicros());
    InputGrid grid = NoteTaking.gridFor(next, down.part(), down.pitch());
    Meter meter = next.show().meter();
    return mapNote(
        next,
        down,
        note -> {
          long meant = onTick + note.meant() - note.played();
          return note.held()
              ? note.released(
                  note.isPedal()
                      ? map.tickAt(off) - meant
                      : grid.length(onTick, map.tickAt(off), meant, meter))
              : note;
        });
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
    return NoteTaking.mapNote(stage, down.part(), down.noteId(), change);
  }

  private static Optional<HeldKey> held(Stage stage, InputKey key) {
    return stage.heldKeys().stream().filter(down -> down.key().equals(key)).findFirst();
  }

  private static PartId firstPart(Show show) {
    Refusal.unless(!show.parts().isEmpty(), "Add a part first, so that there is a sound to play.");
    return show.parts().get(0).id();
  }
}
