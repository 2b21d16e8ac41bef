package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;

/** Shows and sounds are chosen; and what happens when there is no sound. */
class ChoosingTest extends DemoNight {

  @Test
  void aSoundIsChosenByEarAndNeverReplacedUnasked() {
    Page page = hand.page(house, "/shows/1", false);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("o");
    assertThat(page.locator("#sounds-dialog")).isVisible();
    // one is found by many: the bell that tinkles too; what the show has already stands first
    page.keyboard().type("bells");
    assertThat(page.locator(".soundchoice:visible"))
        .hasText(new String[] {"Tubular Bells", "Tubular Bells", "Tinkle Bell"});
    page.keyboard().type(" tub");
    page.locator(".soundchoice:visible").last().click();
    assertThat(page.locator("#sound-favourite")).hasText("a favourite");
    assertThat(page.locator("#sound-keep")).hasText("Replace the sound of Kit");
    page.locator("#sound-keep").click();
    assertThat(page.locator(".soundname").first()).hasText("Tubular Bells");
  }

  /**
   * By arrows alone, while the loop sounds: it goes on with each, and is as it was where none is
   * chosen.
   */
  @Test
  void soundsAreTriedInTheLoopItself() {
    Page page = hand.stage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'start' })");
    page.waitForFunction("() => ancora.state.parts.get(2).vamp");
    page.evaluate(
        """
        () => {
          globalThis.tries = [];
          const { port } = ancora.sound.node;
          const post = port.postMessage.bind(port);
          port.postMessage = (message, ...more) => {
            if ("tries" in message) tries.push(message.tries);
            post(message, ...more);
          };
        }""");
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 2 })");
    page.waitForFunction("() => ancora.state.armed === 2");
    page.keyboard().press("o");
    page.keyboard().press("ArrowDown");
    page.keyboard().press("ArrowDown");
    assertThat(page.locator("#sounds-words")).containsText("Bass goes on with");
    page.keyboard().press("Escape");
    page.waitForFunction("() => tries.length === 3 && tries[2] === null");
    page.keyboard().press("o");
    page.keyboard().press("ArrowUp");
    page.keyboard().press("Enter");
    page.waitForFunction(
        "() => ancora.state.parts.get(2).sound.program === tries[3].sound.program");
    page.waitForFunction("() => tries.length === 5 && tries[4] === null");
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
    press(page, "Delete", 1);
    press(page, "Rename", 0);
    page.getByLabel("New name").fill("Lamp Room");
    page.getByLabel("New name").press("Enter");
    assertThat(page.locator(".showname")).hasText("Lamp Room");
    press(page, "Delete", 0);
    assertThat(page.locator(".show-card")).hasCount(0);
    assertThat(page.locator(".shows")).containsText("No show yet");
    page.getByText("Put it back").first().click();
    assertThat(page.locator(".show-card")).hasCount(1);
    assertThat(page.locator(".form-line em")).hasCount(2);
    // and the one that was deleted before it, from the list of those
    page.getByText("Deleted shows").click();
    page.getByText("Put it back").click();
    assertThat(page.locator(".show-card")).hasCount(2);
  }

  private static void press(Page page, String words, int which) {
    page.getByText(words, new Page.GetByTextOptions().setExact(true)).nth(which).click();
  }
}
