package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.core.control.ControlMap;
import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.Stage;
import ancora.core.note.InputKey;
import ancora.core.plan.Plan;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Plays a little to nobody when the house has opened, so that the first press of the night does not
 * wait for code that is loaded and compiled.
 */
@Component
class Rehearsal {

  private static final int PASSES = 40;
  private static final long STEP = 250_000;

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    Thread thread = new Thread(Rehearsal::play, "rehearsal");
    thread.setDaemon(true);
    thread.setPriority(Thread.MIN_PRIORITY);
    thread.start();
  }

  /** A loop is recorded, added to, peeled and undone, in virtual time, and told to nobody. */
  static void play() {
    Engine engine = Engine.of(Stage.of(Show.named("Rehearsal").withNewPart("Kit", Sound.kit(0))));
    List<ControlMap.Pedal> pedals = ControlMap.STAND_IN.pedals();
    long now = 0;
    for (int pass = 0; pass < PASSES; pass++) {
      for (Command command : commands(pass)) {
        Stage before = engine.stage();
        Optional<Plan> plan = Optional.of(engine.plan());
        now += STEP;
        engine.apply(CommandJson.read(CommandJson.write(command)), now, now);
        StateJson.changes(before, engine.stage());
        PlanJson.changes(plan, engine.plan());
        FootboardWords.of(engine, pedals, now);
      }
    }
  }

  private static List<Command> commands(int pass) {
    InputKey key = new InputKey("nobody", 9, 36 + pass % 8);
    return List.of(
        new Command.MainPress(),
        new Command.KeyDown(key, 90),
        new Command.KeyUp(key),
        pass % 10 == 9 ? new Command.Stop() : new Command.Peel());
  }
}
