package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * What is drawn is what sounds, and what is played; and what is said stands as long as it holds.
 */
class DrawnTest extends HeldNight {

  private static final long BAR = 3840;

  private HeldStage stage;
  private Page page;
  private Locator stave;
  private Locator words;

  @BeforeEach
  void begin() {
    stage = HeldStage.open(hand, house, 1).rolling(1);
    page = stage.page();
    stave = page.locator(".stave[data-part='1']");
    words = stave.locator(".statewords");
  }

  private void untilBar(int bar, long ticks) {
    stage.untilTick((bar - 1) * BAR + ticks);
    stage.run(2 * HeldStage.STEP);
  }

  /** The take before is silent while another is played: it is not drawn as what sounds. */
  @Test
  void whileTakesAreOnTheOneThatIsPlayedIsDrawnLarge() {
    long length =
        ((Number)
                stage.evaluate(
                    "() => ancora.state.clips.get(ancora.state.parts.get(1).vamp.clip).length"))
            .longValue();
    int bars = (int) (length / BAR);
    stage.send("{ do: 'takes', on: true }");
    untilBar(1 + bars, 400);
    assertThat(words).containsText("take 2 is being played");
    Locator coming = stave.locator(".takecoming rect");
    assertThat(coming).hasCount(0);
    assertThat(stave.locator(".takebefore")).hasCount(1);
    stage.play(38);
    untilBar(1 + bars, 1500);
    stage.play(42);
    stage.soon(() -> assertThat(coming).hasCount(2));
    // in the Workshop too
    stage.send("{ do: 'arm', part: 1 }");
    stage.evaluate("() => ancora.workshop.open(1)");
    stage.soon(() -> assertThat(page.locator("#workshop-takes li.coming")).hasCount(1));
    assertThat(page.locator("#workshop-takes li.coming button").first()).hasText("2");
    assertThat((int) stage.evaluate("() => ancora.workshop.scene.coming.length")).isEqualTo(2);
    stage.press("Escape");
    // the next pass is another take, of which nothing has come
    untilBar(1 + 2 * bars, 400);
    assertThat(words).containsText("take 3 is being played");
    assertThat(coming).hasCount(0);
    assertThat(stave.locator(".takebefore")).hasCount(2);
    stage.send("{ do: 'takes', on: false }");
    stage.until("!ancora.state.parts.get(1).onto");
    stage.soon(() -> assertThat(stave.locator(".takecoming")).hasCount(0));
    assertThat(words).not().containsText("is being played");
  }

  /** What sounds up to there is drawn, and what is to come as for any cue. */
  @Test
  void aNewClipIsCuedOverOneThatSounds() {
    untilBar(2, 1000);
    stage.send("{ do: 'recordAnew' }");
    stage.until("ancora.state.parts.get(1).first");
    assertThat(words.locator(".state")).hasText("VAMP");
    assertThat(words.locator(".next")).containsText("records ");
    assertThat(stave.locator(".drawing svg")).hasAttribute("aria-label", "clip a");
    untilBar(3, 200);
    assertThat(words.locator(".state")).hasText("RECORD");
  }

  /** What is see-through as a whole the browser draws by itself: hundreds of notes cost dear. */
  @Test
  void noNoteIsDrawnByItself() {
    assertThat(page.locator(".drawing svg rect")).not().hasCount(0);
    assertThat(page.locator(".drawing svg [opacity]")).hasCount(0);
  }

  /** What recordings are set to is read on the Stage, where it will be. */
  @Test
  void whatIsSetIsOnTheStage() {
    stage.send("{ do: 'setRecording', fixedUnits: 6 }");
    stage.soon(() -> assertThat(page.locator("#count-in-words")).hasText("4 beats, then 6 bars"));
    stage.send("{ do: 'setRecording', fixedUnits: 0 }");
    stage.send("{ do: 'setRecording', runUp: { of: 'LOOP', bar: 2 } }");
    stage.soon(() -> assertThat(words).containsText("records from bar 2 of the loop"));
    stage.send("{ do: 'setRecording', runUp: null }");
    stage.soon(() -> assertThat(words).not().containsText("records from bar"));
    stage.send("{ do: 'punchBar', on: true }");
    stage.soon(() -> assertThat(stave.locator(".punchrange")).hasCount(1));
    stage.send("{ do: 'punchBar', on: false }");
    stage.soon(() -> assertThat(stave.locator(".punchrange")).hasCount(0));
    stage.send("{ do: 'setRecording', takesAfter: true }");
    stage.send("{ do: 'recordAnew' }");
    stage.until(
        "ancora.state.map.tickAt(ancora.clock.now()) >= ancora.state.parts.get(1).first?.start");
    stage.soon(() -> assertThat(words).containsText("then takes"));
  }

  /** Far into the night the place stays beside the beats, not over them. */
  @Test
  void theBarsOfALongNightHaveRoom() {
    for (String bar : new String[] {"99·4", "100·4", "999·4", "1234·4"}) {
      Object room =
          stage.evaluate(
              """
              () => {
                const count = document.getElementById("count");
                const [bar, beat] = "%s".split("·");
                count.dataset.digits = String(Math.min(4, bar.length));
                count.innerHTML = `${bar}<i>·${beat}</i>`;
                return count.scrollWidth <= count.clientWidth;
              }"""
                  .formatted(bar));
      assertThat(room).as(bar).isEqualTo(true);
    }
  }

  /** It leaves what is open; only where there is nothing to leave it sends all notes off. */
  @Test
  void escapeClosesWhatIsOpen() {
    Locator word = page.locator("#word");
    stage.evaluate("() => ancora.workshop.open(1)");
    stage.press("Escape");
    assertThat(page.locator("#workshop")).isHidden();
    assertThat(word).not().containsText("All notes off");
    stage.press("/");
    assertThat(page.locator("#what-now")).isVisible();
    stage.press("Escape");
    assertThat(page.locator("#what-now")).isHidden();
    assertThat(word).not().containsText("All notes off");
    stage.press("Escape");
    assertThat(word).containsText("All notes off");
  }

  /** Nothing that keeps the music going is behind a drawer; the one on top is left first. */
  @Test
  void drawersLeaveTheStageInReach() {
    stage.click("#balance");
    stage.click("#setup");
    assertThat(page.locator("#setup-dialog")).isVisible();
    stage.click("#click");
    stage.until("!ancora.state.show.click.on");
    stage.click(page.locator(".pedal").first());
    stage.until("ancora.state.armedPart.onto");
    stage.press("Escape");
    assertThat(page.locator("#setup-dialog")).isHidden();
    assertThat(page.locator("#balance-dialog")).isVisible();
    stage.press("Escape");
    assertThat(page.locator("#balance-dialog")).isHidden();
    assertThat(page.locator("#word")).not().containsText("All notes off");
    stage.click("#setup");
    stage.click("#run");
    stage.until("!ancora.state.transport.rolling");
  }

  /** A second press counts for two seconds: so long it is asked for. */
  @Test
  void aSecondPressIsAskedForAsLongAsItCounts() {
    Locator word = page.locator("#word");
    stage.send("{ do: 'clear', sure: false }");
    stage.soon(() -> assertThat(word).containsText("press again to do it"));
    stage.run(1700);
    assertThat(word).containsText("press again to do it");
    stage.run(400);
    assertThat(word).hasText("");
  }

  /** A quarter of a second for a word, four seconds at least; what matters less waits. */
  @Test
  void whatWasRefusedIsReadBeforeSomethingElseIsSaid() {
    Locator word = page.locator("#word");
    String refused =
        "One two three four five six seven eight nine ten eleven twelve and so on up to twenty words here.";
    stage.evaluate(
        "() => { ancora.words.say('%s', true); ancora.words.say('Something else.'); }"
            .formatted(refused));
    stage.run(4800);
    assertThat(word).hasText(refused);
    stage.run(400);
    assertThat(word).hasText("Something else.");
  }
}
