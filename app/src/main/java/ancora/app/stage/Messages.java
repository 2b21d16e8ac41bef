package ancora.app.stage;

import ancora.app.journal.CoreJson;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** What a page is told: an object of one field, which says what it is; {@code docs/protocol.md}. */
final class Messages {

  private Messages() {}

  static ObjectNode of(String kind, Object body) {
    ObjectNode message = JsonNodeFactory.instance.objectNode();
    message.set(kind, body instanceof JsonNode node ? node : CoreJson.write(body));
    return message;
  }
}
