package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.PartInput;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Rule 2: from keys to notes. */
class KeysTest {

  /** Several parts may be armed: each takes what it listens to, and the main press goes to all. */
  @Test
  void partsArmedAlongsideAreRecordedTogether() {
    Concert concert = Concert.with();
    var bass = Concert.BASS;
    concert.at(0, new PressCommand.ArmAlongside(bass, true));
    concert.at(
        0,
        new SettingCommand.SetPartInput(
            bass, concert.stage().show().part(bass).input().withTranspose(-12)));
    concert.start().press(Concert.BAR - 20).play(60, Concert.BAR, Concert.BAR + 500);
    concert.press(2 * Concert.BAR - 20).until(3 * Concert.BAR);
    assertThat(concert.heard(60)).contains("on 3840", "off 4340", "on 7680");
    assertThat(concert.heard(bass, 48, 0)).contains("on 3840", "off 4340", "on 7680");
    assertThat(concert.stage().show().part(bass).shelf()).hasSize(1);
    concert.at(3 * Concert.BAR, new PressCommand.Arm(Concert.KEYS));
    assertThat(concert.stage().alongside()).isEmpty();
  }

  @Test
  void aPartTakesWhatItsDevicesPlayInItsRange() {
    PartInput input = PartInput.OPEN.withDevices(Set.of("pads")).withKeys(36, 51).withTranspose(12);
    assertThat(input.hears("pads", 9)).isTrue();
    assertThat(input.hears("keys", 9)).isFalse();
    assertThat(input.withChannels(Set.of(0, 4)).hears("pads", 9)).isFalse();
    assertThat(input.pitch(36)).hasValue(48);
    assertThat(input.pitch(51)).hasValue(63);
    assertThat(input.pitch(35)).isEmpty();
    assertThat(input.pitch(52)).isEmpty();
    assertThatThrownBy(() -> input.withKeys(51, 36)).hasMessageContaining("lowest first");
  }

  /**
   * Common practice: a device 5.8 ms late each way is placed 11.6 ms earlier. At 120 a key stamped
   * 1000 ms after tick 0 lies at 1897.728, so at 1898.
   */
  @Test
  void anOffsetIsInTenthsOfAMillisecond() {
    Performer performer = Performer.ready().grid(InputGrid.OFF).start().press(0);
    performer.doNow(
        new SettingCommand.SetPartInput(performer.part().id(), PartInput.OPEN.withOffset(11.6)),
        performer.micros(10));
    performer.hit(60, 1920).press(3840 + 20).until(3900);
    assertThat(performer.clip().notes().findFirst().orElseThrow().played()).isEqualTo(1898);
  }

  private static Performer recording() {
    return Performer.ready().start().press(0);
  }

  private static Performer closed(Performer performer) {
    return performer.press(3840).until(3900);
  }

  /** MIDI 1.0, note on: a velocity of 0 is equivalent to note off. */
  @Test
  void velocityZeroIsANoteOff() {
    Performer performer = recording().down(60, 0);
    performer.doNow(
        new HandCommand.KeyDown(new InputKey("stand-in", 0, 60), 0), performer.micros(480));
    assertThat(closed(performer).clip().notes()).extracting(Note::length).containsExactly(480L);
  }

  @Test
  void aSecondNoteOnEndsTheFirst() {
    Performer performer = closed(recording().down(60, 0).down(60, 480).up(60, 960));
    assertThat(performer.clip().notes()).extracting(Note::length).containsExactly(480L, 480L);
  }

  @Test
  void aBounceIsTheSameNoteAndTheLouderCounts() {
    Performer performer = recording().down(60, 0);
    performer.doNow(
        new HandCommand.KeyDown(new InputKey("stand-in", 0, 60), 120), performer.micros(14));
    performer.up(60, 480);
    assertThat(closed(performer).clip().notes())
        .singleElement()
        .satisfies(note -> assertThat(note.velocity()).isEqualTo(120));
  }

  @Test
  void aNoteOffWithNoNoteOnIsIgnored() {
    Performer performer = recording();
    Stage before = performer.engine.stage();
    performer.up(61, 100);
    assertThat(performer.engine.stage()).isEqualTo(before);
  }

  @Test
  void noNoteIsShorterThan15Ticks() {
    assertThat(closed(recording().play(60, 0, 3)).clip().notes())
        .extracting(Note::length)
        .containsExactly(15L);
  }

  @Test
  void aReleaseGoesWhereThePressWent() {
    Performer performer =
        Performer.with(show -> show.withNewPart("Bass", ancora.core.sound.Sound.of(33)));
    performer.start().press(0).down(60, 0);
    performer.doNow(
        new PressCommand.Arm(performer.engine.stage().show().parts().get(1).id()),
        performer.micros(100));
    performer.up(60, 960);
    performer.doNow(new PressCommand.Arm(performer.part().id()), performer.micros(1000));
    assertThat(closed(performer).clip().notes()).extracting(Note::length).containsExactly(960L);
  }

  @Test
  void aDeviceThatGoesReleasesItsKeys() {
    Performer performer = recording().down(60, 0).down(64, 0);
    performer.doNow(new HandCommand.DeviceGone("stand-in"), performer.micros(480));
    assertThat(performer.engine.stage().heldKeys()).isEmpty();
    assertThat(closed(performer).clip().notes()).extracting(Note::length).containsOnly(480L);
  }

  @Test
  void withoutAPartAKeyIsRefusedInWords() {
    Engine engine = Engine.of(Show.named("empty"));
    Outcome outcome =
        engine.apply(new HandCommand.KeyDown(new InputKey("stand-in", 0, 60), 100), 0, 0);
    assertThat(((Outcome.Refused) outcome).why()).startsWith("Add a part first");
  }

  @Test
  void playingAtStandstillIsRemembered() {
    Performer performer = Performer.ready().hit(60, -5000).hit(62, -4000);
    assertThat(performer.on().hindsight().notes())
        .hasSize(2)
        .allSatisfy(played -> assertThat(played.isHeld()).isFalse());
  }
}
