package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.engine.Command;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.show.Click;
import ancora.core.show.LengthRule;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Map;
import java.util.function.Function;

/** Commands as JSON, read from pages and written to the journal. */
public final class CommandJson {

  private static final Map<String, Function<JsonNode, Command>> READERS =
      Map.ofEntries(
          Map.entry("keyDown", n -> new Command.KeyDown(key(n), integer(n, "velocity"))),
          Map.entry("keyUp", n -> new Command.KeyUp(key(n))),
          Map.entry("deviceGone", n -> new Command.DeviceGone(text(n, "device"))),
          Map.entry("mainPress", n -> new Command.MainPress()),
          Map.entry("start", n -> new Command.Start()),
          Map.entry("stop", n -> new Command.Stop()),
          Map.entry("panic", n -> new Command.Panic()),
          Map.entry("setTempo", n -> new Command.SetTempo(Tempo.of(number(n, "bpm")))),
          Map.entry("tapTempo", n -> new Command.TapTempo()),
          Map.entry(
              "setMeter",
              n -> new Command.SetMeter(Meter.of(integer(n, "beats"), integer(n, "unit")))),
          Map.entry("setClick", n -> new Command.SetClick(click(n))),
          Map.entry("setRecording", n -> new Command.SetRecording(recording(n))),
          Map.entry("rename", n -> new Command.Rename(text(n, "title"))),
          Map.entry("addPart", n -> new Command.AddPart(text(n, "name"), sound(n))),
          Map.entry("arm", n -> new Command.Arm(part(n))),
          Map.entry(
              "chooseSound",
              n -> new Command.ChooseSound(part(n), sound(n), flag(n, "evenWithMusic"))),
          Map.entry("setInputGrid", n -> new Command.SetInputGrid(part(n), grid(n))),
          Map.entry("peel", n -> new Command.Peel()),
          Map.entry("restore", n -> new Command.Restore()),
          Map.entry("peelAll", n -> new Command.PeelAll()),
          Map.entry("clear", n -> new Command.Clear()),
          Map.entry("unclear", n -> new Command.Unclear()),
          Map.entry("reportDelay", n -> new Command.ReportDelay(whole(n, "micros"))));

  private CommandJson() {}

  /** The command that a page sent; refuses what is none. */
  public static Command read(JsonNode node) {
    Function<JsonNode, Command> reader = READERS.get(text(node, "do"));
    Refusal.unless(reader != null, "There is no such command: %s.", shortened(text(node, "do")));
    return reader.apply(node);
  }

  /** A command as {@link #read} reads it. */
  public static ObjectNode write(Command command) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    String simple = command.getClass().getSimpleName();
    node.put("do", Character.toLowerCase(simple.charAt(0)) + simple.substring(1));
    if (command instanceof Command.KeyDown c) {
      writeKey(node, c.key()).put("velocity", c.velocity());
    } else if (command instanceof Command.KeyUp c) {
      writeKey(node, c.key());
    } else if (command instanceof Command.DeviceGone c) {
      node.put("device", c.device());
    } else if (command instanceof Command.SetTempo c) {
      node.put("bpm", c.tempo().bpm());
    } else if (command instanceof Command.SetMeter c) {
      node.put("beats", c.meter().beats()).put("unit", c.meter().unit());
    } else if (command instanceof Command.SetClick c) {
      write(node, c.click());
    } else if (command instanceof Command.SetRecording c) {
      write(node, c.settings());
    } else if (command instanceof Command.Rename c) {
      node.put("title", c.title());
    } else if (command instanceof Command.AddPart c) {
      write(node.put("name", c.name()), c.sound());
    } else if (command instanceof Command.Arm c) {
      node.put("part", c.part().value());
    } else if (command instanceof Command.ChooseSound c) {
      write(node.put("part", c.part().value()), c.sound()).put("evenWithMusic", c.evenWithMusic());
    } else if (command instanceof Command.SetInputGrid c) {
      write(node.put("part", c.part().value()), c.grid());
    } else if (command instanceof Command.ReportDelay c) {
      node.put("micros", c.micros());
    }
    return node;
  }

  public static ObjectNode write(ObjectNode node, Click click) {
    return node.put("on", click.on())
        .put("when", click.when().name())
        .put("sound", click.sound().name())
        .put("level", click.level())
        .put("dotted", click.dotted());
  }

  public static ObjectNode write(ObjectNode node, RecordingSettings settings) {
    return node.put("entersOn", settings.entersOn().name())
        .put("closesOn", settings.closesOn().name())
        .put("forgiveness", settings.forgiveness().millis())
        .put("lengthRule", settings.lengthRule().name())
        .put("fixedUnits", settings.fixedUnits())
        .put("overdubAfter", settings.overdubAfter())
        .put("countInBars", settings.countInBars())
        .put("fromFirstNote", settings.fromFirstNote());
  }

  public static ObjectNode write(ObjectNode node, Sound sound) {
    return node.put("drums", sound.drums()).put("program", sound.program());
  }

  public static ObjectNode write(ObjectNode node, InputGrid grid) {
    return node.put("grid", grid.grid().words())
        .put("strength", grid.strength())
        .put("swing", grid.swing())
        .put("endsToo", grid.endsToo());
  }

  private static ObjectNode writeKey(ObjectNode node, InputKey key) {
    return node.put("device", key.device()).put("channel", key.channel()).put("pitch", key.pitch());
  }

  private static InputKey key(JsonNode node) {
    return new InputKey(text(node, "device"), integer(node, "channel"), integer(node, "pitch"));
  }

  private static Click click(JsonNode node) {
    return new Click(
        flag(node, "on"),
        oneOf(Click.When.class, node, "when"),
        oneOf(Click.Sound.class, node, "sound"),
        integer(node, "level"),
        flag(node, "dotted"));
  }

  private static RecordingSettings recording(JsonNode node) {
    return new RecordingSettings(
        oneOf(EntryUnit.class, node, "entersOn"),
        oneOf(EntryUnit.class, node, "closesOn"),
        new Forgiveness(integer(node, "forgiveness")),
        oneOf(LengthRule.class, node, "lengthRule"),
        integer(node, "fixedUnits"),
        flag(node, "overdubAfter"),
        integer(node, "countInBars"),
        flag(node, "fromFirstNote"));
  }

  private static Sound sound(JsonNode node) {
    return new Sound(flag(node, "drums"), integer(node, "program"));
  }

  private static InputGrid grid(JsonNode node) {
    return new InputGrid(
        Grid.named(text(node, "grid")),
        integer(node, "strength"),
        number(node, "swing"),
        flag(node, "endsToo"));
  }

  private static PartId part(JsonNode node) {
    return new PartId(integer(node, "part"));
  }

  public static String text(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(value != null && value.isTextual(), "The message lacks the text “%s”.", field);
    return value.textValue();
  }

  public static long whole(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(
        value != null && value.isIntegralNumber() && value.canConvertToLong(),
        "The message lacks the whole number “%s”.",
        field);
    return value.longValue();
  }

  public static int integer(JsonNode node, String field) {
    long value = whole(node, field);
    Refusal.unless(
        value >= Integer.MIN_VALUE && value <= Integer.MAX_VALUE,
        "The number “%s” is out of reach.",
        field);
    return (int) value;
  }

  public static double number(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(value != null && value.isNumber(), "The message lacks the number “%s”.", field);
    return value.doubleValue();
  }

  private static boolean flag(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(
        value != null && value.isBoolean(), "The message lacks “%s”, true or false.", field);
    return value.booleanValue();
  }

  private static <E extends Enum<E>> E oneOf(Class<E> type, JsonNode node, String field) {
    String name = text(node, field);
    for (E value : type.getEnumConstants()) {
      if (value.name().equals(name)) {
        return value;
      }
    }
    throw new Refusal("“" + shortened(name) + "” is not a choice for “" + field + "”.");
  }

  private static String shortened(String text) {
    return text.length() <= 40 ? text : text.substring(0, 40) + "…";
  }
}
