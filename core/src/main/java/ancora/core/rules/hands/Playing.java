package ancora.core.rules.hands;

import ancora.core.Refusal;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.record.EarlyNotes;
import ancora.core.record.Played;
import ancora.core.rules.Moment;
import ancora.core.rules.Together;
import ancora.core.rules.cues.Transports;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.NoteTaking;
import ancora.core.rules.recording.Releasing;
import ancora.core.rules.recording.Repeats;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.stage.Erase;
import ancora.core.stage.Hands;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** From keys to notes: what hands and feet do is remembered, and held until it is released. */
public final class Playing {

  private static final int PEDAL_VELOCITY = 127;

  /** More keys than these cannot be down at once. */
  private static final int MOST_KEYS = 512;

  private Playing() {}

  public static Stage keyDown(Stage stage, HandCommand.KeyDown press, Moment moment) {
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

  /** What is to be said if a key that went down is recorded nowhere, for there is no room. */
  static Optional<String> full(Stage before, Stage after, Moment moment) {
    return before.map().isEmpty() || before.heldKeys().size() == after.heldKeys().size()
        ? Optional.empty()
        : partsFor(before, moment.stamp()).stream()
            .flatMap(part -> NoteTaking.full(before, part, moment).stream())
            .findFirst();
  }

  public static Stage keyDown(Stage stage, PartId part, HandCommand.KeyDown press, Moment moment) {
    PartInput input = stage.show().part(part).input();
    OptionalInt pitch = input.pitch(press.key().pitch());
    if (!input.hears(press.key().device(), press.key().channel()) || pitch.isEmpty()) {
      return stage;
    }
    int velocity = input.velocity().orElse(press.velocity());
    long placed = input.placed(moment.stamp());
    Stage started =
        stage.transport() instanceof Transport.AwaitingFirstNote awaiting
                && awaiting.part().equals(part)
            ? fromFirstNote(stage, placed, moment)
            : stage;
    return down(started, press.key(), part, pitch.getAsInt(), velocity, placed, moment);
  }

  /** The start is the first note, as it is placed; parts armed alongside begin there too. */
  private static Stage fromFirstNote(Stage stage, long placed, Moment moment) {
    Stage next = Transports.start(stage, 0, placed);
    for (PartId part : Together.of(stage)) {
      boolean free = next.on(part).vamp().isEmpty();
      next = free ? FirstRecordings.cue(next, part, 0, moment) : next;
    }
    return next;
  }

  /** The foot goes down or up. It is kept as a note is, and never moved to a grid. */
  public static Stage sustain(Stage stage, HandCommand.Sustain press, Moment moment) {
    InputKey pedal = InputKey.pedal(press.device(), press.channel());
    boolean down = press.isDown();
    if (!down || held(stage, pedal).isPresent()) {
      return down ? stage : keyUp(stage, pedal, moment.stamp());
    }
    Stage next = stage;
    for (PartId part : partsFor(stage, moment.stamp())) {
      PartInput input = stage.show().part(part).input();
      next =
          input.hears(press.device(), press.channel())
              ? down(
                  next,
                  pedal,
                  part,
                  Note.PEDAL,
                  PEDAL_VELOCITY,
                  input.placed(moment.stamp()),
                  moment)
              : next;
    }
    return next;
  }

  /** What is repeated while a key is pressed sounds as loud as it is pressed. */
  public static Stage pressure(Stage stage, InputKey key, int value) {
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
  public static List<PartId> partsFor(Stage stage, long stamp) {
    List<PartId> parts = new ArrayList<>();
    PartId armed = stage.playedPart();
    parts.add(before(stage, armed, stamp));
    for (PartId other : stage.alongside()) {
      PartId part = before(stage, other, stamp);
      if (!parts.contains(part)) {
        parts.add(part);
      }
    }
    return parts;
  }

  /** A part, or before a hand-over the one from which it takes over. */
  private static PartId before(Stage stage, PartId part, long stamp) {
    Optional<Hands.HandOver> over =
        stage.hands().handOvers().stream().filter(o -> o.to().equals(part)).findFirst();
    if (over.isEmpty() || stage.map().isEmpty()) {
      return part;
    }
    TempoMap map = stage.map().get();
    long at = over.get().at();
    InputGrid grid = stage.show().part(part).inputGrid();
    long early = EarlyNotes.toleranceAtStart(grid, at, stage.show().meter(), map);
    long placed = stage.show().part(part).input().placed(stamp);
    return map.tickAt(placed) < at - early ? over.get().from() : part;
  }

  private static Stage down(
      Stage stage, InputKey key, PartId part, int pitch, int velocity, long stamp, Moment moment) {
    long id = stage.show().nextId();
    long tick = stage.map().map(map -> map.tickAt(stamp)).orElse(0L);
    Optional<Erase> erase =
        key.isPedal() || stage.map().isEmpty()
            ? Optional.empty()
            : stage.hands().eraseOn(part, tick);
    boolean erases = erase.isPresent();
    Optional<NoteRepeat> repeat =
        stage.map().isEmpty() || erases || key.isPedal()
            ? Optional.empty()
            : stage.hands().repeat();
    OptionalLong firstLine =
        repeat.isPresent()
            ? OptionalLong.of(Repeats.firstLine(stage, repeat.get(), stamp))
            : OptionalLong.empty();
    HeldKey held =
        new HeldKey(
            key, part, id, pitch, velocity, stamp, erases, firstLine, List.of(), Optional.empty());
    List<HeldKey> keys = new ArrayList<>(stage.heldKeys());
    keys.add(held);
    Hands hands = stage.hands().withKeys(keys);
    Played played = Played.down(id, pitch, velocity, stamp).withPlain(!erases && repeat.isEmpty());
    Stage remembered =
        stage
            .withShow(stage.show().withNextId(id + 1))
            .withHands(hands)
            .mapOn(part, on -> on.withHindsight(on.hindsight().with(played)));
    long over = stage.map().map(moment::over).orElse(0L);
    if (erases) {
      return Erasing.down(remembered, erase.get(), pitch, tick, over);
    }
    Stage taken = played.plain() ? NoteTaking.take(remembered, part, played, over) : remembered;
    // one that was down as erase began, and arrives after that
    Optional<Erase> begun = key.isPedal() ? Optional.empty() : taken.hands().eraseOn(part);
    return begun.isPresent() ? Erasing.down(taken, begun.get(), pitch, tick, over) : taken;
  }

  /** A key comes up; one that is not down is ignored. */
  public static Stage keyUp(Stage stage, InputKey key, long stamp) {
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

  public static Stage keyUp(Stage stage, InputKey key, HeldKey down, long stamp) {
    Stage ended =
        key.isPedal()
            ? Releasing.releaseSustained(Releasing.endNote(stage, down, stamp), key, stamp)
            : Releasing.endNote(stage, down, stamp);
    Stage released =
        ended.withHands(
            ended
                .hands()
                .withKeys(
                    ended.heldKeys().stream()
                        .filter(held -> held.noteId() != down.noteId())
                        .toList()));
    if (key.isPedal() || stage.map().isEmpty()) {
      return released;
    }
    long tick = stage.map().get().tickAt(stamp);
    Hands hands = released.hands();
    Stage next = released;
    for (Erase erase : Stream.concat(hands.erases().stream(), hands.erased().stream()).toList()) {
      boolean held = erase.part().equals(down.part()) && erase.until() > tick;
      next = held ? Erasing.up(next, erase, down.pitch(), tick) : next;
    }
    return next;
  }

  public static Stage deviceGone(Stage stage, String device, long stamp) {
    Stage next = stage;
    for (HeldKey down : stage.heldKeys()) {
      if (down.key().device().equals(device)) {
        next = keyUp(next, down.key(), stamp);
      }
    }
    return next;
  }

  public static Stage panic(Stage stage, long stamp) {
    Stage next = stage;
    for (HeldKey down : stage.heldKeys()) {
      next = keyUp(next, down.key(), stamp);
    }
    return next;
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
        remembered, down, note -> note.withVelocity(Math.max(note.velocity(), velocity)));
  }

  public static Stage mapNote(Stage stage, HeldKey down, UnaryOperator<Note> change) {
    return NoteTaking.mapNote(stage, down.part(), down.noteId(), change);
  }

  private static Optional<HeldKey> held(Stage stage, InputKey key) {
    return stage.heldKeys().stream().filter(down -> down.key().equals(key)).findFirst();
  }
}
