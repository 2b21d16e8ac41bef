package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;

/**
 * All that a performer mends of a night, while the band of the demo plays on: once by mouse, once
 * by keys alone. At the end everything is taken back, step by step.
 */
class WorkshopStoryTest extends HeldNight {

  private static final int KIT = 1;
  private static final int BASS = 2;
  private static final int KEYS = 3;
  private static final int KICK = 36;
  private static final int RIM = 37;
  private static final int SNARE = 38;
  private static final int HAT = 42;

  private HeldStage stage;
  private Page page;
  private Workbench bench;

  @BeforeEach
  void begin() {
    stage = HeldStage.open(hand, house, 1);
    page = stage.page();
    bench = new Workbench(stage);
    stage.send("{ do: 'setTempo', bpm: 300 }");
    stage.press("Space");
    stage.until("ancora.state.transport.rolling");
    page.evaluate(
        """
        () => {
          globalThis.stopped = false;
          ancora.connection.addEventListener("state", () => (stopped ||= !ancora.state.transport.rolling));
          globalThis.played = [];
          const { sound } = ancora;
          const down = sound.down.bind(sound);
          sound.down = (part, pitch, velocity) => {
            played.push(pitch);
            down(part, pitch, velocity);
          };
        }""");
    bench.remember();
  }

  @AfterEach
  void end() {
    assertThat(page.evaluate("() => stopped")).as("it stopped").isEqualTo(false);
    stage.send("{ do: 'stop' }");
    stage.until("!ancora.state.transport.rolling");
  }

  private void grid(String grid) {
    page.locator("#workshop-grid").selectOption(grid);
  }

  private void cue(int part, int place) {
    String of = "ancora.state.parts.get(%s)".formatted(part);
    String clip = "%s.shelf[%s]".formatted(of, place);
    stage.send("{ do: 'cueClip', part: %s, clip: %s }".formatted(part, clip));
    stage.until("%s.vamp?.clip === %s".formatted(of, clip));
  }

  private int shelf(int part) {
    return ((Number) page.evaluate("(part) => ancora.state.parts.get(part).shelf.length", part))
        .intValue();
  }

  private void shelfIs(int part, int clips) {
    stage.until("ancora.state.parts.get(%s).shelf.length === %s".formatted(part, clips));
  }

  @Test
  void byMouse() {
    bench.openClip(KIT, 0, "Kit a");
    int notes = bench.notes();

    // the stray stroke is seen, and taken out
    bench.press(RIM, bench.places(RIM).get(0));
    stage.click(page.locator("#tool-delete"));
    bench.until("notes.length === %s".formatted(notes - 1));

    // a late kick comes a sixty-fourth earlier
    grid("1/64");
    bench.press(KICK, 1680);
    stage.click(page.locator("#tool-earlier"));
    bench.until("notes.some((n) => n[1] === 36 && n[3] === 1620)");

    // the hats to the grid at 80 % with a little swing: said before; then as they were played
    List<Long> played = bench.places(HAT);
    stage.click(bench.row("Closed"));
    grid("1/8");
    bench.set("#workshop-strength", 80);
    bench.set("#workshop-swing", 58);
    stage.soon(
        () ->
            assertThat(page.locator("#workshop-will"))
                .hasText("moves 7 of 25 notes by up to 62 ticks."));
    stage.click(page.locator("#tool-to-grid"));
    bench.until("notes.some((n) => n[1] === 42 && n[3] === 542)");
    stage.click(page.locator("#tool-as-played"));
    bench.until("!notes.some((n) => n[1] === 42 && n[3] === 542)");
    assertThat(bench.places(HAT)).isEqualTo(played);

    // the quarters on by an eighth as well, and just the copies softer
    stage.click(bench.row("Snare"));
    List<Long> loud = bench.loudness();
    stage.click(page.locator("#tool-copy"));
    bench.until("notes.filter((n) => n[1] === 38).length === 8 && choice.ids.size === 4");
    stage.click(page.locator("#tool-softer"));
    bench.until("notes.filter((n) => n[1] === 38).some((n) => n[2] === 92)");
    assertThat(bench.loudness()).isEqualTo(loud.stream().map(l -> l - 8).toList());
    assertThat(bench.places(SNARE))
        .containsExactly(960L, 1440L, 2880L, 3360L, 4800L, 5280L, 6720L, 7200L);

    // a bar is drawn that does not sound flat: downbeat 112, beat 96, halves 80, between 72
    grid("1/16");
    stage.click(page.locator("#tool-draw"));
    for (long place : new long[] {960, 480, 240, 0}) {
      bench.press(RIM, place);
      bench.until("notes.some((n) => n[1] === 37 && n[3] === %s)".formatted(place));
    }
    stage.click(page.locator("#tool-draw"));
    bench.row("Side Stick").click();
    assertThat(bench.loudness()).containsExactly(112L, 72L, 80L, 96L);

    // a snare becomes a side stick by moving it a row, and is heard as one
    page.evaluate("() => { played.length = 0; }");
    bench.drag(bench.at(SNARE, 2880), bench.at(RIM, 2880));
    bench.until("notes.some((n) => n[1] === 37 && n[3] === 2880)");
    assertThat((List<?>) page.evaluate("() => played")).last().isEqualTo(RIM);

    // what the second layer added is chosen by a press; it is peeled, and put back
    stage.click(page.locator(".layerrow").first());
    stage.soon(() -> assertThat(page.locator("#workshop-words")).containsText(" chosen"));
    stage.click(page.locator("#layers-peel"));
    bench.until("thing.layers.length === 1");
    stage.click(page.locator("#layers-restore"));
    bench.until("thing.layers.length === 2");
    stage.click(page.locator("#workshop-close"));

    // chords out to the next
    bench.openClip(KEYS, 0, "Keys a");
    bench.sweepAll();
    stage.click(page.locator("#tool-to-next"));
    bench.until("notes.every((n) => n[4] === 3840)");
    stage.click(page.locator("#workshop-close"));

    // the pedal out of the first bar
    bench.openClip(KEYS, 1, "Keys b");
    page.evaluate("() => ancora.workshop.scale.show(0, 3840)");
    page.evaluate("() => ancora.workshop.changed()");
    stage.click(page.locator(".strip-row button").filter(withText("take out")));
    bench.until("notes.filter((n) => n[1] === 128).length === 1");

    // cut, repeated, copied to another part
    page.locator("#clip-bars").selectOption("1");
    int before = shelf(KEYS);
    stage.click(page.locator("#clip-cut"));
    shelfIs(KEYS, before + 2);
    page.locator("#clip-times").selectOption("4");
    stage.click(page.locator("#clip-repeat"));
    bench.until("thing.length === 4 * 7680");
    int bells = shelf(5);
    page.locator("#clip-part").selectOption("5");
    stage.click(page.locator("#clip-copy"));
    shelfIs(5, bells + 1);
    stage.click(page.locator("#workshop-close"));

    // six takes: each heard by one press, the best swept together, one stretch changed
    cue(BASS, 1);
    bench.recordTakes(BASS, 6);
    bench.openStave(BASS, "Bass b");
    stage.soon(() -> assertThat(page.locator("#workshop-takes li")).hasCount(7));
    for (int take : new int[] {2, 5, 1}) {
      stage.click(
          page.locator("#workshop-takes button[aria-label^='hear take %s']".formatted(take)));
      bench.until("thing.take === %s".formatted(take));
    }
    sweep(3, 0.26, 0.48);
    sweep(6, 0.76, 0.99);
    stage.click(page.locator("#comp-make"));
    bench.until("thing.takes.find((t) => t.number === thing.take).stretches?.length === 4");
    assertThat(stretches()).isEqualTo("[[0,1920,1],[1920,3840,3],[3840,5760,1],[5760,7680,6]]");
    sweep(4, 0.01, 0.24);
    bench.until("thing.takes.find((t) => t.number === thing.take).stretches[0].take === 4");
    assertThat(stretches()).isEqualTo("[[0,1920,4],[1920,3840,3],[3840,5760,1],[5760,7680,6]]");
    // what was swept by hand leaves the keyboard to the performer
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
    stage.press("Space");
    stage.until("ancora.state.transport.rolling");
    page.evaluate("() => (stopped = false)");

    // some laid in a row, the rest spread
    for (int take : new int[] {2, 4, 5}) {
      stage.click(page.locator("input[aria-label='take %s in the row']".formatted(take)));
    }
    int clips = shelf(BASS);
    stage.click(page.locator("#takes-row"));
    shelfIs(BASS, clips + 1);
    assertThat(
            page.evaluate(
                "() => ancora.state.clips.get(ancora.state.parts.get(2).shelf.at(-1)).length"))
        .isEqualTo(3 * 7680);
    stage.click(page.locator("#takes-spread"));
    stage.until("ancora.state.parts.get(2).shelf.length > " + (clips + 2));
    stage.click(page.locator("#workshop-close"));
    bench.undoAll(() -> stage.send("{ do: 'undo', sure: true }"), 60);
  }

  private static com.microsoft.playwright.Locator.FilterOptions withText(String words) {
    return new com.microsoft.playwright.Locator.FilterOptions().setHasText(words);
  }

  private Object stretches() {
    return page.evaluate(
        """
        () => {
          const { thing } = ancora.workshop;
          const { stretches } = thing.takes.find((take) => take.number === thing.take);
          return JSON.stringify(stretches.map(({ from, to, take }) => [from, to, take]));
        }""");
  }

  private void sweep(int take, double from, double to) {
    var stave = page.locator(".takestave[data-take='%s']".formatted(take));
    stave.scrollIntoViewIfNeeded();
    BoundingBox box = stave.boundingBox();
    bench.drag(
        new double[] {box.x + box.width * from, box.y + 12},
        new double[] {box.x + box.width * to, box.y + 12});
  }

  /** A control is gone to, as Tab goes, and pressed by Enter. */
  private void enter(String control) {
    page.locator(control).focus();
    stage.press("Enter");
  }

  private void keys(String... keys) {
    for (String key : keys) {
      stage.press(key);
    }
  }

  private void sheet() {
    page.locator("#workshop-sheet").focus();
  }

  /** Chooses by keys the first note of a pitch at a place. */
  private void find(int pitch, long place) {
    sheet();
    page.evaluate("() => ancora.workshop.choose([])");
    for (int i = 0; i < 60; i++) {
      keys("Control+ArrowRight");
      if (Boolean.TRUE.equals(
          page.evaluate(
              "([p, m]) => { const [n] = ancora.workshop.chosenNotes(); return n[1] === p && n[3] === m; }",
              List.of(pitch, (double) place)))) {
        return;
      }
    }
    throw new AssertionError("no note of pitch %s at %s".formatted(pitch, place));
  }

  private void choice(String select, String value) {
    // a list that has the focus is gone through by its arrows; the value is what they come to
    page.locator(select).focus();
    page.locator(select).selectOption(value);
  }

  /** The same once more, which takes its time: in long tests. */
  @EnabledIfSystemProperty(named = "ancora.long", matches = "true")
  @Test
  void byKeysAlone() {
    stage.send("{ do: 'arm', part: 1 }");
    stage.until("ancora.state.armed === 1");
    keys("Alt+a");
    stage.until("ancora.state.parts.get(1).vamp?.clip === ancora.state.parts.get(1).shelf[0]");
    keys("F9");
    bench.opened("Kit a");
    int notes = bench.notes();
    Object bpm = page.evaluate("() => ancora.state.show.bpm");

    find(RIM, 7440);
    keys("Delete");
    bench.until("notes.length === %s".formatted(notes - 1));
    // with nothing chosen Delete does nothing: it never takes the clip off
    keys("Delete");

    find(KICK, 1680);
    keys("Alt+ArrowLeft");
    bench.until("notes.some((n) => n[1] === 36 && n[3] === 1620)");

    List<Long> played = bench.places(HAT);
    bench.row("Closed").focus();
    keys("Enter");
    choice("#workshop-grid", "1/8");
    page.locator("#workshop-swing").focus();
    for (int i = 0; i < 16; i++) {
      keys("ArrowRight");
    }
    page.locator("#workshop-strength").focus();
    for (int i = 0; i < 20; i++) {
      keys("ArrowLeft");
    }
    stage.soon(
        () ->
            assertThat(page.locator("#workshop-will"))
                .hasText("moves 7 of 25 notes by up to 62 ticks."));
    enter("#tool-to-grid");
    bench.until("notes.some((n) => n[1] === 42 && n[3] === 542)");
    enter("#tool-as-played");
    bench.until("!notes.some((n) => n[1] === 42 && n[3] === 542)");
    assertThat(bench.places(HAT)).isEqualTo(played);

    bench.row("Snare").focus();
    keys("Enter");
    enter("#tool-copy");
    bench.until("notes.filter((n) => n[1] === 38).length === 8 && choice.ids.size === 4");
    sheet();
    keys("[");
    bench.until("notes.filter((n) => n[1] === 38).some((n) => n[2] === 92)");
    assertThat(bench.loudness()).containsExactly(92L, 92L, 92L, 92L);

    // the copies again a bar on: there, round the circle, and once more
    keys("Control+c", "Control+v");
    bench.until("notes.filter((n) => n[1] === 38).length > 8");
    keys("Control+z");
    bench.until("notes.filter((n) => n[1] === 38).length === 8");

    choice("#workshop-grid", "1/16");
    sheet();
    page.evaluate("() => ancora.workshop.choose([])");
    keys("ArrowRight", "Insert");
    bench.until("notes.length === %s".formatted(notes + 4));
    bench.until("choice.ids.size === 1");
    assertThat(bench.loudness()).containsExactly(112L);

    find(SNARE, 2880);
    page.evaluate("() => { played.length = 0; }");
    keys("ArrowDown");
    bench.until("notes.some((n) => n[1] === 37 && n[3] === 2880)");
    assertThat((List<?>) page.evaluate("() => played")).last().isEqualTo(RIM);

    enter(".layerrow >> nth=0");
    stage.soon(() -> assertThat(page.locator("#workshop-words")).containsText(" chosen"));
    enter("#layers-peel");
    bench.until("thing.layers.length === 1");
    enter("#layers-restore");
    bench.until("thing.layers.length === 2");
    keys("F9");

    keys("PageDown", "PageDown");
    stage.until("ancora.state.armed === 3");
    keys("Alt+a");
    stage.until("ancora.state.parts.get(3).vamp?.clip === ancora.state.parts.get(3).shelf[0]");
    keys("F9");
    bench.opened("Keys a");
    keys("Control+a");
    enter("#tool-to-next");
    bench.until("notes.every((n) => n[4] === 3840)");
    keys("F9", "Alt+b");
    stage.until("ancora.state.parts.get(3).vamp?.clip === ancora.state.parts.get(3).shelf[1]");
    keys("F9");
    bench.opened("Keys b");
    enter(".strip-row button >> nth=0");
    bench.until("notes.every((n) => n[1] < 128)");

    choice("#clip-bars", "1");
    int before = shelf(KEYS);
    enter("#clip-cut");
    shelfIs(KEYS, before + 2);
    choice("#clip-times", "4");
    enter("#clip-repeat");
    bench.until("thing.length === 4 * 7680");
    int bells = shelf(5);
    choice("#clip-part", "5");
    enter("#clip-copy");
    shelfIs(5, bells + 1);
    keys("F9", "PageUp");
    stage.until("ancora.state.armed === 2");

    keys("Alt+b");
    stage.until("ancora.state.parts.get(2).vamp?.clip === ancora.state.parts.get(2).shelf[1]");
    bench.recordTakes(BASS, 3);
    keys("F9");
    bench.opened("Bass b");
    stage.soon(() -> assertThat(page.locator("#workshop-takes li")).hasCount(4));
    enter("#workshop-takes button[aria-label^='hear take 1']");
    bench.until("thing.take === 1");
    // beats two to four of take 3, marked by arrows
    page.locator(".takestave[data-take='3']").focus();
    keys("ArrowRight", "ArrowRight", "Shift+ArrowRight", "Shift+ArrowRight", "Enter");
    enter("#comp-make");
    bench.until("thing.takes.find((t) => t.number === thing.take).stretches?.length === 3");
    assertThat(stretches()).isEqualTo("[[0,960,1],[960,3840,3],[3840,7680,1]]");
    page.locator(".takestave[data-take='2']").focus();
    keys("ArrowRight", "Enter");
    bench.until("thing.takes.find((t) => t.number === thing.take).stretches[0].take === 2");
    for (int take : new int[] {2, 1}) {
      page.locator("input[aria-label='take %s in the row']".formatted(take)).focus();
      keys(" ");
    }
    int clips = shelf(BASS);
    enter("#takes-row");
    shelfIs(BASS, clips + 1);
    enter("#takes-spread");
    stage.until("ancora.state.parts.get(2).shelf.length > " + (clips + 2));
    keys("F9");
    stage.soon(() -> assertThat(page.locator("#workshop")).isHidden());
    assertThat(page.evaluate("() => ancora.state.show.bpm"))
        .as("arrows are not the tempo")
        .isEqualTo(bpm);
    bench.undoAll(() -> keys("Control+z"), 100);
  }
}
