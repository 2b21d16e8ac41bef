package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** A whole band: built with keys and mouse, and cued through its sections. */
class BandTest extends HeldNight {

  private HeldStage stage;

  private static Locator state(Page page, int stave) {
    return page.locator(".stave").nth(stave).locator(".statewords .state");
  }

  /** By one press the stand-in goes through all sections; each changes its parts on one tick. */
  @Test
  void theConcertIsPlayedByOnePress() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.send("{ do: 'setTempo', bpm: 400 }");
    page.evaluate(
        """
        () => {
          globalThis.entered = [];
          ancora.connection.addEventListener("plan", () =>
            ancora.sound.plan.parts.forEach(({ spans }) => spans.forEach(({ from }) => entered.push(from))));
        }""");
    stage.click(page.locator("#concert"));
    stage.soon(() -> assertThat(page.locator(".sec.now")).containsText("Quay"));
    stage.soon(() -> assertThat(page.locator("#concert")).hasText("End the concert"));
    for (String section : List.of("Lamp", "Squall", "Lull")) {
      stage.soon(() -> assertThat(page.locator(".sec.now")).containsText(section));
    }
    stage.until("!ancora.state.transport.rolling && ancora.state.show");
    stage.soon(() -> assertThat(page.locator("#concert")).hasText("Concert"));
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
    stage = HeldStage.of(hand, house, "/");
    Page page = stage.page();
    page.getByLabel("Name of a new show").fill("Harbour");
    page.getByLabel("Name of a new show").press("Enter");
    stage.until("globalThis.ancora?.connection.open");
    stage.soundsOn();
    stage.send("{ do: 'setTempo', bpm: 240 }");
    stage.send("{ do: 'setRecording', ...ancora.state.show.recording, fixedUnits: 2 }");

    // a second part, its sound chosen first
    stage.click(page.locator("#part-add"));
    page.keyboard().type("fingerless");
    stage.soon(() -> assertThat(page.locator(".soundchoice:visible")).hasCount(0));
    page.locator("#sound-search").fill("fretless");
    stage.click(page.locator(".soundchoice:visible"));
    stage.click(page.locator("#sound-keep"));
    stage.soon(() -> assertThat(page.locator(".stave")).hasCount(2));

    // a loop on the kit, then one on the bass while the kit goes on
    stage.click(page.locator(".arm").first());
    stage.press("Enter");
    stage.untilTick(200);
    stage.press("z");
    stage.soon(() -> assertThat(state(page, 0)).hasText("VAMP"));
    stage.press("PageDown");
    stage.until("ancora.state.armed === ancora.state.order[1]");
    stage.press("Enter");
    stage.soon(() -> assertThat(state(page, 1)).hasText("RECORD"));
    stage.press("q");
    stage.soon(() -> assertThat(state(page, 1)).hasText("VAMP"));
    stage.soon(() -> assertThat(state(page, 0)).hasText("VAMP"));

    // a section of what sounds; then the bass tacet, and the section brings it back
    stage.click(page.locator("#section-add"));
    stage.soon(() -> assertThat(page.locator(".sec em")).hasText("A"));
    stage.press("0");
    stage.soon(() -> assertThat(state(page, 1)).hasText("TACET"));
    stage.press("Shift+A");
    stage.soon(() -> assertThat(state(page, 1)).hasText("VAMP"));

    // a copy, cued by its letter; deleted and brought back
    page.locator(".stave")
        .nth(1)
        .locator(".clip:not(.rest, .anew)")
        .click(
            new Locator.ClickOptions()
                .setButton(com.microsoft.playwright.options.MouseButton.RIGHT));
    stage.click(page.locator("#clip-duplicate"));
    stage.click(page.locator("#clip-dialog [data-close]"));
    stage.press("Alt+b");
    stage.soon(() -> assertThat(page.locator(".stave").nth(1).locator(".clip.now u")).hasText("b"));
    // a loop that sounds is not silenced by a slip
    stage.press("Delete");
    stage.soon(() -> assertThat(page.locator("#word")).containsText("press again"));
    stage.soon(
        () ->
            assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)"))
                .hasCount(2));
    stage.press("Delete");
    stage.soon(
        () ->
            assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)"))
                .hasCount(1));
    stage.press("u");
    stage.soon(
        () ->
            assertThat(page.locator(".stave").nth(1).locator(".clip:not(.rest, .anew)"))
                .hasCount(2));

    // a page that only watches, on a phone: each part in its line, nothing to press, nothing cut
    // off
    String path = page.url().replaceFirst("^.*?(?=/shows)", "");
    Page watch = stage.also(path + "?view=watch");
    watch.setViewportSize(360, 740);
    stage.soon(() -> assertThat(watch.locator("#watch li")).hasCount(2));
    stage.soon(() -> assertThat(watch.locator("#watch li").first()).containsText("VAMP"));
    assertThat(watch.locator("button, input, select, a")).hasCount(0);
    stage.soon(() -> assertThat(watch.locator(".place")).hasText(Pattern.compile("\\d+·\\d")));
    assertThat(watch.evaluate("() => document.documentElement.scrollWidth")).isEqualTo(360);
    // the house holds to it whatever such a page sends
    watch.keyboard().press("Space");
    watch.evaluate("() => ancora.connection.do({ do: 'stop' })");
    stage.soon(() -> assertThat(state(page, 0)).hasText("VAMP"));
  }
}
