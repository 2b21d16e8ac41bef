package ancora.app.journal;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.StreamSupport;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * A change of a show as JSON: how it was and how it is, each with the tempo, meter, parts and form
 * that it is about. Once there was a kind of change for each thing that could be otherwise; they
 * say the same.
 */
final class ChangeJson {

  private static final Show EMPTY = Show.named("Show");

  private ChangeJson() {}

  static ObjectNode write(Change change) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    node.set("before", write(change.before(), change.after()));
    node.set("after", write(change.after(), change.before()));
    return node;
  }

  private static ObjectNode write(Show show, Show other) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    if (!show.tempo().equals(other.tempo())) {
      node.set("tempo", CoreJson.write(show.tempo()));
    }
    if (!show.meter().equals(other.meter())) {
      node.set("meter", CoreJson.write(show.meter()));
    }
    node.set("parts", CoreJson.write(show.parts().toArray(Part[]::new)));
    node.set("form", CoreJson.write(show.form().toArray(Section[]::new)));
    return node;
  }

  static Change read(JsonNode node) {
    return node.has("of")
        ? earlier(node)
        : new Change(show(node.path("before")), show(node.path("after")));
  }

  private static Show show(JsonNode node) {
    Show show =
        EMPTY
            .withParts(List.of(CoreJson.read(node.path("parts"), Part[].class)))
            .withForm(List.of(CoreJson.read(node.path("form"), Section[].class)));
    Show timed =
        node.has("tempo") ? show.withTempo(CoreJson.read(node.get("tempo"), Tempo.class)) : show;
    return node.has("meter")
        ? timed.withMeter(CoreJson.read(node.get("meter"), Meter.class))
        : timed;
  }

  // kinds of changes that there were

  private static Change earlier(JsonNode change) {
    return switch (change.path("of").asString("")) {
      case "part" -> both(change, (c, state) -> EMPTY.withParts(placed(c, state, Part.class)));
      case "order" -> both(change, (c, ids) -> EMPTY.withParts(numbered(ids, ChangeJson::anyPart)));
      case "clip" -> both(change, (c, clip) -> shelf(c, one(clip, Clip.class)));
      case "traits" ->
          both(change, (c, traits) -> shelf(c, List.of(clip(c, (ObjectNode) traits.deepCopy()))));
      case "take" -> both(change, (c, take) -> takes(c, one(take, Take.class)));
      case "takeTraits" -> both(change, (c, traits) -> takes(c, List.of(take(c, traits))));
      case "layer" -> both(change, (c, content) -> takes(c, List.of(withLayer(c, content))));
      case "off" -> both(change, (c, off) -> takes(c, List.of(withOff(c, off))));
      case "tempo" ->
          both(change, (c, tempo) -> found(c).withTempo(CoreJson.read(tempo, Tempo.class)));
      case "meter" ->
          both(change, (c, meter) -> EMPTY.withMeter(CoreJson.read(meter, Meter.class)));
      case "section" -> both(change, (c, state) -> EMPTY.withForm(placed(c, state, Section.class)));
      case "form" ->
          both(change, (c, ids) -> EMPTY.withForm(numbered(ids, ChangeJson::anySection)));
      default -> new Change(EMPTY, EMPTY);
    };
  }

  private static Change both(JsonNode change, BiFunction<JsonNode, JsonNode, Show> state) {
    return new Change(
        state.apply(change, change.path("before")), state.apply(change, change.path("after")));
  }

  private static <T> List<T> one(JsonNode state, Class<T> type) {
    return state.isObject() ? List.of(CoreJson.read(state, type)) : List.of();
  }

  /** What came or went at a place among others; the others are any. */
  private static <T> List<T> placed(JsonNode change, JsonNode state, Class<T> type) {
    boolean stays = change.path("before").isObject() && change.path("after").isObject();
    IntFunction<Object> any = type == Part.class ? ChangeJson::anyPart : ChangeJson::anySection;
    List<T> all = new ArrayList<>();
    IntStream.range(0, stays ? 0 : change.path("place").asInt(0))
        .forEach(i -> all.add(type.cast(any.apply(-1 - i))));
    all.addAll(one(state, type));
    return all;
  }

  private static <T> List<T> numbered(JsonNode ids, IntFunction<T> any) {
    return StreamSupport.stream(ids.spliterator(), false)
        .map(id -> any.apply(id.asInt(0)))
        .toList();
  }

  private static Part anyPart(int id) {
    return Part.of(new PartId(id), "Part", Sound.STANDARD_KIT);
  }

  private static Section anySection(int id) {
    return new Section(new SectionId(id), "A", "", Map.of(), false, Optional.empty());
  }

  private static Show shelf(JsonNode change, List<Clip> clips) {
    return EMPTY.withParts(List.of(anyPart(change.path("part").asInt(0)).withShelf(clips)));
  }

  /** A clip without music that has some components. */
  private static Clip clip(JsonNode change, ObjectNode some) {
    Clip any =
        Clip.of(new ClipId(change.path("clip").asInt(0)), "a", new LoopWindow(0, 3840), List.of());
    ObjectNode node = (ObjectNode) CoreJson.write(any);
    node.putArray("takes");
    node.putArray("heard").add(0);
    node.setAll(some);
    return CoreJson.read(node, Clip.class);
  }

  private static Show takes(JsonNode change, List<Take> takes) {
    ObjectNode some = JsonNodeFactory.instance.objectNode();
    some.set("takes", CoreJson.write(takes.toArray(Take[]::new)));
    some.putArray("heard")
        .add(change.path("heard").asBoolean(false) ? change.path("take").asInt(0) : 0);
    return shelf(change, List.of(clip(change, some)));
  }

  private static Take take(JsonNode change, JsonNode some) {
    ObjectNode node = (ObjectNode) CoreJson.write(Take.empty(change.path("take").asInt(0)));
    return CoreJson.read(node.setAll((ObjectNode) some), Take.class);
  }

  private static Take withLayer(JsonNode change, JsonNode content) {
    Take take = Take.empty(change.path("take").asInt(0));
    if (!content.isObject()) {
      return take;
    }
    ObjectNode layer = (ObjectNode) content.deepCopy();
    layer.put("number", change.path("layer").asInt(0)).remove("on");
    return take.with(CoreJson.read(layer, Layer.class), content.path("on").asBoolean(false));
  }

  private static Take withOff(JsonNode change, JsonNode off) {
    return Take.empty(change.path("take").asInt(0)).withOff(numbered(off, Layer::empty));
  }

  private static Show found(JsonNode change) {
    ObjectNode with = JsonNodeFactory.instance.objectNode();
    with.set("clip", change.path("with"));
    return shelf(with, List.of(clip(with, with.objectNode())));
  }
}
