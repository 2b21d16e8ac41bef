package ancora.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.show.Balance;
import ancora.core.show.PartId;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Rule 19: runs are trimmed, cut, repeated, and changed passage by passage. */
class RunEditTest {

  private static final long BAR = 3840;
  private static final PartId KEYS = new PartId(1);
  private static final PartId BASS = new PartId(2);

  /**
   * Eight bars at 120, and from bar 5 at 60. The keys sound clip a, a stroke a bar, for four bars,
   * then for four a drone; a hand plays in bar 6 and bends. The bass holds a note from bar 3 to bar
   * 7. Section A enters in bar 1, B in bar 5.
   */
  private static Run run() {
    Passage a =
        passage(1, "a", 0, 4, IntStream.range(0, 4).mapToObj(i -> note(i * BAR, 60, 960)).toList());
    Passage b = passage(2, "b", 4, 8, List.of(note(0, 67, 4 * BAR)));
    RunPart keys =
        part(
            KEYS,
            List.of(a, b),
            List.of(note(5 * BAR, 72, 480)),
            List.of(
                new ControllerMove(Controller.BEND, 5 * BAR, 9000),
                new ControllerMove(Controller.BEND, 7 * BAR, Controller.BEND_CENTRE)));
    RunPart bass = part(BASS, List.of(), List.of(note(2 * BAR, 40, 4 * BAR)), List.of());
    TempoMap map =
        new TempoMap(
            List.of(
                new TempoMap.Anchor(0, 0, Tempo.of(120)),
                new TempoMap.Anchor(4 * BAR, 8_000_000, Tempo.of(60))));
    return new Run(
        map,
        Meter.COMMON,
        0,
        8 * BAR,
        List.of(keys, bass),
        List.of(new From.OfSection(0, "A", ""), new From.OfSection(4 * BAR, "B", "Lamp")));
  }

  private static RunNote note(long place, int pitch, long length) {
    return new RunNote(place, pitch, 90, length);
  }

  private static Passage passage(
      int number, String letter, int fromBar, int untilBar, List<RunNote> notes) {
    return new Passage(
        number,
        new ClipId(number),
        letter,
        "",
        new LoopWindow(0, BAR),
        fromBar * BAR,
        fromBar * BAR,
        untilBar * BAR,
        notes,
        List.of());
  }

  private static RunPart part(
      PartId id, List<Passage> passages, List<RunNote> hands, List<ControllerMove> moves) {
    return new RunPart(
        id,
        "part " + id.value(),
        0,
        List.of(new From.OfSound(0, Sound.of(4))),
        List.of(new From.OfBalance(0, Balance.DEFAULT, true)),
        passages,
        hands,
        moves);
  }

  private static List<Long> attacks(RunPart part, int pitch) {
    List<Long> ticks = new ArrayList<>();
    part.passages()
        .forEach(
            p ->
                p.notes().stream()
                    .filter(n -> n.pitch() == pitch)
                    .forEach(n -> ticks.add(p.from() + n.place())));
    part.hands().stream().filter(n -> n.pitch() == pitch).forEach(n -> ticks.add(n.place()));
    return ticks;
  }

  private static RunNote only(List<RunNote> notes) {
    assertThat(notes).hasSize(1);
    return notes.get(0);
  }

  private static Run ofKeys(long until, Passage... passages) {
    RunPart keys = part(KEYS, List.of(passages), List.of(), List.of());
    return run().withUntil(until).withParts(List.of(keys));
  }

  /** What was under way where a run was broken off is one; what comes later keeps its pickup. */
  @Test
  void aRunThatWasBrokenOffIsJoinedPassageByPassage() {
    List<RunNote> strokes =
        IntStream.range(0, 4).mapToObj(i -> note(i * BAR + 480, 60, 960)).toList();
    Passage picked = passage(2, "b", 4, 8, List.of(note(-480, 67, 480), note(0, 67, 960)));
    Run before = ofKeys(2 * BAR, passage(1, "a", 0, 2, strokes.subList(0, 2)));
    Run after = ofKeys(8 * BAR, passage(1, "a", 0, 4, strokes.subList(2, 4)), picked);
    assertThat(before.followedBy(after).part(KEYS).passages())
        .containsExactly(passage(1, "a", 0, 4, strokes), picked.withNumber(3));
  }

  @Test
  void trimmedItBeginsInAnotherBar() {
    Run run = new RunEdit.Trim(3, 4).of(run());
    RunPart keys = run.part(KEYS);
    assertThat(run.from()).isZero();
    assertThat(run.until()).isEqualTo(4 * BAR);
    assertThat(attacks(keys, 60)).containsExactly(0L, BAR);
    assertThat(attacks(keys, 67)).containsExactly(2 * BAR);
    assertThat(only(keys.passages().get(1).notes()).length()).isEqualTo(2 * BAR);
    assertThat(attacks(keys, 72)).containsExactly(3 * BAR);
    assertThat(run.sections()).extracting(From.OfSection::tick).containsExactly(0L, 2 * BAR);
    // two bars at 120 in 4/4 last 4 s, at 60 they last 8 s
    assertThat(run.map().microsOf(2 * BAR)).isCloseTo(4_000_000, within(1e-3));
    assertThat(run.micros()).isCloseTo(12_000_000, within(1e-3));
  }

  @Test
  void whatIsUnderWayWhereItBeginsIsAttackedThere() {
    Run run = new RunEdit.Trim(7, 2).of(run());
    assertThat(attacks(run.part(KEYS), 67)).containsExactly(0L);
    assertThat(run.part(KEYS).passages()).extracting(Passage::letter).containsExactly("b");
    assertThat(run.part(BASS).isSilent()).as("it ended where bar 7 begins").isTrue();
    // the bend stands where it stood
    assertThat(run.part(KEYS).moves())
        .extracting(ControllerMove::place, ControllerMove::value)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(0L, 9000),
            org.assertj.core.groups.Tuple.tuple(BAR, Controller.BEND_CENTRE));
  }

  @Test
  void whereBarsAreCutWhatFollowsMovesUp() {
    Run run = new RunEdit.Cut(Optional.empty(), 3, 4).of(run());
    assertThat(run.until()).isEqualTo(4 * BAR);
    assertThat(attacks(run.part(KEYS), 60)).containsExactly(0L, BAR);
    assertThat(attacks(run.part(KEYS), 67)).as("attacked at the seam").containsExactly(2 * BAR);
    assertThat(attacks(run.part(KEYS), 72)).isEmpty();
    assertThat(run.sections()).extracting(From.OfSection::letter).containsExactly("A", "B");
  }

  @Test
  void whatSoundsAtBothSidesOfASeamGoesOnOverIt() {
    Run run = new RunEdit.Cut(Optional.empty(), 6, 1).of(run());
    RunPart keys = run.part(KEYS);
    assertThat(keys.passages()).hasSize(2);
    assertThat(only(keys.passages().get(1).notes()).length()).isEqualTo(3 * BAR);
    assertThat(only(run.part(BASS).hands()).length()).isEqualTo(3 * BAR);
    assertThat(keys.moves()).as("the bend of the bar that is gone").hasSize(2);
  }

  @Test
  void ofOnePartAloneTheOthersStay() {
    Run run = new RunEdit.Cut(Optional.of(KEYS), 1, 4).of(run());
    assertThat(run.until()).isEqualTo(8 * BAR);
    assertThat(attacks(run.part(KEYS), 67)).containsExactly(0L);
    assertThat(run.part(BASS)).isEqualTo(run().part(BASS));
  }

  @Test
  void aStretchSoundsSeveralTimes() {
    Run run = new RunEdit.Repeat(Optional.empty(), 1, 2, 3).of(run());
    assertThat(run.bars()).isEqualTo(12);
    RunPart keys = run.part(KEYS);
    assertThat(keys.passages()).as("a loop goes on as if there were no seam").hasSize(2);
    assertThat(attacks(keys, 60)).hasSize(8);
    assertThat(attacks(keys, 67)).containsExactly(8 * BAR);
    assertThat(run.micros()).isCloseTo(8 * 2e6 + 4 * 4e6, within(1e-3));
  }

  @Test
  void aSectionThatSoundsTwiceIsEnteredTwice() {
    Run run = new RunEdit.Repeat(Optional.empty(), 5, 4, 2).of(run());
    assertThat(run.sections())
        .extracting(From.OfSection::tick)
        .containsExactly(0L, 4 * BAR, 8 * BAR);
    assertThat(attacks(run.part(KEYS), 72)).containsExactly(5 * BAR, 9 * BAR);
    assertThat(run.part(KEYS).passages())
        .extracting(Passage::number)
        .as("each passage has a number of its own")
        .doesNotHaveDuplicates();
  }

  @Test
  void passagesAreDeletedMovedAndGivenAnotherClip() {
    Run deleted = new RunEdit.DeletePassage(1).of(run());
    assertThat(deleted.part(KEYS).passages()).extracting(Passage::letter).containsExactly("b");
    assertThat(attacks(deleted.part(KEYS), 72)).as("hands stay").hasSize(1);

    Run moved = new RunEdit.MovePassage(1, 2).of(run());
    assertThat(attacks(moved.part(KEYS), 60)).containsExactly(2 * BAR, 3 * BAR, 4 * BAR, 5 * BAR);
    assertThatThrownBy(() -> new RunEdit.MovePassage(1, -1).of(run())).isInstanceOf(Refusal.class);

    Clip clip =
        Clip.of(
            new ClipId(9),
            "c",
            new LoopWindow(0, 2 * BAR),
            List.of(Note.of(1, 50, 80, 960, 960, 480), Note.of(2, 52, 80, BAR, BAR, 480)));
    Run given = new RunEdit.GiveClip(1, clip).of(run());
    Passage passage = given.passage(1);
    assertThat(passage.letter()).isEqualTo("c");
    assertThat(passage.notes())
        .extracting(RunNote::place)
        .containsExactly(960L, BAR, 2 * BAR + 960, 3 * BAR);
    assertThat(given.passage(2)).isEqualTo(run().passage(2));
  }

  @Test
  void whatIsNotThereIsRefusedInASentence() {
    assertThatThrownBy(() -> new RunEdit.Cut(Optional.empty(), 9, 1).of(run()))
        .hasMessage("Bar 9 is not in this run: it has bars 1 to 8.");
    assertThatThrownBy(() -> new RunEdit.Cut(Optional.empty(), 8, 2).of(run()))
        .hasMessage("The run ends before that: choose fewer bars.");
    assertThatThrownBy(() -> new RunEdit.Cut(Optional.empty(), 1, 8).of(run()))
        .hasMessage("Leave at least a bar of the run.");
    assertThatThrownBy(() -> new RunEdit.Repeat(Optional.empty(), 1, 8, 100).of(run()))
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new RunEdit.DeletePassage(7).of(run()))
        .hasMessage("That passage is not in this run any more.");
  }

  @Test
  void undoneToTheBeginningItIsAsPerformed() {
    RunHistory history =
        RunHistory.of(run())
            .with(new RunEdit.Cut(Optional.empty(), 3, 2))
            .with(new RunEdit.DeletePassage(2))
            .with(new RunEdit.Trim(2, 3));
    Run edited = history.run();
    RunHistory undone = history.undo().undo().undo();
    assertThat(undone.run()).isEqualTo(run());
    assertThat(undone.redo().redo().redo().run()).isEqualTo(edited);
    assertThatThrownBy(undone::undo).hasMessage("The run is as it was performed.");
  }

  @Test
  void aStretchOfOnePartIsTakenOut() {
    RunPart stretch = run().stretch(KEYS, 4, 3);
    assertThat(attacks(stretch, 60)).containsExactly(0L);
    assertThat(attacks(stretch, 67)).containsExactly(BAR);
    assertThat(attacks(stretch, 72)).containsExactly(2 * BAR);
  }

  /** A conservation law: what is cut out and what is left are together all that sounded. */
  @Property(tries = 200)
  void nothingIsLostByACut(@ForAll long seed) {
    Random random = new Random(seed);
    List<RunNote> hands = new ArrayList<>();
    long free = 0;
    while (free < 8 * BAR - 4000) {
      long place = free + random.nextInt(2000);
      long length = 240 + random.nextInt(3000);
      hands.add(note(place, 60, Math.min(length, 8 * BAR - place)));
      free = place + length;
    }
    RunPart keys = part(KEYS, List.of(), hands, List.of());
    Run whole = run().withParts(List.of(keys));
    int from = 1 + random.nextInt(7);
    int bars = 1 + random.nextInt(8 - from);
    RunPart left = new RunEdit.Cut(Optional.empty(), from, bars).of(whole).part(KEYS);
    RunPart cut = whole.stretch(KEYS, from, bars);
    long lost =
        hands.stream().filter(n -> isShortAt(n, (from - 1) * BAR)).count()
            + hands.stream().filter(n -> isShortAt(n, (from - 1 + bars) * BAR)).count();
    long before = hands.stream().mapToLong(RunNote::length).sum();
    long after =
        left.hands().stream().mapToLong(RunNote::length).sum()
            + cut.hands().stream().mapToLong(RunNote::length).sum();
    assertThat(before - after).isBetween(0L, lost * 240);
  }

  /** What is left of a note over a seam is too short for an attack. */
  private static boolean isShortAt(RunNote note, long seam) {
    return note.isUnderWayAt(seam) && note.end() - seam < 240;
  }

  @Property(tries = 200)
  void passesThatAreAlikeAreKeptOnce(@ForAll long seed) {
    Random random = new Random(seed);
    long from = random.nextInt(10) * 960L;
    long phase = from - random.nextInt(5000);
    List<RunNote> notes = new ArrayList<>();
    for (long begins = 0; begins < 20 * BAR; begins += BAR) {
      boolean other = random.nextInt(5) == 0;
      notes.add(note(begins + 10, other ? 61 : 60, 100));
      notes.add(note(begins + 2000, 64, 100));
    }
    Passage passage =
        passage(1, "a", 0, 40, notes).with(p -> p.phase(phase).from(from).until(from + 21 * BAR));
    List<Round> rounds = Round.fold(passage);
    assertThat(Round.unfold(rounds, from)).isEqualTo(notes);
    assertThat(rounds.size()).isLessThanOrEqualTo(21);
  }

  @Test
  void aLoopThatGoesRoundAlikeIsOneRound() {
    assertThat(Round.fold(run().passage(1)))
        .singleElement()
        .satisfies(round -> assertThat(round.times()).isEqualTo(4));
  }
}
