package ancora.app.files;

import ancora.core.Refusal;
import java.util.Locale;

/** What a file that comes in is. */
enum Kind {
  MIDI,
  SHOW,
  JOURNAL;

  /** No file that comes in is longer, in bytes; a MIDI file has a bound of its own. */
  static final int MOST_BYTES = 48 << 20;

  /** By the ending of its name. Refuses others, and what is empty or too long. */
  static Kind of(String name, byte[] bytes) {
    Refusal.unless(bytes.length > 0, "That file is empty: choose another.");
    Refusal.unless(bytes.length <= MOST_BYTES, "That file is larger than %s MB.", MOST_BYTES >> 20);
    return switch (name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT)) {
      case "mid", "midi", "smf" -> MIDI;
      case "json" -> SHOW;
      case "jsonl" -> JOURNAL;
      default -> throw new Refusal("A file ends in .mid, .json or .jsonl: choose one that does.");
    };
  }
}
