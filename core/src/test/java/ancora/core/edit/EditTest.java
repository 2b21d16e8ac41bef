package ancora.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 18, one edit at a time, in a clip of one bar of 4/4. */
class EditTest {

  private static final PartId PART = new PartId(1);
  private static final Chosen ALL = new Chosen.All();
  private static final ClipId HATS = new ClipId(50);

  private static Show show(InputGrid grid) {
    Clip hats =
        Clip.of(
            HATS,
            "b",
            new LoopWindow(0, 3840),
            List.of(
                Note.of(90, 42, 100, 0, 0, 60),
                Note.of(91, 42, 60, 990, 990, 60),
                Note.of(92, 42, 90, 1900, 1900, 60)));
    return Show.named("Quay")
        .withNewPart("Keys", Sound.of(4))
        .withNextId(1000)
        .mapPart(PART, part -> part.withInputGrid(grid).withClip(hats));
  }

  private static Ground ground() {
    return new Ground(show(InputGrid.SIXTEENTHS), PART, new LoopWindow(0, 3840), new Ids(500));
  }

  private static Take take(Note... notes) {
    return Take.of(1, List.of(new Layer(1, List.of(notes))));
  }

  private static Note only(Take take) {
    assertThat(take.sounding()).hasSize(1);
    return take.sounding().findFirst().orElseThrow();
  }

  private static Note played(long played, long meant) {
    return Note.of(1, 60, 90, played, meant, 100);
  }

  private static Edit toGrid(Grid grid, int strength) {
    return new Edit.ToGrid(ALL, Optional.of(grid), strength, 50, false, Optional.empty());
  }

  private static Edit toNext() {
    return new Edit.Length(ALL, OptionalLong.empty(), OptionalDouble.empty(), true);
  }

  private static Edit velocity(OptionalInt set, OptionalInt add, OptionalDouble factor) {
    return new Edit.Velocity(ALL, set, add, factor, false);
  }

  /** Worked value 22. */
  @Test
  void movedPastTheEdgeItGoesRound() {
    Take moved = new Edit.Move(ALL, -60, 0).apply(take(played(17, 20)), ground());
    assertThat(only(moved)).extracting(Note::meant, Note::played).containsExactly(3800L, 3797L);
    Take back = new Edit.Move(ALL, 60, 0).apply(moved, ground());
    assertThat(only(back)).extracting(Note::meant, Note::played).containsExactly(20L, 17L);
  }

  /** Worked value 22: from where it was played, not from where it is. */
  @Test
  void toTheGridFromWhereItWasPlayed() {
    Take half = toGrid(Grid.EIGHTH, 50).apply(take(played(250, 250)), ground());
    assertThat(only(half).meant()).isEqualTo(365);
    Take whole = toGrid(Grid.SIXTEENTH, 100).apply(half, ground());
    assertThat(only(whole).meant()).isEqualTo(240);
    assertThat(only(new Edit.AsPlayed(ALL).apply(whole, ground())).meant()).isEqualTo(250);
    assertThat(only(toGrid(Grid.EIGHTH, 100).apply(half, ground())).meant()).isEqualTo(480);
  }

  /** Worked value 22. */
  @Test
  void whatWasEarlyForTheLineStaysOnIt() {
    Take early = take(played(-50, 0));
    assertThat(only(toGrid(Grid.EIGHTH, 50).apply(early, ground())).meant()).isZero();
    assertThat(only(toGrid(Grid.SIXTEENTH, 100).apply(early, ground())).meant()).isZero();
    assertThat(only(new Edit.AsPlayed(ALL).apply(early, ground())).meant()).isZero();
  }

  /** Worked value 24. */
  @Test
  void outToTheNextOnset() {
    Take chords =
        take(
            Note.of(1, 60, 90, 0, 0, 100),
            Note.of(2, 64, 90, 4, 4, 100),
            Note.of(3, 67, 90, 9, 9, 100),
            Note.of(4, 60, 90, 1920, 1920, 100));
    assertThat(toNext().apply(chords, ground()).sounding())
        .extracting(Note::length)
        .containsExactly(1920L, 1916L, 1911L, 1920L);
    assertThat(only(toNext().apply(take(played(100, 100)), ground())).length())
        .as("with none other, the whole loop")
        .isEqualTo(3840);
  }

  /** Worked value 24: 15 − 20, 100 + 40, 64 × 0.8, 50 × 1.25. */
  @ParameterizedTest
  @CsvSource({"15, -20, , 1", "100, 40, , 127", "64, , 0.8, 51", "50, , 1.25, 63"})
  void velocitiesAreBoundedAndRounded(int before, Integer add, Double factor, int after) {
    Edit edit =
        velocity(
            OptionalInt.empty(),
            add == null ? OptionalInt.empty() : OptionalInt.of(add),
            factor == null ? OptionalDouble.empty() : OptionalDouble.of(factor));
    Take take = take(Note.of(1, 60, before, 0, 0, 100));
    assertThat(only(edit.apply(take, ground())).velocity()).isEqualTo(after);
  }

  /** Worked value 24. */
  @Test
  void thePedalIsLiftedInAStretch() {
    Take pedal = take(Note.of(1, Note.PEDAL, 127, 0, 0, 3000));
    assertThat(new Edit.DeletePedal(960, 1920).apply(pedal, ground()).sounding())
        .extracting(Note::meant, Note::length)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(0L, 960L),
            org.assertj.core.groups.Tuple.tuple(1920L, 1080L));
  }

  /** Worked value 25: as loud as its place (common practice). */
  @ParameterizedTest
  @CsvSource({
    "4, 4, 50, 0, 112",
    "4, 4, 50, 480, 80",
    "4, 4, 50, 960, 96",
    "4, 4, 50, 240, 72",
    "4, 4, 66.67, 640, 80",
    "4, 4, 50, 3840, 112",
    "4, 4, 50, 3830, 112",
    "6, 8, 50, 0, 112",
    "6, 8, 50, 480, 96",
    "6, 8, 50, 240, 80"
  })
  void accents(int beats, int unit, double swing, long place, int velocity) {
    InputGrid grid = InputGrid.of(Grid.EIGHTH).withSwing(swing);
    assertThat(Accents.at(place, Meter.of(beats, unit), grid)).isEqualTo(velocity);
  }

  /** Hats on quarters over eight bars are 32; copied half a beat on, 64 (common practice). */
  @Test
  void copiesLieInTheLayerOfTheirOriginal() {
    Layer first = new Layer(1, List.of(Note.of(1, 36, 90, 0, 0, 60)));
    Layer second = new Layer(2, List.of(Note.of(2, 42, 90, 960, 960, 60)));
    Take take = Take.of(1, List.of(first, second));
    Take copied =
        new Edit.Copy(new Chosen.OfPitch(42), 480, 0, Optional.empty(), Optional.empty())
            .apply(take, ground());
    assertThat(copied.layers().get(0)).isEqualTo(first);
    assertThat(copied.layers().get(1).notes()).extracting(Note::meant).containsExactly(960L, 1440L);
    assertThat(copied.layers().get(1).notes().get(1).id()).isEqualTo(500);
  }

  /** A figure over a bar line takes up two bars: pasted twice it stands four bars on. */
  @ParameterizedTest
  @CsvSource({"960, 1920, 1, 3840", "2880, 4800, 2, 15360", "3840, 3840, 3, 11520"})
  void copiesOnLieAfterTheBarsThatTheyTakeUp(long first, long last, int times, long on) {
    Take take =
        Take.of(
            1,
            List.of(
                new Layer(
                    1,
                    List.of(
                        Note.of(1, 36, 90, first, first, 60),
                        Note.of(2, 38, 90, last, last, 60)))));
    Ground long8 =
        new Ground(ground().show(), ground().part(), new LoopWindow(0, 8 * 3840), ground().ids());
    List<Note> copied =
        new Edit.CopyOn(new Chosen.All(), times).apply(take, long8).layers().get(0).notes();
    assertThat(copied)
        .filteredOn(note -> note.id() >= 500)
        .extracting(Note::meant)
        .containsExactly(first + on, last + on);
  }

  @Test
  void aDrawnNoteLiesInTheNewestLayerAndIsAsLoudAsItsPlace() {
    Take two = Take.of(1, List.of(new Layer(1, List.of(played(0, 0))), Layer.empty(2)));
    Edit draw = new Edit.Draw(38, 960, 120, OptionalInt.empty(), OptionalInt.empty());
    Note drawn = draw.apply(two, ground()).layers().get(1).notes().get(0);
    assertThat(drawn).isEqualTo(Note.of(500, 38, 96, 960, 960, 120));
    Edit below = new Edit.Draw(38, 960, 120, OptionalInt.of(5), OptionalInt.of(1));
    assertThat(below.apply(two, ground()).layers().get(0).notes()).hasSize(2);
    assertThatThrownBy(
            () ->
                new Edit.Draw(38, 960, 120, OptionalInt.of(5), OptionalInt.of(7))
                    .apply(two, ground()))
        .isInstanceOf(Refusal.class);
  }

  /** The onsets and accents of another clip: 990 is a late second beat there, and soft. */
  @Test
  void theFeelOfAnotherClip() {
    Edit feel = new Edit.ToGrid(ALL, Optional.empty(), 100, 50, false, Optional.of(HATS));
    Note felt = only(feel.apply(take(played(950, 960)), ground()));
    assertThat(felt).extracting(Note::meant, Note::velocity).containsExactly(990L, 60);
    Note last = only(feel.apply(take(played(3800, 3800)), ground()));
    assertThat(last.meant()).as("nearest is the first, round the circle").isZero();
    Edit half = new Edit.ToGrid(ALL, Optional.empty(), 50, 50, false, Optional.of(HATS));
    assertThat(only(half.apply(take(played(950, 960)), ground())))
        .extracting(Note::meant, Note::velocity)
        .containsExactly(970L, 75);
  }

  @Test
  void endsGoToTheGridTooIfWished() {
    Edit both = new Edit.ToGrid(ALL, Optional.of(Grid.EIGHTH), 100, 50, true, Optional.empty());
    Note note = only(both.apply(take(Note.of(1, 60, 90, 470, 470, 300)), ground()));
    assertThat(note).extracting(Note::meant, Note::length).containsExactly(480L, 480L);
    Note round = only(both.apply(take(Note.of(1, 60, 90, 3700, 3700, 400)), ground()));
    assertThat(round).extracting(Note::meant, Note::length).containsExactly(0L, 480L);
  }

  @Test
  void controllersGoAlongWhereAWholeStretchIsMoved() {
    ControllerMove bend = new ControllerMove(1, Controller.BEND, 100, 9000);
    Take take =
        Take.of(
            1, List.of(new Layer(1, List.of(played(50, 50)), List.of(bend), List.of(), List.of())));
    Take along = new Edit.Move(new Chosen.Within(0, 960), 960, 0).apply(take, ground());
    assertThat(along.soundingMoves()).extracting(ControllerMove::place).containsExactly(1060L);
    Take alone = new Edit.Move(new Chosen.Ids(List.of(1L)), 960, 0).apply(take, ground());
    assertThat(alone.soundingMoves()).extracting(ControllerMove::place).containsExactly(100L);
  }

  @Test
  void controllersAreThinnedAndTakenOut() {
    Take take = take(played(0, 0));
    for (long place = 0; place < 960; place += 10) {
      take = take.withMove(1, new ControllerMove(Controller.BEND, place, (int) place));
    }
    Take thin = new Edit.ThinMoves(Controller.BEND, 0, 480, 120).apply(take, ground());
    assertThat(thin.soundingMoves().filter(m -> m.place() < 480))
        .extracting(ControllerMove::place)
        .containsExactly(110L, 230L, 350L, 470L);
    assertThat(thin.soundingMoves().filter(m -> m.place() >= 480)).hasSize(48);
    assertThat(new Edit.DeleteMoves(Controller.BEND, 0, 960).apply(take, ground()).moveCount())
        .isZero();
  }

  /** What is taken out or peeled off is edited only by its id. */
  @Test
  void allIsWhatSounds() {
    Layer first = new Layer(1, List.of(played(0, 0), Note.of(2, 62, 90, 10, 10, 60)));
    Take take =
        Take.of(1, List.of(first, Layer.empty(2).withOut(List.of(2L), List.of())))
            .with(new Layer(3, List.of(Note.of(3, 64, 90, 20, 20, 60))), false);
    Take deleted = new Edit.Delete(ALL).apply(take, ground());
    assertThat(deleted.allLayers().flatMap(l -> l.notes().stream()))
        .extracting(Note::id)
        .containsExactly(2L, 3L);
    Take byId = new Edit.Delete(new Chosen.Ids(List.of(3L))).apply(take, ground());
    assertThat(byId.holds(3)).isFalse();
  }

  /** Not even what a layer takes out that is in none any more. */
  @Test
  void anEditOfNothingChangesNothing() {
    Layer stray = Layer.empty(2).withOut(List.of(99L), List.of());
    Take take = Take.of(1, List.of(new Layer(1, List.of(played(0, 0))), stray));
    Edit none = new Edit.Delete(new Chosen.OfPitch(127));
    assertThat(Editing.of(take, List.of(none), ground(), layer -> false)).isEqualTo(take);
  }

  /** A layer that is left with nothing goes, but for the last one. */
  @Test
  void emptiedLayersGo() {
    Take two =
        Take.of(
            1,
            List.of(
                new Layer(1, List.of(played(0, 0))),
                new Layer(2, List.of(Note.of(2, 62, 90, 0, 0, 60)))));
    Take one =
        Editing.of(two, List.of(new Edit.Delete(new Chosen.OfLayer(2))), ground(), layer -> false);
    assertThat(one.layers()).extracting(Layer::number).containsExactly(1);
    Take recorded =
        Editing.of(
            two, List.of(new Edit.Delete(new Chosen.OfLayer(2))), ground(), layer -> layer == 2);
    assertThat(recorded.layers()).extracting(Layer::number).containsExactly(1, 2);
    Take none = Editing.of(two, List.of(new Edit.Delete(ALL)), ground(), layer -> false);
    assertThat(none.layers()).hasSize(1);
    assertThat(none.noteCount()).isZero();
  }

  @Test
  void whatIsSaidBefore() {
    Take before = take(played(250, 250), Note.of(2, 62, 90, 3790, 3790, 60));
    Take after = toGrid(Grid.SIXTEENTH, 100).apply(before, ground());
    assertThat(Difference.NONE.and(before, after, new LoopWindow(0, 3840)).words())
        .isEqualTo("moves 2 of 2 notes by up to 50 ticks");
    Take gone = new Edit.Delete(new Chosen.OfPitch(62)).apply(before, ground());
    assertThat(Difference.NONE.and(before, gone, new LoopWindow(0, 3840)).words())
        .isEqualTo("takes out 1 of 2 notes");
  }
}
