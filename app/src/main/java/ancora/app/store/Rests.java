package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.core.clip.ClipId;
import ancora.core.engine.Engine;
import ancora.core.note.Controller;
import ancora.core.record.Hindsight;
import ancora.core.record.Played;
import ancora.core.record.PlayedMove;
import ancora.core.show.PartId;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.stage.FirstPress;
import ancora.core.stage.FormStage;
import ancora.core.stage.Hands;
import ancora.core.stage.Kept;
import ancora.core.stage.PartStage;
import ancora.core.stage.PastRun;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.Taps;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.node.ObjectNode;

/**
 * What a stage knows besides its show, its history and its hindsight, which have rows of their own,
 * as JSON: at standstill, and while it rolls.
 */
final class Rests {

  /** What earlier rests lack: they know nothing of it. */
  private static final List<String> CAME_LATER = List.of("lastRun", "kept");

  private Rests() {}

  /**
   * All the rest.
   *
   * @param rules under which it was played
   */
  record Rest(
      int rules,
      Transport transport,
      Map<PartId, PartStage> parts,
      Optional<PartId> armed,
      Set<PartId> alongside,
      Optional<PartId> armsNext,
      Hands hands,
      Taps taps,
      long delayMicros,
      FormStage form,
      Optional<FirstPress> firstPress,
      Optional<PastRun> lastRun,
      Optional<Kept> kept) {

    private static Rest of(Stage stage) {
      Map<PartId, PartStage> parts = new TreeMap<>();
      stage.partStages().forEach((part, on) -> parts.put(part, on.withHindsight(Hindsight.EMPTY)));
      return new Rest(
          Engine.RULES,
          stage.transport(),
          parts,
          stage.armed(),
          stage.alongside(),
          stage.armsNext(),
          stage.hands(),
          stage.taps(),
          stage.delayMicros(),
          stage.form(),
          stage.firstPress(),
          stage.lastRun(),
          stage.kept());
    }

    private Stage on(Stage fresh) {
      Stage stage = fresh;
      for (Map.Entry<PartId, PartStage> part : parts.entrySet()) {
        stage = stage.mapOn(part.getKey(), before -> part.getValue());
      }
      return stage
          .withTransport(transport)
          .withArmed(armed)
          .withAlongside(alongside)
          .withArmsNext(armsNext)
          .withHands(hands)
          .withTaps(taps)
          .withDelay(delayMicros)
          .withForm(form)
          .withFirstPress(firstPress)
          .withLastRun(lastRun)
          .withKept(kept);
    }

    /** What of it stands ready: it does not go on under other rules than its own. */
    private Stage atRest(Stage fresh) {
      Stage stage = fresh;
      for (Map.Entry<PartId, PartStage> part : parts.entrySet()) {
        Optional<ClipId> ready = part.getValue().inHand();
        stage = stage.mapOn(part.getKey(), before -> PartStage.TACET.withReady(ready));
      }
      Optional<SectionId> section = form.now();
      return stage
          .withArmed(armed)
          .withDelay(delayMicros)
          .withForm(new FormStage(section, 0, Optional.empty()));
    }
  }

  static String json(Stage stage) {
    return CoreJson.write(Rest.of(stage)).toString();
  }

  /**
   * A stage, but for its history and hindsight.
   *
   * @param text as {@link #json} made it; null for a show that has not been played yet
   */
  static Stage stage(Show show, String text) {
    Stage fresh = Stage.of(show);
    if (text == null) {
      return fresh;
    }
    ObjectNode node = CoreJson.read(text, ObjectNode.class);
    for (String name : CAME_LATER) {
      if (!node.has(name)) {
        node.putNull(name);
      }
    }
    Rest rest = CoreJson.read(node, Rest.class);
    return rest.rules() == Engine.RULES ? rest.on(fresh) : rest.atRest(fresh);
  }

  /**
   * A page of what was played, each note a row: [id, pitch, velocity, on, for how long, traits].
   */
  static String page(Iterable<Played> page) {
    StringBuilder text = new StringBuilder("[");
    for (Played note : page) {
      if (text.length() > 1) {
        text.append(',');
      }
      int traits = (note.plain() ? PLAIN : 0) | (note.recorded() ? RECORDED : 0);
      text.append('[').append(note.noteId());
      text.append(',').append(note.pitch()).append(',').append(note.velocity());
      text.append(',').append(note.onMicros());
      text.append(',').append(note.isHeld() ? HELD : note.offMicros() - note.onMicros());
      text.append(',').append(traits).append(']');
    }
    return text.append(']').toString();
  }

  private static final long HELD = Long.MIN_VALUE;
  private static final int PLAIN = 1;
  private static final int RECORDED = 2;

  /** A page of moves, each a row: [kind, number, value, when]. */
  static String movePage(List<PlayedMove> page) {
    long[][] rows =
        page.stream()
            .map(
                move ->
                    new long[] {
                      move.controller().kind().ordinal(),
                      move.controller().number(),
                      move.value(),
                      move.micros()
                    })
            .toArray(long[][]::new);
    return CoreJson.write(rows).toString();
  }

  private static final int MOVE_ROW = 4;

  /** What was played, with a page more, of notes or of moves. */
  static Hindsight with(Hindsight before, String page) {
    Hindsight memory = before;
    for (long[] row : CoreJson.read(page, long[][].class)) {
      if (row.length == MOVE_ROW) {
        Controller.Kind kind = Controller.Kind.values()[(int) row[0]];
        Controller controller = new Controller(kind, (int) row[1]);
        memory = memory.with(new PlayedMove(controller, (int) row[2], row[3]));
        continue;
      }
      Played down = Played.down(row[0], (int) row[1], (int) row[2], row[3]);
      Played note = row[4] == HELD ? down : down.withOff(row[3] + row[4]);
      boolean plain = (row[5] & PLAIN) != 0;
      memory = memory.with(note.withPlain(plain).withRecorded((row[5] & RECORDED) != 0));
    }
    return memory;
  }
}
