package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.plan.Plan;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.run.Sounded;
import ancora.core.run.VirtualPlayer;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Stage;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The player in the page's audio thread and the virtual one in the core are two hands that play
 * from the same plans: over random performances they sound the same, event for event. And what the
 * page makes of all the changes that it is told is what it would be told whole.
 */
class PlayersAgreeTest {

  private static final int STEPS = 400;
  private static final int ASK_EVERY = 7;
  private static final InputKey[] KEYS = {
    new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60)
  };

  private static final Grid[] GRIDS = {Grid.EIGHTH, Grid.SIXTEENTH, Grid.EIGHTH_TRIPLET};

  private final Random random = new Random();
  private final ArrayNode steps = JsonNodeFactory.instance.arrayNode();
  private final List<String> expected = new ArrayList<>();
  private long segment;
  private final VirtualPlayer virtual = new VirtualPlayer(this::hear);
  private Optional<Plan> sent = Optional.empty();
  private Optional<Stage> sentStage = Optional.empty();
  private final List<JsonNode> whole = new ArrayList<>();

  private void hear(Sounded s) {
    long micros = Math.max(segment, s.micros());
    String kind =
        switch (s.kind()) {
          case ON -> "on";
          case OFF -> "off";
          case CONTROL_CHANGE -> "control";
          case PITCH_BEND -> "bend";
          case CHANNEL_PRESSURE -> "pressure";
        };
    expected.add(
        micros + " " + kind + " " + s.part().value() + " " + s.pitch() + " " + s.velocity());
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 49, 51, 65, 88})
  void overRandomPerformances(long seed) throws IOException, InterruptedException {
    random.setSeed(seed);
    Engine engine =
        Engine.of(
            Show.named("random")
                .withRecording(
                    RecordingSettings.DEFAULT
                        .withCountInBars((int) (seed % 2))
                        .withOverdubAfter(seed % 3 == 0))
                .withNewPart("Kit", Sound.STANDARD_KIT)
                .withNewPart("Bass", Sound.of(33)));
    long now = 1_000_000;
    step(now);
    tell(engine);
    for (int i = 0; i < STEPS; i++) {
      long next = now + random.nextInt(400_000);
      virtual.advance(next);
      segment = next;
      now = next;
      ObjectNode step = step(now);
      Command command = command(engine.stage());
      List<HeldKey> before = engine.stage().heldKeys();
      boolean done = engine.apply(command, now, now) instanceof Outcome.Done;
      if (done) {
        hands(command, before, engine.stage(), step, now);
      }
      tell(engine);
    }
    JsonNode page = page();
    List<String> sounded = new ArrayList<>();
    for (JsonNode event : page.get("sounded")) {
      sounded.add(event.textValue());
    }
    assertThat(page.get("asked")).hasSizeGreaterThan(STEPS / ASK_EVERY / 2).hasSameSizeAs(whole);
    for (int i = 0; i < whole.size(); i++) {
      JsonNode known = page.get("asked").get(i);
      assertThat(known.equals(PlayersAgreeTest::ofNumbers, whole.get(i)))
          .as("%s: %s, where it is %s", i, known, whole.get(i))
          .isTrue();
    }
    assertThat(expected.size()).as("something sounds").isGreaterThan(STEPS / 4);
    List<String> missing = new ArrayList<>(expected);
    sounded.forEach(missing::remove);
    List<String> surplus = new ArrayList<>(sounded);
    expected.forEach(surplus::remove);
    assertThat(List.of(missing, surplus)).as("missing, surplus").allMatch(List::isEmpty);
  }

  private Command command(Stage stage) {
    InputKey key = KEYS[random.nextInt(KEYS.length)];
    List<PartId> parts = stage.show().parts().stream().map(Part::id).toList();
    PartId part = parts.get(random.nextInt(parts.size()));
    List<Clip> shelf = stage.show().part(part).shelf();
    boolean clips = !shelf.isEmpty() && random.nextBoolean();
    if (clips) {
      return ofClip(part, shelf.get(random.nextInt(shelf.size())));
    }
    return switch (random.nextInt(30)) {
      case 0, 1, 2, 3, 4, 5, 6 -> new HandCommand.KeyDown(key, 1 + random.nextInt(127));
      case 7, 8, 9, 10, 11 -> new HandCommand.KeyUp(key);
      case 12, 13, 14 -> new PressCommand.MainPress();
      case 15 -> new SettingCommand.SetTempo(new Tempo(60_000 + random.nextInt(240_000)));
      case 16 -> new MendCommand.Restore();
      case 17, 18 -> new PressCommand.Arm(part);
      case 19, 20 -> new HandCommand.Sustain("keys", 0, random.nextInt(128));
      case 21 -> new HandCommand.MoveController("keys", 0, Controller.BEND, random.nextInt(16_384));
      case 22 ->
          new HandCommand.MoveController("keys", 0, Controller.change(1), random.nextInt(128));
      case 23 -> new HandCommand.RepeatNotes(new NoteRepeat(GRIDS[random.nextInt(3)], 58));
      case 24 -> new HandCommand.RepeatOff();
      case 25 -> new HandCommand.KeyPressure(key, 1 + random.nextInt(127));
      case 26 -> new PressCommand.RecordAnew();
      case 27 -> random.nextBoolean() ? new PressCommand.HandOff() : new CueCommand.StopAll();
      case 28 -> random.nextInt(4) == 0 ? new CueCommand.Stop() : new CueCommand.Start();
      default -> random.nextInt(4) == 0 ? new HandCommand.Panic() : new CueCommand.CutAll();
    };
  }

  private Command ofClip(PartId part, Clip clip) {
    long bar = 3840;
    boolean on = random.nextBoolean();
    Manner manner =
        new Manner(
            random.nextInt(4) > 0, on ? 960 : 0, Optional.empty(), random.nextBoolean(), !on);
    return switch (random.nextInt(16)) {
      case 0, 1, 2 -> new CueCommand.CueClip(part, clip.id());
      case 3 -> new CueCommand.CueTacet(part);
      case 4 -> new MendCommand.Peel();
      case 5 -> new MendCommand.Replace(on);
      case 6 -> new MendCommand.EraseHeld(on);
      case 7 -> new MendCommand.Takes(on);
      case 8 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Shift(480));
      case 9 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Halve());
      case 10 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Twice());
      case 11 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.ToWindow(960, bar));
      case 12 -> new ShelfCommand.SetManner(part, clip.id(), manner);
      case 13 -> new SettingCommand.SetLeaving(part, on ? Leaving.LET_RING : Leaving.CUT);
      case 14 -> on ? new UndoCommand.Undo() : new UndoCommand.Redo();
      default -> new ShelfCommand.DuplicateClip(part, clip.id());
    };
  }

  /** Numbers are equal that are so in JSON: 50 and 50.0. */
  private static int ofNumbers(JsonNode one, JsonNode other) {
    boolean equal =
        one.isNumber() && other.isNumber()
            ? one.doubleValue() == other.doubleValue()
            : one.equals(other);
    return equal ? 0 : 1;
  }

  private ObjectNode step(long until) {
    return steps.addObject().put("until", until);
  }

  /** What the engine took of the hands, for both players. */
  private void hands(
      Command command, List<HeldKey> before, Stage stage, ObjectNode step, long now) {
    List<HeldKey> after = stage.heldKeys();
    if (command instanceof HandCommand.Panic) {
      step.put("panic", true);
      virtual.panic(now);
      return;
    }
    for (HeldKey key : before) {
      if (after.stream().noneMatch(k -> k.noteId() == key.noteId()) && !key.erases()) {
        step.putArray("up").add(key.part().value()).add(key.pitch());
        virtual.handUp(key.part(), key.pitch(), now);
        step = step(now);
      }
    }
    for (HeldKey key : after) {
      if (before.stream().noneMatch(k -> k.noteId() == key.noteId()) && !key.erases()) {
        step.putArray("down").add(key.part().value()).add(key.pitch()).add(key.velocity());
        if (key.nextLine().isPresent()) {
          virtual.handRepeats(key.part(), key.pitch(), key.velocity(), firstLine(stage, key));
        } else {
          virtual.handDown(key.part(), key.pitch(), key.velocity(), now);
        }
      }
    }
    if (command instanceof HandCommand.KeyPressure press) {
      for (HeldKey key : after) {
        if (key.key().equals(press.key())) {
          step.putArray("press").add(key.part().value()).add(key.pitch()).add(key.velocity());
          virtual.handPresses(key.part(), key.pitch(), key.velocity());
        }
      }
    }
    if (command instanceof HandCommand.MoveController move) {
      PartId part = stage.armed().orElse(stage.show().parts().get(0).id());
      step.putArray("move")
          .add(part.value())
          .add(move.controller().kind().ordinal())
          .add(move.controller().number())
          .add(move.value());
      virtual.handMoves(part, move.controller(), move.value(), now);
    }
  }

  private static long firstLine(Stage stage, HeldKey key) {
    TempoMap map = stage.map().orElseThrow();
    long pressed = map.tickAt(key.onMicros());
    return stage.hands().repeat().orElseThrow().firstLine(pressed, stage.show().meter(), map);
  }

  private void tell(Engine engine) {
    ObjectNode last = (ObjectNode) steps.get(steps.size() - 1);
    Plan plan = engine.plan();
    if (!sent.equals(Optional.of(plan))) {
      last.set("plan", PlanJson.changes(sent, plan));
      sent = Optional.of(plan);
      virtual.take(plan, last.get("until").asLong());
    }
    Stage stage = engine.stage();
    last.set(
        "state",
        sentStage.map(s -> StateJson.changes(s, stage)).orElseGet(() -> StateJson.whole(stage)));
    sentStage = Optional.of(stage);
    if (steps.size() % ASK_EVERY == 1) {
      last.put("ask", true);
      ObjectNode known = JsonNodeFactory.instance.objectNode();
      ObjectNode state = known.putObject("state");
      for (String what : List.of("parts", "clips", "order", "armed")) {
        JsonNode all = StateJson.whole(stage).get(what);
        state.set(what, all == null ? JsonNodeFactory.instance.objectNode() : all);
      }
      known.set("plan", PlanJson.whole(plan));
      whole.add(known);
    }
  }

  private JsonNode page() throws IOException, InterruptedException {
    Process node =
        new ProcessBuilder("node", "src/test/js-support/play-plans.mjs")
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    try (var in = node.outputWriter()) {
      in.write(steps.toString());
    }
    JsonNode sounded = new ObjectMapper().readTree(node.getInputStream());
    assertThat(node.waitFor(30, TimeUnit.SECONDS)).isTrue();
    return sounded;
  }
}
