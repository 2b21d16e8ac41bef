package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.note.InputKey;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartInput.Monitoring;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * On whom hands are heard: the part that is armed, unless it never is, and those that always are.
 */
class HeardTest {

  private final Engine engine =
      Engine.of(
          Show.named("Quay")
              .withNewPart("Kit", Sound.STANDARD_KIT)
              .withNewPart("Bass", Sound.of(33))
              .withNewPart("Keys", Sound.of(4)));
  private final List<PartId> parts = engine.stage().show().parts().stream().map(Part::id).toList();

  private List<PartId> heard() {
    return Heard.on(engine.stage()).stream().map(Heard::part).toList();
  }

  private void monitor(int place, Monitoring when) {
    PartInput input = engine.stage().show().part(parts.get(place)).input();
    engine.apply(
        new SettingCommand.SetPartInput(parts.get(place), input.withMonitoring(when)), 0, 0);
  }

  @Test
  void theArmedPartAndThoseAlongside() {
    assertThat(heard()).as("the first, where none is armed").containsExactly(parts.get(0));
    engine.apply(new PressCommand.Arm(parts.get(1)), 0, 0);
    assertThat(heard()).containsExactly(parts.get(1));
    monitor(2, Monitoring.ALWAYS);
    assertThat(heard()).containsExactly(parts.get(1), parts.get(2));
    monitor(1, Monitoring.NEVER);
    assertThat(heard()).containsExactly(parts.get(2));
  }

  @Test
  void keysThatChooseWhatIsErasedAreNotHeard() {
    engine.apply(new PressCommand.Arm(parts.get(0)), 0, 0);
    assertThat(Heard.on(engine.stage()).get(0).keys()).isTrue();
    engine.apply(new PressCommand.MainPress(), 1_000_000, 1_000_000);
    engine.apply(new HandCommand.KeyDown(new InputKey("pads", 9, 36), 90), 3_500_000, 3_500_000);
    engine.apply(new PressCommand.MainPress(), 4_900_000, 4_900_000);
    engine.apply(new MendCommand.EraseHeld(true), 9_000_000, 9_000_000);
    assertThat(Heard.on(engine.stage()).get(0).keys()).isFalse();
  }
}
