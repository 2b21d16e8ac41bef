package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The Workshop, by mouse and by keys alone, while the band of the demo plays. */
class WorkshopTest {

  @TempDir static Path data;
  private static House house;
  private Stagehand hand;
  private Page page;

  @BeforeAll
  static void open() {
    house = House.open(data, "--ancora.demo=true");
  }

  @AfterAll
  static void close() {
    house.close();
  }

  @BeforeEach
  void begin() {
    hand = new Stagehand();
    page = hand.stage(house, 1);
    page.keyboard().press("Space");
    page.waitForFunction("() => ancora.state.transport.rolling");
  }

  @AfterEach
  void end() {
    assertThat(page.evaluate("() => ancora.state.transport.rolling"))
        .as("it never stopped")
        .isEqualTo(true);
    page.evaluate("() => ancora.connection.do({ do: 'stop' })");
    page.waitForFunction("() => !ancora.state.transport.rolling");
    assertThat(hand.faults()).isEmpty();
    hand.close();
  }

  /** Meant places of a pitch in the clip that is open. */
  private List<?> places(int pitch) {
    return (List<?>)
        page.evaluate(
            """
            (pitch) => ancora.workshop.thing.layers.flatMap(({ notes }) => notes)
              .filter((note) => note[1] === pitch).map((note) => note[3]).sort((a, b) => a - b)""",
            pitch);
  }

  private int notes() {
    return ((Number)
            page.evaluate(
                "() => ancora.workshop.thing.layers.flatMap(({ notes }) => notes).length"))
        .intValue();
  }

  /** Where a note lies on the screen: its middle. */
  private double[] middleOf(int pitch, long meant) {
    BoundingBox box = page.locator("#workshop-sheet").boundingBox();
    double x =
        ((Number) page.evaluate("(t) => ancora.workshop.scale.x(t)", (double) meant)).doubleValue();
    double y = ((Number) page.evaluate("(p) => ancora.workshop.scale.y(p)", pitch)).doubleValue();
    return new double[] {box.x + x + 5, box.y + y};
  }

  private void openKit() {
    page.locator(".stave[data-part='1'] .drawing").click();
    assertThat(page.locator("#workshop-title")).hasText("Workshop: Kit a");
    page.waitForFunction("() => ancora.workshop.scale.pitches.includes(36)");
    page.waitForTimeout(100);
  }

  private void undoAll(int before) {
    for (int i = 0; i < 12 && notes() != before; i++) {
      page.evaluate("() => ancora.connection.do({ do: 'undo', sure: true })");
      page.waitForTimeout(120);
    }
  }

  @Test
  void byMouse() {
    openKit();
    int before = notes();
    // the stray note is pressed, and taken out
    double[] at = middleOf(37, ((Number) places(37).get(0)).longValue());
    page.mouse().click(at[0], at[1]);
    assertThat(page.locator("#workshop-words")).containsText("1 chosen");
    page.locator("#tool-delete").click();
    page.waitForFunction(
        "(n) => ancora.workshop.thing.layers.flatMap((l) => l.notes).length === n", before - 1);
    assertThat(page.locator("#undo"))
        .hasAttribute("title", java.util.regex.Pattern.compile(".*delete notes in Kit a.*"));

    // a kick is dragged on by a beat
    List<?> kicks = places(36);
    long first = ((Number) kicks.get(0)).longValue();
    double[] from = middleOf(36, first);
    double[] to = middleOf(36, first + 960);
    page.mouse().move(from[0], from[1]);
    page.mouse().down();
    page.mouse()
        .move(to[0] - 30, to[1], new com.microsoft.playwright.Mouse.MoveOptions().setSteps(4));
    page.mouse().move(to[0], to[1]);
    assertThat(page.locator("#workshop-bubble")).containsText("Bass Drum 1");
    page.mouse().up();
    page.waitForFunction(
        "(place) => ancora.workshop.thing.layers.some((l) => l.notes.some((n) => n[1] === 36 && n[3] === place))",
        (double) (first + 960));

    // the hats are swept together and made softer
    double[] left = middleOf(42, 0);
    double[] right = middleOf(42, 7000);
    page.mouse().move(left[0] - 20, left[1] - 14);
    page.mouse().down();
    page.mouse()
        .move(
            right[0], right[1] + 12, new com.microsoft.playwright.Mouse.MoveOptions().setSteps(5));
    page.mouse().up();
    assertThat(page.locator("#workshop-words")).containsText("chosen");
    Object loud = page.evaluate("() => ancora.workshop.chosenNotes().map((n) => n[2])");
    page.locator("#tool-softer").click();
    page.waitForFunction(
        "(loud) => ancora.workshop.chosenNotes().every((n, i) => n[2] === Math.max(1, loud[i] - 8))",
        loud);
    // copied a step on, and just the copies are chosen
    int chosen = ((List<?>) loud).size();
    page.locator("#tool-copy").click();
    page.waitForFunction(
        "(n) => ancora.workshop.thing.layers.flatMap((l) => l.notes).length === n",
        before - 1 + chosen);
    page.waitForFunction("(n) => ancora.workshop.choice.ids.size === n", chosen);

    // a note is drawn, as loud as its place
    page.locator("#tool-draw").click();
    double[] empty = middleOf(37, 3840);
    page.mouse().click(empty[0] - 4, empty[1]);
    page.waitForFunction(
        "() => ancora.workshop.thing.layers.some((l) => l.notes.some((n) => n[1] === 37 && n[3] === 3840 && n[2] === 112))");
    page.locator("#tool-draw").click();

    // to the grid: what it will do is said before
    page.locator("#workshop-sheet").focus();
    page.keyboard().press("Control+a");
    page.locator("#workshop-grid").selectOption("1/4");
    assertThat(page.locator("#workshop-will")).containsText("moves");
    undoAll(before);
    assertThat(notes()).isEqualTo(before);
    page.locator("#workshop-close").click();
    assertThat(page.locator("#workshop")).isHidden();
    assertThat(page.locator("#parts")).isVisible();
  }

  @Test
  void byKeysAlone() {
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 3 })");
    page.waitForFunction("() => ancora.state.armed === 3");
    page.keyboard().press("F9");
    assertThat(page.locator("#workshop-title")).containsText("Workshop: Keys");
    int before = notes();
    page.keyboard().press("Control+ArrowRight");
    assertThat(page.locator("#workshop-words")).containsText("1 chosen");
    Object note = page.evaluate("() => ancora.workshop.chosenNotes()[0]");
    int pitch = ((Number) ((List<?>) note).get(1)).intValue();
    int velocity = ((Number) ((List<?>) note).get(2)).intValue();
    long meant = ((Number) ((List<?>) note).get(3)).longValue();
    Object bpm = page.evaluate("() => ancora.state.show.bpm");
    page.keyboard().press("Alt+ArrowRight");
    page.keyboard().press("Shift+ArrowUp");
    page.keyboard().press("[");
    page.waitForFunction(
        "([p, v, m]) => { const [n] = ancora.workshop.chosenNotes(); return n[1] === p + 12 && n[2] === v - 8 && n[3] === m + 60; }",
        List.of(pitch, velocity, (double) meant));
    assertThat(page.evaluate("() => ancora.state.show.bpm"))
        .as("arrows are not the tempo")
        .isEqualTo(bpm);
    page.keyboard().press("Delete");
    page.waitForFunction(
        "(n) => ancora.workshop.thing.layers.flatMap((l) => l.notes).length === n", before - 1);
    page.keyboard().press("Delete");
    page.waitForTimeout(200);
    assertThat(
            page.evaluate("() => ancora.state.parts.get(3).shelf.includes(ancora.workshop.clip)"))
        .as("with nothing chosen it does nothing, and never takes the clip off")
        .isEqualTo(true);
    page.keyboard().press("Control+a");
    page.keyboard().press("Control+c");
    page.keyboard().press("Escape");
    page.keyboard().press("ArrowRight");
    page.evaluate("() => ancora.workshop.choose([])");
    page.keyboard().press("ArrowRight");
    page.keyboard().press("Insert");
    page.waitForFunction(
        "(n) => ancora.workshop.thing.layers.flatMap((l) => l.notes).length === n", before);
    page.keyboard().press("F9");
    assertThat(page.locator("#workshop")).isHidden();
    for (int i = 0; i < 8; i++) {
      page.keyboard().press("Control+z");
      page.waitForTimeout(60);
    }
  }

  /** A deleted note ends at once, and its neighbours sound on: heard. */
  @Test
  void whatIsTakenOutFallsSilent() {
    page.evaluate("() => ancora.connection.do({ do: 'stopAll' })");
    page.waitForFunction("() => [...ancora.state.parts.values()].every((part) => !part.vamp)");
    page.evaluate(
        "() => ancora.connection.do({ do: 'cueClip', part: 3, clip: ancora.state.parts.get(3).shelf[0] })");
    page.waitForFunction("() => ancora.state.parts.get(3).vamp");
    page.evaluate("() => ancora.workshop.open(3)");
    page.evaluate(
        """
        () => {
          globalThis.loudest = 0;
          ancora.sound.addEventListener("peaks", ({ detail: { parts } }) => {
            const keys = parts.find(([part]) => part === 3);
            globalThis.loudest = Math.max(globalThis.loudest, keys?.[1] ?? 0);
          });
        }""");
    page.waitForFunction("() => globalThis.loudest > 0.01");
    page.evaluate(
        "() => ancora.connection.do({ do: 'setClick', ...ancora.state.show.click, on: false })");
    page.keyboard().press("Control+a");
    page.keyboard().press("Delete");
    page.waitForFunction("() => ancora.workshop.thing.layers.every((l) => l.notes.length === 0)");
    page.waitForTimeout(3000);
    page.evaluate("() => { globalThis.loudest = 0; }");
    page.waitForTimeout(1200);
    assertThat(((Number) page.evaluate("() => globalThis.loudest")).doubleValue())
        .isLessThan(0.004);
    page.evaluate("() => ancora.connection.do({ do: 'undo', sure: true })");
    page.waitForFunction("() => globalThis.loudest > 0.01");
  }

  /**
   * Takes are heard by one press, named, and their best stretches swept together, heard at the next
   * bar.
   */
  @Test
  void takesAreSweptTogether() {
    page.evaluate(
        """
        async () => {
          const { connection, state } = ancora;
          const wait = (millis) => new Promise((done) => setTimeout(done, millis));
          connection.do({ do: "arm", part: 2 });
          connection.do({ do: "setRecording", ...state.show.recording, countInBars: 0 });
          connection.do({ do: "cueClip", part: 2, clip: state.parts.get(2).shelf[0] });
          while (!state.parts.get(2).vamp) await wait(20);
          const { vamp } = state.parts.get(2);
          const clip = state.clips.get(vamp.clip);
          const pass = () => Math.floor((state.map.tickAt(ancora.clock.now()) - vamp.phase) / clip.length);
          connection.do({ do: "takes", on: true });
          while (!state.parts.get(2).onto) await wait(20);
          const first = pass();
          for (let take = 1; take <= 2; take++) {
            while (pass() < first + take) await wait(10);
            await wait(300);
            for (let i = 0; i < 4; i++) {
              connection.do({ do: "keyDown", device: "keys", channel: 0, pitch: 50 + take, velocity: 90 });
              await wait(60);
              connection.do({ do: "keyUp", device: "keys", channel: 0, pitch: 50 + take });
              await wait(200);
            }
          }
          while (pass() < first + 3) await wait(10);
          connection.do({ do: "takes", on: false });
          while (state.parts.get(2).onto) await wait(20);
        }""");
    page.evaluate("() => ancora.workshop.open(2)");
    assertThat(page.locator("#workshop-takes li")).hasCount(3);
    page.locator("#workshop-takes li button[aria-label^='hear take 1']").click();
    page.waitForFunction("() => ancora.workshop.thing.take === 1");
    page.locator("#take-name").fill("calm");
    page.locator("#take-name").press("Tab");
    page.waitForFunction("() => ancora.workshop.thing.takes[0].name === 'calm'");
    page.locator(".takestave[data-take='2']").scrollIntoViewIfNeeded();
    BoundingBox stave = page.locator(".takestave[data-take='2']").boundingBox();
    page.mouse().move(stave.x + stave.width * 0.52, stave.y + 12);
    page.mouse().down();
    page.mouse().move(stave.x + stave.width * 0.98, stave.y + 12);
    page.mouse().up();
    page.locator("#comp-make").click();
    page.waitForFunction(
        "() => ancora.workshop.thing.takes.find(({ number }) => number === ancora.workshop.thing.take).stretches");
    assertThat(page.locator("#workshop-takes li")).hasCount(4);
    page.locator("#takes-row").click();
    page.waitForFunction("() => ancora.state.parts.get(2).shelf.length > 2");
  }

  /** A finger chooses, drags and, with another, zooms. */
  @Test
  void byTouch() {
    openKit();
    Object done =
        page.evaluate(
            """
            async () => {
              const { workshop } = ancora;
              const canvas = document.getElementById("workshop-sheet");
              canvas.setPointerCapture = () => {};
              const box = canvas.getBoundingClientRect();
              const finger = (kind, id, x, y) =>
                canvas.dispatchEvent(new PointerEvent(kind, {
                  pointerId: id, pointerType: "touch", clientX: box.left + x, clientY: box.top + y, bubbles: true }));
              const kick = workshop.thing.layers.flatMap((l) => l.notes).find((n) => n[1] === 36);
              // fourteen px beside it is near enough for a finger
              finger("pointerdown", 1, workshop.scale.x(kick[3]) - 14, workshop.scale.y(36));
              finger("pointerup", 1, workshop.scale.x(kick[3]) - 14, workshop.scale.y(36));
              const chosen = workshop.choice.ids.has(kick[0]);
              const before = workshop.scale.to - workshop.scale.from;
              finger("pointerdown", 1, 200, 100);
              finger("pointerdown", 2, 300, 100);
              finger("pointermove", 2, 500, 100);
              finger("pointerup", 1, 200, 100);
              finger("pointerup", 2, 500, 100);
              return [chosen, (workshop.scale.to - workshop.scale.from) / before];
            }""");
    assertThat(((List<?>) done).get(0)).isEqualTo(true);
    assertThat(((Number) ((List<?>) done).get(1)).doubleValue()).isBetween(0.25, 0.45);
    for (String name : List.of("#tool-delete", "#tool-draw", "#workshop-close", ".layerrow")) {
      assertThat(page.locator(name).first().boundingBox().height)
          .as("%s is large enough for a finger", name)
          .isGreaterThanOrEqualTo(40);
    }
  }

  /**
   * An empty clip is made and drawn into; at standstill keys go to the grid, one after the other.
   */
  @Test
  void anEmptyClipIsFilledBySteps() {
    openKit();
    page.locator("#clip-empty").click();
    assertThat(page.locator("#workshop-words")).containsText("0 notes");
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 1 })");
    page.evaluate("() => ancora.connection.do({ do: 'stop' })");
    page.waitForFunction("() => !ancora.state.transport.rolling && ancora.state.armed === 1");
    page.locator("#tool-steps").click();
    for (int[] chord : new int[][] {{36, 42}, {42}, {38, 42}}) {
      for (int velocity : new int[] {90, 0}) {
        for (int key : chord) {
          page.evaluate(
              "([k, v]) => ancora.hub.receive('pads', [0x99, k, v], performance.now())",
              List.of(key, velocity));
        }
      }
    }
    page.waitForFunction("() => ancora.workshop.thing.layers.flatMap((l) => l.notes).length === 5");
    assertThat(places(42)).isEqualTo(List.of(0, 240, 480));
    assertThat(places(38)).isEqualTo(List.of(480));
    page.keyboard().press("Space");
    page.waitForFunction("() => ancora.state.transport.rolling");
  }
}
