package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What is under a finger, or being typed, stays there while notes come and everything is drawn. */
class UnderTheFingerTest extends HeldNight {

  private HeldStage stage;
  private Page page;

  @BeforeEach
  void begin() {
    stage = HeldStage.open(hand, house, 1).rolling(1);
    page = stage.page();
  }

  private void downOn(Locator what) {
    BoundingBox box = what.boundingBox();
    page.mouse().move(box.x + box.width / 2, box.y + box.height / 2);
    page.mouse().down();
    stage.run(HeldStage.STEP);
  }

  private void up() {
    page.mouse().up();
    stage.run(2 * HeldStage.STEP);
  }

  /** Each note that is added makes the clips of the shelf others: a tap on one is a tap. */
  @Test
  void aTapOnAClipWhileNotesCome() {
    stage.send("{ do: 'overdub' }");
    stage.until("ancora.state.armedPart.onto");
    Locator other = page.locator(".stave[data-part='1'] [data-clip]").nth(1);
    int notes =
        (int)
            stage.evaluate(
                "() => ancora.state.clips.get(ancora.state.parts.get(1).vamp.clip).layers.at(-1).notes.length");
    downOn(other);
    stage.play(38);
    stage.play(42);
    up();
    stage.until("ancora.state.parts.get(1).cue?.clip === ancora.state.parts.get(1).shelf[1]");
    stage.run(600);
    assertThat(page.locator("#clip-dialog")).isHidden();
    assertThat(
            (int)
                stage.evaluate(
                    "() => ancora.state.clips.get(ancora.state.parts.get(1).vamp.clip).layers.at(-1).notes.length"))
        .as("notes came meanwhile")
        .isNotEqualTo(notes);
    downOn(other);
    stage.play(38);
    stage.run(450);
    assertThat(page.locator("#clip-dialog")).isVisible();
    up();
  }

  /** The pad was a drum when the finger came down: that drum is let go of. */
  @Test
  void aPadThatIsHeldWhileAnotherPartIsArmed() {
    if (page.locator("#hands").isHidden()) {
      stage.click("#hands-toggle");
    }
    downOn(page.locator(".pad").nth(12));
    stage.until("ancora.hub.down.size === 1");
    stage.send("{ do: 'arm', part: 2 }");
    stage.until("ancora.state.armed === 2");
    stage.run(100);
    up();
    stage.until("ancora.hub.down.size === 0");
  }

  @Test
  void aNameThatIsBeingTyped() {
    stage.send("{ do: 'overdub' }");
    stage.until("ancora.state.armedPart.onto");
    stage.evaluate(
        "() => document.querySelector('.stave[data-part=\"1\"] [data-clip]').dispatchEvent(new MouseEvent('contextmenu', { bubbles: true }))");
    Locator name = page.locator("#takes .takename").first();
    stage.soon(() -> assertThat(name).isVisible());
    name.click();
    page.keyboard().type("the q");
    stage.play(38);
    stage.play(42);
    page.keyboard().type("uiet one");
    assertThat(name).hasValue("the quiet one");
    page.keyboard().press("Enter");
    stage.until(
        "ancora.state.clips.get(ancora.state.parts.get(1).shelf[0]).takes[0].name === 'the quiet one'");
  }
}
