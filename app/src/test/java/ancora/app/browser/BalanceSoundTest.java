package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A chord held over the line is level across it; level, mute and solo do what they say. */
class BalanceSoundTest extends HeldNight {

  private static final int BAR = 3840;

  private HeldStage stage;

  private void balance(String change) {
    stage.send(
        "{ do: 'setBalance', part: 4, ...ancora.state.parts.get(4).balance, %s }"
            .formatted(change));
    stage.run(16);
  }

  private void chord(int status, long tick) {
    stage.untilTick(tick);
    for (int pitch : new int[] {57, 60, 64}) {
      stage.bytes("keys", status, pitch, 100);
    }
  }

  /** Of half a second, so that the beats between the tones of the chord are evened out. */
  private double level(long tick) {
    return Listening.levels(stage.page(), 500, tick)[0];
  }

  @Test
  void aTiedChordIsLevelAcrossTheLineAndTheBalanceIsInDecibels() {
    stage = HeldStage.listenedTo(hand, house, 1);
    for (int part = 1; part <= 5; part++) {
      stage.send("{ do: 'cueTacet', part: %s }".formatted(part));
    }
    stage.send("{ do: 'arm', part: 4 }");
    stage.send("{ do: 'chooseSound', part: 4, drums: false, program: 19, evenWithMusic: true }");
    stage.run(100);
    balance("level: 0, echo: 0, room: 0, pan: 0");
    stage.send("{ do: 'setRecording', ...ancora.state.show.recording, countInBars: 0 }");
    stage.send("{ do: 'setClick', ...ancora.state.show.click, on: false }");
    stage.run(100);
    stage.press("Enter");
    chord(0x90, 2400);
    stage.untilTick(3400);
    stage.press("Enter");
    chord(0x80, BAR + 1500);
    stage.untilTick(2 * BAR + 3000);
    long line = 2 * BAR;
    double[] across =
        Listening.levels(stage.page(), 60, line - 240, line - 120, line, line + 120, line + 240);
    assertThat(across[2]).as("it sounds").isGreaterThan(-50);
    for (double level : across) {
      assertThat(level).as("dB across the line").isCloseTo(across[2], within(1.0));
    }

    stage.untilTick(3 * BAR - 900);
    balance("level: -6");
    stage.untilTick(3 * BAR + 1000);
    double quieter = level(3 * BAR + 100);
    assertThat(level(2 * BAR + 100) - quieter).as("6 dB less").isCloseTo(6, within(0.5));

    balance("muted: true");
    stage.untilTick(4 * BAR + 1000);
    assertThat(level(4 * BAR + 100)).as("muted").isLessThan(across[2] - 60);
    balance("muted: false");
    stage.press("PageUp");
    stage.until("ancora.state.armed === 3");
    stage.press("j");
    stage.until("document.getElementById('solo-lamp').textContent === 'solo: Keys'");
    stage.untilTick(5 * BAR + 1000);
    assertThat(level(5 * BAR + 100)).as("not solo").isLessThan(across[2] - 60);
    stage.press("j");
    stage.untilTick(6 * BAR + 1000);
    assertThat(level(6 * BAR + 100)).as("it went on meanwhile").isCloseTo(quieter, within(0.5));
  }

  /**
   * Another sound device, which the browser has only in name: it plays the same plan by its own
   * audio thread. The click is on it alone, and the parts are where they were; once it has gone the
   * click is heard nowhere.
   */
  @Test
  void theClickIsOnAnotherDeviceAloneAndSilentOnceThatHasGone() {
    stage = HeldStage.listenedTo(hand, house, "/shows/1");
    Page page = stage.page();
    page.addInitScript(
        """
        globalThis.devices = [{ kind: "audiooutput", deviceId: "phones", label: "Harbour phones" }];
        navigator.mediaDevices.enumerateDevices = async () => devices;
        const { AudioContext } = globalThis;
        AudioContext.prototype.setSinkId = async function (id) { this.sink = id; };""");
    page.reload();
    stage.until("globalThis.ancora?.connection.open");
    stage.press("Shift");
    stage.until("ancora.sound.isOn && ancora.who.isHere && ancora.sound.reported");
    stage.send("{ do: 'setMaster', room: 0.2 }");
    stage.send("{ do: 'setTempo', bpm: 240 }");
    stage.click("#setup");
    stage.click(page.locator("[data-tab=outputs]"));
    page.getByLabel("the click goes to").selectOption("Harbour phones");
    stage.until("ancora.outputs.asides.get('phones')?.sound.isOn");
    assertThat(page.evaluate("() => ancora.outputs.asides.get('phones').sound.context.sink"))
        .isEqualTo("phones");
    page.evaluate(
        """
        () => {
          globalThis.heardOn = { main: [0, 0], aside: [0, 0] };
          const listen = (sound, on) =>
            sound.addEventListener("levels", ({ detail: { output, click } }) => {
              heardOn[on] = [Math.max(heardOn[on][0], output), Math.max(heardOn[on][1], click)];
            });
          listen(ancora.sound, "main");
          listen(ancora.outputs.asides.get("phones").sound, "aside");
        }""");
    for (int part = 1; part <= 5; part++) {
      stage.send("{ do: 'cueTacet', part: %s }".formatted(part));
    }
    stage.press("Space");
    stage.untilTick(2 * BAR);
    double[] clicked = heardOn(page);
    assertThat(clicked[0]).as("nothing in the hall").isLessThan(1e-4);
    assertThat(clicked[2]).as("the click on the phones").isGreaterThan(0.05);
    stage.send("{ do: 'cueClip', part: 2, clip: 21 }");
    stage.send("{ do: 'setClick', on: false }");
    stage.untilTick(3 * BAR);
    page.evaluate("() => { heardOn.main = [0, 0]; heardOn.aside = [0, 0]; }");
    stage.untilTick(5 * BAR);
    double[] played = heardOn(page);
    assertThat(played[0]).as("the bass in the hall").isGreaterThan(0.02);
    assertThat(played[2]).as("and not on the phones").isLessThan(1e-4);
    page.evaluate(
        """
        () => {
          devices.splice(0);
          heardOn.main = [0, 0];
          navigator.mediaDevices.dispatchEvent(new Event("devicechange"));
        }""");
    stage.soon(
        () -> PlaywrightAssertions.assertThat(page.locator("#word")).containsText("has gone"));
    assertThat(page.evaluate("() => ancora.outputs.asides.size")).isEqualTo(0);
    stage.send("{ do: 'cueTacet', part: 2 }");
    stage.send("{ do: 'setClick', on: true }");
    stage.untilTick(7 * BAR);
    page.evaluate("() => { heardOn.main = [0, 0]; }");
    stage.untilTick(9 * BAR);
    double[] after = heardOn(page);
    assertThat(after[1]).as("the click goes on").isGreaterThan(0.05);
    assertThat(after[0]).as("and nobody hears it").isLessThan(1e-4);
  }

  /** What was heard, and how loud the click was: in the hall, on the other device. */
  private static double[] heardOn(Page page) {
    List<?> found = (List<?>) page.evaluate("() => [...heardOn.main, ...heardOn.aside]");
    return found.stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
  }
}
