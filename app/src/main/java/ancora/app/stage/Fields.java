package ancora.app.stage;

import java.util.Optional;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** What has changed among the fields of an object. */
final class Fields {

  private Fields() {}

  /** The fields that are otherwise than before; null for those that are no more. */
  static ObjectNode changed(Optional<ObjectNode> before, ObjectNode after) {
    if (before.isEmpty()) {
      return after;
    }
    ObjectNode changes = JsonNodeFactory.instance.objectNode();
    after
        .properties()
        .forEach(
            field -> {
              if (!field.getValue().equals(before.get().get(field.getKey()))) {
                changes.set(field.getKey(), field.getValue());
              }
            });
    before
        .get()
        .propertyNames()
        .forEach(
            name -> {
              if (!after.has(name)) {
                changes.putNull(name);
              }
            });
    return changes;
  }
}
