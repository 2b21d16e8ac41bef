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
class RunsStoryTest extends HeldNight {

  private HeldStage stage;

  private Page performed() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    // the run of before has been looked at; what is performed now is open after it
    stage.press("F10");
    stage.soon(() -> assertThat(page.locator(".runslist li.is-open")).hasCount(1));
    stage.press("F10");
    stage.send("{ do: 'setTempo', bpm: 400 }");
    stage.press("Space");
    stage.untilTick(7 * 3840 + 1000);
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
    stage.press("F10");
    stage.soon(() -> assertThat(page.locator(".runslist li")).hasCount(2));
    stage.soon(() -> assertThat(page.locator(".runslist li.is-open")).hasCount(1));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("8 bars in 4/4"));
    stage.until("document.querySelector('.score-passage')");
    return page;
  }

  private static double number(Object value) {
    return ((Number) value).doubleValue();
  }

  private static int passages(Page page) {
    return page.locator(".score-passage").count();
  }

  @Test
  void cutHeardAndCarriedAway() throws IOException {
    Page page = performed();
    int parts = page.locator(".score-part").count();
    assertThat(parts).isEqualTo(5);

    // two bars are swept over, and cut
    BoundingBox box = page.locator(".score > svg").boundingBox();
    double bar = (box.width - 140) / 8;
    page.mouse().move(box.x + 132 + bar * 2.4, box.y + 32);
    page.mouse().down();
    page.mouse().move(box.x + 132 + bar * 3, box.y + 32);
    page.mouse().move(box.x + 132 + bar * 3.5, box.y + 32);
    page.mouse().up();
    stage.run(2 * HeldStage.STEP);
    stage.soon(() -> assertThat(page.locator("#runs-chosen")).hasText("bars 3 to 4"));
    stage.click(page.locator("#runs-cut"));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("6 bars"));
    stage.soon(() -> assertThat(page.locator("#runs-undo")).isEnabled());

    // a passage is chosen and deleted
    int before = passages(page);
    stage.click(page.locator(".score-passage").first());
    stage.soon(() -> assertThat(page.locator("#runs-passage")).containsText("of Kit"));
    stage.click(page.locator("#runs-delete-passage"));
    stage.until("document.querySelectorAll('.score-passage').length < " + before);

    // heard from a bar on: the stage stands still, and something sounds
    page.locator("#runs-bar").fill("2");
    stage.click(page.locator("#runs-hear"));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("bar 2"));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("bar 3"));
    assertThat(page.evaluate("() => ancora.state.transport.rolling")).isEqualTo(false);
    assertThat(page.evaluate("() => ancora.sound.plan.rolling")).isEqualTo(true);
    stage.click(page.locator("#runs-hear"));
    stage.soon(() -> assertThat(page.locator("#runs-hear")).hasText("hear it"));
    stage.until("!ancora.sound.plan.rolling");

    // all is taken back, and it is as performed
    stage.click(page.locator("#runs-undo"));
    stage.until("document.querySelectorAll('.score-passage').length === " + before);
    stage.click(page.locator("#runs-undo"));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("8 bars"));
    stage.soon(() -> assertThat(page.locator("#runs-undo")).isDisabled());

    // what the bass sounded goes to its shelf
    int clips = page.locator(".stave").nth(1).locator(".clip").count();
    page.locator("#runs-part").selectOption("2");
    page.locator("#runs-score").focus();
    stage.press("ArrowRight");
    stage.press("Shift+ArrowRight");
    stage.click(page.locator("#runs-shelf"));
    stage.until("ancora.state.parts.get(2).shelf.length === 3");
    assertThat(clips).isPositive();

    Download midi = page.waitForDownload(() -> page.locator("#runs-midi").click());
    MidiSong song = MidiSong.read(Files.readAllBytes(midi.path()));
    assertThat(song.lines()).hasSize(5);

    stage.press("F10");
    stage.soon(() -> assertThat(page.locator("#runs")).isHidden());
    stage.soon(() -> assertThat(page.locator(".stave").first()).isVisible());
  }

  /** By keys alone; the run gets a name, goes round, and start ends it. */
  @Test
  void namedRoundAndEndedByStart() {
    Page page = performed();
    Locator name = page.locator(".runslist li.is-open button:has-text('name')");
    name.focus();
    stage.press("Enter");
    page.keyboard().type("First night");
    stage.press("Enter");
    stage.soon(() -> assertThat(page.locator(".runname").first()).hasText("First night"));

    page.locator("#runs-score").focus();
    stage.press("ArrowRight");
    stage.soon(() -> assertThat(page.locator("#runs-chosen")).hasText("bar 1"));
    page.locator("#runs-round").focus();
    stage.press("Enter");
    page.locator("#runs-hear").focus();
    stage.press("Enter");
    // after the end of the bar it is bar 1 again
    stage.until("ancora.sound.plan.rolling");
    stage.run(2500);
    stage.soon(() -> assertThat(page.locator("#runs-words")).hasText("bar 1"));
    // it has its own balance, or the show's, in which the kit is silent now
    stage.send("{ do: 'setBalance', part: 1, ...ancora.state.parts.get(1).balance, muted: true }");
    stage.until("ancora.state.parts.get(1).balance.muted");
    String gain = "() => ancora.sound.balance[0].find(({ id }) => id === 1).balance.gain";
    assertThat(number(page.evaluate(gain))).isPositive();
    stage.click(page.locator("#runs-own"));
    assertThat(number(page.evaluate(gain))).isZero();
    stage.click(page.locator("#runs-own"));
    stage.until("(%s)()".formatted(gain));
    stage.send("{ do: 'start' }");
    stage.soon(() -> assertThat(page.locator("#runs-hear")).hasText("hear it"));
    stage.send("{ do: 'stop' }");
    stage.until("!ancora.state.transport.rolling");
  }
}
