package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.file.MidiSong;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.io.IOException;
import java.nio.file.Files;
import org.junit.jupiter.api.Test;

/** A performance is found again under Runs: heard, cut, put back, and carried away. */
class RunsStoryTest extends DemoNight {

  private Page performed() {
    Page page = hand.stage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'setTempo', bpm: 400 })");
    page.keyboard().press("Space");
    Stagehand.untilTick(page, 7 * 3840);
    page.keyboard().press("Space");
    page.waitForFunction("() => !ancora.state.transport.rolling");
    page.keyboard().press("F10");
    assertThat(page.locator(".runslist li")).hasCount(2);
    assertThat(page.locator(".runslist li.is-open")).hasCount(1);
    assertThat(page.locator("#runs-words")).containsText("8 bars in 4/4");
    return page;
  }

  private static double number(Object value) {
    return ((Number) value).doubleValue();
  }

  private static int passages(Page page) {
    return page.locator(".strip-passage").count();
  }

  @Test
  void cutHeardAndCarriedAway() throws IOException {
    Page page = performed();
    int parts = page.locator(".strip-part").count();
    assertThat(parts).isEqualTo(5);

    // two bars are swept over, and cut
    BoundingBox box = page.locator(".strips-svg").boundingBox();
    double bar = (box.width - 140) / 8;
    page.mouse().move(box.x + 132 + bar * 2.4, box.y + 32);
    page.mouse().down();
    page.mouse().move(box.x + 132 + bar * 3, box.y + 32);
    page.mouse().move(box.x + 132 + bar * 3.5, box.y + 32);
    page.mouse().up();
    assertThat(page.locator("#runs-chosen")).hasText("bars 3 to 4");
    page.locator("#runs-cut").click();
    assertThat(page.locator("#runs-words")).containsText("6 bars");
    assertThat(page.locator("#runs-undo")).isEnabled();

    // a passage is chosen and deleted
    int before = passages(page);
    page.locator(".strip-passage").first().click();
    assertThat(page.locator("#runs-passage")).containsText("of Kit");
    page.locator("#runs-delete-passage").click();
    page.waitForFunction("n => document.querySelectorAll('.strip-passage').length < n", before);

    // heard from a bar on: the stage stands still, and something sounds
    page.locator("#runs-bar").fill("2");
    page.locator("#runs-hear").click();
    assertThat(page.locator("#runs-words")).containsText("bar 2");
    assertThat(page.locator("#runs-words")).containsText("bar 3");
    assertThat(page.evaluate("() => ancora.state.transport.rolling")).isEqualTo(false);
    assertThat(page.evaluate("() => ancora.sound.plan.rolling")).isEqualTo(true);
    page.locator("#runs-hear").click();
    assertThat(page.locator("#runs-hear")).hasText("hear it");
    page.waitForFunction("() => !ancora.sound.plan.rolling");

    // all is taken back, and it is as performed
    page.locator("#runs-undo").click();
    page.waitForFunction("n => document.querySelectorAll('.strip-passage').length === n", before);
    page.locator("#runs-undo").click();
    assertThat(page.locator("#runs-words")).containsText("8 bars");
    assertThat(page.locator("#runs-undo")).isDisabled();

    // what the bass sounded goes to its shelf
    int clips = page.locator(".stave").nth(1).locator(".clip").count();
    page.locator("#runs-part").selectOption("2");
    page.locator("#runs-strips").focus();
    page.keyboard().press("ArrowRight");
    page.keyboard().press("Shift+ArrowRight");
    page.locator("#runs-shelf").click();
    page.waitForFunction("() => ancora.state.parts.get(2).shelf.length === 3");
    assertThat(clips).isPositive();

    Download midi = page.waitForDownload(() -> page.locator("#runs-midi").click());
    MidiSong song = MidiSong.read(Files.readAllBytes(midi.path()));
    assertThat(song.lines()).hasSize(5);

    page.keyboard().press("F10");
    assertThat(page.locator("#runs")).isHidden();
    assertThat(page.locator(".stave").first()).isVisible();
  }

  /** By keys alone; the run gets a name, goes round, and start ends it. */
  @Test
  void namedRoundAndEndedByStart() {
    Page page = performed();
    Locator name = page.locator(".runslist li.is-open button:has-text('name')");
    name.focus();
    page.keyboard().press("Enter");
    page.keyboard().type("First night");
    page.keyboard().press("Enter");
    assertThat(page.locator(".runname").first()).hasText("First night");

    page.locator("#runs-strips").focus();
    page.keyboard().press("ArrowRight");
    assertThat(page.locator("#runs-chosen")).hasText("bar 1");
    page.locator("#runs-round").focus();
    page.keyboard().press("Enter");
    page.locator("#runs-hear").focus();
    page.keyboard().press("Enter");
    // after the end of the bar it is bar 1 again
    page.waitForFunction("() => ancora.sound.plan.rolling");
    page.waitForTimeout(2500);
    assertThat(page.locator("#runs-words")).hasText("bar 1");
    // it has its own balance, or the show's, in which the kit is silent now
    page.evaluate(
        "() => ancora.connection.do({ do: 'setBalance', part: 1, ...ancora.state.parts.get(1).balance, muted: true })");
    page.waitForFunction("() => ancora.state.parts.get(1).balance.muted");
    String gain = "() => ancora.sound.balance[0].find(({ id }) => id === 1).balance.gain";
    assertThat(number(page.evaluate(gain))).isPositive();
    page.locator("#runs-own").click();
    assertThat(number(page.evaluate(gain))).isZero();
    page.locator("#runs-own").click();
    page.waitForFunction(gain);
    page.evaluate("() => ancora.connection.do({ do: 'start' })");
    assertThat(page.locator("#runs-hear")).hasText("hear it");
    page.evaluate("() => ancora.connection.do({ do: 'stop' })");
    page.waitForFunction("() => !ancora.state.transport.rolling");
  }
}
