package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.core.clip.Clip;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A database made under the first rules opens and sounds the same. In its first show was recorded,
 * with pedal and controllers, peeled, taken, compiled, replaced and undone before it was saved; its
 * second was left rolling.
 */
class OldDataTest {

  private static final JsonMapper JSON = JsonMapper.shared();

  @TempDir Path data;
  private final Map<Integer, JsonNode> clips = new TreeMap<>();
  private int steps;

  @BeforeEach
  void read() throws IOException, SQLException {
    try (InputStream kept = getClass().getResourceAsStream("/old/rules-1.mv.db.gz")) {
      Files.copy(new GZIPInputStream(kept), data.resolve("ancora.mv.db"));
    }
    String url = "jdbc:h2:file:" + data.resolve("ancora").toAbsolutePath();
    try (Connection connection = DriverManager.getConnection(url, "ancora", "");
        Statement statement = connection.createStatement()) {
      try (ResultSet rows =
          statement.executeQuery("select id, body from clips where show_id = 1")) {
        while (rows.next()) {
          clips.put(rows.getInt(1), JSON.readTree(rows.getString(2)));
        }
      }
      try (ResultSet rows =
          statement.executeQuery("select count(*) from edits where show_id = 1 and not undone")) {
        rows.next();
        steps = rows.getInt(1);
      }
    }
    assertThat(clips).hasSizeGreaterThan(5);
    assertThat(steps).isGreaterThan(3);
  }

  /** Pitch, place and velocity of what a clip sounded, as the old rows have it. */
  private static List<String> sounded(JsonNode clip) {
    long start = clip.path("window").path("start").asLong();
    long end = start + clip.path("window").path("length").asLong();
    List<String> notes = new ArrayList<>();
    for (JsonNode layer : clip.get("layers")) {
      for (JsonNode row : layer.get("notes")) {
        if (row.get(4).asLong() >= start && row.get(4).asLong() < end) {
          notes.add(row.get(1) + "@" + row.get(4));
        }
      }
    }
    return notes.stream().distinct().sorted().toList();
  }

  @Test
  void eachClipSoundsAsItDid() {
    try (House house = House.open(data)) {
      Stage stage = house.bean(ShowStore.class).find(1).orElseThrow().stage();
      for (Part part : stage.show().parts()) {
        for (Clip clip : part.shelf()) {
          JsonNode old = clips.remove(clip.id().value());
          assertThat(clip.takes()).hasSize(1 + old.get("others").size());
          assertThat(clip.take().number()).isEqualTo(old.path("take").path("number").asInt());
          assertThat(clip.take().off()).hasSize(old.get("peeled").size());
          assertThat(clip.moves().count()).isEqualTo(old.findValues("moves").get(0).size());
          assertThat(planned(stage, part, clip)).isEqualTo(sounded(old));
        }
      }
      assertThat(clips).isEmpty();
    }
  }

  private static List<String> planned(Stage stage, Part part, Clip clip) {
    Engine engine = Engine.of(stage);
    engine.apply(new CueCommand.CueClip(part.id(), clip.id()), 0, 0);
    engine.apply(new CueCommand.Start(), 0, 0);
    List<Span> spans =
        engine.plan().parts().stream()
            .filter(p -> p.part().equals(part.id()))
            .flatMap(p -> p.spans().stream())
            .toList();
    return spans.get(0).notes().stream()
        .filter(note -> !note.tied())
        .map((PlannedNote note) -> note.pitch() + "@" + note.place())
        .sorted()
        .toList();
  }

  @Test
  void whatWasDoneCanStillBeUndone() {
    try (House house = House.open(data)) {
      Engine engine = Engine.of(house.bean(ShowStore.class).find(1).orElseThrow().stage());
      assertThat(engine.stage().history().done()).hasSize(steps);
      int undone = 0;
      while (engine.apply(new UndoCommand.Undo(), 0, 0) instanceof Outcome.Done) {
        undone++;
      }
      assertThat(undone).isEqualTo(steps);
    }
  }

  /** It goes on from its saved state, and is never done again under other rules than its own. */
  @Test
  void whatWasPlayedAfterThatIsNotDoneUnderOtherRules() {
    try (House house = House.open(data)) {
      ShowStore store = house.bean(ShowStore.class);
      ShowStore.Saved saved = store.find(2).orElseThrow();
      List<JournalRow> after = house.bean(Journals.class).after(2, saved.seq());
      assertThat(after).hasSizeGreaterThan(10).allMatch(row -> row.rules() == 1);
      assertThat(saved.stage().map()).isEmpty();
    }
  }
}
