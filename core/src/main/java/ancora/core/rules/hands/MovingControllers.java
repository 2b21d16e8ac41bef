package ancora.core.rules.hands;

import ancora.core.clip.Clip;
import ancora.core.note.ControllerMove;
import ancora.core.record.ControllerMoves;
import ancora.core.record.FirstRecording;
import ancora.core.record.PlayedMove;
import ancora.core.rules.Moment;
import ancora.core.rules.recording.Adding;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import java.util.Optional;

/** Controllers being moved: recorded unmoved by any grid, where a recording goes on. */
public final class MovingControllers {

  private MovingControllers() {}

  public static Stage move(Stage stage, HandCommand.MoveController command, Moment moment) {
    Stage next = stage;
    for (PartId part : Playing.partsFor(stage, moment.stamp())) {
      next = move(next, part, command, moment);
    }
    return next;
  }

  private static Stage move(
      Stage stage, PartId part, HandCommand.MoveController command, Moment moment) {
    PartInput input = stage.show().part(part).input();
    if (!input.hears(command.device(), command.channel())) {
      return stage;
    }
    long placed = input.placed(moment.stamp());
    PlayedMove played = new PlayedMove(command.controller(), command.value(), placed);
    Stage remembered = stage.mapOn(part, on -> on.withHindsight(on.hindsight().with(played)));
    return stage.map().isEmpty() ? remembered : recorded(remembered, part, played, moment);
  }

  private static Stage recorded(Stage stage, PartId part, PlayedMove move, Moment moment) {
    TempoMap map = stage.runningMap();
    long tick = map.tickAt(move.micros());
    Optional<FirstRecording> first = stage.on(part).first().filter(f -> tick >= f.start());
    return first.isPresent()
        ? inFirst(stage, part, first.get(), move, tick)
        : Adding.add(stage, part, move, moment.over(map)).orElse(stage);
  }

  private static Stage inFirst(
      Stage stage, PartId part, FirstRecording first, PlayedMove move, long tick) {
    if (tick >= first.until() || first.moves().size() >= Clip.MOST_MOVES) {
      return stage;
    }
    long within = stage.runningMap().ticksBefore(tick, ControllerMoves.APART);
    long place = tick - first.origin(stage.show().meter());
    ControllerMove placed = new ControllerMove(move.controller(), place, move.value());
    return stage.mapOn(
        part,
        on -> on.withFirst(first.withMoves(ControllerMoves.with(first.moves(), placed, within))));
  }
}
