package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.note.Grid;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.player.Sounded;
import ancora.core.replay.Replay;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** A press counts at once; if it turns out to be another gesture, it is as if it had not been. */
class InsteadTest {

  private static final Clip LOOP =
      clip(A, note(1, 60, 0, 60))
          .withLayers(
              List.of(
                  new Layer(1, List.of(note(1, 60, 0, 60))),
                  new Layer(2, List.of(note(2, 62, 480, 60)))));

  /** So many commands come before the press that is taken back. */
  private static final int BEFORE = 40;

  private static final Command MAIN = new PressCommand.MainPress();

  /** Worked value 15: two presses; tacet by the second's stamp, and overdub till there. */
  @Test
  void theFirstOfTwoPressesHasNotBeen() {
    Concert twice = Concert.with(LOOP).start().press(100).hit(70, 960);
    twice.at(1500, MAIN).hit(71, 1700).at(2000, new Instead(3, new CueCommand.CueTacet(KEYS)));
    Concert once = Concert.with(LOOP).start().press(100).hit(70, 960);
    once.hit(71, 1700).at(2000, new CueCommand.CueTacet(KEYS));
    assertThat(twice.until(2 * BAR).stage()).isEqualTo(once.until(2 * BAR).stage());
    assertThat(twice.clip(A).notes()).extracting(Note::pitch).contains(71);
  }

  /** Worked value 16: a long press peels, and what was played meanwhile is as if it had alone. */
  @Test
  void aLongPressIsAsIfItHadBeenTheOtherFromItsStamp() {
    Concert held = Concert.with(LOOP).start().at(1000, MAIN).hit(70, 1200).hit(71, 1500);
    held.late(1000, 1960, new Instead(5, new MendCommand.Peel()));
    Concert peeled = Concert.with(LOOP).start().at(1000, new MendCommand.Peel());
    peeled.hit(70, 1200).hit(71, 1500);
    assertThat(held.until(2 * BAR).stage()).isEqualTo(peeled.until(2 * BAR).stage());
    assertThat(held.clip(A).layers()).hasSize(1);
  }

  /** The page's clock was set meanwhile: it is the same press. */
  @Test
  void aLongPressWhoseStampIsALittleOffIsTheSame() {
    Concert held = Concert.with(LOOP).start().at(1000, MAIN).hit(71, 1500);
    held.late(1010, 1960, new Instead(3, new MendCommand.Peel()));
    Concert peeled = Concert.with(LOOP).start().at(1000, new MendCommand.Peel()).hit(71, 1500);
    assertThat(held.until(2 * BAR).stage()).isEqualTo(peeled.until(2 * BAR).stage());
  }

  /** What was made since keeps its ids, and what others did meanwhile stands. */
  @Test
  void whatWasDoneSinceIsDoneAgainWithItsIds() {
    Concert concert = Concert.with(LOOP).start().at(1000, new PressCommand.RecordAnew());
    concert.down(70, 1200).at(1300, new SettingCommand.AddPart("Bells", Sound.of(14)));
    long noteId = concert.stage().heldKeys().get(0).noteId();
    concert.late(1000, 1500, new Instead(3, new MendCommand.Peel()));
    assertThat(concert.stage().heldKeys().get(0).noteId()).isEqualTo(noteId);
    assertThat(concert.stage().show().parts()).extracting(p -> p.name()).contains("Bells");
    assertThat(concert.on().first()).isEmpty();
  }

  /** Lines are counted as they were accepted: what was taken back before is one of them. */
  @Test
  void onePressAfterTheOtherIsTakenBack() {
    Concert twice = Concert.with(LOOP).start().at(900, MAIN).at(1000, MAIN).hit(70, 1200);
    twice.at(1400, new Instead(4, new CueCommand.CueTacet(KEYS)));
    twice.at(1500, new Instead(4, new CueCommand.CallOff(KEYS))).until(2 * BAR);
    Concert neither = Concert.with(LOOP).start().hit(70, 1200);
    neither.at(1400, new CueCommand.CueTacet(KEYS)).at(1500, new CueCommand.CallOff(KEYS));
    assertThat(twice.stage()).isEqualTo(neither.until(2 * BAR).stage());
    assertThat(twice.on().recording()).isEmpty();
  }

  /** Without the closing the recording goes on, with repeats that there were none of. */
  @Test
  void whatIsMadeAnewHasIdsOfItsOwn() {
    Concert concert = Concert.with().start().at(10, new PressCommand.RecordAnew()).until(BAR);
    concert.at(BAR + 10, new HandCommand.RepeatNotes(new NoteRepeat(Grid.THIRTY_SECOND, 50)));
    concert.down(60, BAR + 100).at(2 * BAR + 50, MAIN).down(62, 2 * BAR + 900);
    concert.up(62, 2 * BAR + 910).until(2 * BAR + 1900);
    concert.at(2 * BAR + 1900, new Instead(3, new CueCommand.CallOff(KEYS)));
    assertThat(concert.on().first().orElseThrow().notes())
        .hasSizeGreaterThan(40)
        .extracting(Note::id)
        .doesNotHaveDuplicates();
  }

  @Test
  void whereTheOtherIsRefusedNothingIsTakenBack() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60))).start().at(1000, MAIN);
    Stage before = concert.stage();
    assertThat(concert.lateRefused(1000, 1960, new Instead(1, new MendCommand.Peel())))
        .contains("Only the first recording is left");
    assertThat(concert.on().open()).isPresent();
    assertThat(concert.stage().show()).isEqualTo(before.show());
  }

  @Test
  void whatHasStoppedTheTransportIsNotTakenBack() {
    Concert concert = Concert.with(LOOP).start().at(1000, new CueCommand.Stop());
    concert.at(1200, new Instead(1, new MendCommand.Peel()));
    assertThat(concert.stage().isStill()).isTrue();
  }

  /** What is forgotten stays; the other is done after it. */
  @Test
  void afterTwoSecondsItStays() {
    Concert concert = Concert.with(LOOP).start().at(1000, MAIN).until(1000 + 4000);
    concert.at(5010, new Instead(1, new MendCommand.Peel()));
    assertThat(concert.on().open()).as("overdub goes on").isPresent();
    assertThat(concert.clip(A).layers()).hasSize(1);
  }

  /** Anything may come between, of hands and feet, of others, undo too, and the same again. */
  @Property(tries = 300)
  void itIsExactlyAsIfThePressHadNotBeen(@ForAll Random random) {
    Show show =
        Show.named("any").withNewPart("Kit", Sound.STANDARD_KIT).withNewPart("Bass", Sound.of(33));
    Engine with = Engine.of(show.withNextId(100_000));
    Engine without = Engine.of(show.withNextId(100_000));
    long now = 5_000_000;
    for (int i = 0; i < BEFORE; i++) {
      now += random.nextInt(400_000);
      both(wish(random).on(with.stage()), now, with::apply, without::apply);
    }
    Command press = random.nextBoolean() ? MAIN : new MendCommand.Takes(random.nextBoolean());
    boolean pressed = isDone(with.apply(press, now, now));
    boolean rolls = with.stage().map().isPresent() == without.stage().map().isPresent();
    long down = now;
    List<Command> since = new ArrayList<>();
    boolean same = pressed && rolls;
    for (int i = random.nextInt(6); i > 0; i--) {
      now += random.nextInt(80_000);
      with.advance(now);
      Command command = wish(random).on(with.stage());
      long nextId = with.stage().show().nextId();
      if (isDone(with.apply(command, now, now))) {
        since.add(command);
        without.advance(now);
        // where more is made without it than with it, that has other ids
        same &= without.stage().show().nextId() <= nextId;
        without = Engine.of(numbered(without.stage(), nextId));
        same &= isDone(without.apply(command, now, now));
        same &= without.stage().show().nextId() <= with.stage().show().nextId();
      }
    }
    Command other = new UndoCommand.Undo(true);
    now += 100_000;
    long stamp = now;
    with.advance(now);
    without.advance(now);
    same &= without.stage().show().nextId() <= with.stage().show().nextId();
    // what the other makes has ids that nothing had yet
    without = Engine.of(numbered(without.stage(), with.stage().show().nextId()));
    boolean done = isDone(with.apply(new Instead(since.size() + 1, other), stamp, now));
    same &= done && isDone(without.apply(other, stamp, now)) && now - down < 2_000_000;
    if (same) {
      assertThat(bare(with.stage())).isEqualTo(bare(without.stage()));
    }
  }

  /**
   * What sounded is in the player, not on the stage: where one that lived through a press that was
   * taken back has the stage of one that never knew of it, it sounds all that the other does.
   */
  @Test
  void itIsHeardAsIfThePressHadNotBeen() {
    int compared = 0;
    for (int seed = 0; compared < 200; seed++) {
      assertThat(seed).as("performances, of which 200 have the same stage").isLessThan(2000);
      compared += isHeardAlike(new Random(seed)) ? 1 : 0;
    }
  }

  /** Whether there was anything to compare. */
  private static boolean isHeardAlike(Random random) {
    Show show =
        Show.named("any").withNewPart("Kit", Sound.STANDARD_KIT).withNewPart("Bass", Sound.of(33));
    Replay with = Replay.of(Stage.of(show.withNextId(100_000)));
    Replay without = Replay.of(Stage.of(show.withNextId(100_000)));
    long now = 5_000_000;
    for (int i = 0; i < BEFORE; i++) {
      now += random.nextInt(400_000);
      both(wish(random).on(with.stage()), now, with::apply, without::apply);
    }
    both(new CueCommand.Start(), now, with::apply, without::apply);
    with.apply(MAIN, now + 500_000, now + 500_000);
    now += 500_000;
    int since = 0;
    for (int i = random.nextInt(6); i > 0; i--) {
      now += random.nextInt(80_000);
      Command command = wish(random).on(with.stage());
      since += isDone(with.apply(command, now, now)) ? 1 : 0;
      without.apply(command, now, now);
    }
    now += 100_000;
    with.apply(new Instead(since + 1, new MendCommand.Peel()), now, now);
    without.apply(new MendCommand.Peel(), now, now);
    if (!bare(with.stage()).equals(bare(without.stage()))) {
      return false;
    }
    with.advance(now + 6_000_000);
    without.advance(now + 6_000_000);
    assertThat(after(now, with)).isEqualTo(after(now, without));
    return with.stage().map().isPresent();
  }

  /** What sounds after an instant; of what had been attacked by then the end is nothing new. */
  private static List<Sounded> after(long micros, Replay replay) {
    Set<String> attacked = new HashSet<>();
    List<Sounded> after = new ArrayList<>();
    for (Sounded one : replay.sounded()) {
      String key = one.part().value() + " " + one.pitch();
      if (one.micros() <= micros) {
        continue;
      }
      if (one.kind() == Sounded.Kind.ON) {
        attacked.add(key);
      }
      if (one.kind() != Sounded.Kind.OFF || attacked.contains(key)) {
        after.add(one);
      }
    }
    return after;
  }

  /** What takes a command at a stamp, at an instant. */
  private interface Takes {
    Outcome apply(Command command, long stamp, long applied);
  }

  private static void both(Command command, long now, Takes with, Takes without) {
    with.apply(command, now, now);
    without.apply(command, now, now);
  }

  private static Wish wish(Random random) {
    int kind = random.nextInt(Wish.KINDS - 1);
    return new Wish(kind, random.nextInt(20), random.nextInt(16_384));
  }

  private static boolean isDone(Outcome outcome) {
    return outcome instanceof Outcome.Done;
  }

  /** Ids that were given out in between are not given out again. */
  private static Stage numbered(Stage stage, long nextId) {
    return stage.withShow(stage.show().withNextId(nextId));
  }

  private static Stage bare(Stage stage) {
    return stage.withShow(stage.show().withNextId(0));
  }
}
