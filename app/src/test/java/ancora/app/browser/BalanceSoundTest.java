package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
    stage = HeldStage.open(hand, house, 1);
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
}
