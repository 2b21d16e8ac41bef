package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.file.Channels;
import ancora.core.file.MidiFile;
import ancora.core.player.Sounded;
import ancora.core.replay.Replay;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.MalformedInputException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** {@code ./ancora replay}: does a journal again in virtual time, and writes what came of it. */
public final class ReplayCommand {

  private static final String USAGE =
      "usage: ./ancora replay FILE.jsonl [--until BAR] [--midi OUT.mid] [--events OUT.csv]"
          + " [--state OUT.json]";

  private static final int BAD_INPUT = 2;
  private static final int CLICK_CHANNEL = 9;

  private ReplayCommand() {}

  public static void main(String[] arguments) {
    System.exit(run(arguments, System.out, System.err));
  }

  /**
   * Runs the command.
   *
   * @return the exit code: 0, or 2 if something that was given is not right
   */
  static int run(String[] arguments, PrintStream out, PrintStream err) {
    try {
      Optional<Path> file = Optional.empty();
      Map<String, String> options = new HashMap<>();
      for (int i = 0; i < arguments.length; i++) {
        if (arguments[i].startsWith("--")) {
          Refusal.unless(
              List.of("--until", "--midi", "--events", "--state").contains(arguments[i])
                  && i + 1 < arguments.length,
              USAGE);
          options.put(arguments[i], arguments[++i]);
        } else {
          Refusal.unless(file.isEmpty(), USAGE);
          file = Optional.of(Path.of(arguments[i]));
        }
      }
      replay(file.orElseThrow(() -> new Refusal(USAGE)), options, out);
      return 0;
    } catch (Refusal refusal) {
      err.println(refusal.getMessage());
    } catch (NoSuchFileException none) {
      err.println("There is no file " + none.getFile() + ": name the journal.");
    } catch (MalformedInputException binary) {
      err.println("That file is not text: name a journal.");
    } catch (IOException failure) {
      err.println("That cannot be written or read: " + failure.getMessage() + ".");
    }
    return BAD_INPUT;
  }

  private static void replay(Path file, Map<String, String> options, PrintStream out)
      throws IOException {
    JournalFile journal = JournalFile.read(Files.readAllLines(file));
    long began = System.nanoTime();
    Replay replay = Replay.of(Stage.of(journal.show()));
    int refused = perform(journal, replay, until(options.get("--until")));
    Optional.ofNullable(options.get("--events")).map(Path::of).ifPresent(p -> events(replay, p));
    Optional.ofNullable(options.get("--midi")).map(Path::of).ifPresent(p -> midi(replay, p));
    Optional.ofNullable(options.get("--state")).map(Path::of).ifPresent(p -> state(replay, p));
    out.printf(
        "%d lines, %d refused, %d events sounded, in %d ms%n",
        journal.lines().size(),
        refused,
        replay.sounded().size(),
        (System.nanoTime() - began) / 1_000_000);
    if (journal.rules() < Engine.RULES) {
      out.printf(
          "This journal was made under rules %d; it is done under today's, rules %d.%n",
          journal.rules(), Engine.RULES);
    }
  }

  /** Does what the journal says, as far as a bar of its last roll if one is given. */
  private static int perform(JournalFile journal, Replay replay, Optional<Long> untilBar) {
    int refused = 0;
    for (JournalFile.Line line : journal.lines()) {
      Optional<Long> end = untilBar.flatMap(bar -> instantOf(bar, replay.stage()));
      if (end.isPresent() && end.get() <= line.at()) {
        break;
      }
      if (replay.apply(line.command(), line.stamp(), line.at()) instanceof Outcome.Refused) {
        refused++;
      }
    }
    untilBar.flatMap(bar -> instantOf(bar, replay.stage())).ifPresent(replay::advance);
    return refused;
  }

  /** When a bar begins, while the transport runs. */
  private static Optional<Long> instantOf(long bar, Stage stage) {
    long tick = (bar - 1) * stage.show().meter().barTicks();
    return stage.map().map(map -> (long) Math.ceil(map.microsOf(tick)));
  }

  private static Optional<Long> until(String bar) {
    if (bar == null) {
      return Optional.empty();
    }
    Refusal.unless(bar.matches("[1-9]\\d{0,6}"), "'%s' is not a bar: use a number from 1 on.", bar);
    return Optional.of(Long.valueOf(bar));
  }

  /** One line for each event that sounded. */
  static String csv(Replay replay) {
    Map<PartId, Integer> channels = Channels.of(replay.stage().show());
    StringBuilder text = new StringBuilder("tick,microsecond,part,channel,kind,data1,data2\n");
    for (Sounded s : replay.sounded()) {
      text.append(s.tick())
          .append(',')
          .append(s.micros())
          .append(',')
          .append(s.isClick() ? "click" : String.valueOf(s.part().value()))
          .append(',')
          .append(channels.getOrDefault(s.part(), CLICK_CHANNEL) + 1)
          .append(',')
          .append(s.kind().words())
          .append(',')
          .append(s.pitch())
          .append(',')
          .append(s.velocity())
          .append('\n');
    }
    return text.toString();
  }

  private static void events(Replay replay, Path path) {
    write(path, out -> out.write(csv(replay).getBytes(StandardCharsets.UTF_8)));
  }

  private static void midi(Replay replay, Path path) {
    String title = replay.stage().show().title();
    write(path, out -> out.write(MidiFile.of(title, replay.runs(), MidiFile.Type.TRACKS).bytes()));
  }

  private static void state(Replay replay, Path path) {
    write(
        path,
        out -> out.write(state(replay.stage()).toPrettyString().getBytes(StandardCharsets.UTF_8)));
  }

  /** The show at the end, and what each part is doing. */
  static ObjectNode state(Stage stage) {
    ObjectNode state = JsonNodeFactory.instance.objectNode();
    state.set("show", CoreJson.write(stage.show()));
    state.put("rolling", stage.map().isPresent());
    stage.armed().ifPresent(part -> state.put("armed", part.value()));
    state.set("form", CoreJson.write(stage.form()));
    ArrayNode parts = state.putArray("parts");
    for (Part part : stage.show().parts()) {
      PartStage on = stage.on(part.id());
      ObjectNode node = parts.addObject().put("part", part.id().value());
      on.ready().ifPresent(clip -> node.put("ready", clip.value()));
      on.vamp()
          .ifPresent(
              vamp ->
                  node.putObject("vamp")
                      .put("clip", vamp.clip().value())
                      .put("phase", vamp.phase())
                      .put("from", vamp.from()));
      on.cue().ifPresent(cue -> node.set("cue", CoreJson.write(cue)));
      on.first()
          .ifPresent(
              first ->
                  node.putObject("recording")
                      .put("start", first.start())
                      .put("notes", first.notes().size()));
    }
    return state;
  }

  @FunctionalInterface
  private interface Writing {
    void to(OutputStream out) throws IOException;
  }

  private static void write(Path path, Writing writing) {
    try (OutputStream out = Files.newOutputStream(path)) {
      writing.to(out);
    } catch (IOException failure) {
      throw new Refusal("%s cannot be written: name another file.".formatted(path));
    }
  }
}
