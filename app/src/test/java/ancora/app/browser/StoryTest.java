package ancora.app.browser;

import static ancora.app.browser.Stagehand.untilTick;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;

/** The whole story with keys alone, and what happens when something is missing. */
class StoryTest extends DemoNight {

  private static Locator words(Page page, String action) {
    return page.locator("[data-action=" + action + "] b");
  }

  @Test
  void takesAreMadeAndChosenFromTheStave() {
    Page page = hand.stage(house, 2);
    long loop = 6720;
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 1 })");
    page.keyboard().press("Space");
    untilTick(page, 500);
    page.keyboard().press("F3");
    Locator state = page.locator(".stave.armed .state");
    assertThat(state).hasText("TAKES");
    assertThat(words(page, "ERASE")).hasText("one way of recording at a time");
    for (int pass = 1; pass <= 2; pass++) {
      untilTick(page, pass * loop + 500);
      page.keyboard().press("z");
    }
    untilTick(page, 3 * loop + 100);
    page.keyboard().press("F3");
    assertThat(page.locator(".takesof")).hasText("take 3 of 3 …");
    page.locator(".takesof").click();
    assertThat(page.locator("#takes li")).hasCount(3);
    page.locator("#takes li").first().getByText("hear").click();
    page.locator("#clip-dialog [data-close]").click();
    assertThat(page.locator(".takesof")).hasText("take 1 of 3 …");
    page.keyboard().press("F7");
    assertThat(state).hasText("PUNCH");
    page.keyboard().press("F7");
    assertThat(state).hasText("VAMP");
  }

  @Test
  void aLoopIsMadeWithKeysAlone() {
    Page page = hand.page(house, "/", false);
    page.getByLabel("Name of a new show").focus();
    page.keyboard().type("Squall");
    page.keyboard().press("Enter");
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Shift");
    page.waitForFunction("() => ancora.sound.isOn");

    // tempo: typed, nudged, refused
    page.locator("#bpm").focus();
    page.keyboard().press("Control+a");
    page.keyboard().type("240.5");
    page.keyboard().press("Tab");
    page.waitForFunction("() => ancora.state.show.bpm === 240.5");
    page.locator("#tap").focus();
    page.keyboard().press("ArrowDown");
    page.waitForFunction("() => ancora.state.show.bpm === 239.5");
    page.locator("#bpm").fill("500");
    page.keyboard().press("Tab");
    assertThat(page.locator("#word")).containsText("20 to 400");
    assertThat(page.locator("#bpm")).hasValue("239.5");
    page.locator("#click").focus();
    page.keyboard().press("k");
    assertThat(page.locator("#click")).hasText("click off");

    // first recording, with its count-in shown
    assertThat(page.locator("#count-in-words")).hasText("count-in = 4 beats");
    assertThat(words(page, "MAIN")).hasText("count in 1 bar, then record Kit");
    page.evaluate("() => document.activeElement.blur()");
    page.keyboard().press("Enter");
    assertThat(page.locator(".countdown")).isVisible();
    untilTick(page, 0);
    assertThat(page.locator(".statewords .state")).hasText("RECORD");
    page.keyboard().press("z");
    untilTick(page, 1200);
    page.keyboard().press("x");
    untilTick(page, 1700);
    page.keyboard().press("Enter");
    assertThat(words(page, "MAIN")).containsText("record on");
    untilTick(page, 3900);
    assertThat(page.locator(".statewords .state")).hasText("VAMP");

    // overdub, peel, restore
    page.keyboard().press("Enter");
    page.keyboard().press("c");
    assertThat(words(page, "PEEL")).hasText("take off layer 2 (1 note)");
    page.keyboard().press("Enter");
    page.keyboard().press("Backspace");
    assertThat(page.locator("[data-action=PEEL] small")).hasText("long: put back layer 2 (1 note)");
    page.keyboard().press("Shift+Backspace");
    assertThat(words(page, "PEEL")).hasText("take off layer 2 (1 note)");
    page.keyboard().press("Backspace");
    page.keyboard().press("Backspace");
    assertThat(page.locator("#word")).containsText("first recording");

    // a second window sees the same, and the sound stays where it is
    Page other = hand.page(house, page.url().replaceFirst("^.*?(?=/shows)", ""), false);
    assertThat(other.locator(".statewords .state")).hasText("VAMP");
    assertThat(other.locator("#bpm")).hasValue("239.5");

    // stop; reload; restart: all is there
    page.keyboard().press("Space");
    assertThat(page.locator(".statewords .state")).hasText("READY");
    page.reload();
    assertThat(page.locator(".statewords .state")).hasText("READY");
    assertThat(page.locator(".statewords")).containsText("clip a, 1 bar");
    page.waitForTimeout(800);
    String path = page.url().replaceFirst("^.*?(?=/shows)", "");
    house.close();
    assertThat(page.locator("#line-lamp")).hasText("no connection");
    house = House.open(data);
    Page again = hand.page(house, path, false);
    assertThat(again.locator(".statewords .state")).hasText("READY");
    assertThat(again.locator("[data-action=PEEL] small"))
        .hasText("long: put back layer 2 (1 note)");
    assertThat(again.locator("#click")).hasText("click off");
  }

  @Test
  void aSoundIsChosenByEarAndNeverReplacedUnasked() {
    Page page = hand.page(house, "/shows/1", false);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("o");
    assertThat(page.locator("#sounds-dialog")).isVisible();
    page.keyboard().type("bells");
    assertThat(page.locator(".soundchoice:visible")).hasCount(1);
    page.locator(".soundchoice:visible").click();
    assertThat(page.locator("#sound-keep")).hasText("Replace the sound of Kit");
    page.locator("#sound-keep").click();
    assertThat(page.locator(".soundname").first()).hasText("Tubular Bells");
  }

  @Test
  void withoutSoundThePageSaysSoAndGoesOn() {
    Page page = hand.page(house, "/shows/1", false);
    page.addInitScript(
        "globalThis.AudioContext = class { constructor() { throw new Error('no output'); } }");
    page.reload();
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Space");
    assertThat(page.locator("#word")).containsText("There is no sound: no output.");
    assertThat(page.locator(".statewords .state").first()).hasText("VAMP");
  }

  @Test
  void showsAreMadeRenamedDeletedAndPutBack() {
    Page page = hand.page(house, "/", false);
    assertThat(page.locator(".show-card")).hasCount(2);
    page.getByText("Delete").last().click();
    page.getByText("Rename", new Page.GetByTextOptions().setExact(true)).first().click();
    page.getByLabel("New name").fill("Lamp Room");
    page.getByLabel("New name").press("Enter");
    assertThat(page.locator(".showname")).hasText("Lamp Room");
    page.getByText("Delete").click();
    assertThat(page.locator(".show-card")).hasCount(0);
    assertThat(page.locator(".shows")).containsText("No show yet");
    page.getByText("Put it back").click();
    assertThat(page.locator(".show-card")).hasCount(1);
  }
}
