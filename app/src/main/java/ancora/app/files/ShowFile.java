package ancora.app.files;

import ancora.app.journal.CoreJson;
import ancora.app.journal.CountingParser;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.run.Run;
import ancora.core.run.WholeRun;
import ancora.core.show.Show;
import ancora.core.show.WholeShow;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonEncoding;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonToken;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.MissingNode;

/**
 * A show as one file, to be taken elsewhere; {@code docs/show.schema.json} describes it.
 *
 * @param show the show
 * @param runs what was performed in it, if that is wished
 */
public record ShowFile(Show show, List<PerformedRun> runs) {

  /** The format that is written; no later one is read. */
  public static final int VERSION = 1;

  private static final String FORMAT = "ancora show";

  private static final int MOST_RUNS = 1000;

  /** Notes in all runs of a file together. */
  private static final long MOST_SOUNDED = 2_000_000;

  private static final int DEEPEST = 64;

  private static final JsonMapper JSON =
      JsonMapper.builder(
              JsonFactory.builder()
                  .streamReadConstraints(
                      StreamReadConstraints.builder().maxNestingDepth(DEEPEST).build())
                  .build())
          .build();

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
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (Writing file = new Writing(out, show)) {
      for (PerformedRun run : runs) {
        file.add(run);
      }
    }
    return out.toByteArray();
  }

  /** A file that is written run by run: no more than one is held. */
  static final class Writing implements AutoCloseable {
    private final JsonGenerator out;

    /** Begins it, with the show. */
    Writing(OutputStream to, Show show) {
      out = JSON.writerWithDefaultPrettyPrinter().createGenerator(to, JsonEncoding.UTF8);
      out.writeStartObject();
      out.writeStringProperty("format", FORMAT);
      out.writeNumberProperty("version", VERSION);
      out.writeName("show");
      out.writeTree(CoreJson.write(show));
      out.writeArrayPropertyStart("runs");
    }

    void add(PerformedRun run) {
      out.writeStartObject();
      out.writeNumberProperty("began", run.began());
      out.writeStringProperty("name", run.name());
      out.writeName("run");
      out.writeTree(CoreJson.write(run.run()));
      out.writeEndObject();
    }

    @Override
    public void close() {
      out.writeEndArray();
      out.writeEndObject();
      out.close();
    }
  }

  /** Reads a file; refuses, in a sentence, what is none, or of a later version. */
  public static ShowFile read(byte[] bytes) {
    try (CountingParser in = new CountingParser(JSON.createParser(bytes))) {
      return new Reading(in).file();
    } catch (JacksonException malformed) {
      throw new Refusal("That is not JSON, or it is cut off: export it again.");
    }
  }

  /** Field by field, and the runs one by one. */
  private static final class Reading {
    private final CountingParser in;
    private JsonNode format = MissingNode.getInstance();
    private JsonNode version = MissingNode.getInstance();
    private Optional<Show> show = Optional.empty();
    private final List<PerformedRun> runs = new ArrayList<>();
    private long sounded;

    Reading(CountingParser in) {
      this.in = in;
    }

    ShowFile file() {
      Refusal.unless(in.nextToken() == JsonToken.START_OBJECT, "That file is no JSON object.");
      while (in.nextToken() == JsonToken.PROPERTY_NAME) {
        String field = in.currentName();
        in.anew();
        in.nextToken();
        switch (field) {
          case "format" -> format = tree();
          case "version" -> version = tree();
          case "show" -> takeShow(tree());
          case "runs" -> takeRuns();
          default -> in.skipChildren();
        }
      }
      Refusal.unless(
          in.nextToken() == null,
          "There is something after the show in that file: export it again.");
      checkHead();
      return new ShowFile(
          show.orElseThrow(() -> new Refusal("There is no show in that file.")), runs);
    }

    private JsonNode tree() {
      return in.readValueAsTree();
    }

    /** What says that it is a show comes first in what Ancora writes, and is looked at first. */
    private void checkHead() {
      Refusal.unless(
          format.asString("").equals(FORMAT),
          "That JSON file is no show: choose one that was exported as a show.");
      Refusal.unless(
          version.isInt() && version.intValue() >= 1, "The show's file does not say its version.");
      Refusal.unless(
          version.intValue() <= VERSION,
          "That show was exported by a later Ancora (version %s of the format, %s is the last that"
              + " this one reads): bring this one up to date.",
          version,
          VERSION);
    }

    private void takeShow(JsonNode node) {
      checkHead();
      Refusal.unless(node.isObject(), "There is no show in that file.");
      Show read = CoreJson.read(node, Show.class);
      WholeShow.check(read);
      show = Optional.of(read);
    }

    private void takeRuns() {
      checkHead();
      Refusal.unless(in.currentToken() == JsonToken.START_ARRAY, "The runs of that file are none.");
      while (in.nextToken() != JsonToken.END_ARRAY) {
        Refusal.unless(runs.size() < MOST_RUNS, "The runs of that file are none.");
        in.anew();
        JsonNode one = tree();
        sounded += sounded(one);
        Refusal.unless(
            sounded <= MOST_SOUNDED,
            "The runs of that file have more notes than can come in at once: take it along without"
                + " runs.");
        PerformedRun run = CoreJson.read(one, PerformedRun.class);
        Names.checkedOrEmpty("run", run.name());
        WholeRun.check(run.run());
        runs.add(run);
      }
    }

    /**
     * How many notes a run has, as it is written: passes that went round alike stand there once.
     */
    private static long sounded(JsonNode run) {
      long notes = 0;
      for (JsonNode part : run.path("run").path("parts")) {
        notes += part.path("hands").size();
        for (JsonNode passage : part.path("passages")) {
          for (JsonNode round : passage.path("rounds")) {
            notes += Math.max(1, round.path("times").asLong(0)) * round.path("notes").size();
          }
        }
      }
      return notes;
    }
  }
}
