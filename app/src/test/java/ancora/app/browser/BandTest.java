package ancora.app.browser;

import static ancora.app.browser.Stagehand.untilTick;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * A whole band: built with keys and mouse, cued through its sections, balanced, and listened to.
 */
@Tag("listens")
class BandTest extends DemoNight {

  private static Locator state(Page page, int stave) {
    return page.locator(".stave").nth(stave).locator(".statewords .state");
  }

  private static void send(Page page, String command) {
    page.evaluate(
        "command => ancora.connection.do(command)", null == command ? "" : parsed(command));
  }

  private static Object parsed(String json) {
    try {
      return new com.fasterxml.jackson.databind.ObjectMapper().readValue(json, Object.class);
    } catch (java.io.IOException wrong) {
      throw new IllegalArgumentException(wrong);
    }
  }

  /** A chord held over the line is level across it; level, mute and solo do what they say. */
  @Test
  void aTiedChordIsLevelAcrossTheLineAndTheBalanceIsInDecibels() {
    long show = 1;
    Page page = hand.stage(house, show);
    for (int part = 1; part <= 5; part++) {
      send(page, "{\"do\":\"cueTacet\",\"part\":" + part + "}");
    }
    send(page, "{\"do\":\"arm\",\"part\":4}");
    send(
        page,
        "{\"do\":\"chooseSound\",\"part\":4,\"drums\":false,\"program\":19,\"evenWithMusic\":true}");
    balance(page, "level: 0, echo: 0, room: 0, pan: 0");
    page.evaluate(
        "() => ancora.connection.do({ do: 'setRecording', ...ancora.state.show.recording, countInBars: 0 })");
    page.evaluate(
        "() => ancora.connection.do({ do: 'setClick', ...ancora.state.show.click, on: false })");
    page.waitForTimeout(1500);
    page.keyboard().press("Enter");
    keys(page, 0x90, 2400);
    untilTick(page, 3400);
    page.keyboard().press("Enter");
    keys(page, 0x80, 3840 + 1500);
    untilTick(page, 2 * 3840 + 3000);
    long line = 2 * 3840;
    double[] across =
        Listening.levels(page, 60, line - 240, line - 120, line, line + 120, line + 240);
    assertThat(across[2]).as("it sounds").isGreaterThan(-50);
    for (double level : across) {
      assertThat(level).as("dB across the line").isCloseTo(across[2], within(1.0));
    }

    untilTick(page, 3 * 3840 - 900);
    balance(page, "level: -6");
    untilTick(page, 3 * 3840 + 900);
    double quieter = usualLevel(page, 3 * 3840);
    assertThat(usual(across) - quieter).as("6 dB less").isCloseTo(6, within(0.7));

    balance(page, "muted: true");
    untilTick(page, 4 * 3840 + 600);
    assertThat(Listening.levels(page, 60, 4 * 3840 + 100)[0])
        .as("muted")
        .isLessThan(across[2] - 60);
    balance(page, "muted: false");
    page.keyboard().press("PageUp");
    page.waitForFunction("() => ancora.state.armed === 3");
    page.keyboard().press("j");
    assertThat(page.locator("#solo-lamp")).hasText("solo: Keys");
    untilTick(page, 5 * 3840 + 600);
    assertThat(Listening.levels(page, 60, 5 * 3840 + 100)[0])
        .as("not solo")
        .isLessThan(across[2] - 60);
    page.keyboard().press("j");
    untilTick(page, 6 * 3840 + 900);
    assertThat(usualLevel(page, 6 * 3840))
        .as("it went on meanwhile")
        .isCloseTo(quieter, within(0.7));
  }

  /** Soon after a tick, in dB; where the machine stalls for a moment that is not judged. */
  private static double usualLevel(Page page, long tick) {
    return usual(
        Listening.levels(page, 60, tick + 100, tick + 220, tick + 340, tick + 460, tick + 580));
  }

  /** The median. */
  private static double usual(double[] levels) {
    double[] sorted = levels.clone();
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  private static void balance(Page page, String change) {
    page.evaluate(
        "() => ancora.connection.do({ do: 'setBalance', part: 4, ...ancora.state.parts.get(4).balance, "
            + change
            + " })");
    page.waitForTimeout(50);
  }

  private static void keys(Page page, int status, long tick) {
    untilTick(page, tick);
    page.evaluate(
        "status => [57, 60, 64].forEach((pitch) => ancora.hub.receive('keys', [status, pitch, 100], performance.now()))",
        status);
  }

  /** By one press the stand-in goes through all sections; each changes its parts on one tick. */
  @Test
  void theConcertIsPlayedByOnePress() {
    Page page = hand.stage(house, 1);
    send(page, "{\"do\":\"setTempo\",\"bpm\":400}");
    page.evaluate(
        """
        () => {
          globalThis.entered = [];
          ancora.connection.addEventListener("plan", () =>
            ancora.sound.plan.parts.forEach(({ spans }) => spans.forEach(({ from }) => entered.push(from))));
        }""");
    page.locator("#concert").click();
    assertThat(page.locator(".sec.now")).containsText("Quay");
    assertThat(page.locator("#concert")).hasText("End the concert");
    for (String section : List.of("Lamp", "Squall", "Lull")) {
      page.waitForFunction(
          "name => document.querySelector('.sec.now')?.textContent.includes(name)", section);
    }
    page.waitForFunction("() => !ancora.state.transport.rolling && ancora.state.show");
    assertThat(page.locator("#concert")).hasText("Concert");
    Object offBars = page.evaluate("() => entered.filter((tick) => tick % 3840 !== 0).length");
    assertThat(((Number) offBars).intValue()).as("entries off the bar").isZero();
    Object changes = page.evaluate("() => [...new Set(entered)].sort((a, b) => a - b)");
    assertThat(changes)
        .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.LIST)
        .extracting(n -> ((Number) n).longValue())
        .containsExactly(0L, 4 * 3840L, 12 * 3840L, 20 * 3840L);
  }

  /** The piece built from nothing, with keys and mouse. */
  @Test
  void aBandIsBuiltFromNothing() {
    Page page = hand.page(house, "/", false);
    page.getByLabel("Name of a new show").fill("Harbour");
    page.getByLabel("Name of a new show").press("Enter");
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Shift");
    page.waitForFunction("() => ancora.sound.isOn");
    send(page, "{\"do\":\"setTempo\",\"bpm\":240}");
    page.evaluate(
        "() => ancora.connection.do({ do: 'setRecording', ...ancora.state.show.recording, fixedUnits: 2 })");

    // a second part, its sound chosen first
    page.locator("#part-add").click();
    page.keyboard().type("fingerless");
    assertThat(page.locator(".soundchoice:visible")).hasCount(0);
    page.locator("#sound-search").fill("fretless");
    page.locator(".soundchoice:visible").click();
    page.locator("#sound-keep").click();
    assertThat(page.locator(".stave")).hasCount(2);

    // a loop on the kit, then one on the bass while the kit goes on
    page.locator(".arm").first().click();
    page.evaluate("() => document.activeElement.blur()");
    page.keyboard().press("Enter");
    untilTick(page, 200);
    page.keyboard().press("z");
    assertThat(state(page, 0)).hasText("VAMP");
    page.keyboard().press("PageDown");
    page.waitForFunction("() => ancora.state.armed === ancora.state.order[1]");
    page.keyboard().press("Enter");
    assertThat(state(page, 1)).hasText("RECORD");
    page.keyboard().press("q");
    assertThat(state(page, 1)).hasText("VAMP");
    assertThat(state(page, 0)).hasText("VAMP");

    // a section of what sounds; then the bass tacet, and the section brings it back
    page.locator("#section-add").click();
    assertThat(page.locator(".sec em")).hasText("A");
    page.evaluate("() => document.activeElement.blur()");
    page.keyboard().press("0");
    assertThat(state(page, 1)).hasText("TACET");
    page.keyboard().press("Shift+A");
    assertThat(state(page, 1)).hasText("VAMP");

    // a copy, cued by its letter; deleted and brought back
    page.locator(".stave")
        .nth(1)
        .locator(".clip:not(.rest, .anew)")
        .click(
            new Locator.ClickOptions()
                .setButton(com.microsoft.playwright.options.MouseButton.RIGHT));
    page.locator("#clip-duplicate").click();
    page.locator("#clip-dialog [data-close]").click();
    page.evaluate("() => document.activeElement.blur()");
    page.keyboard().press("Alt+b");
    assertThat(page.locator(".stave").nth(1).locator(".clip.now u")).hasText("b");
    // a loop that sounds is not silenced by a slip
    page.keyboard().press("Delete");
    assertThat(page.locator("#word")).containsText("press again");
    assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)")).hasCount(2);
    page.keyboard().press("Delete");
    assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)")).hasCount(1);
    page.keyboard().press("u");
    assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)")).hasCount(2);

    // a watching page sees it and changes nothing
    String path = page.url().replaceFirst("^.*?(?=/shows)", "");
    Page watch = hand.page(house, path + "?view=watch", false);
    assertThat(watch.locator(".stave")).hasCount(2);
    watch.keyboard().press("Space");
    assertThat(watch.locator("#word")).containsText("only watches");
    assertThat(state(page, 0)).hasText("VAMP");
  }
}
