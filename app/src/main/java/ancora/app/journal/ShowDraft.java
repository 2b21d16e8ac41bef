package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A show as somebody writes it down by hand: what is left out is as usual, in the show, in each of
 * its parts, and in each of their clips.
 */
final class ShowDraft {

  private static final JsonNode SHOW = CoreJson.write(Show.named("Show"));
  private static final JsonNode PART =
      CoreJson.write(Part.of(new PartId(1), "Part", Sound.STANDARD_KIT));
  private static final JsonNode CLIP =
      CoreJson.write(Clip.of(new ClipId(1), "a", new LoopWindow(0, 3840), List.of()));
  private static final JsonNode TAKE = CoreJson.write(Take.empty(1));
  private static final JsonNode LAYER = CoreJson.write(Layer.empty(1));

  private ShowDraft() {}

  /** The show that is meant; refuses what describes none. */
  static Show read(JsonNode draft) {
    Refusal.unless(draft.isObject() && draft.has("title"), "The show needs a title.");
    ObjectNode show = completed(draft, SHOW);
    ArrayNode parts = list(show, "parts");
    for (int i = 0; i < parts.size(); i++) {
      ObjectNode part = completed(parts.get(i), PART);
      ArrayNode shelf = list(part, "shelf");
      for (int j = 0; j < shelf.size(); j++) {
        shelf.set(j, clip(shelf.get(j)));
      }
      parts.set(i, part);
    }
    return CoreJson.read(show, Show.class);
  }

  /** A clip; one written as it was under the first rules has the same music. */
  private static ObjectNode clip(JsonNode draft) {
    Refusal.unless(draft.isObject(), "A show, its parts and its clips are JSON objects.");
    ObjectNode clip = completed(FirstRules.clip((ObjectNode) draft.deepCopy()), CLIP);
    ArrayNode takes = list(clip, "takes");
    for (int i = 0; i < takes.size(); i++) {
      ObjectNode take = completed(takes.get(i), TAKE);
      ArrayNode layers = list(take, "layers");
      for (int j = 0; j < layers.size(); j++) {
        layers.set(j, FirstRules.layer(completed(layers.get(j), LAYER)));
      }
      takes.set(i, take);
    }
    return clip;
  }

  private static ArrayNode list(ObjectNode node, String field) {
    Refusal.unless(node.get(field) instanceof ArrayNode, "“%s” is not a list.", field);
    return (ArrayNode) node.get(field);
  }

  private static ObjectNode completed(JsonNode draft, JsonNode usual) {
    Refusal.unless(draft.isObject(), "A show, its parts and its clips are JSON objects.");
    ObjectNode whole = (ObjectNode) usual.deepCopy();
    draft
        .properties()
        .forEach(
            field -> {
              JsonNode before = whole.get(field.getKey());
              boolean both = before != null && before.isObject() && field.getValue().isObject();
              whole.set(
                  field.getKey(), both ? completed(field.getValue(), before) : field.getValue());
            });
    return whole;
  }
}
