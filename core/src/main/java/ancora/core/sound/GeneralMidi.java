package ancora.core.sound;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The sound set of General MIDI System Level 1: 128 programs in 16 families of eight, and the
 * percussion key map, keys 35 to 81. Kits other than the standard one are numbered as in General
 * MIDI Level 2. The names lie beside this class, as the tables of the standard give them.
 */
public final class GeneralMidi {

  /** Family name under which drum kits are found. */
  public static final String DRUM_KITS = "Drum kits";

  /** The names of programs 0 to 127. */
  public static final List<String> PROGRAMS = List.copyOf(numbered("programs.txt").values());

  /** The 16 families, of eight programs each. */
  public static final List<String> FAMILIES =
      lines("programs.txt").stream().filter(line -> !line.startsWith(" ")).toList();

  /** The percussion key map: names of keys 35 to 81. */
  public static final Map<Integer, String> DRUMS =
      Collections.unmodifiableMap(numbered("drum-keys.txt"));

  /** Drum kits in the order of their programs. */
  public static final List<Kit> KITS =
      numbered("kits.txt").entrySet().stream()
          .map(kit -> new Kit(kit.getKey(), kit.getValue()))
          .toList();

  /**
   * A drum kit.
   *
   * @param program as sent in a program change
   * @param name its name
   */
  public record Kit(int program, String name) {}

  private GeneralMidi() {}

  /** The kit with a program number. */
  public static Optional<Kit> kit(int program) {
    return KITS.stream().filter(kit -> kit.program() == program).findFirst();
  }

  /** The names of a table by their numbers; a line without a number is a heading. */
  private static TreeMap<Integer, String> numbered(String table) {
    TreeMap<Integer, String> names = new TreeMap<>();
    for (String line : lines(table)) {
      String[] named = line.strip().split(" ", 2);
      if (Character.isDigit(named[0].charAt(0))) {
        names.put(Integer.parseInt(named[0]), named[1]);
      }
    }
    return names;
  }

  private static List<String> lines(String table) {
    try (InputStream in = GeneralMidi.class.getResourceAsStream(table)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8).lines().toList();
    } catch (IOException lost) {
      throw new UncheckedIOException(lost);
    }
  }
}
