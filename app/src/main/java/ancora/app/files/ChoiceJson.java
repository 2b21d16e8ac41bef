package ancora.app.files;

import ancora.app.journal.CommandJson;
import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.file.Choice;
import ancora.core.file.MidiSong;
import ancora.core.file.Wanted;
import ancora.core.show.PartId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a page chose of what there is: of a MIDI file {"lines": [{"line": 0, "onto": 2}], "cut": 8}
 * and, if wished, {"found": true} for bar lines that are found in it, {"joined": true} for the
 * lines of one channel as one, {"drums": [[40, 38]]} for a kit whose drum 40 is the drum 38,
 * {"time": 1} for another of its times, {"words": true} for names from what is sung, {"asRun":
 * true} for a run besides; of a show {"parts": [{"part": 1, "clips": [11], "onto": 2}]}; without
 * "onto" it becomes a part of its own.
 */
final class ChoiceJson {

  private static final JsonMapper JSON = JsonMapper.shared();
  private static final int MOST = 2048;

  private ChoiceJson() {}

  static JsonNode read(String text) {
    try {
      JsonNode node = JSON.readTree(text);
      Refusal.unless(node != null && node.isObject(), "That choice is not understood.");
      return node;
    } catch (JacksonException notJson) {
      throw new Refusal("That choice is not understood.");
    }
  }

  /** A MIDI file, read as it was chosen: its lines are counted so. */
  static MidiSong song(byte[] bytes, Optional<JsonNode> choice) {
    boolean found = choice.filter(node -> isOn(node, "found")).isPresent();
    MidiSong song = found ? MidiSong.found(bytes) : MidiSong.read(bytes);
    boolean joined = choice.filter(node -> isOn(node, "joined")).isPresent();
    return (joined ? song.joined() : song).struckBy(choice.map(ChoiceJson::drums).orElse(Map.of()));
  }

  private static Map<Integer, Integer> drums(JsonNode node) {
    Map<Integer, Integer> drums = new HashMap<>();
    for (JsonNode pair : node.has("drums") ? list(node, "drums") : List.<JsonNode>of()) {
      Refusal.unless(
          pair.size() == 2 && pair.path(0).isInt() && pair.path(1).isInt(),
          "A drum is named by its number, and the number of the drum that is meant.");
      drums.put(pair.path(0).intValue(), pair.path(1).intValue());
    }
    return drums;
  }

  static boolean isOn(JsonNode node, String field) {
    return node.path(field).asBoolean(false);
  }

  /** Of a MIDI file. */
  static Choice lines(JsonNode node) {
    List<Integer> lines = new ArrayList<>();
    Map<Integer, PartId> onto = new HashMap<>();
    for (JsonNode one : list(node, "lines")) {
      int line = CommandJson.integer(one, "line");
      lines.add(line);
      onto(one).ifPresent(part -> onto.put(line, part));
    }
    Refusal.unless(!lines.isEmpty(), "Choose something to bring in.");
    OptionalInt time =
        node.hasNonNull("time")
            ? OptionalInt.of(CommandJson.integer(node, "time"))
            : OptionalInt.empty();
    return new Choice(lines, onto, CommandJson.integer(node, "cut"), time, isOn(node, "words"));
  }

  /** Of a show. */
  static List<Wanted> parts(JsonNode node) {
    List<Wanted> wanted = new ArrayList<>();
    for (JsonNode one : list(node, "parts")) {
      List<ClipId> clips = new ArrayList<>();
      for (JsonNode clip : list(one, "clips")) {
        Refusal.unless(clip.isInt(), "A clip is chosen by its number.");
        clips.add(new ClipId(clip.intValue()));
      }
      wanted.add(new Wanted(new PartId(CommandJson.integer(one, "part")), clips, onto(one)));
    }
    return wanted;
  }

  private static Optional<PartId> onto(JsonNode one) {
    return one.hasNonNull("onto")
        ? Optional.of(new PartId(CommandJson.integer(one, "onto")))
        : Optional.empty();
  }

  private static JsonNode list(JsonNode node, String field) {
    JsonNode list = node.path(field);
    Refusal.unless(list.isArray() && list.size() <= MOST, "That choice is not understood.");
    return list;
  }
}
