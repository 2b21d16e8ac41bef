package ancora.app.stage;

import ancora.core.note.InputKey;
import ancora.core.rules.Command;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** What the hands and feet at one page hold: keys, pedals, and what is on only while it is held. */
final class Holding {

  private final Set<InputKey> keys = new LinkedHashSet<>();
  private final Set<InputKey> pedals = new LinkedHashSet<>();
  private boolean erases;
  private boolean stutters;

  /** What is held after a command. */
  void after(Command command) {
    if (command instanceof HandCommand.KeyDown down && down.velocity() > 0) {
      keys.add(down.key());
    } else if (command instanceof HandCommand.KeyDown up) {
      keys.remove(up.key());
    } else if (command instanceof HandCommand.KeyUp up) {
      keys.remove(up.key());
    } else if (command instanceof HandCommand.Sustain foot) {
      InputKey pedal = InputKey.pedal(foot.device(), foot.channel());
      if (foot.isDown()) {
        pedals.add(pedal);
      } else {
        pedals.remove(pedal);
      }
    } else if (command instanceof MendCommand.EraseHeld erase) {
      erases = erase.on();
    } else if (command instanceof MendCommand.Stutter stutter) {
      stutters = stutter.on();
    } else if (command instanceof HandCommand.Panic) {
      keys.clear();
      pedals.clear();
    }
  }

  /** The commands that let go of it all, but for what others hold too. */
  List<Command> releases(Collection<Holding> others) {
    List<Command> releases = new ArrayList<>();
    keys.stream()
        .filter(key -> others.stream().noneMatch(other -> other.keys.contains(key)))
        .forEach(key -> releases.add(new HandCommand.KeyUp(key)));
    pedals.stream()
        .filter(pedal -> others.stream().noneMatch(other -> other.pedals.contains(pedal)))
        .forEach(
            pedal -> releases.add(new HandCommand.Sustain(pedal.device(), pedal.channel(), 0)));
    if (erases && others.stream().noneMatch(other -> other.erases)) {
      releases.add(new MendCommand.EraseHeld(false));
    }
    if (stutters && others.stream().noneMatch(other -> other.stutters)) {
      releases.add(new MendCommand.Stutter(false, 1, false));
    }
    return releases;
  }
}
