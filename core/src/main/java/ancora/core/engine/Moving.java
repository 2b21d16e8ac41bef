package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import ancora.core.record.FirstRecording;
import ancora.core.record.Moves;
import ancora.core.record.Overdub;
import ancora.core.record.PassLog;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import java.util.Optional;

/** Controllers being moved: recorded unmoved by any grid, where a recording goes on. */
final class Moving {

  private Moving() {}

  static Stage move(Stage stage, Command.MoveController command, Moment moment) {
    Stage next = stage;
    for (PartId part : Playing.partsFor(stage, moment.stamp())) {
      next = move(next, part, command, moment);
    }
    return next;
  }

  private static Stage move(
      Stage stage, PartId part, Command.MoveController command, Moment moment) {
    boolean heard = stage.show().part(part).input().hears(command.channel());
    if (!heard || stage.map().isEmpty()) {
      return stage;
    }
    TempoMap map = stage.map().get();
    long tick = moment.tick(map);
    Move move = new Move(command.controller(), tick, command.value());
    long within = map.ticksBefore(tick, Moves.APART);
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      return inFirst(stage, part, on.first().get(), move, within);
    }
    return on.overdub()
        .filter(overdub -> overdub.covers(tick))
        .flatMap(overdub -> inPass(stage, part, overdub, move, within))
        .orElse(stage);
  }

  private static Stage inFirst(
      Stage stage, PartId part, FirstRecording first, Move move, long within) {
    boolean in = move.place() >= first.start() && move.place() < first.until();
    if (!in || first.moves().size() >= Clip.MOST_MOVES) {
      return stage;
    }
    Move placed = move.withPlace(move.place() - first.origin(stage.show().meter()));
    return stage.mapOn(
        part, on -> on.withFirst(first.withMoves(Moves.with(first.moves(), placed, within))));
  }

  private static Optional<Stage> inPass(
      Stage stage, PartId part, Overdub overdub, Move move, long within) {
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(overdub.clip()));
    Optional<Clip> shelved = overdub.clipOn(stage.show().part(part));
    boolean full = shelved.map(c -> c.moves().count() >= Clip.MOST_MOVES).orElse(true);
    if (vamp.isEmpty() || full || vamp.get().from() > move.place()) {
      return Optional.empty();
    }
    LoopWindow window = shelved.get().window();
    if (overdub.rests(move.place(), window.length())) {
      return Optional.empty();
    }
    long place = vamp.get().placeAt(move.place(), window);
    if (!overdub.takesAt(place)) {
      return Optional.empty();
    }
    long pass = overdub.passOf(move.place(), vamp.get().phase(), window.length());
    PassLog.Added added =
        vamp.get().passes().add(shelved.get(), move.withPlace(place), pass, within);
    return Optional.of(
        stage
            .withClip(part, added.clip())
            .mapOn(part, on -> on.withVamp(vamp.get().withPasses(added.log()))));
  }
}
