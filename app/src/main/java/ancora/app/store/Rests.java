package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.core.clip.ClipId;
import ancora.core.record.Hindsight;
import ancora.core.record.Played;
import ancora.core.show.PartId;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.stage.FormStage;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What a stage at standstill knows besides its show and its history, as JSON. */
final class Rests {

  private Rests() {}

  /**
   * What is at rest.
   *
   * @param section the section that was entered last
   */
  record Rest(
      Optional<PartId> armed,
      long delayMicros,
      Optional<SectionId> section,
      Map<PartId, ClipId> ready,
      Map<PartId, List<Played>> hindsight) {}

  static String json(Stage stage) {
    Map<PartId, ClipId> ready = new HashMap<>();
    Map<PartId, List<Played>> hindsight = new HashMap<>();
    stage
        .partStages()
        .forEach(
            (part, on) -> {
              on.ready().ifPresent(clip -> ready.put(part, clip));
              hindsight.put(part, on.hindsight().notes().toList());
            });
    return CoreJson.write(
            new Rest(stage.armed(), stage.delayMicros(), stage.form().now(), ready, hindsight))
        .toString();
  }

  /**
   * A stage at standstill.
   *
   * @param text as {@link #json} made it; null for a show that has not been played yet
   */
  static Stage stage(Show show, String text) {
    Stage fresh = Stage.of(show);
    return text == null ? fresh : with(fresh, CoreJson.read(text, Rest.class));
  }

  private static Stage with(Stage fresh, Rest rest) {
    Stage stage =
        fresh
            .withDelay(rest.delayMicros())
            .withForm(new FormStage(rest.section(), 0, Optional.empty()))
            .withArmed(rest.armed());
    for (var entry : rest.hindsight().entrySet()) {
      Hindsight memory = Hindsight.EMPTY;
      for (Played played : entry.getValue()) {
        memory = memory.with(played);
      }
      PartStage on =
          PartStage.TACET
              .withReady(Optional.ofNullable(rest.ready().get(entry.getKey())))
              .withHindsight(memory);
      stage = stage.mapOn(entry.getKey(), before -> on);
    }
    return stage;
  }
}
