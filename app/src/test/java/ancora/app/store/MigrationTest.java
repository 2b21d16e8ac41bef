package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.journal.CoreJson;
import ancora.core.clip.Clip;
import ancora.core.history.Step;
import ancora.core.note.Grid;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Shows that were kept as rows are kept as they were. */
class MigrationTest {

  @TempDir Path data;

  @Test
  void aShowOfRowsBecomesOneOfBodies() throws SQLException {
    String url = "jdbc:h2:file:" + data.resolve("ancora").toAbsolutePath();
    Flyway.configure().dataSource(url, "ancora", "").target("2").load().migrate();
    try (Connection connection = DriverManager.getConnection(url, "ancora", "");
        Statement rows = connection.createStatement()) {
      rows.execute(
          "insert into shows (title, milli_bpm, meter_beats, meter_unit, click_on, click_when,"
              + " click_sound, click_level, click_dotted, enters_on, closes_on, forgiveness,"
              + " length_rule, fixed_units, overdub_after, count_in_bars, from_first, next_id)"
              + " values ('Squall', 97303, 7, 8, false, 'COUNT_IN', 'CLAVES', -12, true, 'BEAT',"
              + " 'BAR', 90, 'DOUBLING', 4, true, 2, false, 500)");
      rows.execute(
          "insert into parts values (1, 3, 0, 'Kit', true, 8, 'EIGHTH_TRIPLET', 40, 58.5, false)");
      rows.execute("insert into clips values (1, 7, 3, 'a', 960, 3360, false)");
      rows.execute("insert into layers values (1, 7, false, 0, 1)");
      rows.execute("insert into layers values (1, 7, false, 1, 3)");
      rows.execute("insert into layers values (1, 7, true, 0, 4)");
      rows.execute("insert into notes values (1, 7, false, 0, 0, 11, 36, 100, 953, 960, 60)");
      rows.execute("insert into notes values (1, 7, false, 0, 1, 12, 38, 90, 1920, 1920, 70)");
      rows.execute("insert into notes values (1, 7, true, 0, 0, 14, 42, 80, 2000, 2000, 15)");
    }
    Part gone = Part.of(new PartId(9), "Bells", Sound.of(14));
    // as steps were kept before parts could sound outside
    ObjectNode old = JsonNodeFactory.instance.objectNode().put("words", "delete a part");
    ObjectNode change = old.putArray("changes").addObject().put("of", "part").put("place", 1);
    change.set("before", ((ObjectNode) CoreJson.write(gone)).without("output"));
    change.putNull("after");
    old.putObject("ended");
    Flyway.configure().dataSource(url, "ancora", "").target("4").load().migrate();
    try (Connection connection = DriverManager.getConnection(url, "ancora", "");
        PreparedStatement row =
            connection.prepareStatement("insert into edits values (1, false, 0, ?)")) {
      row.setString(1, old.toString());
      row.execute();
    }
    try (House house = House.open(data)) {
      Stage stage = house.bean(ShowStore.class).find(1).orElseThrow().stage();
      Show show = stage.show();
      assertThat(stage.history().done()).extracting(Step::words).containsExactly("delete a part");
      assertThat(stage.history().done().get(0).takenBackIn(show).parts())
          .containsExactly(show.parts().get(0), gone);
      assertThat(show.title()).isEqualTo("Squall");
      assertThat(show.tempo().bpm()).isEqualTo(97.303);
      assertThat(show.click().level()).isEqualTo(-12);
      assertThat(show.recording().countInBars()).isEqualTo(2);
      Part kit = show.parts().get(0);
      assertThat(kit.sound()).isEqualTo(Sound.kit(8));
      assertThat(kit.inputGrid().grid()).isEqualTo(Grid.EIGHTH_TRIPLET);
      Clip clip = kit.shelf().get(0);
      assertThat(clip.window().start()).isEqualTo(960);
      assertThat(clip.manner().ring()).isFalse();
      assertThat(clip.layers()).hasSize(2);
      assertThat(clip.layers().get(0).notes())
          .containsExactly(Note.of(11, 36, 100, 953, 960, 60), Note.of(12, 38, 90, 1920, 1920, 70));
      assertThat(clip.take().off().get(0).number()).isEqualTo(4);
      assertThat(clip.take().off().get(0).notes()).hasSize(1);
    }
  }
}
