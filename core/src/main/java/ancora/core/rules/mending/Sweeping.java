package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Comp;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.rules.Moment;
import ancora.core.rules.Steps;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.stage.Sweep;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;

/** Putting a comp together while it sounds, by ear and foot (rule 8). */
final class Sweeping {

  private Sweeping() {}

  /** From the place that sounds to the end of the loop it is another take. */
  static Stage fromHere(Stage stage, MendCommand.CompHere command, Moment moment) {
    PartId part = command.part();
    Loop loop = loop(stage, part, command.clip());
    long place = loop.placeAt(moment.tick(stage.runningMap()));
    List<Stretch> drawn = List.of(new Stretch(place, loop.window().end(), command.take()));
    int heard = stage.clip(part, command.clip()).take().number();
    return swept(stage, part, command.clip(), heard, drawn, moment);
  }

  static Stage set(Stage stage, MendCommand.CompHeld command, Moment moment) {
    return command.on() ? begin(stage, command, moment) : end(stage, moment);
  }

  private static Stage begin(Stage stage, MendCommand.CompHeld command, Moment moment) {
    PartId part = command.part();
    Clip clip = stage.clip(part, command.clip());
    loop(stage, part, clip.id());
    Taking.refuseOpen(stage, part, clip.id());
    int heard = clip.take().number();
    Refusal.unless(
        heard != clip.take(command.take()).number(),
        "Take %s is heard already: choose another.",
        heard);
    Sweep sweep =
        new Sweep(part, clip.id(), command.take(), heard, moment.tick(stage.runningMap()));
    return Taking.hear(stage, part, clip.id(), command.take(), true, moment)
        .mapHands(hands -> hands.withSweep(Optional.of(sweep)));
  }

  /** A clip that has left by then, or the take, is left as it is. */
  private static Stage end(Stage stage, Moment moment) {
    Optional<Sweep> held = stage.hands().sweep();
    Stage free = stage.mapHands(hands -> hands.withSweep(Optional.empty()));
    if (held.isEmpty() || !isThere(stage, held.get())) {
      return free;
    }
    Sweep sweep = held.get();
    Loop loop = loop(stage, sweep.part(), sweep.clip());
    long until = moment.tick(stage.runningMap());
    List<Stretch> drawn = drawn(loop, sweep, until);
    return drawn.isEmpty()
        ? Taking.hear(free, sweep.part(), sweep.clip(), sweep.base(), true, moment)
        : swept(free, sweep.part(), sweep.clip(), sweep.base(), drawn, moment);
  }

  private static boolean isThere(Stage stage, Sweep sweep) {
    boolean sounds =
        stage.map().isPresent()
            && stage
                .on(sweep.part())
                .vamp()
                .map(Vamp::clip)
                .filter(sweep.clip()::equals)
                .isPresent();
    return sounds
        && stage.clip(sweep.part(), sweep.clip()).findTake(sweep.take()).isPresent()
        && stage.clip(sweep.part(), sweep.clip()).findTake(sweep.base()).isPresent();
  }

  /** What was passed while it was held; over the line it is two stretches. */
  private static List<Stretch> drawn(Loop loop, Sweep sweep, long until) {
    LoopWindow window = loop.window();
    if (until <= sweep.from()) {
      return List.of();
    }
    if (until - sweep.from() >= window.length()) {
      return List.of(new Stretch(window.start(), window.end(), sweep.take()));
    }
    long from = loop.placeAt(sweep.from());
    long to = loop.placeAt(until);
    if (from < to) {
      return List.of(new Stretch(from, to, sweep.take()));
    }
    Stretch first = new Stretch(from, window.end(), sweep.take());
    return to == window.start()
        ? List.of(first)
        : List.of(first, new Stretch(window.start(), to, sweep.take()));
  }

  private static Stage swept(
      Stage stage, PartId part, ClipId id, int base, List<Stretch> drawn, Moment moment) {
    Clip clip = stage.clip(part, id);
    Taking.refuseOpen(stage, part, id);
    drawn.forEach(stretch -> clip.take(stretch.take()));
    Take comp = Comp.swept(clip, base, drawn, stage.show().nextId());
    Stage with = Steps.counted(stage.withClip(part, clip.with(comp)));
    Stage noted = Steps.noted(stage, with, "comp of " + Steps.name(stage, part, clip));
    return Taking.hear(noted, part, id, comp.number(), true, moment);
  }

  private static Loop loop(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Optional<Vamp> vamp =
        stage.on(part).vamp().filter(v -> v.clip().equals(id) && stage.map().isPresent());
    Refusal.unless(
        vamp.isPresent(), "%s does not sound: bring it in first.", Steps.name(stage, part, clip));
    return vamp.get().in(clip.window());
  }
}
