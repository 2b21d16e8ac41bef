package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.google.gson.JsonArray;
import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is under a finger, or being typed, stays there while notes come and everything is drawn. */
class UnderTheFingerTest extends HeldNight {

  private HeldStage stage;
  private Page page;

  @BeforeEach
  void begin() {
    stage = HeldStage.open(hand, house, 1).rolling(1);
    page = stage.page();
  }

  private void downOn(Locator what) {
    BoundingBox box = what.boundingBox();
    page.mouse().move(box.x + box.width / 2, box.y + box.height / 2);
    page.mouse().down();
    stage.run(HeldStage.STEP);
  }

  private void up() {
    page.mouse().up();
    stage.run(2 * HeldStage.STEP);
  }

  /** Each note that is added makes the clips of the shelf others: a tap on one is a tap. */
  @Test
  void aTapOnAClipWhileNotesCome() {
    stage.send("{ do: 'overdub' }");
    stage.until("ancora.state.armedPart.onto");
    Locator other = page.locator(".stave[data-part='1'] [data-clip]").nth(1);
    int notes =
        (int)
            stage.evaluate(
                "() => ancora.state.clips.get(ancora.state.parts.get(1).vamp.clip).layers.at(-1).notes.length");
    downOn(other);
    stage.play(38);
    stage.play(42);
    up();
    stage.until("ancora.state.parts.get(1).cue?.clip === ancora.state.parts.get(1).shelf[1]");
    stage.run(600);
    assertThat(page.locator("#clip-dialog")).isHidden();
    assertThat(
            (int)
                stage.evaluate(
                    "() => ancora.state.clips.get(ancora.state.parts.get(1).vamp.clip).layers.at(-1).notes.length"))
        .as("notes came meanwhile")
        .isNotEqualTo(notes);
    downOn(other);
    stage.play(38);
    stage.run(450);
    assertThat(page.locator("#clip-dialog")).isVisible();
    up();
  }

  /** The pad was a drum when the finger came down: that drum is let go of. */
  @Test
  void aPadThatIsHeldWhileAnotherPartIsArmed() {
    if (page.locator("#hands").isHidden()) {
      stage.click("#hands-toggle");
    }
    downOn(page.locator(".pad").nth(12));
    stage.until("ancora.hub.down.size === 1");
    stage.send("{ do: 'arm', part: 2 }");
    stage.until("ancora.state.armed === 2");
    stage.run(100);
    up();
    stage.until("ancora.hub.down.size === 0");
    // and the keyboard is the performer's: Space stops, it plays no pad
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
  }

  @Test
  void aNameThatIsBeingTyped() {
    stage.send("{ do: 'overdub' }");
    stage.until("ancora.state.armedPart.onto");
    stage.evaluate(
        "() => document.querySelector('.stave[data-part=\"1\"] [data-clip]').dispatchEvent(new MouseEvent('contextmenu', { bubbles: true }))");
    Locator name = page.locator("#takes .takename").first();
    stage.soon(() -> assertThat(name).isVisible());
    name.click();
    page.keyboard().type("the q");
    stage.play(38);
    stage.play(42);
    page.keyboard().type("uiet one");
    assertThat(name).hasValue("the quiet one");
    page.keyboard().press("Enter");
    stage.until(
        "ancora.state.clips.get(ancora.state.parts.get(1).shelf[0]).takes[0].name === 'the quiet one'");
  }

  /**
   * The kick lies lower left whatever is printed there, and the pad says what is: y on a German
   * keyboard, w on a French one (the layouts of DIN 2137 and of AZERTY; from memory).
   */
  @ParameterizedTest
  @CsvSource({"y", "w"})
  void padsLieWhereTheyLieOnOtherKeyboards(String printed) {
    stage = HeldStage.of(hand, house, "/shows/1");
    Page page = stage.page();
    page.addInitScript(
        "Object.defineProperty(navigator, 'keyboard', { value: { getLayoutMap: async () => new Map([['KeyZ', '%s']]) } })"
            .formatted(printed));
    page.reload();
    stage.until("globalThis.ancora?.connection.open && ancora.state.show");
    stage.soundsOn();
    Locator kick = page.locator(".pad[data-pitch='36']");
    stage.soon(() -> assertThat(kick.locator("i").textContent()).isEqualTo(printed));
    page.evaluate(
        """
        (key) => {
          globalThis.struck = [];
          ancora.hub.addEventListener("played", ({ detail }) => struck.push(detail.pitch));
          dispatchEvent(new PointerEvent("pointerdown"));
          const target = document.body;
          target.dispatchEvent(new KeyboardEvent("keydown", { code: "KeyZ", key, bubbles: true }));
          target.dispatchEvent(new KeyboardEvent("keyup", { code: "KeyZ", key, bubbles: true }));
        }""",
        printed);
    stage.soon(() -> assertThat(page.evaluate("() => struck[0]")).isEqualTo(36));
  }

  /**
   * Real touches, as the browser makes them of a screen: a tap, a hold, and a drag that is not a
   * scroll.
   */
  @Test
  void byRealTouches() {
    screen = page.context().newCDPSession(page);
    Locator other = page.locator(".stave[data-part='1'] [data-clip]").nth(1);
    touch("touchStart", middle(other));
    touch("touchEnd");
    stage.until("ancora.state.parts.get(1).cue?.clip === ancora.state.parts.get(1).shelf[1]");
    touch("touchStart", middle(other));
    stage.run(600);
    touch("touchEnd");
    stage.soon(() -> assertThat(page.locator("#clip-dialog")).isVisible());
    stage.press("Escape");
    stage.evaluate("() => ancora.workshop.open(2)");
    stage.run(100);
    double[] note = bench().at(firstPitch(), 0);
    touch("touchStart", note);
    for (int step = 1; step <= 6; step++) {
      touch("touchMove", new double[] {note[0] + 20 * step, note[1]});
    }
    touch("touchEnd");
    stage.until("ancora.workshop.thing.layers[0].notes.every((n) => n[3] !== 0)");
  }

  private Workbench bench() {
    return new Workbench(stage);
  }

  private int firstPitch() {
    return (int)
        stage.evaluate("() => ancora.workshop.thing.layers[0].notes.find((n) => n[3] === 0)[1]");
  }

  private static double[] middle(Locator what) {
    BoundingBox box = what.boundingBox();
    return new double[] {box.x + box.width / 2, box.y + box.height / 2};
  }

  private CDPSession screen;

  private void touch(String kind, double[]... at) {
    JsonObject event = new JsonObject();
    event.addProperty("type", kind);
    JsonArray points = new JsonArray();
    for (double[] place : at) {
      JsonObject point = new JsonObject();
      point.addProperty("x", place[0]);
      point.addProperty("y", place[1]);
      points.add(point);
    }
    event.add("touchPoints", points);
    screen.send("Input.dispatchTouchEvent", event);
    stage.run(2 * HeldStage.STEP);
  }
}
