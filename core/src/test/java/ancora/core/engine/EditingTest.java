package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.history.Step;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.Note;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Rule 18: notes are edited while they sound, and each edit can be undone. */
class EditingTest {

  private static final Chosen ALL = new Chosen.All();

  private static Command edit(Edit... edits) {
    return edit(A, WhichTakes.HEARD, edits);
  }

  private static Command edit(ClipId clip, WhichTakes takes, Edit... edits) {
    return new EditCommand.EditNotes(KEYS, new Clips(List.of(clip)), takes, List.of(edits));
  }

  private static Edit length(long ticks) {
    return new Edit.Length(ALL, OptionalLong.of(ticks), OptionalDouble.empty(), false);
  }

  /** Worked value 23: a note at 960 that lasts 1920, edited at 1500, heard from 1577. */
  private static List<String> sounds(Edit edit, int pitch) {
    return Concert.with(clip(A, note(1, 60, 960, 1920)))
        .start()
        .late(1500, 1577, edit(edit))
        .until(6000)
        .heard(pitch);
  }

  @Test
  void aNoteThatSoundsEndsIsRetimedOrComesAgain() {
    assertThat(sounds(length(480), 60)).startsWith("on 960", "off 1577", "on 4800");
    assertThat(sounds(length(2400), 60)).startsWith("on 960", "off 3360", "on 4800");
    assertThat(sounds(new Edit.Move(ALL, 0, 12), 60)).containsExactly("on 960", "off 1577");
    assertThat(sounds(new Edit.Move(ALL, 0, 12), 72)).startsWith("on 4800");
    assertThat(sounds(new Edit.Move(ALL, 480, 0), 60)).startsWith("on 960", "off 1577", "on 5280");
    assertThat(sounds(new Edit.Move(ALL, 960, 0), 60)).startsWith("on 960", "off 1577", "on 1920");
    assertThat(sounds(new Edit.Delete(ALL), 60)).containsExactly("on 960", "off 1577");
  }

  /** Its neighbours do not hear of it. */
  @Test
  void othersSoundOn() {
    Concert concert = Concert.with(clip(A, note(1, 60, 960, 1920), note(2, 64, 960, 1920))).start();
    concert.at(1500, edit(new Edit.Delete(new Chosen.OfPitch(60)))).until(6000);
    assertThat(concert.heard(64)).startsWith("on 960", "off 2880", "on 4800");
  }

  /** A kick a sixty-fourth late, put right; the stray snare taken out; both undone. */
  @Test
  void eachEditIsAStep() {
    Concert concert =
        Concert.with(clip(A, note(1, 36, 60, 100), note(2, 38, 700, 100), note(3, 38, 960, 100)));
    Clip before = concert.clip(A);
    concert.start();
    concert.at(100, edit(new Edit.Move(new Chosen.Ids(List.of(1L)), -60, 0)));
    concert.at(200, edit(new Edit.Delete(new Chosen.Ids(List.of(2L)))));
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 960L);
    assertThat(Engine.undoWords(concert.stage())).isEqualTo("delete notes in Keys a");
    concert.at(300, new UndoCommand.Undo()).at(400, new UndoCommand.Undo());
    assertThat(concert.clip(A)).isEqualTo(before);
    concert.at(500, new UndoCommand.Redo()).at(600, new UndoCommand.Redo());
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 960L);
  }

  /** A clip on the shelf is peeled by itself, while another sounds; the one that sounds stays. */
  @Test
  void aClipIsPeeledThatIsNotInHand() {
    Layer first = new Layer(1, List.of(note(1, 36, 0, 100)));
    Layer second = new Layer(2, List.of(note(2, 38, 960, 100)));
    Clip other = clip(B, note(3, 40, 0, 100)).mapHeard(take -> Take.of(1, List.of(first, second)));
    Concert concert = Concert.with(clip(A, note(4, 60, 0, 100)), other).start();
    concert.at(100, new MendCommand.PeelClip(KEYS, B));
    assertThat(concert.meant(concert.clip(B))).containsExactly(0L);
    assertThat(Engine.undoWords(concert.stage())).isEqualTo("peel layer 2 of Keys b");
    assertThat(concert.refused(110, new MendCommand.PeelClip(KEYS, B))).contains("Only the first");
    concert.at(120, new MendCommand.RestoreClip(KEYS, B));
    assertThat(concert.clip(B)).isEqualTo(other);
    assertThat(concert.refused(130, new MendCommand.RestoreClip(KEYS, B))).contains("Nothing");
    assertThat(concert.refused(140, new MendCommand.PeelClip(KEYS, A))).contains("Only the first");
    concert.at(150, new PressCommand.Arm(BASS));
    concert.at(160, new MendCommand.PeelClip(KEYS, B));
    assertThat(concert.meant(concert.clip(B))).containsExactly(0L);
  }

  @Test
  void whatAnEditWillDoIsSaidBefore() {
    Concert concert = Concert.with(clip(A, note(1, 60, 250, 100), note(2, 62, 480, 100)));
    Engine engine = Engine.of(concert.stage());
    Edit grid = new Edit.ToGrid(ALL, Optional.of(Grid.EIGHTH), 100, 50, false, Optional.empty());
    assertThat(engine.forecast(edit(grid), 0).word())
        .contains("moves 1 of 2 notes by up to 230 ticks.");
    assertThat(concert.refused(0, edit(new Edit.Move(new Chosen.OfPitch(70), 60, 0))))
        .contains("changes nothing in");
  }

  /** Layers recorded while a clip is edited stay what they are. */
  @Test
  void besideARecording() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 100))).start();
    concert.press(BAR).play(64, BAR + 960, BAR + 1060);
    concert.at(BAR + 1200, edit(new Edit.Move(new Chosen.Ids(List.of(1L)), 480, 0)));
    concert.play(65, BAR + 1920, BAR + 2000).until(3 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(480L, 960L, 1920L);
    assertThat(concert.on().open()).isPresent();
    Command delete =
        edit(new Edit.Delete(new Chosen.OfPitch(65)), new Edit.Delete(new Chosen.OfPitch(64)));
    concert.at(3 * BAR + 10, delete);
    concert.play(67, 3 * BAR + 240, 3 * BAR + 300).until(5 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(240L, 480L);
  }

  @Test
  void aKeyStillDownIsLeftOut() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 100))).start();
    concert.press(BAR).down(64, BAR + 960);
    assertThat(concert.refused(BAR + 1000, edit(new Edit.Delete(new Chosen.OfPitch(64)))))
        .contains("still down");
  }

  @Test
  void copiesGoToAnotherClip() {
    Concert concert =
        Concert.with(clip(A, note(1, 60, 100, 60)), clip(B, BAR, BAR, note(2, 62, BAR, 60)));
    Edit copy = new Edit.Copy(ALL, 480, 0, Optional.empty(), Optional.of(B));
    concert.at(0, edit(copy));
    assertThat(concert.meant(concert.clip(B))).containsExactly(BAR, BAR + 580);
    assertThat(concert.meant(concert.clip(A))).containsExactly(100L);
  }

  @Test
  void anEmptyClipIsMadeAndDrawnInto() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 100)));
    concert.at(0, new EditCommand.MakeClip(KEYS, 2));
    Clip made = concert.newest();
    assertThat(made.window().length()).isEqualTo(2 * BAR);
    Edit draw = new Edit.Draw(38, 960, 120, OptionalInt.empty(), OptionalInt.empty());
    concert
        .at(10, edit(made.id(), WhichTakes.HEARD, draw))
        .cue(made.id(), 20)
        .start()
        .until(3 * BAR);
    assertThat(concert.attacks(38, 0)).containsExactly(960L, 960 + 2 * BAR);
    concert.at(3 * BAR + 1, new UndoCommand.Undo(true));
    assertThat(concert.clip(made.id()).noteCount()).isZero();
  }

  /** A recording of four bars is cut into clips of two. */
  @Test
  void aLongRecordingIsCut() {
    Concert concert =
        Concert.with(clip(A, 0, 4 * BAR, note(1, 60, 0, 60), note(2, 62, 2 * BAR + 5, 60)));
    concert.at(0, new EditCommand.CutClip(KEYS, A, 2));
    List<Clip> shelf = concert.stage().show().part(KEYS).shelf();
    assertThat(shelf).hasSize(3);
    assertThat(shelf.get(0).window().length()).as("it stays itself").isEqualTo(4 * BAR);
    assertThat(concert.meant(shelf.get(1))).containsExactly(0L);
    assertThat(concert.meant(shelf.get(2))).containsExactly(2 * BAR + 5);
    assertThat(shelf.get(2).window().start()).isEqualTo(2 * BAR);
    concert.at(10, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
  }

  /** A two-bar clip repeated to 4 times in all lasts 30720 (common practice). */
  @Test
  void aClipIsRepeated() {
    Concert concert = Concert.with(clip(A, 0, 2 * BAR, note(1, 60, 0, 60), note(2, 62, BAR, 60)));
    concert.at(0, new EditCommand.RepeatClip(KEYS, new Clips(List.of(A)), 4));
    assertThat(concert.clip(A).window().length()).isEqualTo(30_720);
    assertThat(concert.meant(concert.clip(A)))
        .containsExactly(0L, BAR, 2 * BAR, 3 * BAR, 4 * BAR, 5 * BAR, 6 * BAR, 7 * BAR);
    concert.at(10, new UndoCommand.Undo());
    assertThat(concert.clip(A).window().length()).isEqualTo(2 * BAR);
    assertThat(concert.clip(A).noteCount()).isEqualTo(2);
  }

  @Test
  void clipsAreChainedLayersSpreadAndFlattened() {
    Concert concert =
        Concert.with(clip(A, note(1, 60, 0, 60)), clip(B, 0, 2 * BAR, note(2, 62, 10, 60)));
    concert.at(0, new EditCommand.ChainClips(KEYS, new Clips(List.of(B, A, B))));
    assertThat(concert.newest().window().length()).isEqualTo(5 * BAR);
    assertThat(concert.meant(concert.newest())).containsExactly(10L, 2 * BAR, 3 * BAR + 10);

    concert.start().press(BAR).play(64, BAR + 960, BAR + 1060).until(2 * BAR);
    concert.press(2 * BAR).at(2 * BAR + 10, new EditCommand.SpreadLayers(KEYS, A));
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L);
    assertThat(concert.newest().notes()).extracting(Note::pitch).containsExactly(64);
    concert.at(2 * BAR + 20, new UndoCommand.Undo(true));
    assertThat(concert.clip(A).layers()).hasSize(2);
    concert.at(2 * BAR + 30, new EditCommand.Flatten(KEYS, A));
    assertThat(concert.clip(A).layers()).hasSize(1);
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 960L);
  }

  /** Takes 2, 4 and 5 of five, in a row. */
  @Test
  void someTakesAreLaidInARow() {
    Clip five = clip(A, note(1, 60, 0, 60));
    for (int take = 2; take <= 5; take++) {
      five =
          five.with(Take.of(take, List.of(new Layer(1, List.of(note(take, 60 + take, take, 60))))));
    }
    Concert concert = Concert.with(five.withHeard(1));
    concert.at(0, new MendCommand.TakesInARow(KEYS, A, List.of(2, 4, 5)));
    assertThat(concert.meant(concert.newest())).containsExactly(2L, BAR + 4, 2 * BAR + 5);
    assertThat(concert.newest().window().length()).isEqualTo(3 * BAR);
    assertThat(concert.refused(1, new MendCommand.TakesInARow(KEYS, A, List.of(9))))
        .contains("no take 9");
  }

  @Test
  void notesAndClipsGoElsewhere() {
    Concert concert = Concert.with(clip(A, note(1, 36, 0, 60), note(2, 42, 480, 60)));
    concert.at(0, new EditCommand.SplitNotes(KEYS, A, new Chosen.OfPitch(42)));
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L);
    assertThat(concert.meant(concert.newest())).containsExactly(480L);
    concert.at(10, new EditCommand.CopyClip(KEYS, A, BASS));
    concert.at(20, new EditCommand.MoveClipTo(KEYS, concert.newest().id(), BASS));
    Part bass = concert.stage().show().part(BASS);
    assertThat(bass.shelf()).extracting(Clip::letter).containsExactly("a", "b");
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
    for (int i = 0; i < 3; i++) {
      concert.at(30 + i, new UndoCommand.Undo());
    }
    assertThat(concert.clip(A).noteCount()).isEqualTo(2);
    assertThat(concert.stage().show().part(BASS).shelf()).isEmpty();
  }

  /** Any edits, then undo, give the clip exactly; and redo gives again what they made. */
  @Property(tries = 400)
  void undoGivesTheClipExactly(@ForAll long seed) {
    Random random = new Random(seed);
    Engine engine = Engine.of(someShow(random));
    List<Show> shows = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      Show before = engine.stage().show();
      if (engine.apply(someCommand(random, before), 0, 0) instanceof Outcome.Done) {
        shows.add(before);
        assertThat(engine.stage().show().part(KEYS).shelf()).isNotEmpty();
      }
    }
    Show made = engine.stage().show();
    for (int i = shows.size() - 1; i >= 0; i--) {
      assertThat(engine.apply(new UndoCommand.Undo(true), 0, 0)).isInstanceOf(Outcome.Done.class);
      assertThat(engine.stage().show().parts()).isEqualTo(shows.get(i).parts());
    }
    for (Show ignored : shows) {
      engine.apply(new UndoCommand.Redo(), 0, 0);
    }
    assertThat(engine.stage().show().parts()).isEqualTo(made.parts());
  }

  /** In a loop: forth and back is nothing, to the grid twice is once, and no note is lost. */
  @Property(tries = 400)
  void movesAndGrids(@ForAll long seed) {
    Random random = new Random(seed);
    Concert concert = Concert.with(someClip(random));
    Clip before = concert.clip(A);
    long any = 1 + random.nextInt(9000);
    // once round the circle is nothing, and refused
    long ticks = any % before.window().length() == 0 ? any + 1 : any;
    concert.at(0, edit(new Edit.Move(ALL, ticks, 0), new Edit.Delete(new Chosen.OfPitch(127))));
    assertThat(concert.clip(A).noteCount()).isEqualTo(before.noteCount());
    assertThat(concert.clip(A).notes()).allMatch(n -> before.window().contains(n.meant()));
    concert.at(1, edit(new Edit.Move(ALL, -ticks, 0)));
    assertThat(concert.clip(A)).isEqualTo(before);
    Grid grid = Grid.values()[1 + random.nextInt(Grid.values().length - 1)];
    Edit put =
        new Edit.ToGrid(ALL, Optional.of(grid), random.nextInt(101), 58, false, Optional.empty());
    Engine engine = Engine.of(concert.stage());
    engine.apply(edit(put), 0, 0);
    Show once = engine.stage().show();
    assertThat(engine.apply(edit(put), 0, 0)).isInstanceOf(Outcome.Refused.class);
    assertThat(engine.stage().show()).isEqualTo(once);
  }

  /**
   * Whatever was edited while it sounded: the next whole pass attacks what the clip says, and no
   * more.
   */
  @Property(tries = 300)
  void whatSoundsIsWhatTheClipSays(@ForAll long seed) {
    Random random = new Random(seed);
    Concert concert = Concert.with(someClip(random)).start();
    long length = concert.clip(A).window().length();
    long tick = 10;
    for (int i = 0; i < 6; i++) {
      tick += random.nextInt(900);
      Edit edit = someEdit(random);
      boolean lasts = edit instanceof Edit.Length;
      if (!lasts && someTick(concert, tick, edit)) {
        tick++;
      }
    }
    long pass = (tick / length + 2) * length;
    concert.until(pass + length);
    List<Note> notes = concert.clip(A).notes().toList();
    List<String> says =
        notes.stream()
            .filter(
                note -> concert.clip(A).window().contains(note.meant()) || isHeldIn(note, notes))
            .map(note -> note.pitch() + "@" + Math.max(0, note.meant()))
            .distinct()
            .sorted()
            .toList();
    List<String> sounded = new ArrayList<>();
    for (int pitch = 0; pitch < 128; pitch++) {
      for (long at : concert.attacks(pitch, pass)) {
        if (at < pass + length) {
          sounded.add(pitch + "@" + (at - pass));
        }
      }
    }
    assertThat(sounded.stream().distinct().sorted().toList()).isEqualTo(says);
  }

  /**
   * Whether a note that an edit has put before the window is a loop note at its start, as the rules
   * of the line have it: more of it lies in the window than before.
   */
  private static boolean isHeldIn(Note note, List<Note> all) {
    return note.meant() < 0
        && note.meant() + note.length() > -note.meant()
        && all.stream().noneMatch(n -> n.pitch() == note.pitch() && n.meant() == 0);
  }

  private static boolean someTick(Concert concert, long tick, Edit edit) {
    concert.until(tick);
    try {
      concert.at(tick, edit(edit));
      return true;
    } catch (AssertionError refused) {
      return false;
    }
  }

  private static Clip someClip(Random random) {
    long length = 960L * (1 + random.nextInt(8));
    Note[] notes = new Note[1 + random.nextInt(12)];
    for (int i = 0; i < notes.length; i++) {
      long meant = random.nextInt((int) length);
      notes[i] =
          Note.of(1 + i, 30 + random.nextInt(60), 90, meant, meant, 15 + random.nextInt(900));
    }
    return clip(A, 0, length, notes);
  }

  private static Show someShow(Random random) {
    return Concert.with(someClip(random), clip(B, note(100, 60, 0, 100))).stage().show();
  }

  private static Command someCommand(Random random, Show show) {
    List<Clip> shelf = show.part(KEYS).shelf();
    ClipId id = shelf.get(random.nextInt(shelf.size())).id();
    Clips one = new Clips(List.of(id));
    PartId other = random.nextBoolean() ? BASS : KEYS;
    return switch (random.nextInt(12)) {
      case 0 -> new EditCommand.MakeClip(KEYS, 1 + random.nextInt(3));
      case 1 -> new EditCommand.SplitNotes(KEYS, id, someNotes(random));
      case 2 -> new EditCommand.CutClip(KEYS, id, 1);
      case 3 -> new EditCommand.RepeatClip(KEYS, one, 2 + random.nextInt(3));
      case 4 -> new EditCommand.Flatten(KEYS, id);
      case 5 -> new EditCommand.CopyClip(KEYS, id, other);
      default ->
          new EditCommand.EditNotes(
              KEYS,
              one,
              random.nextBoolean() ? WhichTakes.HEARD : WhichTakes.ALL,
              List.of(someEdit(random), someEdit(random)));
    };
  }

  private static Chosen someNotes(Random random) {
    return switch (random.nextInt(5)) {
      case 0 -> ALL;
      case 1 -> new Chosen.OfPitch(30 + random.nextInt(60));
      case 2 -> new Chosen.OfLayer(1 + random.nextInt(2));
      case 3 -> new Chosen.Ids(List.of(1L + random.nextInt(12)));
      default -> new Chosen.Within(random.nextInt(2000), 2001 + random.nextInt(4000));
    };
  }

  private static Edit someEdit(Random random) {
    Chosen notes = someNotes(random);
    return switch (random.nextInt(10)) {
      case 0 -> new Edit.Delete(notes);
      case 1 -> new Edit.Move(notes, random.nextInt(4000) - 2000, random.nextInt(25) - 12);
      case 2 ->
          random.nextBoolean()
              ? new Edit.CopyOn(notes, 1 + random.nextInt(3))
              : new Edit.Copy(notes, random.nextInt(4000), 0, Optional.empty(), Optional.empty());
      case 3 -> new Edit.Length(notes, OptionalLong.empty(), OptionalDouble.of(0.5), false);
      case 4 -> new Edit.Length(notes, OptionalLong.empty(), OptionalDouble.empty(), true);
      case 5 ->
          new Edit.Velocity(
              notes, OptionalInt.empty(), OptionalInt.of(-20), OptionalDouble.empty(), false);
      case 6 ->
          new Edit.Draw(
              random.nextInt(128),
              random.nextInt(3840),
              100,
              OptionalInt.empty(),
              OptionalInt.empty());
      case 7 ->
          new Edit.ToGrid(
              notes, Optional.of(Grid.EIGHTH), random.nextInt(101), 60, true, Optional.empty());
      case 8 -> new Edit.DeleteMoves(Controller.BEND, 0, 960);
      default -> new Edit.AsPlayed(notes);
    };
  }

  private static final Clip TWO_LAYERS =
      clip(A, note(1, 60, 0, 60))
          .withLayers(
              List.of(
                  new Layer(1, List.of(note(1, 60, 0, 60))),
                  new Layer(2, List.of(note(2, 62, 480, 60)))));

  private static Concert flattened(Concert concert, long tick) {
    return concert.at(tick, new EditCommand.Flatten(KEYS, A));
  }

  /** It is in no second clip either, for it stays where an edit has put it. */
  @Test
  void aNoteThatAnEditHasPutElsewhereIsThereThoughRecordingWasOffBefore() {
    Concert concert = Concert.with(TWO_LAYERS).start().press(0).hit(70, 2400);
    flattened(concert, 2600).late(2000, 2800, new PressCommand.MainPress());
    concert.press(2900).until(2 * BAR);
    assertThat(concert.on().hindsight().notes().filter(p -> p.pitch() == 70))
        .allMatch(Played::recorded);
    assertThat(concert.clip(A).allLayers().flatMap(l -> l.notes().stream()))
        .filteredOn(n -> n.pitch() == 70)
        .hasSize(1);
  }

  @Test
  void aPunchWhoseLayerIsFlattenedEndsWithItsRange() {
    Concert concert = Concert.with(TWO_LAYERS).start().at(100, new MendCommand.Punch(960, 2880));
    flattened(concert.hit(70, 1200), 1400).until(2890);
    assertThat(concert.on().open()).isEmpty();
  }

  /** Its press was before the note; what it is about is all that is there by now. */
  @Test
  void whatIsFlattenedLateIsNotTakenOutByTheReplaceThatGoesOn() {
    Concert concert = Concert.with(TWO_LAYERS).start().at(100, new MendCommand.Replace(true));
    concert.hit(70, 2400).late(2000, 2600, new EditCommand.Flatten(KEYS, A)).until(2700);
    assertThat(concert.clip(A).notes()).extracting(Note::pitch).contains(70);
  }

  /** What was recorded is deleted while it is recorded: its layer is none, until that is undone. */
  @Test
  void aLayerWhoseNotesWereDeletedIsNoneOnceItsPassIsOver() {
    Concert concert = Concert.with(TWO_LAYERS).start().press(0).hit(70, 2400);
    concert.at(2600, edit(new Edit.Delete(new Chosen.OfPitch(70)))).press(BAR - 10).until(BAR + 10);
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2);
    concert.at(BAR + 20, new UndoCommand.Undo(true)).until(BAR + 30);
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2, 3);
    concert.at(BAR + 40, new UndoCommand.Redo()).until(BAR + 50);
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2);
  }

  /** A key that comes up late ends no erasing whose notes are elsewhere by now. */
  @Test
  void whatWasErasedIsAStepStillOnceItIsFlattened() {
    Concert concert = Concert.with(TWO_LAYERS).start().at(100, new MendCommand.EraseHeld(true));
    concert.down(62, 200).up(62, 1000).at(1100, new MendCommand.EraseHeld(false));
    flattened(concert, 1200).late(900, 1400, new HandCommand.KeyDown(Concert.key(71), 90));
    concert.late(950, 1410, new HandCommand.KeyUp(Concert.key(71))).until(1500);
    assertThat(concert.stage().history().done()).extracting(Step::words).hasSize(2);
  }

  /** What was erased lies in the first bar: the layer that takes it out is none of the second. */
  @Test
  void aPieceHasNoLayerThatDoesNothingInIt() {
    Layer erase = Layer.empty(2).takingOut(List.of(1L), List.of());
    Clip two =
        clip(A, 0, 2 * BAR, note(1, 60, 0, 60))
            .withLayers(
                List.of(new Layer(1, List.of(note(1, 60, 0, 60), note(2, 62, BAR, 60))), erase));
    Concert concert = Concert.with(two).at(0, new EditCommand.CutClip(KEYS, A, 1));
    List<Clip> shelf = concert.stage().show().part(KEYS).shelf();
    assertThat(shelf.get(2).layers()).hasSize(1);
    assertThat(shelf.get(1).notes()).isEmpty();
  }
}
