package ancora.app.files;

import ancora.app.journal.CoreJson;
import ancora.core.Refusal;
import ancora.core.run.Run;
import ancora.core.show.Show;
import ancora.core.show.WholeShow;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * A show as one file, to be taken elsewhere; {@code docs/show.schema.json} describes it.
 *
 * @param show the show
 * @param runs what was performed in it, if that is wished
 */
public record ShowFile(Show show, List<PerformedRun> runs) {

  /** The format that is written; no later one is read. */
  public static final int VERSION = 1;

  private static final int MOST_RUNS = 1000;
  private static final int DEEPEST = 64;

  private static final ObjectMapper JSON = JsonMapper.builder().build();

  static {
    JSON.getFactory()
        .setStreamReadConstraints(StreamReadConstraints.builder().maxNestingDepth(DEEPEST).build());
  }

  /**
   * A run in a file.
   *
   * @param began when, in microseconds since 1970
   * @param name empty if it has none
   */
  public record PerformedRun(long began, String name, Run run) {}

  public ShowFile {
    runs = List.copyOf(runs);
  }

  /** The file. */
  public byte[] bytes() {
    ObjectNode file = JsonNodeFactory.instance.objectNode();
    file.put("format", "ancora show").put("version", VERSION);
    file.set("show", CoreJson.write(show));
    ArrayNode all = file.putArray("runs");
    for (PerformedRun run : runs) {
      ObjectNode one = all.addObject().put("began", run.began()).put("name", run.name());
      one.set("run", CoreJson.write(run.run()));
    }
    return file.toPrettyString().getBytes(StandardCharsets.UTF_8);
  }

  /** Reads a file; refuses, in a sentence, what is none, or of a later version. */
  public static ShowFile read(byte[] bytes) {
    JsonNode file = tree(bytes);
    Refusal.unless(
        file.path("format").asText().equals("ancora show"),
        "That JSON file is no show: choose one that was exported as a show.");
    JsonNode version = file.path("version");
    Refusal.unless(
        version.isInt() && version.intValue() >= 1, "The show's file does not say its version.");
    Refusal.unless(
        version.intValue() <= VERSION,
        "That show was exported by a later Ancora (version %s of the format, %s is the last that"
            + " this one reads): bring this one up to date.",
        version,
        VERSION);
    Refusal.unless(file.path("show").isObject(), "There is no show in that file.");
    Show show = CoreJson.read(file.get("show"), Show.class);
    WholeShow.check(show);
    List<PerformedRun> runs = new ArrayList<>();
    JsonNode all = file.path("runs");
    Refusal.unless(
        all.isMissingNode() || all.isArray() && all.size() <= MOST_RUNS,
        "The runs of that file are none.");
    for (JsonNode one : all) {
      runs.add(CoreJson.read(one, PerformedRun.class));
    }
    return new ShowFile(show, runs);
  }

  private static JsonNode tree(byte[] bytes) {
    try {
      JsonNode file = JSON.readTree(bytes);
      Refusal.unless(file != null && file.isObject(), "That file is no JSON object.");
      return file;
    } catch (JsonProcessingException malformed) {
      throw new Refusal("That is not JSON, or it is cut off: export it again.");
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }
}
