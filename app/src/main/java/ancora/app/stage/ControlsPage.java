package ancora.app.stage;

import ancora.app.journal.ControlsJson;
import ancora.app.journal.CoreJson;
import ancora.core.Refusal;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** A map of controls comes in as a file, since it may be longer than a message. */
@RestController
class ControlsPage {

  private static final int LONGEST = 4_000_000;

  private final HouseSettings house;

  ControlsPage(HouseSettings house) {
    this.house = house;
  }

  /** Brings in as much of a map as can be; says what was left out. Nothing else is changed. */
  @PostMapping("/controls")
  ObjectNode bringIn(@RequestParam MultipartFile file) throws IOException {
    Refusal.unless(file.getSize() <= LONGEST, "That is too long for a map of controls.");
    String text = new String(file.getBytes(), StandardCharsets.UTF_8);
    ControlsJson.Brought brought = ControlsJson.broughtIn(CoreJson.read(text, JsonNode.class));
    house.set(brought.map(), () -> {});
    return JsonNodeFactory.instance
        .objectNode()
        .put("assignments", brought.map().assignments().size())
        .put("leftOut", ControlsJson.words(brought));
  }
}
