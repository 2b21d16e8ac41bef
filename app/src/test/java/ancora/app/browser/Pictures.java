package ancora.app.browser;

import ancora.app.House;
import com.microsoft.playwright.Page;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Takes the screenshots of the main views from the demo data: {@code ./ancora pictures}. */
class Pictures {

  @TempDir Path data;
  private final Path folder = Path.of(System.getProperty("ancora.pictures", "target/pictures"));

  private void take(Page page, String name) {
    page.screenshot(new Page.ScreenshotOptions().setPath(folder.resolve(name + ".png")));
  }

  private static void untilTick(Page page, int tick) {
    page.waitForFunction("tick => ancora.state.map?.tickAt(ancora.clock.now()) >= tick", tick);
  }

  @Test
  void takeAll() {
    try (House house = House.open(data, "--ancora.demo=true");
        Stagehand hand = new Stagehand()) {
      Page page = hand.page(house, "/", false);
      take(page, "shows");
      page.navigate(house.url("/shows/1"));
      page.waitForFunction("() => globalThis.ancora?.state.show");
      page.mouse().click(640, 120);
      page.waitForFunction("() => ancora.sound.isOn && ancora.sound.delay !== null");
      page.keyboard().press("Space");
      untilTick(page, 7680 + 2300);
      take(page, "stage-vamp");
      page.keyboard().press("Enter");
      for (int i = 0; i < 3; i++) {
        untilTick(page, 10_560 + i * 960);
        page.keyboard().press("f");
      }
      take(page, "stage-overdub");
      page.keyboard().press("l");
      take(page, "stage-light");
      page.keyboard().press("l");
      page.keyboard().press("o");
      take(page, "sounds");
      page.locator("#sounds-dialog [data-close]").click();
      page.locator("#settings").click();
      take(page, "settings");
      page.locator("#settings-dialog [data-close]").click();
      page.evaluate("() => document.activeElement.blur()");
      page.keyboard().press("Space");
      page.keyboard().press("Delete");
      page.waitForFunction("() => ancora.state.clips.size === 0");
      page.keyboard().press("Enter");
      untilTick(page, -2000);
      take(page, "stage-count-in");
    }
  }
}
