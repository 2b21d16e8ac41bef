package ancora.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.time.Ticks;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** A MIDI file as another program reads it: midicsv, of Debian's package of that name. */
public final class MidiCsv {

  private MidiCsv() {}

  /**
   * What is in a file: of each row track, tick, kind, and what belongs to it; the header first.
   *
   * @param folder for the files that it reads and writes
   */
  public static List<String[]> rows(Path folder, byte[] bytes)
      throws IOException, InterruptedException {
    Path midi = Files.write(folder.resolve("read.mid"), bytes);
    Path csv = folder.resolve("read.csv");
    Process process =
        new ProcessBuilder("midicsv", midi.toString(), csv.toString())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("midicsv.log").toFile())
            .start();
    assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
    assertThat(process.exitValue()).isZero();
    return Files.readAllLines(csv, StandardCharsets.ISO_8859_1).stream()
        .map(row -> row.split(", "))
        .toList();
  }

  static boolean isOnset(String[] row) {
    return row[2].equals("Note_on_c") && !row[5].equals("0");
  }

  /** The tick of a row, of 960 to the quarter note. */
  static long tick(String[] row, List<String[]> rows) {
    double quarter = Double.parseDouble(rows.get(0)[5]);
    return Ticks.round(Long.parseLong(row[1]) / quarter * Ticks.PER_QUARTER);
  }
}
