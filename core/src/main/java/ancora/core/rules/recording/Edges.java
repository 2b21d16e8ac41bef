package ancora.core.rules.recording;

import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.Loop;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * At the edges of what was replaced: what of the old pedal lies outside goes on, and controllers
 * are again where they would be.
 */
final class Edges {

  private Edges() {}

  // the edges of what is replaced

  static Stage edgesOfPunch(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Optional<Loop> loop = Onto.of(stage, part).flatMap(Onto::loop);
    if (loop.isEmpty() || !Laps.lap(recording, begin).isPlayed()) {
      return stage;
    }
    long from = TakingOut.beginOf(recording, begin, loop.get());
    long end = Endings.rangeEnd(recording, loop.get(), from);
    return edges(stage, part, from, Math.min(end, recording.until()), begin);
  }

  /**
   * At the edges of a stretch that was replaced, what of the old pedal lies outside of it goes on,
   * and controllers are again where they would be.
   *
   * @param begin a tick of the lap that has what is before the stretch
   */
  static Stage edges(Stage stage, PartId part, long from, long to, long begin) {
    Optional<Onto> on = Onto.of(stage, part);
    Optional<Loop> loop = on.flatMap(Onto::loop).filter(l -> to - from < l.length());
    if (loop.isEmpty()) {
      return stage;
    }
    LoopRecording recording = on.get().recording();
    Take take = on.get().clip().take(recording.take());
    Stage next = stage;
    for (Lap lap : recording.laps()) {
      for (long id : lap.ids(Kind.NOTE_OUT, from)) {
        Optional<Note> span =
            take.allLayers()
                .flatMap(l -> l.notes().stream())
                .filter(n -> n.id() == id && n.isPedal())
                .findFirst();
        if (span.isPresent() && take.isOn(lap.layer())) {
          next = edges(next, part, span.get(), from, to, loop.get());
        }
      }
    }
    return movesAtEdge(next, part, from, to, loop.get());
  }

  static Stage edges(Stage stage, PartId part, Note span, long from, long to, Loop loop) {
    long length = Math.min(span.length(), loop.length());
    Stage next = stage;
    long before = loop.tickBefore(span.meant(), from);
    if (before + length > from && from - before >= Note.SHORTEST) {
      next = withPiece(next, part, span.withLength(from - before), from, to);
    }
    long under = loop.tickBefore(span.meant(), to);
    if (under + length > to && under + length - to >= Note.SHORTEST) {
      Note piece = span.meantAt(loop.placeAt(to)).withLength(under + length - to);
      next = withPiece(next, part, piece, to - 1, to);
    }
    return next;
  }

  private static Stage withPiece(Stage stage, PartId part, Note piece, long in, long edge) {
    Onto on = Onto.of(stage, part).orElseThrow();
    LoopRecording recording = on.recording();
    long id = stage.show().nextId();
    Laps.Layered layered =
        Laps.layered(
            stage.withShow(stage.show().withNextId(id + 1)),
            part,
            recording.lapAt(in, on.loop().orElseThrow()));
    Note note = piece.withId(id).released(piece.length());
    Stage next =
        Laps.mapLayer(
            layered.stage(), part, recording.clip(), layered.lap(), layer -> layer.with(note));
    return Laps.withLap(next, part, layered.lap().with(new Brought(Kind.NOTE, id, edge, edge)));
  }

  /**
   * Each controller whose moves were taken out is, from the stretch's end on, where it would be.
   */
  private static Stage movesAtEdge(Stage stage, PartId part, long from, long to, Loop loop) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Take take = stage.clip(part, recording.clip()).take(recording.take());
    List<Long> out = new ArrayList<>();
    recording.laps().forEach(lap -> out.addAll(lap.ids(Kind.MOVE_OUT, from)));
    List<ControllerMove> old =
        take.layers().stream()
            .filter(layer -> layer.number() < recording.old())
            .flatMap(layer -> layer.moves().stream())
            .filter(move -> loop.window().contains(move.place()))
            .toList();
    Stage next = stage;
    for (var controller : old.stream().map(ControllerMove::controller).distinct().toList()) {
      Optional<ControllerMove> last =
          old.stream()
              .filter(move -> move.controller().equals(controller))
              .max(
                  Comparator.comparingLong(
                      (ControllerMove move) -> loop.tickBefore(move.place(), to + 1)));
      if (last.isPresent() && out.contains(last.get().id())) {
        LoopRecording now = next.on(part).recording().orElseThrow();
        Laps.Layered layered = Laps.layered(next, part, now.lapAt(to - 1, loop));
        ControllerMove move = last.get().withPlace(loop.placeAt(to));
        next = Adding.withMove(layered, part, recording.clip(), move, to);
      }
    }
    return next;
  }
}
