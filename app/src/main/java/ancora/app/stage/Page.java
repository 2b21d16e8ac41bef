package ancora.app.stage;

import com.fasterxml.jackson.databind.JsonNode;

/** A page that has a show open. */
interface Page {

  /** Sends a message; a page that is gone is passed over. */
  void send(JsonNode message);

  /** The page's own name for itself, the same after a reload of its connection. */
  String client();
}
