package ancora.app.store;

import static java.nio.charset.StandardCharsets.UTF_8;

import java.util.Optional;
import java.util.OptionalLong;
import java.util.zip.CRC32C;
import tools.jackson.core.io.JsonStringEncoder;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * A line of a journal as it is on the disk: three columns, a tab between them. The first is the
 * line that {@code docs/journal.md} describes, {@code {"at", "stamp", "do", …}}; the second who
 * sent it, {@code [page, number, place, rules]}; the third a checksum of all before it, CRC-32C
 * (RFC 3720, appendix B.4) in eight hexadecimal digits.
 */
final class JournalLine {

  private static final JsonMapper JSON = JsonMapper.shared();
  private static final char COLUMN = '\t';
  private static final int DIGITS = 8;

  /** No number is longer, with its comma. */
  private static final int MOST_DIGITS = 19;

  private JournalLine() {}

  /** Without its end. */
  static String of(JournalRow row) {
    String rest = rest(row);
    String page = String.valueOf(JsonStringEncoder.getInstance().quoteAsCharArray(row.client()));
    String line =
        "{\"at\":%d,\"stamp\":%d,%s%c[\"%s\",%d,%d,%d]%c"
            .formatted(
                row.appliedUs(),
                row.stampUs(),
                rest,
                COLUMN,
                page,
                row.clientSeq(),
                row.seq(),
                row.rules(),
                COLUMN);
    byte[] bytes = line.getBytes(UTF_8);
    return line + checksum(bytes, bytes.length);
  }

  /** What a person reads of it: the first column. */
  static String plain(JournalRow row) {
    return "{\"at\":%d,\"stamp\":%d,%s".formatted(row.appliedUs(), row.stampUs(), rest(row));
  }

  /** A command without its first brace; what is none is kept as what it is. */
  private static String rest(JournalRow row) {
    return row.command().startsWith("{\"")
        ? row.command().substring(1)
        : "\"do\":\"unreadable\",\"text\":\"%s\"}"
            .formatted(
                String.valueOf(JsonStringEncoder.getInstance().quoteAsCharArray(row.command())));
  }

  /** Whether all of a line is there, as it was written. */
  static boolean isWhole(byte[] bytes) {
    int sum = bytes.length - DIGITS;
    return sum > 0
        && bytes[sum - 1] == COLUMN
        && checksum(bytes, sum).equals(new String(bytes, sum, DIGITS, UTF_8));
  }

  /** The place of a line in its journal, without reading the line; none where it has none. */
  static OptionalLong place(byte[] bytes) {
    int end = bytes.length - DIGITS - 1;
    int rules = lastComma(bytes, end);
    int place = lastComma(bytes, rules);
    long number = 0;
    for (int i = place + 1; i < rules; i++) {
      if (bytes[i] < '0' || bytes[i] > '9' || rules - place > MOST_DIGITS) {
        return OptionalLong.empty();
      }
      number = number * 10 + bytes[i] - '0';
    }
    return place < 0 || rules <= place + 1 ? OptionalLong.empty() : OptionalLong.of(number);
  }

  private static int lastComma(byte[] bytes, int before) {
    int at = before - 1;
    while (at >= 0 && bytes[at] != ',') {
      at--;
    }
    return at;
  }

  /** A line, if it is whole. */
  static Optional<JournalRow> read(byte[] bytes) {
    if (!isWhole(bytes)) {
      return Optional.empty();
    }
    String[] columns =
        new String(bytes, 0, bytes.length - DIGITS, UTF_8).split(String.valueOf(COLUMN));
    try {
      ObjectNode line = (ObjectNode) JSON.readTree(columns[0]);
      JsonNode from = JSON.readTree(columns[1]);
      long at = line.remove("at").longValue();
      long stamp = line.remove("stamp").longValue();
      return Optional.of(
          new JournalRow(
              from.get(2).longValue(),
              stamp,
              at,
              from.get(0).stringValue(),
              from.get(1).longValue(),
              line.toString(),
              from.get(3).intValue()));
    } catch (RuntimeException broken) {
      return Optional.empty();
    }
  }

  private static String checksum(byte[] bytes, int length) {
    CRC32C sum = new CRC32C();
    sum.update(bytes, 0, length);
    return "%08x".formatted(sum.getValue());
  }
}
