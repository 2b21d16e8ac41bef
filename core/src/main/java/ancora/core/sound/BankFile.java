package ancora.core.sound;

import ancora.core.Names;
import ancora.core.Refusal;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/**
 * What is in a sound bank: SoundFont 2 (“SoundFont Technical Specification 2.04”, chapters 4 to 7),
 * the same with compressed samples (SF3), or Downloadable Sounds (“DLS Level 1”, “DLS Level 2.2”).
 * Only what names its sounds and bounds its samples is read, however large the file is.
 */
public final class BankFile {

  /** The largest that is taken, in bytes: 512 MiB. */
  public static final long MOST_BYTES = 512L << 20;

  private static final int MOST_SOUNDS = 4000;
  private static final int MOST_OF_A_TABLE = 64 << 20;
  private static final int HEAD = 8;

  private static final int PRESET_ROW = 38;
  private static final int SAMPLE_ROW = 46;
  private static final int NAME = 20;

  /** Of a sample's type: it is compressed, and its places are not of the samples. */
  private static final int COMPRESSED = 0x10;

  private static final int PERCUSSION = 128;

  private final SeekableByteChannel file;
  private final List<Preset> presets = new ArrayList<>();

  /**
   * A sound of a bank.
   *
   * @param drums whether it is a drum kit
   * @param program 0 to 127
   * @param number of its bank select, 0 to 16 383
   * @param name as the bank has it
   */
  public record Preset(boolean drums, int program, int number, String name) {}

  /** A piece of a file: what it is, and where its content begins and ends. */
  private record Chunk(String id, long from, long until) {}

  private BankFile(SeekableByteChannel file) {
    this.file = file;
  }

  /** The sounds of a bank, by kind, bank and program; refuses, in a sentence, what is none. */
  public static List<Preset> presets(SeekableByteChannel file) throws IOException {
    Refusal.unless(
        file.size() <= MOST_BYTES,
        "A sound bank has 512 MB at most, and that one has %,d: take one with fewer sounds.",
        file.size() >> 20);
    BankFile reading = new BankFile(file);
    reading.read();
    reading.presets.sort(
        Comparator.comparing(Preset::drums)
            .thenComparingInt(Preset::number)
            .thenComparingInt(Preset::program));
    return List.copyOf(reading.presets);
  }

  private void read() throws IOException {
    Refusal.unless(
        file.size() >= HEAD + 4 && text(0, 4).equals("RIFF"),
        "That is no sound bank: bring in a file of the kind SF2, SF3 or DLS.");
    long until = HEAD + size(4);
    Refusal.unless(
        until <= file.size(), "That sound bank is cut off: copy it, or download it, again.");
    String kind = text(HEAD, 4);
    Map<String, Chunk> parts = chunks(new Chunk(kind, HEAD + 4, until));
    switch (kind) {
      case "sfbk" -> readFont(parts);
      case "DLS " -> readDls(parts);
      default ->
          throw new Refusal("That is no sound bank: bring in a file of the kind SF2, SF3 or DLS.");
    }
    Refusal.unless(!presets.isEmpty(), "There is no sound in that bank.");
    Refusal.unless(
        presets.size() <= MOST_SOUNDS, "That bank has more than %s sounds.", MOST_SOUNDS);
  }

  // SoundFont

  private void readFont(Map<String, Chunk> parts) throws IOException {
    Map<String, Chunk> tables = chunks(there(parts, "pdta"));
    Map<String, Chunk> samples = chunks(there(parts, "sdta"));
    Chunk sound = there(samples, "smpl");
    rows(
        there(tables, "phdr"),
        PRESET_ROW,
        (row, i) -> {
          int program = row.getShort(NAME) & 0xffff;
          int bank = row.getShort(NAME + 2) & 0xffff;
          boolean drums = (bank & PERCUSSION) != 0;
          int number = drums ? 0 : (bank & 127) << 7 | bank >> 8 & 127;
          add(drums, program, number, name(row));
        });
    for (String table : List.of("pbag", "pgen", "inst", "ibag", "igen")) {
      there(tables, table);
    }
    long frames = (sound.until() - sound.from()) / 2;
    rows(there(tables, "shdr"), SAMPLE_ROW, (row, i) -> checkSample(row, frames));
  }

  private static void checkSample(ByteBuffer row, long frames) {
    long start = row.getInt(NAME) & 0xffffffffL;
    long end = row.getInt(NAME + 4) & 0xffffffffL;
    long loop = row.getInt(NAME + 8) & 0xffffffffL;
    long loopEnd = row.getInt(NAME + 12) & 0xffffffffL;
    boolean compressed = (row.getShort(NAME + 24) & COMPRESSED) != 0;
    if (compressed || end == 0) {
      return;
    }
    Refusal.unless(
        start <= end && end <= frames,
        "The sample %s of that bank lies past its end: the bank is broken.",
        name(row));
    // where nothing goes round, some write no places
    boolean loops = loopEnd > loop && loop >= start;
    Refusal.unless(
        !loops || loopEnd <= end,
        "The loop of the sample %s of that bank lies past the sample: the bank is broken.",
        name(row));
  }

  /** Rows of a table, but the last, which only ends it. */
  private void rows(Chunk table, int length, BiConsumer<ByteBuffer, Integer> each)
      throws IOException {
    long bytes = table.until() - table.from();
    Refusal.unless(
        bytes % length == 0 && bytes >= length && bytes <= MOST_OF_A_TABLE,
        "The table %s of that sound bank is broken: download it again.",
        table.id());
    ByteBuffer all = bytes(table.from(), (int) bytes);
    for (int i = 0; i < bytes / length - 1; i++) {
      each.accept(all.slice(i * length, length).order(ByteOrder.LITTLE_ENDIAN), i);
    }
  }

  // Downloadable Sounds

  private void readDls(Map<String, Chunk> parts) throws IOException {
    there(parts, "ptbl");
    there(parts, "wvpl");
    for (Chunk one : each(there(parts, "lins"))) {
      if (!one.id().equals("ins ")) {
        continue;
      }
      Map<String, Chunk> fields = chunks(one);
      Chunk head = there(fields, "insh");
      Refusal.unless(
          head.until() - head.from() >= 12, "An instrument of that DLS file has no head.");
      ByteBuffer row = bytes(head.from(), 12);
      int bank = row.getInt(4);
      boolean drums = bank < 0;
      int number = drums ? 0 : (bank >> 8 & 127) << 7 | bank & 127;
      add(drums, row.getInt(8) & 127, number, dlsName(fields));
    }
  }

  private String dlsName(Map<String, Chunk> fields) throws IOException {
    Chunk info = fields.get("INFO");
    Chunk name = info == null ? null : chunks(info).get("INAM");
    if (name == null) {
      return "";
    }
    return clean(bytes(name.from(), (int) Math.min(80, name.until() - name.from())).array());
  }

  // RIFF

  private void add(boolean drums, int program, int number, String name) {
    String called = name.isBlank() ? (drums ? "kit " : "sound ") + (program + 1) : name;
    Refusal.unless(
        program <= 127, "The sound %s of that bank has no program from 0 to 127.", called);
    presets.add(new Preset(drums, program, number, called));
  }

  private static Chunk there(Map<String, Chunk> chunks, String id) {
    Chunk chunk = chunks.get(id);
    Refusal.unless(
        chunk != null, "That sound bank lacks its part “%s”: download it again.", id.strip());
    return chunk;
  }

  /** The pieces of a piece, the first of each kind; a list is known by what it lists. */
  private Map<String, Chunk> chunks(Chunk whole) throws IOException {
    Map<String, Chunk> chunks = new HashMap<>();
    for (Chunk chunk : each(whole)) {
      chunks.putIfAbsent(chunk.id(), chunk);
    }
    return chunks;
  }

  private List<Chunk> each(Chunk whole) throws IOException {
    List<Chunk> chunks = new ArrayList<>();
    long at = whole.from();
    while (at + HEAD <= whole.until()) {
      String id = text(at, 4);
      long until = at + HEAD + size(at + 4);
      Refusal.unless(
          until <= whole.until(), "That sound bank is cut off: copy it, or download it, again.");
      boolean list = id.equals("LIST") && until - at >= HEAD + 4;
      long from = at + HEAD + (list ? 4 : 0);
      chunks.add(new Chunk(list ? text(at + HEAD, 4) : id, from, until));
      Refusal.unless(chunks.size() <= 100_000, "That sound bank is broken: download it again.");
      // a piece of odd length is followed by a byte that is nothing; some leave it out
      boolean odd = (until - at & 1) == 1;
      at = odd && until < whole.until() && bytes(until, 1).get(0) == 0 ? until + 1 : until;
    }
    return chunks;
  }

  private static String name(ByteBuffer row) {
    byte[] name = new byte[NAME];
    row.get(0, name);
    return clean(name);
  }

  /** A name ends at its first zero; what cannot be shown is left out. */
  private static String clean(byte[] bytes) {
    String all = new String(bytes, StandardCharsets.ISO_8859_1);
    int end = all.indexOf('\0');
    String name = (end < 0 ? all : all.substring(0, end)).replaceAll("\\p{Cntrl}", " ").strip();
    return Names.cut(name, 60);
  }

  private String text(long at, int length) throws IOException {
    return new String(bytes(at, length).array(), StandardCharsets.ISO_8859_1);
  }

  private long size(long at) throws IOException {
    return bytes(at, 4).getInt(0) & 0xffffffffL;
  }

  private ByteBuffer bytes(long at, int length) throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    file.position(at);
    while (bytes.hasRemaining() && file.read(bytes) >= 0) {
      // until it is full
    }
    Refusal.unless(
        !bytes.hasRemaining(), "That sound bank is cut off: copy it, or download it, again.");
    return bytes.flip();
  }
}
