package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.LoadState;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Every page, drawer and dialog can be used by who sees little or uses no mouse, as far as a
 * machine can tell: by the rules of axe-core, which check the Web Content Accessibility Guidelines
 * 2.2, levels A and AA.
 */
class AccessTest {

  @TempDir static Path data;
  private static House house;
  private static Stagehand hand;

  @BeforeAll
  static void open() {
    house = House.open(data, "--ancora.demo=true");
    hand = new Stagehand();
  }

  @AfterAll
  static void close() {
    hand.close();
    house.close();
  }

  private final List<String> all = new ArrayList<>();

  /** A whole page. */
  private void check(Page page, String what) {
    check(page, what, "html");
  }

  /**
   * All rules, and the one that axe-core leaves off: what is touched is large enough. In the other
   * light nothing is otherwise but colours.
   */
  private void check(Page page, String what, String within) {
    light(page, "light");
    found(
        page,
        within,
        Map.of("rules", Map.of("target-size", Map.of("enabled", true))),
        what + ", light");
    light(page, "dark");
    found(page, within, Map.of("runOnly", List.of("color-contrast")), what + ", dark");
  }

  private static void light(Page page, String light) {
    page.evaluate("light => (document.documentElement.dataset.theme = light)", light);
  }

  /**
   * Axe-core is read by a page once, and tells what is found alone: of all else it takes most of
   * its time to tell.
   */
  private void found(Page page, String within, Map<String, ?> options, String what) {
    if (!(boolean) page.evaluate("() => 'axe' in globalThis")) {
      page.evaluate(AxeBuilder.getAxeScript());
    }
    Object violations =
        page.evaluate(
            """
            async ([within, options]) => {
              const { violations } = await axe.run(within, { ...options, resultTypes: ["violations"] });
              return violations.map(({ id, nodes }) => `${id}: ${nodes.slice(0, 5).map(({ html }) => html)}`);
            }""",
            List.of(within, options));
    ((List<?>) violations).forEach(violation -> all.add(what + ": " + violation));
  }

  @AfterEach
  void nothingIsFound() {
    hand.leave();
    assertThat(String.join("\n", all)).isEmpty();
  }

  @Test
  void pages() {
    for (String path :
        List.of(
            "/",
            "/handbook",
            "/shows/1/devices",
            "/shows/1/help",
            "/shows/1?view=footboard",
            "/shows/1?view=watch",
            "/shows/none")) {
      Page page = hand.page(house, path, true);
      page.waitForLoadState(LoadState.NETWORKIDLE);
      page.waitForFunction("() => !document.body.classList.contains('connecting')");
      check(page, path);
      page.context().close();
    }
  }

  @Test
  void theStageAndWhatOpensOverIt() {
    Page page = hand.silentStage(house, 1);
    check(page, "Stage");
    for (String open :
        List.of(
            "document.getElementById('balance').click()",
            "document.getElementById('setup').click()",
            "document.querySelector('#setup-dialog [data-tab=recording]').click()",
            "document.querySelector('#setup-dialog [data-tab=grid]').click()",
            "document.querySelector('#setup-dialog [data-tab=click]').click()",
            "document.querySelector('#setup-dialog [data-tab=parts]').click()",
            "document.querySelector('#setup-dialog [data-tab=devices]').click()",
            "document.querySelector('#setup-dialog [data-tab=controls]').click()",
            "document.querySelector('#setup-dialog [data-tab=screens]').click()",
            "document.getElementById('help').click()",
            "document.querySelector('.soundname').click()",
            "document.querySelector('#sections button').nextElementSibling.click()")) {
      page.evaluate("() => { " + open + "; }");
      page.waitForTimeout(150);
      check(page, open, "dialog[open]");
      if (!open.contains("setup")) {
        page.evaluate("() => document.querySelectorAll('dialog[open]').forEach((d) => d.close())");
      }
    }
    page.evaluate("() => ancora.workshop.open(3)");
    page.waitForTimeout(200);
    check(page, "Workshop");
    page.evaluate("() => document.querySelectorAll('dialog[open]').forEach((d) => d.close())");
    page.evaluate("() => ancora.workshop.close()");
    page.evaluate("() => document.getElementById('runs-open').click()");
    page.waitForFunction("() => document.querySelector('.score-passage')");
    check(page, "Runs");
    page.locator("#runs-sound").click();
    check(page, "a sound file", "dialog[open]");
    page.locator("#sound-file [data-close]").click();
    page.keyboard().press("F10");
    page.locator("#bring-in-show-sheet").click();
    page.locator("#bring-in-show").selectOption("Lighthouse Night: Swell");
    assertThat(page.locator("#bring-in-lines tr").first()).isVisible();
    check(page, "bringing in", "dialog[open]");
  }

  /**
   * What counts as soon as a finger is down answers to the keyboard and to screen readers as well.
   */
  @Test
  void buttonsAnswerToEnterAndToAssistiveTouch() {
    Page page = hand.silentStage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 2 })");
    page.locator("#way-repeat").focus();
    page.keyboard().press("Enter");
    page.waitForFunction("() => ancora.state.hands.repeat");
    // as a screen reader presses: a click with no finger before it
    page.evaluate("() => document.getElementById('way-repeat').click()");
    page.waitForFunction("() => !ancora.state.hands.repeat");
    page.locator("#tap").focus();
    double before = ((Number) page.evaluate("() => ancora.state.show.bpm")).doubleValue();
    for (int i = 0; i < 4; i++) {
      page.keyboard().press("Enter");
      page.waitForTimeout(400);
    }
    page.waitForFunction("(bpm) => ancora.state.show.bpm !== bpm", before);
  }

  /** The pattern for tabs of the ARIA practices: arrows go round, and what is chosen is shown. */
  @Test
  void tabsGoByArrows() {
    Page page = hand.silentStage(house, 1);
    page.locator("#setup").click();
    page.locator("[data-tab=recording]").focus();
    page.keyboard().press("ArrowRight");
    assertThat(page.locator("[data-tab=grid]")).isFocused();
    assertThat(page.locator("[data-tab=grid]")).hasAttribute("aria-selected", "true");
    page.keyboard().press("End");
    assertThat(page.locator("[data-tab=screens]")).isFocused();
    page.keyboard().press("ArrowRight");
    assertThat(page.locator("[data-tab=recording]")).isFocused();
  }

  /** The whole first loop by names and roles alone, and what becomes of it is said. */
  @Test
  void theFirstLoopByTheAccessibilityTree() {
    Page page = hand.page(house, "/", false);
    page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Name of a new show"))
        .fill("By ear");
    button(page, "New show").press("Enter");
    page.waitForFunction("() => globalThis.ancora?.connection.open && ancora.state.show");
    Locator main = button(page, Pattern.compile("main press"));
    main.press("Enter");
    Locator said = page.getByRole(AriaRole.STATUS).filter(text("clip a, record"));
    assertThat(said).hasCount(1);
    button(page, Pattern.compile("Bass Drum")).first().press("Enter");
    main.press("Enter");
    assertThat(page.getByRole(AriaRole.STATUS).filter(text("Kit, clip a, vamp"))).hasCount(1);
    button(page, "Stop").press("Enter");
    assertThat(page.getByRole(AriaRole.STATUS).filter(text("Kit, clip a, ready"))).hasCount(1);
    page.context().close();
  }

  private static Locator.FilterOptions text(String words) {
    return new Locator.FilterOptions().setHasText(words);
  }

  private static Locator button(Page page, Object name) {
    Page.GetByRoleOptions named =
        name instanceof Pattern pattern
            ? new Page.GetByRoleOptions().setName(pattern)
            : new Page.GetByRoleOptions().setName((String) name).setExact(true);
    return page.getByRole(AriaRole.BUTTON, named);
  }
}
