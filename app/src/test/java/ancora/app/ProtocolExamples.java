package ancora.app;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The messages of a page that {@code docs/protocol.md} shows. */
public final class ProtocolExamples {

  private ProtocolExamples() {}

  public static List<JsonNode> all() throws IOException {
    List<JsonNode> examples = new ArrayList<>();
    boolean inside = false;
    for (String line : Files.readAllLines(Path.of("../docs/protocol.md"))) {
      if (line.startsWith("```")) {
        inside = line.equals("```jsonl");
      } else if (inside) {
        examples.add(JsonMapper.shared().readTree(line));
      }
    }
    return examples;
  }
}
