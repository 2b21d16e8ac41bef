package ancora.app.browser;

import static ancora.app.browser.Stagehand.untilTick;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import ancora.app.House;
import ancora.app.files.HouseFiles;
import ancora.core.file.MidiFile;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import com.microsoft.playwright.options.MouseButton;
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

  @Test
  void takeAll() {
    try (House house = House.open(data, "--ancora.demo=true");
        Stagehand hand = new Stagehand()) {
      Page page = hand.page(house, "/", false);
      take(page, "shows");
      page.navigate(house.url("/shows/1"));
      page.waitForFunction("() => globalThis.ancora?.connection.open");
      page.mouse().click(640, 120);
      page.waitForFunction("() => ancora.sound.isOn && ancora.sound.delay !== null");
      page.keyboard().press("Shift+B");
      page.keyboard().press("Space");
      untilTick(page, 7680 + 2300);
      take(page, "stage-vamp");
      arm(page, 3);
      page.keyboard().press("Enter");
      for (int i = 0; i < 3; i++) {
        untilTick(page, 10_560 + i * 960);
        page.keyboard().press(i == 1 ? "e" : "w");
      }
      page.keyboard().press("Shift+C");
      page.waitForTimeout(200);
      take(page, "stage-overdub");
      page.keyboard().press("l");
      page.waitForTimeout(200);
      take(page, "stage-light");
      page.keyboard().press("l");
      page.keyboard().press("Enter");
      page.keyboard().press("o");
      page.waitForTimeout(200);
      take(page, "sounds");
      page.locator("#sounds-dialog [data-close]").click();
      for (String drawer : new String[] {"balance", "setup"}) {
        page.locator("#" + drawer).click();
        page.waitForTimeout(200);
        take(page, drawer);
        page.locator("#" + drawer + "-dialog [data-close]").click();
      }
      page.locator(".more-of").nth(1).click();
      take(page, "section");
      page.locator("#section-dialog [data-close]").click();
      page.locator(".stave .clip:not(.rest, .anew)")
          .first()
          .click(new Locator.ClickOptions().setButton(MouseButton.RIGHT));
      take(page, "clip");
      page.locator("#clip-dialog [data-close]").click();
      page.evaluate("() => document.activeElement.blur()");
      workshop(page, 1, "workshop-drums");
      page.evaluate(
          "() => ancora.workshop.choose(ancora.workshop.thing.layers[1].notes.slice(0, 5))");
      page.waitForTimeout(500);
      take(page, "workshop-drums");
      page.evaluate("() => ancora.connection.do({ do: 'cueClip', part: 5, clip: 51 })");
      workshop(page, 5, "workshop-takes");
      page.evaluate(
          """
          () => {
            ancora.workshop.takes.sweep(2, 3840, 7680);
            ancora.workshop.takes.sweep(3, 11520, 15360);
          }""");
      page.waitForTimeout(300);
      take(page, "workshop-takes");
      page.keyboard().press("F9");
      page.keyboard().press("Space");

      page.locator("#setup").click();
      page.locator("[data-tab=controls]").click();
      page.locator("#teach").click();
      page.waitForTimeout(200);
      take(page, "setup-teach");
      page.locator("#setup-dialog [data-close]").click();
      Page help = hand.page(house, "/shows/1/help", false);
      help.waitForTimeout(300);
      take(help, "help");
      Page board = hand.page(house, "/shows/1?view=footboard", false);
      board.waitForFunction("() => globalThis.ancora?.connection.open");
      board.waitForTimeout(300);
      take(board, "footboard");
      Page devices = hand.page(house, "/shows/1/devices", false);
      devices.waitForFunction("() => document.querySelector('#keys .key')");
      devices.waitForTimeout(800);
      take(devices, "devices");

      Page runs = hand.stage(house, 1);
      runs.locator("#runs-open").click();
      runs.waitForFunction("() => document.querySelector('.score-passage')");
      runs.waitForTimeout(300);
      take(runs, "runs");

      byte[] form = house.bean(HouseFiles.class).form(1).midi(MidiFile.Type.TRACKS).bytes();
      Page swell = hand.stage(house, 2);
      swell.locator("#bring-in-show-sheet").click();
      swell
          .locator("#bring-in-file")
          .setInputFiles(new FilePayload("lantern.mid", "audio/midi", form));
      assertThat(swell.locator("#bring-in-lines tr")).hasCount(5);
      take(swell, "bring-in");

      page.navigate(house.url("/"));
      page.getByLabel("Name of a new show").fill("Harbour");
      page.getByLabel("Name of a new show").press("Enter");
      page.waitForFunction("() => globalThis.ancora?.connection.open");
      page.mouse().click(640, 120);
      page.waitForFunction("() => ancora.sound.isOn");
      page.evaluate(KeepStoryTest.PLAY);
      page.keyboard().press("g");
      assertThat(page.locator("#kept-sheet")).isVisible();
      take(page, "keep");
      page.keyboard().press("u");
      page.keyboard().press("Enter");
      untilTick(page, -2000);
      take(page, "stage-count-in");
    }
  }

  private void workshop(Page page, int part, String name) {
    page.evaluate("part => ancora.workshop.open(part)", part);
    page.waitForTimeout(400);
    take(page, name);
  }

  private static void arm(Page page, int part) {
    page.evaluate("part => ancora.connection.do({ do: 'arm', part })", part);
    page.waitForFunction("part => ancora.state.armed === part", part);
  }
}
