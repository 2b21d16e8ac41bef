package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.plan.Plan;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.run.From;
import ancora.core.run.RunPart;
import ancora.core.sound.BankSound;
import ancora.core.sound.SecondSound;
import ancora.core.sound.Sound;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Sounds of clips, second sounds, and sounds of banks. */
class SoundsTest {

  private static final Sound STRINGS = Sound.of(48);
  private static final String DIGEST = "0123456789abcdef".repeat(4);

  private static Concert two() {
    return Concert.with(clip(A, 0, BAR, note(1, 60, 0, 960)), clip(B, 0, BAR, note(2, 67, 0, 960)));
  }

  private static List<Plan.SoundChange> changes(Concert concert) {
    return Engine.of(concert.stage()).plan().parts().stream()
        .filter(part -> part.part().equals(KEYS))
        .findFirst()
        .orElseThrow()
        .changes();
  }

  @Test
  void aPartTurnsToTheSoundOfAClipWhereItEntersAndBackWithTheNext() {
    Concert concert = two();
    Sound own = concert.stage().show().part(KEYS).sound();
    concert.at(-100, new ShelfCommand.SetClipSound(KEYS, B, STRINGS));
    concert.start().cue(B, BAR + 1000);
    assertThat(changes(concert)).containsExactly(new Plan.SoundChange(2 * BAR, STRINGS));
    concert.cue(A, 3 * BAR + 1000);
    assertThat(changes(concert)).endsWith(new Plan.SoundChange(4 * BAR, own));
    concert.at(6 * BAR, new CueCommand.Stop());
    RunPart keys = concert.run().part(KEYS);
    assertThat(keys.sounds())
        .containsExactly(
            new From.OfSound(0, own),
            new From.OfSound(2 * BAR, STRINGS),
            new From.OfSound(4 * BAR, own));
  }

  @Test
  void aCueThatIsCalledOffTurnsNothing() {
    Concert concert = two();
    concert.at(-100, new ShelfCommand.SetClipSound(KEYS, B, STRINGS));
    concert.start().cue(B, BAR + 1000).cue(A, BAR + 2000);
    concert.at(3 * BAR, new CueCommand.Stop());
    assertThat(concert.run().part(KEYS).sounds()).hasSize(1);
  }

  @Test
  void theSoundOfAClipIsUndone() {
    Concert concert = two();
    concert.at(-300, new ShelfCommand.SetClipSound(KEYS, B, STRINGS));
    assertThat(concert.clip(B).sound()).contains(STRINGS);
    concert.at(-200, new ShelfCommand.ClipSoundAsPart(KEYS, B));
    assertThat(concert.clip(B).sound()).isEmpty();
    concert.at(-100, new UndoCommand.Undo());
    assertThat(concert.clip(B).sound()).contains(STRINGS);
  }

  @Test
  void aSecondSoundIsChosenWithTheFirst() {
    Sound both = Sound.of(0).withSecond(Optional.of(SecondSound.of(STRINGS)));
    Concert concert = two();
    concert.at(-100, new SettingCommand.ChooseSound(KEYS, both, true));
    assertThat(concert.stage().show().part(KEYS).sound()).isEqualTo(both);
    assertThat(both.further(1)).isEqualTo(both.withProgram(1));
    assertThat(both.name()).isEqualTo(Sound.of(0).name());
  }

  @Test
  void whatIsOutOfReachIsRefused() {
    SecondSound plain = SecondSound.of(STRINGS);
    Sound both = Sound.of(0).withSecond(Optional.of(plain));
    assertThatThrownBy(() -> SecondSound.of(both)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new SecondSound(STRINGS, 7, 0, 0, 127)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new SecondSound(STRINGS, 0, 37, 0, 127)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new SecondSound(STRINGS, 0, 0, 60, 59)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new SecondSound(STRINGS, Double.NaN, 0, 0, 127))
        .isInstanceOf(Refusal.class);
    // 10^(−6/20), the definition of the decibel
    assertThat(new SecondSound(STRINGS, -6, 0, 0, 127).gain()).isBetween(0.50118, 0.50120);
    assertThat(new SecondSound(STRINGS, -60, 0, 0, 127).gain()).isZero();
    assertThatThrownBy(() -> new BankSound("abc", "harbour.sf2", 0, "Fog"))
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new BankSound(DIGEST, "harbour.sf2", 16_384, "Fog"))
        .isInstanceOf(Refusal.class);
  }

  @Test
  void aSoundOfABankIsCalledAsTheBankCallsItAndHasNoNext() {
    BankSound fog = new BankSound(DIGEST, "harbour.sf2", 129, "Fog horn");
    Sound sound = Sound.of(60).withOwn(Optional.of(fog));
    assertThat(sound.name()).isEqualTo("Fog horn");
    assertThat(sound.family()).isEqualTo("harbour.sf2");
    assertThatThrownBy(() -> sound.further(1)).hasMessageContaining("choose another from its list");
    // a kit of a bank may have a program that none of General MIDI has
    assertThat(Sound.kit(0).withOwn(Optional.of(fog)).withProgram(99).drums()).isTrue();
  }
}
