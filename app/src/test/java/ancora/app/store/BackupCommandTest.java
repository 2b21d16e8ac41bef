package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.stage.StageHouse;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.function.ToIntBiFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A backup, made while one plays or not, brought back elsewhere; and what the doctor says. */
class BackupCommandTest {

  @TempDir Path folder;

  private String said;

  private int command(ToIntBiFunction<PrintStream, PrintStream> what) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream to = new PrintStream(out, true, StandardCharsets.UTF_8);
    int code = what.applyAsInt(to, to);
    said = out.toString(StandardCharsets.UTF_8);
    return code;
  }

  private int backup(String... words) {
    return command((out, err) -> BackupCommand.run(List.of(words), out, err));
  }

  private int doctor(String... words) {
    return command((out, err) -> DoctorCommand.run(List.of(words), out, err));
  }

  private static void play(House house, double bpm) {
    try (PageStandIn page = new PageStandIn(house.port(), 1, "tab " + bpm)) {
      page.next("welcome");
      page.done("{\"do\":\"setTempo\",\"bpm\":" + bpm + "}");
    }
  }

  @Test
  void whatIsAcknowledgedWhileABackupIsMadeIsInIt() throws IOException {
    Path data = folder.resolve("data");
    Path file = folder.resolve("night.zip");
    try (House house = House.open(data)) {
      house
          .bean(ShowStore.class)
          .add(Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT), false);
      assertThat(house.bean(Saving.class).isDone(60_000)).isTrue();
      play(house, 133.25);
      assertThat(backup("backup", "--data=" + data, file.toString())).as(said).isZero();
      assertThat(said).contains("the journals of 1 shows", "runs recorded after", "end Ancora");
      play(house, 60);
    }
    assertThat(backup("backup", "--data=" + data, file.toString())).isEqualTo(2);
    assertThat(said).contains("there already");
    Path elsewhere = folder.resolve("elsewhere");
    assertThat(backup("restore", "--data=" + elsewhere, file.toString())).as(said).isZero();
    try (House again = House.open(elsewhere)) {
      assertThat(again.bean(StageHouse.class).show(1).tempo().milliBpm()).isEqualTo(133_250);
      assertThat(again.bean(ShowStore.class).cards()).hasSize(1);
    }
    assertThat(backup("restore", "--data=" + elsewhere, file.toString())).isEqualTo(2);
    assertThat(said).contains("nothing is overwritten");
  }

  @Test
  void whatIsNoBackupIsRefusedInASentence() throws IOException {
    Path none = folder.resolve("none.zip");
    assertThat(backup("restore", "--data=" + folder.resolve("x"), none.toString())).isEqualTo(2);
    assertThat(said).contains("There is no file");
    Files.writeString(none, "This is no backup.");
    // a restore that was broken off has left this
    Files.createDirectories(folder.resolve("x.part/journals"));
    Files.writeString(folder.resolve("x.part/ancora.mv.db"), "half");
    assertThat(backup("restore", "--data=" + folder.resolve("x"), none.toString())).isEqualTo(2);
    assertThat(said.strip()).endsWith("choose another.").doesNotContain("Exception");
    assertThat(folder.resolve("x")).doesNotExist();
    assertThat(folder.resolve("x.part")).doesNotExist();
    assertThat(backup("backup", "--data=" + folder.resolve("nowhere"), "y.zip")).isEqualTo(2);
    assertThat(said).contains("no shows in");
    assertThat(backup("backup")).isEqualTo(2);
    assertThat(said).contains("usage");
  }

  @Test
  void theDoctorSaysWhatItFound() throws IOException {
    Path data = folder.resolve("data");
    assertThat(doctor("--data=" + data)).isZero();
    assertThat(said).contains("not there yet");
    try (House house = House.open(data)) {
      house
          .bean(ShowStore.class)
          .add(Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT), false);
      play(house, 90);
      play(house, 91);
    }
    assertThat(doctor("--data=" + data)).as(said).isZero();
    assertThat(said).contains("well   the database opens").contains("All is well.");
    Path segment = data.resolve("journals/1/00000000000000000001.jsonl");
    byte[] bytes = Files.readAllBytes(segment);
    bytes[5] ^= 1;
    Files.write(segment, bytes);
    Files.write(data.resolve("ancora.mv.db"), Arrays.copyOf(bytes, 100));
    assertThat(doctor("--data=" + data)).isEqualTo(1);
    assertThat(said)
        .contains("WRONG  the database opens: start Ancora")
        .contains("1 of them damaged");
    assertThat(doctor("--what")).isEqualTo(2);
  }
}
