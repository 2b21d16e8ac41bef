package ancora.core.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.standin.StandInPlayer.Message;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.List;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.ShortMessage;
import org.junit.jupiter.api.Test;

class StandInPlayerTest {

  private static final TempoMap MAP = TempoMap.of(0, 0, Tempo.of(97.3));

  private static List<Message> play(HumanTiming timing) {
    return StandInPlayer.perform(Pattern.SIXTEENTHS, 2, 0, MAP, Meter.COMMON, timing);
  }

  @Test
  void withoutSpreadItIsExact() {
    List<Message> ons =
        play(new HumanTiming(1, 0, 0, 0)).stream().filter(m -> m.status() == 0x90).toList();
    assertThat(ons).hasSize(64);
    for (int i = 0; i < ons.size(); i++) {
      assertThat(ons.get(i).micros()).isEqualTo(Math.round(MAP.microsOf(i * 240L)));
    }
  }

  @Test
  void aSeedPlaysTheSameEachTime() {
    HumanTiming timing = new HumanTiming(42, 15, 10, 8);
    assertThat(play(timing)).isEqualTo(play(timing));
    assertThat(play(timing)).isNotEqualTo(play(new HumanTiming(43, 15, 10, 8)));
  }

  @Test
  void theSpreadIsWhatWasAskedFor() {
    List<Message> ons =
        StandInPlayer.perform(
                Pattern.SIXTEENTHS, 64, 0, MAP, Meter.COMMON, new HumanTiming(5, 15, 0, 0))
            .stream()
            .filter(m -> m.status() == 0x90)
            .toList();
    double sum = 0;
    for (int i = 0; i < ons.size(); i++) {
      double error = (ons.get(i).micros() - MAP.microsOf(i * 240L)) / 1000;
      sum += error * error;
    }
    assertThat(Math.sqrt(sum / ons.size())).isBetween(14.0, 16.0);
  }

  /** The JDK's own MIDI messages accept every one of them. */
  @Test
  void whatItSendsIsMidi() throws InvalidMidiDataException {
    for (Pattern pattern : Pattern.ALL) {
      for (Message m :
          StandInPlayer.perform(pattern, 1, 0, MAP, Meter.COMMON, HumanTiming.STEADY)) {
        ShortMessage message = new ShortMessage(m.status(), m.data1(), m.data2());
        assertThat(message.getChannel()).isZero();
        assertThat(message.getCommand()).isIn(ShortMessage.NOTE_ON, ShortMessage.NOTE_OFF);
      }
    }
  }

  @Test
  void whatIsOutOfReachIsRefused() {
    assertThatThrownBy(() -> new HumanTiming(1, 61, 0, 0)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Pattern.named("waltz")).isInstanceOf(Refusal.class);
    assertThatThrownBy(
            () ->
                StandInPlayer.perform(
                    Pattern.TIDE_HATS, 65, 0, MAP, Meter.COMMON, HumanTiming.STEADY))
        .isInstanceOf(Refusal.class);
  }
}
