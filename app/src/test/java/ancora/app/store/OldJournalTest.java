package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.core.show.Part;
import ancora.core.show.Show;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A folder as it was before journals were files: the demo, performed in for a quarter of a minute
 * through its sections, added to, and stopped. All is there, and what was a table is files.
 */
class OldJournalTest {

  private static final String DATABASE = "ancora.mv.db";

  @TempDir Path data;
  private int lines;

  @BeforeEach
  void read() throws IOException, SQLException {
    String kept = "/old/before-journals-were-files.mv.db.gz";
    try (InputStream in = getClass().getResourceAsStream(kept)) {
      Files.copy(new GZIPInputStream(in), data.resolve(DATABASE));
    }
    String url = "jdbc:h2:file:" + data.resolve("ancora").toAbsolutePath();
    try (Connection connection = DriverManager.getConnection(url, "ancora", "");
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("select count(*) from journal where show_id = 1")) {
      rows.next();
      lines = rows.getInt(1);
    }
    assertThat(lines).isGreaterThan(240);
  }

  @Test
  void allOfItIsThereAndGoesOn() throws IOException {
    for (int opened = 0; opened < 2; opened++) {
      try (House house = House.open(data)) {
        ShowStore store = house.bean(ShowStore.class);
        assertThat(store.cards())
            .extracting(ShowCard::title)
            .containsExactlyInAnyOrder("Lighthouse Night", "Lighthouse Night: Swell");
        Show show = store.find(1).orElseThrow().stage().show();
        assertThat(show.tempo().milliBpm()).isEqualTo(99_000);
        assertThat(show.parts()).extracting(Part::name).contains("Deep bass");
        List<RunCard> runs = house.bean(RunStore.class).cards(1);
        assertThat(runs).as("the demo's, and the one that was performed").hasSize(2);
        assertThat(house.bean(RunStore.class).find(1, runs.get(0).id()).history().run().bars())
            .isGreaterThan(5);
        List<JournalRow> journal = house.bean(Journals.class).after(1, 0);
        assertThat(journal).hasSize(lines + opened);
        assertThat(house.bean(HouseNews.class).sentences()).isEmpty();
        // a page that was there before goes on with its numbers
        try (PageStandIn page = new PageStandIn(house.port(), 1, "left")) {
          long last = page.next("welcome").get("last").asLong();
          assertThat(last).isEqualTo(lines + opened);
          page.goOnFrom(last);
          page.done("{\"do\":\"setTempo\",\"bpm\":99}");
        }
      }
      try (var copies = Files.list(data.resolve("copies"))) {
        assertThat(copies).as("before its tables were changed a copy was made").isNotEmpty();
      }
    }
  }
}
