package ancora.app.tempo;

import ancora.core.Refusal;
import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.TempoFinder;
import ancora.core.file.MidiOnsets;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Says the tempo, beat and bar found in a Standard MIDI File. */
public final class TempoCommand {

  private static final String USAGE = "usage: ./ancora tempo FILE.mid [--json]";
  private static final int BAD_INPUT = 2;

  private TempoCommand() {}

  public static void main(String[] arguments) {
    System.exit(run(List.of(arguments), System.out, System.err));
  }

  /**
   * Runs the command.
   *
   * @return the exit code: 0, or 2 if something that was given is not right
   */
  static int run(List<String> arguments, PrintStream out, PrintStream err) {
    try {
      List<String> files = arguments.stream().filter(a -> !a.startsWith("--")).toList();
      boolean known = arguments.stream().allMatch(a -> !a.startsWith("--") || a.equals("--json"));
      Refusal.unless(known && files.size() == 1, USAGE);
      FoundTempo found = found(Path.of(files.get(0)));
      out.println(arguments.contains("--json") ? json(found) : words(found));
      return 0;
    } catch (Refusal refusal) {
      err.println(refusal.getMessage());
    } catch (IOException unreadable) {
      err.println("That file cannot be read: name another.");
    }
    return BAD_INPUT;
  }

  private static FoundTempo found(Path file) throws IOException {
    Refusal.unless(Files.isRegularFile(file), "There is no file %s: name a MIDI file.", file);
    Refusal.unless(
        Files.size(file) <= MidiOnsets.MOST_BYTES, "That file is larger than 4 MB: cut it.");
    return TempoFinder.find(MidiOnsets.of(Files.readAllBytes(file)), OptionalInt.empty())
        .orElseThrow(() -> new Refusal("Too little is played in that file to find a tempo in."));
  }

  private static String words(FoundTempo found) {
    return String.format(
        Locale.ROOT,
        "%.2f beats a minute, %d to the bar, the first bar at %.3f s, sure by %.0f of 100",
        found.bpm(),
        found.beatsInBar(),
        found.downbeat() / 1e6,
        100 * found.sureness());
  }

  private static ObjectNode json(FoundTempo found) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    node.put("bpm", found.bpm())
        .put("beatsInBar", found.beatsInBar())
        .put("downbeat", found.downbeat() / 1e6)
        .put("drift", found.drift())
        .put("sureness", found.sureness());
    found.lines().forEach(node.putArray("lines")::add);
    return node;
  }
}
