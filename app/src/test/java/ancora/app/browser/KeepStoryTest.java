package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import org.junit.jupiter.api.Test;

/** Nothing is started, and yet what is played is not lost: kept by one press, and played on to. */
class KeepStoryTest extends HeldNight {

  private HeldStage stage;

  /** Two bars of quarters at 100, the last of them just now, by a hand that strays by some ms. */
  static final String PLAY =
      """
      async () => {
        const began = performance.now() - 8 * 600;
        const strays = [4, -7, 9, -3, 6, -8, 2, -5];
        for (let beat = 0; beat < 8; beat++) {
          const own = began + beat * 600 + strays[beat];
          const pitch = beat % 4 ? 60 : 41;
          const key = { device: "keys", channel: 0, pitch };
          ancora.connection.do({ do: "keyDown", ...key, velocity: beat % 4 ? 80 : 110 }, own);
          ancora.connection.do({ do: "keyUp", ...key }, own + 200);
        }
      }""";

  private Page empty() {
    long show =
        house
            .bean(ShowStore.class)
            .add(Show.named("Gallery").withNewPart("Keys", Sound.of(4)), false);
    stage = HeldStage.open(hand, house, show);
    Page page = stage.page();
    page.evaluate(PLAY);
    stage.run(HeldStage.STEP);
    return page;
  }

  private static double bpm(Page page) {
    return ((Number) page.evaluate("() => ancora.state.show.bpm")).doubleValue();
  }

  @Test
  void whatIsPlayedWithNothingStartedIsKeptAndAddedTo() {
    Page page = empty();
    stage.soon(
        () -> assertThat(page.locator(".statewords")).containsText("ago: sweep it to keep it"));
    stage.soon(() -> assertThat(page.locator("#keep-words")).containsText("2 bars at 100"));
    stage.press("g");
    stage.soon(() -> assertThat(page.locator("#kept-words")).containsText("Keys a: "));
    assertThat(bpm(page)).isCloseTo(100, within(1.0));
    assertThat(page.evaluate("() => ancora.state.transport.rolling")).isEqualTo(false);

    // taken otherwise, and back, by mouse and keys
    stage.click(page.locator("#kept-double"));
    stage.until("ancora.state.show.bpm > 190");
    page.locator("#kept-half").focus();
    stage.press("Enter");
    stage.until("ancora.state.show.bpm < 110");
    stage.soon(() -> assertThat(page.locator(".clip:not(.rest, .anew)")).hasCount(1));
    stage.soon(() -> assertThat(page.locator("#kept-steady")).hasAttribute("aria-pressed", "true"));

    // heard alone, and added to while it goes round
    stage.click(page.locator("#kept-hear"));
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("VAMP"));
    stage.press("Enter");
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("OVERDUB"));
    stage.press("z");
    stage.until(
        "ancora.state.clips.size === 1 && [...ancora.state.clips.values()][0].layers.length === 2");
    // once the pass is over, the layer is a step of its own
    stage.soon(() -> assertThat(page.locator("#kept-sheet")).isHidden());
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
  }

  @Test
  void givenUpTheTempoIsAsItWas() {
    Page page = empty();
    stage.click(page.locator("#way-keep"));
    stage.soon(() -> assertThat(page.locator("#kept-sheet")).isVisible());
    stage.click(page.locator("#kept-give-up"));
    stage.soon(() -> assertThat(page.locator("#kept-sheet")).isHidden());
    assertThat(bpm(page)).isEqualTo(120);
    stage.soon(() -> assertThat(page.locator(".statewords")).containsText("sweep it to keep it"));
    // a stretch is swept with the mouse, and kept
    BoundingBox box = page.locator(".stave .drawing").boundingBox();
    page.mouse().move(box.x + 30, box.y + 40);
    page.mouse().down();
    page.mouse().move(box.x + box.width * 0.4, box.y + 40);
    page.mouse().move(box.x + box.width * 0.99, box.y + 40);
    page.mouse().up();
    stage.run(2 * HeldStage.STEP);
    stage.soon(() -> assertThat(page.locator(".clip:not(.rest, .anew)")).hasCount(1));
    stage.soon(() -> assertThat(page.locator("#workshop")).isHidden());
  }

  /** Played, stopped, kept: on the bar lines of the run. */
  @Test
  void afterAStop() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.send("{ do: 'arm', part: 3 }");
    stage.send("{ do: 'setTempo', bpm: 240 }");
    stage.press("Space");
    stage.untilTick(3840 + 900);
    stage.press("q");
    stage.untilTick(5 * 3840 + 900);
    stage.press("q");
    stage.untilTick(6 * 3840 + 300);
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
    stage.press("g");
    stage.soon(
        () -> assertThat(page.locator("#word")).containsText("Kept 1 bar of the run as Keys c"));
    stage.until("ancora.state.parts.get(3).shelf.length === 3");
    assertThat(
            page.evaluate(
                "() => ancora.state.clips.get(ancora.state.parts.get(3).shelf.at(-1)).layers[0].notes.length"))
        .isEqualTo(1);
    stage.soon(() -> assertThat(page.locator("#kept-words")).hasText("Keys c: 1 bar of the run"));
    assertThat(page.locator("#kept-half")).isHidden();
    stage.click(page.locator("#kept-more"));
    stage.soon(() -> assertThat(page.locator("#kept-words")).hasText("Keys c: 5 bars of the run"));
    stage.click(page.locator("#kept-fewer"));
    stage.soon(() -> assertThat(page.locator("#kept-words")).hasText("Keys c: 1 bar of the run"));
    page.locator("#keep-what").selectOption("2");
    page.locator("#keep-onto").selectOption("5");
    stage.click(page.locator("#way-keep"));
    stage.until("ancora.state.parts.get(5).shelf.length === 2");
  }

  /** A clip stands ready, and below it is what was played since: kept on another part. */
  @Test
  void belowAClipThatStandsReady() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.send("{ do: 'arm', part: 3 }");
    stage.send("{ do: 'cueClip', part: 3, clip: ancora.state.parts.get(3).shelf[0] }");
    page.evaluate(PLAY);
    stage.run(HeldStage.STEP);
    Locator stave = page.locator(".stave[data-part='3']");
    stage.soon(() -> assertThat(stave.locator(".state")).hasText("READY"));
    stage.soon(
        () -> assertThat(stave.locator(".statewords")).containsText("ago: sweep it to keep it"));
    page.locator("#keep-onto").selectOption("5");
    stage.soon(() -> assertThat(page.locator("#keep-words")).hasText(""));
    stage.click(page.locator("#way-keep"));
    stage.until("ancora.state.parts.get(5).shelf.length === 2");
    stage.soon(() -> assertThat(stave.locator(".statewords")).not().containsText("sweep it"));
  }
}
