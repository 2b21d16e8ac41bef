package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.BoundingBox;
import org.junit.jupiter.api.Test;

/** Nothing is started, and yet what is played is not lost: kept by one press, and played on to. */
class KeepStoryTest extends DemoNight {

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
    Page page = hand.stage(house, show);
    page.evaluate(PLAY);
    return page;
  }

  private static double bpm(Page page) {
    return ((Number) page.evaluate("() => ancora.state.show.bpm")).doubleValue();
  }

  @Test
  void whatIsPlayedWithNothingStartedIsKeptAndAddedTo() {
    Page page = empty();
    assertThat(page.locator(".statewords")).containsText("ago: sweep it to keep it");
    assertThat(page.locator("#keep-words")).containsText("2 bars at 100");
    page.keyboard().press("g");
    assertThat(page.locator("#kept-words")).containsText("Keys a: ");
    assertThat(bpm(page)).isCloseTo(100, within(1.0));
    assertThat(page.evaluate("() => ancora.state.transport.rolling")).isEqualTo(false);

    // taken otherwise, and back, by mouse and keys
    page.locator("#kept-double").click();
    page.waitForFunction("() => ancora.state.show.bpm > 190");
    page.locator("#kept-half").focus();
    page.keyboard().press("Enter");
    page.waitForFunction("() => ancora.state.show.bpm < 110");
    assertThat(page.locator(".clip:not(.rest, .anew)")).hasCount(1);
    assertThat(page.locator("#kept-steady")).hasAttribute("aria-pressed", "true");

    // heard alone, and added to while it goes round
    page.locator("#kept-hear").click();
    assertThat(page.locator(".statewords .state")).hasText("VAMP");
    page.evaluate("() => document.activeElement.blur()");
    page.keyboard().press("Enter");
    assertThat(page.locator(".statewords .state")).hasText("OVERDUB");
    page.keyboard().press("z");
    page.waitForFunction(
        "() => ancora.state.clips.size === 1 && [...ancora.state.clips.values()][0].layers.length === 2");
    // once the pass is over, the layer is a step of its own
    assertThat(page.locator("#kept-sheet"))
        .isHidden(new LocatorAssertions.IsHiddenOptions().setTimeout(20_000));
    page.keyboard().press("Space");
    page.waitForFunction("() => !ancora.state.transport.rolling");
  }

  @Test
  void givenUpTheTempoIsAsItWas() {
    Page page = empty();
    page.locator("#way-keep").click();
    assertThat(page.locator("#kept-sheet")).isVisible();
    page.locator("#kept-give-up").click();
    assertThat(page.locator("#kept-sheet")).isHidden();
    assertThat(bpm(page)).isEqualTo(120);
    assertThat(page.locator(".statewords")).containsText("sweep it to keep it");
    // a stretch is swept with the mouse, and kept
    BoundingBox box = page.locator(".stave .drawing").boundingBox();
    page.mouse().move(box.x + 30, box.y + 40);
    page.mouse().down();
    page.mouse().move(box.x + box.width * 0.4, box.y + 40);
    page.mouse().move(box.x + box.width * 0.99, box.y + 40);
    page.mouse().up();
    assertThat(page.locator(".clip:not(.rest, .anew)")).hasCount(1);
    assertThat(page.locator("#workshop")).isHidden();
  }

  /** Played, stopped, kept: on the bar lines of the run. */
  @Test
  void afterAStop() {
    Page page = hand.stage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 3 })");
    page.evaluate("() => ancora.connection.do({ do: 'setTempo', bpm: 240 })");
    page.keyboard().press("Space");
    Stagehand.untilTick(page, 3840 + 900);
    page.keyboard().press("q");
    Stagehand.untilTick(page, 2 * 3840 + 300);
    page.keyboard().press("Space");
    page.waitForFunction("() => !ancora.state.transport.rolling");
    page.keyboard().press("g");
    assertThat(page.locator("#word")).containsText("Kept 1 bar of the run as Keys c");
    assertThat(
            page.evaluate(
                "() => ancora.state.clips.get(ancora.state.parts.get(3).shelf.at(-1)).layers[0].notes.length"))
        .isEqualTo(1);
    page.locator("#keep-what").selectOption("2");
    page.locator("#keep-onto").selectOption("5");
    page.locator("#way-keep").click();
    page.waitForFunction("() => ancora.state.parts.get(5).shelf.length === 2");
  }

  /** A clip stands ready, and below it is what was played since: kept on another part. */
  @Test
  void belowAClipThatStandsReady() {
    Page page = hand.stage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 3 })");
    page.evaluate(
        "() => ancora.connection.do({ do: 'cueClip', part: 3, clip: ancora.state.parts.get(3).shelf[0] })");
    page.evaluate(PLAY);
    Locator stave = page.locator(".stave[data-part='3']");
    assertThat(stave.locator(".state")).hasText("READY");
    assertThat(stave.locator(".statewords")).containsText("ago: sweep it to keep it");
    page.locator("#keep-onto").selectOption("5");
    assertThat(page.locator("#keep-words")).hasText("");
    page.locator("#way-keep").click();
    page.waitForFunction("() => ancora.state.parts.get(5).shelf.length === 2");
    assertThat(stave.locator(".statewords")).not().containsText("sweep it");
  }
}
