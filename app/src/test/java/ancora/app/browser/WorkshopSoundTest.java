package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.app.store.ShowStore;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Tempo;
import com.microsoft.playwright.Page;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What is mended in the Workshop is heard: where it was moved to, and nothing else disturbed. */
class WorkshopSoundTest extends HeldHouse {

  private static final PartId KIT = new PartId(1);
  private static final PartId ORGAN = new PartId(2);
  private static final int BAR = 3840;
  private static final int STICK = 37;
  private static final int C4 = 60;
  private static final int A5 = 81;
  private static final double BPM = 160;

  private Page page;

  @BeforeEach
  void begin() {
    long show = house.bean(ShowStore.class).add(show(), false);
    stage = HeldStage.listenedTo(hand, house, show);
    page = stage.page();
    stage.press("Space");
    stage.until("ancora.state.transport.rolling");
  }

  private static Show show() {
    Click silent = Click.of(false, Click.When.ALWAYS, Click.Sound.WOOD_BLOCK, -6);
    Clip strokes =
        Clip.of(
            new ClipId(101),
            "a",
            new LoopWindow(0, BAR),
            List.of(
                note(1, STICK, 0, 60),
                note(2, STICK, 960, 60),
                note(3, STICK, 1920, 60),
                note(4, STICK, 2880, 60)));
    // a tone as long as the loop, and a short one above it
    Clip tones =
        Clip.of(
            new ClipId(102),
            "a",
            new LoopWindow(0, BAR),
            List.of(note(11, C4, 0, BAR), note(12, A5, 960, 1440)));
    Take high = Take.of(2, List.of(new Layer(1, List.of(note(41, 72, 0, 2 * BAR)))));
    Clip takes =
        Clip.of(
                new ClipId(103),
                "b",
                new LoopWindow(0, 2 * BAR),
                List.of(note(31, C4, 0, BAR), note(32, C4, BAR, BAR)))
            .with(high)
            .withHeard(1);
    return Show.named("Rehearsal")
        .withTempo(Tempo.of(BPM))
        .withClick(silent)
        .withNewPart("Kit", Sound.STANDARD_KIT)
        .withNewPart("Organ", Sound.of(80))
        .mapPart(KIT, part -> dry(part).withShelf(List.of(strokes)))
        .mapPart(ORGAN, part -> dry(part).withShelf(List.of(tones, takes)))
        .withNextId(1000);
  }

  private static Part dry(Part part) {
    return part.withBalance(Balance.placed(0, 0, 0, 0));
  }

  private static Note note(long id, int pitch, long onset, long length) {
    return Note.of(id, pitch, 100, onset, onset, length);
  }

  private void tacet(int part) {
    stage.send("{ do: 'cueTacet', part: %s }".formatted(part));
    stage.until("!ancora.state.parts.get(%s).vamp".formatted(part));
  }

  /** The line of the next pass that has not begun. */
  private long nextLine() {
    return (stage.tick() / BAR + 1) * BAR;
  }

  private double[] strokes(long line) {
    return Arrays.stream(Listening.onsets(page))
        .filter(t -> t >= line - 60 && t < line + BAR - 60)
        .map(t -> t - line)
        .toArray();
  }

  /**
   * A stroke that is moved sounds at its new place in the next pass, the others where they were.
   */
  @Test
  void aMovedNoteSoundsAtItsNewPlace() {
    tacet(2);
    long before = nextLine();
    stage.untilTick(before + BAR);
    page.evaluate("() => ancora.workshop.open(1)");
    page.evaluate(
        "() => ancora.workshop.choose(ancora.workshop.thing.layers[0].notes.filter((n) => n[0] === 2))");
    page.locator("#workshop-grid").selectOption("1/8");
    stage.press("ArrowRight");
    stage.until("ancora.workshop.thing.layers[0].notes.some((n) => n[0] === 2 && n[3] === 1440)");
    long after = nextLine();
    stage.untilTick(after + BAR + 200);
    assertStrokes(strokes(before), 0, 960, 1920, 2880);
    assertStrokes(strokes(after), 0, 1440, 1920, 2880);
  }

  private static void assertStrokes(double[] heard, long... places) {
    assertThat(heard).hasSize(places.length);
    for (int i = 0; i < places.length; i++) {
      assertThat(heard[i]).isCloseTo(places[i], within(6 * BPM * 960 / 60_000));
    }
  }

  /**
   * While one note is taken away the one below it sounds on, at the same level, across the line.
   */
  @Test
  void itsNeighboursSoundOnWithoutAGap() {
    tacet(1);
    page.evaluate("() => ancora.workshop.open(2)");
    long before = nextLine();
    stage.untilTick(before + 1800);
    page.evaluate(
        "() => ancora.workshop.edits.make({ by: 'move', notes: [12], ticks: 960, semitones: 0 })");
    stage.until("ancora.workshop.thing.layers[0].notes.some((n) => n[0] === 12 && n[3] === 1920)");
    long moved = stage.tick();
    stage.untilTick(before + 2 * BAR + 300);
    long after = before + BAR;
    double[] high = tone(A5, before + 1500, after + 1500, after + 2460);
    assertThat(high[0]).as("where it was, it sounds").isGreaterThan(-60);
    assertThat(moved).as("it was moved in time for what is asserted").isLessThan(before + 2400);
    assertThat(high[1]).as("where it was, in the next pass").isLessThan(high[0] - 30);
    assertThat(high[2]).as("where it is").isCloseTo(high[0], within(2.0));
    double[] low =
        tone(
            C4,
            before + 600,
            moved,
            moved + 100,
            moved + 300,
            before + 3000,
            after - 40,
            after + 500,
            after + 1000);
    for (double level : low) {
      assertThat(level).as("dB of its neighbour").isCloseTo(low[0], within(6.0));
    }
  }

  /** A comp that is made within a bar is heard from the next bar on. */
  @Test
  void aCompIsSwitchedOnTheBar() {
    stage.send("{ do: 'cueTacet', part: 1 }");
    stage.send("{ do: 'cueClip', part: 2, clip: 103 }");
    stage.until("ancora.state.parts.get(2).vamp?.clip === 103");
    long phase = ((Number) page.evaluate("() => ancora.state.parts.get(2).vamp.phase")).longValue();
    page.evaluate("() => ancora.workshop.open(2, 103)");
    long line = phase + Math.floorDiv(nextLine() - phase + 2 * BAR - 1, 2 * BAR) * 2L * BAR;
    stage.untilTick(line + 1200);
    stage.send("{ do: 'comp', part: 2, clip: 103, stretches: [{ from: 0, to: 7680, take: 2 }] }");
    stage.untilTick(line + 2 * BAR + 600);
    // [in the bar in which it was made, in the next one]
    double[] first = tone(C4, line + 600, line + 3000, line + BAR + 600);
    double[] second = tone(72, line + 600, line + 3000, line + BAR + 600);
    assertThat(first[1]).as("the take goes on to the bar").isCloseTo(first[0], within(6.0));
    assertThat(first[2]).as("then it is not heard").isLessThan(first[0] - 20);
    assertThat(second[1]).isLessThan(second[2] - 10);
  }

  private double[] tone(int pitch, long... ticks) {
    return Listening.tone(page, 440 * Math.pow(2, (pitch - 69) / 12.0), 60, ticks);
  }

  /** What is taken out ends at once; what is brought back sounds. */
  @Test
  void whatIsTakenOutFallsSilent() {
    tacet(1);
    page.evaluate("() => ancora.workshop.open(2)");
    long line = nextLine();
    stage.untilTick(line + 1000);
    stage.press("Control+a");
    stage.press("Delete");
    stage.until("ancora.workshop.thing.layers.every((l) => l.notes.length === 0)");
    long gone = stage.tick();
    stage.untilTick(line + 2 * BAR);
    stage.send("{ do: 'undo', sure: true }");
    stage.until("ancora.workshop.thing.layers.some((l) => l.notes.length === 2)");
    long back = nextLine();
    stage.untilTick(back + 1000);
    double[] heard = Listening.levels(page, 60, line + 600, gone + 800, gone + 1800, back + 600);
    assertThat(heard[0]).isGreaterThan(-50);
    assertThat(heard[1]).as("300 ms later").isLessThan(heard[0] - 20);
    assertThat(heard[2]).isLessThan(heard[0] - 50);
    assertThat(heard[3]).isCloseTo(heard[0], within(6.0));
  }
}
