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
