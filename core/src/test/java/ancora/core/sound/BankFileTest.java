package ancora.core.sound;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.search.Search;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Banks written byte by byte, as the SoundFont Technical Specification 2.04 (chapters 4 to 7) and
 * the DLS Level 1 specification (chapter 3) lay them out.
 */
class BankFileTest {

  @TempDir Path folder;

  private static byte[] chunk(String id, byte[]... content) {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    for (byte[] bytes : content) {
      all.writeBytes(bytes);
    }
    ByteBuffer head = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
    head.put(id.getBytes(StandardCharsets.ISO_8859_1)).putInt(all.size());
    ByteArrayOutputStream chunk = new ByteArrayOutputStream();
    chunk.writeBytes(head.array());
    chunk.writeBytes(all.toByteArray());
    if (all.size() % 2 == 1) {
      chunk.write(0);
    }
    return chunk.toByteArray();
  }

  private static byte[] id(String id) {
    return id.getBytes(StandardCharsets.ISO_8859_1);
  }

  private static ByteBuffer row(int length, String name) {
    ByteBuffer row = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    row.put(id(name));
    return row;
  }

  private static byte[] preset(String name, int program, int bank) {
    return row(38, name).putShort(20, (short) program).putShort(22, (short) bank).array();
  }

  private static byte[] sample(String name, int start, int end, int loop, int loopEnd, int type) {
    return row(46, name)
        .putInt(20, start)
        .putInt(24, end)
        .putInt(28, loop)
        .putInt(32, loopEnd)
        .putInt(36, 48_000)
        .putShort(44, (short) type)
        .array();
  }

  private static byte[] font(byte[][] presets, byte[]... samples) {
    byte[] sound = chunk("LIST", id("sdta"), chunk("smpl", new byte[2 * 1000]));
    byte[] tables =
        chunk(
            "LIST",
            id("pdta"),
            chunk("phdr", joined(presets, preset("EOP", 0, 0))),
            chunk("pbag", new byte[8]),
            chunk("pmod", new byte[10]),
            chunk("pgen", new byte[8]),
            chunk("inst", new byte[44]),
            chunk("ibag", new byte[8]),
            chunk("imod", new byte[10]),
            chunk("igen", new byte[8]),
            chunk("shdr", joined(samples, sample("EOS", 0, 0, 0, 0, 0))));
    return chunk("RIFF", id("sfbk"), chunk("LIST", id("INFO")), sound, tables);
  }

  private static byte[] joined(byte[][] rows, byte[] last) {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    for (byte[] row : rows) {
      all.writeBytes(row);
    }
    all.writeBytes(last);
    return all.toByteArray();
  }

  private static byte[] instrument(String name, int bank, int program) {
    ByteBuffer head = ByteBuffer.allocate(12).order(ByteOrder.LITTLE_ENDIAN);
    head.putInt(1).putInt(bank).putInt(program);
    return chunk(
        "LIST",
        id("ins "),
        chunk("insh", head.array()),
        chunk("LIST", id("INFO"), chunk("INAM", id(name + "\0"))));
  }

  private static final byte[] DLS =
      chunk(
          "RIFF",
          id("DLS "),
          chunk(
              "LIST",
              id("lins"),
              instrument("Fog horn", 0x0203, 5),
              instrument("Deck", 0x80000000, 8)),
          chunk("ptbl", new byte[8]),
          chunk("LIST", id("wvpl")));

  private List<BankFile.Preset> read(byte[] bytes) throws IOException {
    Path file = Files.write(folder.resolve("bank"), bytes);
    try (SeekableByteChannel channel = Files.newByteChannel(file)) {
      return BankFile.presets(channel);
    }
  }

  private static byte[] good() {
    return font(
        new byte[][] {preset("Deck kit", 3, 128), preset("Horn", 7, 2), preset("Bell", 5, 0)},
        sample("one", 0, 400, 100, 400, 1),
        sample("two", 450, 1000, 0, 0, 1));
  }

  @Test
  void theSoundsOfABankAreItsPresets() throws IOException {
    assertThat(read(good()))
        .containsExactly(
            new BankFile.Preset(false, 5, 0, "Bell"),
            // bank select is 7 bits and 7 bits: the low ones of a SoundFont's bank are control 0
            new BankFile.Preset(false, 7, 2 * 128, "Horn"),
            new BankFile.Preset(true, 3, 0, "Deck kit"));
    assertThat(read(DLS))
        .containsExactly(
            new BankFile.Preset(false, 5, 2 * 128 + 3, "Fog horn"),
            new BankFile.Preset(true, 8, 0, "Deck"));
  }

  @Test
  void whatIsNoneIsRefusedInASentence() {
    refused(new byte[0], "no sound bank");
    refused(
        "MThd, which is another kind of file".getBytes(StandardCharsets.UTF_8), "no sound bank");
    refused(chunk("RIFF", id("WAVE"), new byte[40]), "no sound bank");
    refused(chunk("RIFF", id("sfbk")), "lacks its part “pdta”");
    refused(font(new byte[0][]), "There is no sound in that bank.");
    refused(Arrays.copyOf(good(), good().length - 20), "cut off");
  }

  @ParameterizedTest
  @CsvSource({
    "0, 1200, 0, 0, past its end",
    "600, 500, 0, 0, past its end",
    "0, 400, 100, 401, loop"
  })
  void aSampleIsWithinTheSound(int start, int end, int loop, int loopEnd, String why)
      throws IOException {
    byte[][] one = {preset("Bell", 5, 0)};
    refused(font(one, sample("high", start, end, loop, loopEnd, 1)), why);
    // the places of a compressed one are of its bytes
    assertThat(read(font(one, sample("high", start, end, loop, loopEnd, 0x11)))).hasSize(1);
  }

  private void refused(byte[] bytes, String why) {
    assertThatThrownBy(() -> read(bytes)).isInstanceOf(Refusal.class).hasMessageContaining(why);
  }

  /** A file that is broken anywhere is read, or refused in a sentence; it is never a fault. */
  @Test
  void brokenAnywhereItIsReadOrRefused() throws IOException {
    Random random = new Random(2711);
    for (int i = 0; i < Search.samples(4000); i++) {
      byte[] bytes = (i % 2 == 0 ? good() : DLS).clone();
      for (int k = 0; k <= random.nextInt(3); k++) {
        bytes[random.nextInt(bytes.length)] = (byte) random.nextInt();
      }
      byte[] broken =
          random.nextInt(4) == 0 ? Arrays.copyOf(bytes, random.nextInt(bytes.length)) : bytes;
      try {
        assertThat(read(broken)).isNotEmpty();
      } catch (Refusal sentence) {
        assertThat(sentence.getMessage()).endsWith(".");
      }
    }
  }
}
