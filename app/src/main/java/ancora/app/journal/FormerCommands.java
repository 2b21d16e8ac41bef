package ancora.app.journal;

import ancora.core.Refusal;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Commands that once were there, as what they are today: journals have them, and maps of controls.
 * What a control stood for had a name and a number ({@code act}); 0 was the armed part.
 */
final class FormerCommands {

  private static final String PART = "\"part\":\"#part\"";
  private static final String CLIP = "\"part\":\"armed\",\"clip\":\"in hand\"";

  /** {@code #part} is the part of the number, {@code #n} the number, {@code #a} its letter. */
  private static final Map<String, String> ACTIONS = new HashMap<>();

  private static final List<String> GRIDS =
      List.of("1/4", "1/8", "1/16", "1/32", "1/64", "1/4T", "1/8T", "1/16T", "1/32T");

  static {
    plain("MAIN", "mainPress");
    plain("RECORD_ANEW", "recordAnew");
    plain("CLOSE", "close");
    plain("OVERDUB", "overdub");
    plain("PEEL", "peel");
    plain("RESTORE", "restore");
    plain("CLEAR", "clear");
    plain("UNDO", "undo");
    plain("REDO", "redo");
    plain("HAND_OFF", "handOff");
    plain("START_STOP", "startOrStop");
    plain("STOP_ALL", "stopAll");
    plain("PANIC", "panic");
    plain("TAP", "tapTempo");
    plain("KEPT_HEAR", "hearKept");
    act("KEEP", "keep", "\"ofLoopLength\":false,\"cue\":false");
    act("KEEP_BARS", "keepBars", "\"part\":\"armed\",\"onto\":\"armed\",\"bars\":#n,\"cue\":false");
    act("KEPT_MORE", "keepPhrases", "\"by\":1");
    act("KEPT_FEWER", "keepPhrases", "\"by\":-1");
    for (String by : List.of("HALF", "DOUBLE", "EARLIER", "LATER", "THREE", "FOUR", "GIVE_UP")) {
      act("KEPT_" + by, "changeKept", "\"by\":\"" + by + "\"");
    }
    act("KEPT_STEADY", "changeKept", "\"by\":\"STEADY_OR_NOT\"");
    act("REPLACE", "replace", "\"on\":\"#held\"");
    act("ERASE", "eraseHeld", "\"on\":\"#held\"");
    act("PUNCH", "punchBar", "\"on\":\"toggle\"");
    act("TAKES", "takes", "\"on\":\"toggle\"");
    act("BREATHER", "setRecording", "\"breatherBars\":\"toggle\"");
    act("NOTE_REPEAT", "repeatKeys", "\"on\":\"toggle\",\"grid\":\"#grid\"");
    act("NOTE_REPEAT_HELD", "repeatKeys", "\"on\":\"#heldOn\",\"grid\":\"#grid\"");
    act("REPEAT_GRID", "repeatKeys", "\"on\":true,\"grid\":\"#grid\"");
    act("HALVE", "reshape", CLIP + ",\"reshaping\":{\"by\":\"halve\"}");
    act("DOUBLE", "reshape", CLIP + ",\"reshaping\":{\"by\":\"twice\"}");
    act("SHIFT_EARLIER", "shiftLoop", CLIP + ",\"beats\":-1");
    act("SHIFT_LATER", "shiftLoop", CLIP + ",\"beats\":1");
    act("TACET", "cueTacet", "\"part\":\"armed\"");
    act("CUT", "cut", "\"part\":\"armed\"");
    act("CUE_CLIP", "cueClip", "\"part\":\"armed\",\"clip\":\"#a\"");
    act("CUE_NEXT_CLIP", "cueClip", "\"part\":\"armed\",\"clip\":\"next\"");
    act("CUE_SECTION", "cueSection", "\"section\":\"#A\"");
    act("NEXT_SECTION", "cueSection", "\"section\":\"next\"");
    act("PREVIOUS_SECTION", "cueSection", "\"section\":\"previous\"");
    act("ARM", "arm", PART);
    act("ARM_NEXT", "arm", "\"part\":\"next\"");
    act("ARM_PREVIOUS", "arm", "\"part\":\"previous\"");
    act("MUTE", "setBalance", PART + ",\"muted\":\"toggle\"");
    act("SOLO", "setBalance", PART + ",\"solo\":\"toggle\"");
    act("LOUDER", "trimAll", "\"decibels\":1");
    act("SOFTER", "trimAll", "\"decibels\":-1");
    act("CLICK", "setClick", "\"on\":\"toggle\"");
    act("TEMPO", "shiftTempo", "\"by\":{\"knob\":[40,240]}");
    act("MASTER", "setMaster", "\"level\":{\"knob\":[-60,6]}");
    act("LEVEL", "setBalance", PART + ",\"level\":{\"knob\":[-60,6]}");
    act("ECHO", "setBalance", PART + ",\"echo\":{\"knob\":[0,100]}");
    act("ROOM", "setBalance", PART + ",\"room\":{\"knob\":[0,100]}");
  }

  private FormerCommands() {}

  private static void plain(String action, String command) {
    ACTIONS.put(action, "{\"do\":\"" + command + "\"}");
  }

  private static void act(String action, String command, String fields) {
    ACTIONS.put(action, "{\"do\":\"" + command + "\"," + fields + "}");
  }

  /** A command of a journal's line as it is called today; unchanged if it is. */
  static JsonNode today(JsonNode said) {
    return switch (said.path("do").asString("")) {
      case "act" -> acted(said);
      case "cueNext" -> CoreJson.read(ACTIONS.get("NEXT_SECTION"), JsonNode.class);
      case "cuePrevious" -> CoreJson.read(ACTIONS.get("PREVIOUS_SECTION"), JsonNode.class);
      default -> said;
    };
  }

  private static JsonNode acted(JsonNode act) {
    ObjectNode command = (ObjectNode) today(act, false);
    if (act.path("sure").asBoolean(false)) {
      command.put("sure", true);
    }
    return command;
  }

  /** What a control stood for in a map; while it is held, where it was held. */
  static JsonNode assigned(JsonNode assignment) {
    return today(assignment, true);
  }

  private static JsonNode today(JsonNode act, boolean onControl) {
    String form = ACTIONS.get(act.path("action").asString(""));
    int number = act.path("number").asInt(0);
    Refusal.unless(
        form != null && number >= 0 && number <= 26, "There is no such action: choose another.");
    int place = Math.max(1, number);
    String letter = String.valueOf((char) ('a' + place - 1));
    String grid = number == 0 ? "1/16" : GRIDS.get(Math.min(number, GRIDS.size()) - 1);
    String today =
        form.replace("#part", number == 0 ? "armed" : String.valueOf(number))
            .replace("#n", String.valueOf(place))
            .replace("#a", letter)
            .replace("#A", letter.toUpperCase(Locale.ROOT))
            .replace("\"#heldOn\"", onControl ? "\"held\"" : "true")
            .replace("#held", onControl ? "held" : "toggle")
            .replace("#grid", grid);
    return CoreJson.read(today, JsonNode.class);
  }
}
