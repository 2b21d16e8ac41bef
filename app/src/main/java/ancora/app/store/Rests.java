package ancora.app.store;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.engine.Cleared;
import ancora.core.engine.PartStage;
import ancora.core.engine.Stage;
import ancora.core.record.Hindsight;
import ancora.core.record.Played;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What a stage at standstill knows besides its show, as JSON. */
@Component
class Rests {

  private final ObjectMapper json;

  Rests(ObjectMapper json) {
    this.json = json;
  }

  /** Parts and clips by their numbers. */
  record Rest(
      Integer armed,
      long delayMicros,
      Map<Integer, Integer> ready,
      List<ClearedClip> cleared,
      Map<Integer, List<Played>> hindsight) {}

  record ClearedClip(int part, Clip clip) {}

  String json(Stage stage) {
    Map<Integer, Integer> ready = new HashMap<>();
    Map<Integer, List<Played>> hindsight = new HashMap<>();
    stage
        .partStages()
        .forEach(
            (part, on) -> {
              on.ready().ifPresent(clip -> ready.put(part.value(), clip.value()));
              hindsight.put(part.value(), on.hindsight().notes().toList());
            });
    Rest rest =
        new Rest(
            stage.armed().map(PartId::value).orElse(null),
            stage.delayMicros(),
            ready,
            stage.cleared().stream()
                .map(cleared -> new ClearedClip(cleared.part().value(), cleared.clip()))
                .toList(),
            hindsight);
    try {
      return json.writeValueAsString(rest);
    } catch (JsonProcessingException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /**
   * A stage at standstill.
   *
   * @param text as {@link #json} made it; null for a show that has not been played yet
   */
  Stage stage(Show show, String text) {
    Stage fresh = Stage.of(show);
    if (text == null) {
      return fresh;
    }
    try {
      return with(fresh, json.readValue(text, Rest.class));
    } catch (JsonProcessingException damaged) {
      throw new IllegalStateException("what stood ready cannot be read", damaged);
    }
  }

  private static Stage with(Stage fresh, Rest rest) {
    Stage stage =
        fresh
            .withDelay(rest.delayMicros())
            .withCleared(
                rest.cleared().stream()
                    .map(c -> new Cleared(new PartId(c.part()), c.clip(), Optional.empty()))
                    .toList());
    for (Part part : fresh.show().parts()) {
      Optional<ClipId> ready =
          Optional.ofNullable(rest.ready().get(part.id().value())).map(ClipId::new);
      Hindsight memory = Hindsight.EMPTY;
      for (Played played : rest.hindsight().getOrDefault(part.id().value(), List.of())) {
        memory = memory.with(played);
      }
      PartStage on = PartStage.TACET.withReady(ready).withHindsight(memory);
      stage = stage.mapOn(part.id(), before -> on);
    }
    return rest.armed() == null ? stage : stage.withArmed(new PartId(rest.armed()));
  }
}
