package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.rules.Moment;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.ShortLoop;
import java.util.List;
import java.util.Optional;

/** A loop that goes round in a beat while that is held (rule 13). It is no step. */
public final class Stuttering {

  private Stuttering() {}

  public static Stage set(Stage stage, MendCommand.Stutter command, Moment moment) {
    if (stage.map().isEmpty()) {
      Refusal.unless(!command.on(), "The transport stands still: start it first.");
      return stage;
    }
    return command.on() ? held(stage, command, moment) : letGo(stage, moment);
  }

  private static Stage held(Stage stage, MendCommand.Stutter command, Moment moment) {
    TempoMap map = stage.map().orElseThrow();
    long heard = map.firstTickFrom(moment.audible());
    List<PartId> parts =
        command.all()
            ? stage.show().parts().stream().map(Part::id).toList()
            : List.of(stage.armedPart());
    List<PartId> vamping =
        parts.stream()
            .filter(p -> stage.on(p).vamp().filter(v -> v.from() <= heard).isPresent())
            .toList();
    Refusal.unless(!vamping.isEmpty(), "Nothing sounds there now: bring a clip in first.");
    long length = stage.show().meter().beatTicks() / command.divide();
    long start = Ticks.floor(moment.tick(map), length);
    Stage next = stage;
    for (PartId part : vamping) {
      next = held(next, part, heard, start, length);
    }
    return next;
  }

  private static Stage held(Stage stage, PartId part, long heard, long start, long length) {
    PartStage on = stage.on(part);
    if (on.stutter().filter(ShortLoop::isHeld).isPresent()) {
      return stage;
    }
    long inStep = on.stutter().map(ShortLoop::until).orElse(Long.MIN_VALUE);
    ShortLoop stutter = new ShortLoop(inStep, heard, start, length, Ticks.OPEN);
    return stage.mapOn(part, p -> p.withStutter(Optional.of(stutter)));
  }

  private static Stage letGo(Stage stage, Moment moment) {
    long heard = stage.map().orElseThrow().firstTickFrom(moment.audible());
    return stage.forEachPart(
        (s, part) ->
            s.on(part).stutter().filter(ShortLoop::isHeld).isPresent()
                ? s.mapOn(part, on -> on.withStutter(on.stutter().map(st -> st.until(heard))))
                : s);
  }
}
