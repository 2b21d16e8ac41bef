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
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;

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
    return stage.map().isEmpty() ? remembered : recorded(remembered, part, command, placed, moment);
  }

  private static Stage recorded(
      Stage stage, PartId part, HandCommand.MoveController command, long placed, Moment moment) {
    TempoMap map = stage.runningMap();
    long tick = map.tickAt(placed);
    ControllerMove move = new ControllerMove(command.controller(), tick, command.value());
    long within = map.ticksBefore(tick, ControllerMoves.APART);
    PartStage on = stage.on(part);
    if (on.first().filter(first -> tick >= first.start()).isPresent()) {
      return inFirst(stage, part, on.first().get(), move, within);
    }
    return Adding.add(stage, part, move, within, moment.over(map)).orElse(stage);
  }

  private static Stage inFirst(
      Stage stage, PartId part, FirstRecording first, ControllerMove move, long within) {
    boolean in = move.place() >= first.start() && move.place() < first.until();
    if (!in || first.moves().size() >= Clip.MOST_MOVES) {
      return stage;
    }
    ControllerMove placed = move.withPlace(move.place() - first.origin(stage.show().meter()));
    return stage.mapOn(
        part,
        on -> on.withFirst(first.withMoves(ControllerMoves.with(first.moves(), placed, within))));
  }
}
