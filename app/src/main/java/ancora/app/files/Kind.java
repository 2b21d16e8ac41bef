package ancora.app.files;

import ancora.core.Refusal;
import java.util.Locale;
import java.util.Map;

/** What a file that comes in is. */
enum Kind {
  MIDI,
  SHOW,
  JOURNAL;

  /** No file that comes in is longer, in bytes; a MIDI file has a bound of its own. */
  static final int MOST_BYTES = 48 << 20;

  private static final Map<String, Kind> ENDINGS =
      Map.of(
          "mid", MIDI, "midi", MIDI, "smf", MIDI, "kar", MIDI, "rmi", MIDI, "json", SHOW, "jsonl",
          JOURNAL);

  private static final String PACKED = ".gz";

  /** By the ending of its name. Refuses others, and what is empty or too long. */
  static Kind of(String name, byte[] bytes) {
    Refusal.unless(bytes.length > 0, "That file is empty: choose another.");
    Refusal.unless(bytes.length <= MOST_BYTES, "That file is larger than %s MB.", MOST_BYTES >> 20);
    String small = name.toLowerCase(Locale.ROOT);
    String bare =
        small.endsWith(PACKED) ? small.substring(0, small.length() - PACKED.length()) : small;
    Kind kind = ENDINGS.get(bare.substring(bare.lastIndexOf('.') + 1));
    Refusal.unless(
        kind != null && (kind == MIDI || bare.equals(small)),
        "A file ends in .mid, .kar or .rmi (or these with .gz), .json or .jsonl: choose one that does.");
    return kind;
  }
}
