package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.engine.PartStage;
import ancora.core.engine.Stage;
import ancora.core.engine.Transport;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * What screens show of a stage, as JSON. Screens hold the whole; what is sent is what has changed:
 * a section, a part, a clip. Since a stage is made of values, what is the same object has not
 * changed.
 */
final class StateJson {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  private StateJson() {}

  /** The whole state. */
  static ObjectNode whole(Stage stage) {
    return changes(Optional.empty(), stage);
  }

  /** What has changed from one stage to the next; empty if nothing has that screens show. */
  static ObjectNode changes(Stage before, Stage after) {
    return changes(Optional.of(before), after);
  }

  private static ObjectNode changes(Optional<Stage> before, Stage after) {
    ObjectNode changes = JSON.objectNode();
    Show show = after.show();
    if (before.map(b -> !settings(b.show()).equals(settings(show))).orElse(true)) {
      changes.set("show", settings(show));
    }
    if (before.map(b -> !b.transport().equals(after.transport())).orElse(true)) {
      changes.set("transport", transport(after));
    }
    if (before.map(b -> !b.armed().equals(after.armed())).orElse(true)) {
      changes.put("armed", after.armed().map(PartId::value).orElse(0));
    }
    if (before.map(b -> !order(b.show()).equals(order(show))).orElse(true)) {
      changes.set("order", order(show));
    }
    addParts(changes, before, after);
    addClips(changes, before, after);
    return changes;
  }

  private static void addParts(ObjectNode changes, Optional<Stage> before, Stage after) {
    ObjectNode parts = JSON.objectNode();
    for (Part part : after.show().parts()) {
      ObjectNode now = part(part, after.on(part.id()), after);
      boolean same =
          before
              .filter(b -> b.show().parts().stream().anyMatch(p -> p.id().equals(part.id())))
              .map(b -> part(b.show().part(part.id()), b.on(part.id()), b).equals(now))
              .orElse(false);
      if (!same) {
        parts.set(String.valueOf(part.id().value()), now);
      }
    }
    if (!parts.isEmpty()) {
      changes.set("parts", parts);
    }
  }

  private static void addClips(ObjectNode changes, Optional<Stage> before, Stage after) {
    Map<Integer, Clip> old = new HashMap<>(before.map(StateJson::clips).orElse(Map.of()));
    ObjectNode clips = JSON.objectNode();
    clips(after)
        .forEach(
            (id, clip) -> {
              if (old.remove(id) != clip) {
                clips.set(String.valueOf(id), clip(clip));
              }
            });
    old.keySet().forEach(id -> clips.putNull(String.valueOf(id)));
    if (!clips.isEmpty()) {
      changes.set("clips", clips);
    }
  }

  private static Map<Integer, Clip> clips(Stage stage) {
    return stage.show().parts().stream()
        .map(Part::shelf)
        .flatMap(List::stream)
        .collect(Collectors.toMap(clip -> clip.id().value(), clip -> clip));
  }

  private static ObjectNode settings(Show show) {
    ObjectNode node = JSON.objectNode();
    node.put("title", show.title()).put("bpm", show.tempo().bpm());
    node.putObject("meter")
        .put("beats", show.meter().beats())
        .put("unit", show.meter().unit())
        .put("beatTicks", show.meter().beatTicks())
        .put("barTicks", show.meter().barTicks());
    CommandJson.write(node.putObject("click"), show.click())
        .put("ticks", show.click().ticks(show.meter()));
    CommandJson.write(node.putObject("recording"), show.recording());
    return node;
  }

  private static ObjectNode transport(Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("rolling", stage.map().isPresent());
    node.put("awaiting", stage.transport() instanceof Transport.AwaitingFirstNote);
    if (stage.transport() instanceof Transport.Rolling rolling) {
      node.put("firstTick", rolling.firstTick());
      node.set("anchors", anchors(rolling.map()));
    }
    return node;
  }

  /** [tick, microseconds, microseconds per tick] for each anchor. */
  static ArrayNode anchors(TempoMap map) {
    ArrayNode anchors = JSON.arrayNode();
    for (TempoMap.Anchor anchor : map.anchors()) {
      anchors
          .addArray()
          .add(anchor.tick())
          .add(anchor.micros())
          .add(anchor.tempo().microsPerTick());
    }
    return anchors;
  }

  private static ArrayNode order(Show show) {
    ArrayNode order = JSON.arrayNode();
    show.parts().forEach(part -> order.add(part.id().value()));
    return order;
  }

  private static ObjectNode part(Part part, PartStage on, Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("id", part.id().value()).put("name", part.name());
    CommandJson.write(node.putObject("sound"), part.sound())
        .put("name", part.sound().name())
        .put("family", part.sound().family());
    CommandJson.write(node.putObject("inputGrid"), part.inputGrid());
    ArrayNode shelf = node.putArray("shelf");
    part.shelf().forEach(clip -> shelf.add(clip.id().value()));
    on.ready().ifPresent(clip -> node.put("ready", clip.value()));
    on.vamp()
        .ifPresent(
            vamp ->
                node.putObject("vamp")
                    .put("clip", vamp.clip().value())
                    .put("phase", vamp.phase())
                    .put("from", vamp.from()));
    on.first().ifPresent(first -> node.set("first", first(first, stage)));
    on.overdub()
        .filter(adding -> adding.until() == Ticks.OPEN)
        .ifPresent(
            adding ->
                node.putObject("overdub")
                    .put("from", adding.pressed())
                    .put("clip", adding.clip().value()));
    return node;
  }

  private static ObjectNode first(FirstRecording first, Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("letter", first.letter())
        .put("start", first.start())
        .put("origin", first.origin(stage.show().meter()));
    if (first.isClosing()) {
      node.put("until", first.until());
    }
    node.set("notes", notes(first.notes()));
    return node;
  }

  private static ObjectNode clip(Clip clip) {
    ObjectNode node = JSON.objectNode();
    node.put("id", clip.id().value())
        .put("letter", clip.letter())
        .put("start", clip.window().start())
        .put("length", clip.window().length())
        .put("peeled", clip.peeled().size());
    ArrayNode layers = node.putArray("layers");
    for (Layer layer : clip.layers()) {
      layers.addObject().put("number", layer.number()).set("notes", notes(layer.notes()));
    }
    return node;
  }

  /** [id, pitch, velocity, meant onset, length, 1 if held] for each note, in material ticks. */
  private static ArrayNode notes(List<Note> notes) {
    ArrayNode array = JSON.arrayNode();
    for (Note note : notes) {
      array
          .addArray()
          .add(note.id())
          .add(note.pitch())
          .add(note.velocity())
          .add(note.meant())
          .add(note.length())
          .add(note.held() ? 1 : 0);
    }
    return array;
  }
}
