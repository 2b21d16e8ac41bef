package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;

/** The whole story with keys alone, to the restart of the house. */
class StoryTest extends HeldNight {

  private HeldStage stage;

  private static Locator words(Page page, String command) {
    return page.locator("[data-does=" + command + "] b");
  }

  @Test
  void takesAreMadeAndChosenFromTheStave() {
    stage = HeldStage.open(hand, house, 2);
    Page page = stage.page();
    long loop = 6720;
    stage.send("{ do: 'arm', part: 1 }");
    stage.press("Space");
    stage.untilTick(500);
    stage.press("F3");
    Locator state = page.locator(".stave.armed .state");
    stage.soon(() -> assertThat(state).hasText("TAKES"));
    stage.soon(
        () -> assertThat(words(page, "eraseHeld")).hasText("one way of recording at a time"));
    for (int pass = 1; pass <= 2; pass++) {
      stage.untilTick(pass * loop + 500);
      stage.press("z");
    }
    stage.untilTick(3 * loop + 100);
    stage.press("F3");
    stage.soon(() -> assertThat(page.locator(".takesof")).hasText("take 3 of 3 …"));
    stage.click(page.locator(".takesof"));
    stage.soon(() -> assertThat(page.locator("#takes li")).hasCount(3));
    stage.click(page.locator("#takes li").first().getByText("hear"));
    stage.click(page.locator("#clip-dialog [data-close]"));
    stage.soon(() -> assertThat(page.locator(".takesof")).hasText("take 1 of 3 …"));
    stage.press("F7");
    stage.soon(() -> assertThat(state).hasText("PUNCH"));
    stage.press("F7");
    stage.soon(() -> assertThat(state).hasText("VAMP"));
  }

  @Test
  void aLoopIsMadeWithKeysAlone() {
    stage = HeldStage.of(hand, house, "/");
    Page page = stage.page();
    page.getByLabel("Name of a new show").focus();
    page.keyboard().type("Squall");
    stage.press("Enter");
    stage.until("globalThis.ancora?.connection.open");
    stage.press("Shift");
    stage.until("ancora.sound.isOn");

    // tempo: typed, nudged, refused
    page.locator("#bpm").focus();
    stage.press("Control+a");
    page.keyboard().type("240.5");
    stage.press("Tab");
    stage.until("ancora.state.show.bpm === 240.5");
    page.locator("#tap").focus();
    stage.press("ArrowDown");
    stage.until("ancora.state.show.bpm === 239.5");
    page.locator("#bpm").fill("500");
    stage.press("Tab");
    stage.soon(() -> assertThat(page.locator("#word")).containsText("20 to 400"));
    stage.soon(() -> assertThat(page.locator("#bpm")).hasValue("239.5"));
    page.locator("#click").focus();
    stage.press("k");
    stage.soon(() -> assertThat(page.locator("#click")).hasText("click off"));

    // first recording, with its count-in shown
    stage.soon(() -> assertThat(page.locator("#count-in-words")).hasText("count-in = 4 beats"));
    stage.soon(
        () -> assertThat(words(page, "mainPress")).hasText("count in 1 bar, then record Kit"));
    page.evaluate("() => document.activeElement.blur()");
    stage.press("Enter");
    stage.soon(() -> assertThat(page.locator(".countdown")).isVisible());
    stage.untilTick(0);
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("RECORD"));
    stage.press("z");
    stage.untilTick(1200);
    stage.press("x");
    stage.untilTick(1700);
    stage.press("Enter");
    stage.soon(() -> assertThat(words(page, "mainPress")).containsText("record on"));
    stage.untilTick(3900);
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("VAMP"));

    // overdub, peel, restore
    stage.press("Enter");
    stage.press("c");
    stage.soon(() -> assertThat(words(page, "peel")).hasText("take off layer 2 (1 note)"));
    stage.press("Enter");
    stage.press("Backspace");
    stage.soon(
        () ->
            assertThat(page.locator("[data-does=peel] small"))
                .hasText("long: put back layer 2 (1 note)"));
    stage.press("Shift+Backspace");
    stage.soon(() -> assertThat(words(page, "peel")).hasText("take off layer 2 (1 note)"));
    stage.press("Backspace");
    stage.press("Backspace");
    stage.soon(() -> assertThat(page.locator("#word")).containsText("first recording"));

    // a second window sees the same, and the sound stays where it is
    String path = page.url().replaceFirst("^.*?(?=/shows)", "");
    Page other = stage.also(path);
    stage.soon(() -> assertThat(other.locator(".statewords .state")).hasText("VAMP"));
    stage.soon(() -> assertThat(other.locator("#bpm")).hasValue("239.5"));

    // stop; reload; restart: all is there
    stage.press("Space");
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("READY"));
    page.reload();
    stage.soon(() -> assertThat(page.locator(".statewords .state")).hasText("READY"));
    stage.soon(() -> assertThat(page.locator(".statewords")).containsText("clip a, 1 bar"));
    house.close();
    house = open(data);
    stage.movesTo(house);
    stage.soon(() -> assertThat(page.locator("#line-lamp")).hasText("no connection"));
    Page again = stage.also(path);
    stage.soon(() -> assertThat(again.locator(".statewords .state")).hasText("READY"));
    stage.soon(
        () ->
            assertThat(again.locator("[data-does=peel] small"))
                .hasText("long: put back layer 2 (1 note)"));
    stage.soon(() -> assertThat(again.locator("#click")).hasText("click off"));
  }
}
