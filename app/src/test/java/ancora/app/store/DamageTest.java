package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.stage.StageHouse;
import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * A house whose files are damaged, cut off or gone: it opens, nothing that was there is overwritten
 * by something newer and emptier, and what was acknowledged is there.
 */
class DamageTest {

  private static final String KEY =
      "{\"do\":\"keyDown\",\"device\":\"pads\",\"channel\":9,\"pitch\":36,\"velocity\":90}";
  private static final String KEY_UP =
      "{\"do\":\"keyUp\",\"device\":\"pads\",\"channel\":9,\"pitch\":36}";

  @TempDir static Path before;
  @TempDir Path data;

  /** Two shows, one of them played in: a loop, a tempo, a name. */
  @BeforeAll
  static void played() {
    try (House house = House.open(before)) {
      ShowStore store = house.bean(ShowStore.class);
      long one = store.add(Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT), false);
      store.add(Show.named("Quay").withNewPart("Bass", Sound.of(33)), false);
      try (PageStandIn page = new PageStandIn(house.port(), one, "tab")) {
        page.next("welcome");
        page.done("{\"do\":\"setTempo\",\"bpm\":141.5}");
        page.done("{\"do\":\"start\"}");
        page.done(KEY);
        page.done(KEY_UP);
        page.done("{\"do\":\"stop\"}");
      }
      store.rename(2, "Quay of stone");
      assertThat(house.bean(Saving.class).isDone(60_000)).isTrue();
    }
  }

  private void copyOfTheHouse() throws IOException {
    try (Stream<Path> files = Files.walk(before)) {
      for (Path file : files.toList()) {
        Path to = data.resolve(before.relativize(file));
        if (Files.isDirectory(file)) {
          Files.createDirectories(to);
        } else {
          Files.copy(file, to);
        }
      }
    }
  }

  /** All is there, whatever the database was like. */
  private void allIsThere(boolean said) {
    try (House house = House.open(data)) {
      ShowStore store = house.bean(ShowStore.class);
      assertThat(store.cards())
          .extracting(ShowCard::title)
          .containsExactlyInAnyOrder("Pier", "Quay of stone");
      Show pier = house.bean(StageHouse.class).show(1);
      assertThat(pier.tempo().milliBpm()).isEqualTo(141_500);
      assertThat(house.bean(Journals.class).after(1, 0)).hasSizeGreaterThanOrEqualTo(5);
      assertThat(house.bean(HouseNews.class).sentences()).hasSize(said ? 1 : 0);
      // and it goes on
      try (PageStandIn page = new PageStandIn(house.port(), 1, "tab")) {
        long last = page.next("welcome").get("last").asLong();
        assertThat(last).isGreaterThanOrEqualTo(5);
        page.goOnFrom(last);
        page.done("{\"do\":\"setTempo\",\"bpm\":99}");
      }
      assertThat(house.bean(StageHouse.class).show(1).tempo().milliBpm()).isEqualTo(99_000);
    }
  }

  @Test
  void withNothingWrongNothingIsSaid() throws IOException {
    copyOfTheHouse();
    allIsThere(false);
  }

  @Test
  void aDatabaseThatIsGoneIsHadFromItsCopyAndTheJournals() throws IOException {
    copyOfTheHouse();
    Files.delete(data.resolve("ancora.mv.db"));
    allIsThere(true);
  }

  @Test
  void withoutDatabaseAndCopiesAllIsHadFromTheJournals() throws IOException {
    copyOfTheHouse();
    Files.delete(data.resolve("ancora.mv.db"));
    for (Path copy : new DatabaseFile(data).copies()) {
      Files.delete(copy);
    }
    allIsThere(true);
  }

  static LongStream seeds() {
    return LongStream.range(0, Boolean.getBoolean("ancora.long") ? 36 : 4)
        .map(i -> Long.getLong("ancora.seed", 1) + i);
  }

  /** Overwritten, cut off, or emptied at random: it is put aside as it was. */
  @ParameterizedTest
  @MethodSource("seeds")
  void aDamagedDatabaseIsPutAside(long seed) throws IOException {
    copyOfTheHouse();
    Random random = new Random(seed);
    Path file = data.resolve("ancora.mv.db");
    byte[] bytes = Files.readAllBytes(file);
    byte[] damaged =
        switch ((int) (seed % 4)) {
          case 0 -> new byte[0];
          case 1 -> java.util.Arrays.copyOf(bytes, bytes.length / 3);
          case 2 ->
              "This is no database.".repeat(500).getBytes(java.nio.charset.StandardCharsets.UTF_8);
          default -> noise(bytes, random);
        };
    Files.write(file, damaged);
    allIsThere(true);
    try (Stream<Path> files = Files.list(data)) {
      List<Path> aside =
          files.filter(f -> f.getFileName().toString().startsWith("damaged-")).toList();
      assertThat(aside).hasSize(1).allMatch(f -> sameBytes(f, damaged));
    }
  }

  /** Cut off anywhere: some such files open, as what they were long ago. */
  @Test
  void lookingWhetherItOpensChangesNothingInIt() throws IOException {
    copyOfTheHouse();
    Path file = data.resolve("ancora.mv.db");
    byte[] bytes = Files.readAllBytes(file);
    for (int cut = bytes.length; cut >= 0; cut -= 4096) {
      byte[] left = java.util.Arrays.copyOf(bytes, cut);
      Files.write(file, left);
      boolean opens =
          new DatabaseFile(data).opens(Database.url(data), Database.USER, Database.NEWEST);
      assertThat(sameBytes(file, left)).as("cut to %s of %s", cut, bytes.length).isTrue();
      assertThat(opens || cut < bytes.length).isTrue();
    }
  }

  private static boolean sameBytes(Path file, byte[] bytes) {
    try {
      return java.util.Arrays.equals(Files.readAllBytes(file), bytes);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static byte[] noise(byte[] bytes, Random random) {
    byte[] noise = bytes.clone();
    random.nextBytes(noise);
    return noise;
  }

  private void inTheDatabase(String... changes) {
    try (House house = House.open(data)) {
      new JdbcTemplate(house.bean(DataSource.class)).batchUpdate(changes);
    }
  }

  /** A row that cannot be read closes nothing: that show is had from its journal. */
  @Test
  void aDamagedRowIsHadFromTheJournal() throws IOException {
    copyOfTheHouse();
    inTheDatabase(
        "update parts set body = '{\"id\": \"drum\"' where show_id = 1",
        "update shows set settings = '[]' where id = 2");
    allIsThere(false);
  }

  /** A database that opens, and has gone back to before a show, is not trusted in silence. */
  @Test
  void aShowThatTheDatabaseLacksIsHadFromTheJournalAndSaid() throws IOException {
    copyOfTheHouse();
    inTheDatabase("delete from parts where show_id = 1", "delete from shows where id = 1");
    allIsThere(true);
  }

  @Test
  void whatALaterAncoraKeptIsRefusedInASentence() throws IOException {
    copyOfTheHouse();
    DatabaseFile file = new DatabaseFile(data);
    assertThatThrownBy(() -> file.makeReady(Database.url(data), "ancora", 10))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("a later Ancora");
    assertThat(data.resolve("ancora.mv.db")).exists();
  }

  /** Newer copies take the place of the oldest. */
  @Test
  void tenCopiesAreKept() throws IOException {
    Files.createDirectories(data.resolve("copies"));
    for (int i = 10; i < 25; i++) {
      Files.createFile(data.resolve("copies").resolve("ancora-202611%02d-120000.zip".formatted(i)));
    }
    DatabaseFile file = new DatabaseFile(data);
    file.forgetOld();
    assertThat(file.copies()).hasSize(10);
    assertThat(file.copies().get(0).toString()).endsWith("ancora-20261124-120000.zip");
  }
}
