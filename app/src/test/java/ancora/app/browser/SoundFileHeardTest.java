package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Rule 20: a run as a sound file is as loud as the page sounds it, bar by bar. */
class SoundFileHeardTest extends HeldNight {

  private static final int RATE = 48_000;
  private static final int BARS = 3;
  private static final int BAR = 3840;

  private HeldStage stage;

  @Test
  void aRunIsAsLoudAsItIsHeard() throws IOException {
    stage = HeldStage.listenedTo(hand, house, 1);
    Page page = stage.page();
    // dry: a browser reckons what rings in a room on threads of its own, which are never quite
    // alike
    for (int part = 1; part <= 5; part++) {
      stage.send(
          "{ do: 'setBalance', part: %1$s, ...ancora.state.parts.get(%1$s).balance, echo: 0, room: 0 }"
              .formatted(part));
    }
    stage.send("{ do: 'setMaster', repeats: 0, room: 0.2 }");
    stage.press("Space");
    stage.untilTick(BARS * BAR + 600);
    stage.press("Space");
    stage.until("!ancora.state.transport.rolling");
    stage.press("F10");
    stage.soonAtItsPace(() -> assertThat(page.locator(".runslist li")).hasCount(2));
    stage.soon(() -> assertThat(page.locator(".runslist li.is-open")).hasCount(1));
    stage.soon(() -> assertThat(page.locator("#runs-words")).containsText("4 bars"));

    List<Download> made = new ArrayList<>();
    page.onDownload(made::add);
    stage.click("#runs-sound");
    page.locator("input[name='sound-file-each'][value='mix']").check();
    page.locator("input[name='sound-file-rate'][value='48000']").check();
    page.locator("input[name='sound-file-bits'][value='24']").check();
    stage.click("#sound-file-go");
    stage.soonAtItsPace(() -> assertThat(page.locator("#sound-file-words")).containsText("Made:"));
    WavRead mix = WavRead.of(Files.readAllBytes(made.get(0).path()));

    stage.click("#sound-file [data-close]");
    double[] heard = heard(page);
    int bar = (int) Math.round(RATE * 4 * 60 / 96.0);
    for (int i = 0; i < BARS; i++) {
      assertThat(mix.level(0, i * bar, bar))
          .as("dB of bar %s", i + 1)
          .isCloseTo(heard[i], within(0.3));
    }
  }

  /**
   * The levels of the run's bars as the page sounds them, in dB, of the left side; a stroke on a
   * bar line may count for either bar.
   */
  private double[] heard(Page page) {
    page.locator("#runs-bar").fill("1");
    stage.click("#runs-hear");
    stage.until("ancora.sound.plan.rolling");
    page.evaluate("() => (globalThis.began = ancora.sound.plan.anchors[0])");
    stage.until(
        "ancora.clock.now() > began[1] + (%s - began[0]) * began[2]".formatted((BARS + 0.3) * BAR));
    stage.click("#runs-hear");
    Object levels =
        page.evaluate(
            """
            (bars) => {
              const { first, all } = heard();
              const frameAt = (instant) => {
                let [low, high] = [0, all.length];
                while (low < high) {
                  const middle = (low + high) >> 1;
                  if (instantOf(first + middle) < instant) low = middle + 1; else high = middle;
                }
                return low;
              };
              return Array.from({ length: bars }, (_, bar) => {
                const [from, until] = [bar, bar + 1].map((b) => frameAt(began[1] + b * 3840 * began[2]));
                let sum = 0;
                for (let i = from; i < until; i++) sum += all[i] * all[i];
                return 10 * Math.log10(sum / (until - from) + 1e-12);
              });
            }""",
            BARS);
    return ((List<?>) levels).stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
  }
}
