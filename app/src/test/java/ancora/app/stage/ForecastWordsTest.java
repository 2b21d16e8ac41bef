package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.note.InputKey;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.show.Click;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;

/** What a foot is told, before it comes down, is what it does then. */
class ForecastWordsTest {

  /** At 120 in 4/4 a bar lasts two seconds; the first press, which starts, is tick 0. */
  private static final long BAR = 2_000_000;

  private static final long BEGIN = 10_000_000;
  private static final Command MAIN = new PressCommand.MainPress();
  private static final Command PEEL = new MendCommand.Peel();
  private static final int KICK = 36;

  private Engine engine = engine("Kit", recording -> recording);

  private static Engine engine(String name, UnaryOperator<RecordingSettings> settings) {
    return Engine.of(
        Show.named("Quay")
            .withNewPart(name, Sound.STANDARD_KIT)
            .withClick(Click.DEFAULT.withOn(false))
            .withRecording(settings.apply(RecordingSettings.DEFAULT.withCountInBars(0))));
  }

  private void at(double bars, Command command) {
    long instant = instant(bars);
    assertThat(engine.apply(command, instant, instant)).isInstanceOf(Outcome.Done.class);
  }

  private static long instant(double bars) {
    return BEGIN + Math.round(bars * BAR);
  }

  private void hit(double bars) {
    InputKey key = new InputKey("pads", 9, KICK);
    at(bars, new HandCommand.KeyDown(key, 90));
    at(bars + 0.05, new HandCommand.KeyUp(key));
  }

  private String words(double bars, Command command) {
    engine.advance(instant(bars));
    return FootboardWords.found(engine, command, instant(bars));
  }

  /** Two bars with a kick on each, which vamp. */
  private void loop() {
    at(0, MAIN);
    hit(0.25);
    hit(1.25);
    at(1.9, MAIN);
    engine.advance(instant(2.1));
  }

  @Test
  void theLastBarsOfASetLength() {
    engine = engine("Kit", recording -> recording.withFixedUnits(2));
    at(0, MAIN);
    hit(0.25);
    assertThat(words(0.5, MAIN)).isEqualTo("close the loop at bar 2, then vamp");
    assertThat(words(1.5, MAIN)).isEqualTo("closes by itself at bar 3");
  }

  @Test
  void takesFromNothing() {
    at(0, new MendCommand.Takes(true));
    hit(0.25);
    assertThat(words(0.5, MAIN)).isEqualTo("close the loop at bar 2, then takes");
  }

  @Test
  void inTakes() {
    loop();
    at(2.5, new MendCommand.Takes(true));
    hit(4.25);
    hit(6.25);
    assertThat(words(6.5, MAIN)).isEqualTo("end takes; take 2 is heard");
    assertThat(words(6.5, PEEL)).isEqualTo("drop take 3");
  }

  @Test
  void peelOfWhatTakesOut() {
    loop();
    at(2.5, new MendCommand.Replace(true));
    hit(4.5);
    at(5.9, new MendCommand.Replace(false));
    engine.advance(instant(6.5));
    assertThat(words(6.5, PEEL)).isEqualTo("take off layer 3 (1 note), 1 note comes back");
  }

  @Test
  void peelInAFirstRecording() {
    at(0, MAIN);
    hit(0.25);
    assertThat(words(0.5, PEEL)).isEqualTo("drop what is there, begin again at bar 2");
  }

  @Test
  void namesAreTheirWholeLength() {
    engine = engine("Drums: low", recording -> recording);
    at(0, new CueCommand.Start());
    assertThat(words(0.5, new MendCommand.Replace(true)))
        .isEqualTo("Drums: low sounds nothing now");
  }

  @Test
  void overANewClipThatIsCued() {
    loop();
    at(2.5, new PressCommand.RecordAnew());
    assertThat(words(2.6, MAIN)).isEqualTo("call the recording off");
    assertThat(words(2.6, new PressCommand.Overdub()))
        .isEqualTo("Kit is about to record a new clip");
  }
}
