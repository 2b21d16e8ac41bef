package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.HeldKey;
import ancora.core.engine.Outcome;
import ancora.core.note.InputKey;
import ancora.core.plan.Plan;
import ancora.core.run.Sounded;
import ancora.core.run.VirtualPlayer;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Tempo;
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
 * from the same plans: over random performances they sound the same, event for event.
 */
class PlayersAgreeTest {

  private static final int STEPS = 400;
  private static final InputKey[] KEYS = {
    new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60)
  };

  private final Random random = new Random();
  private final ArrayNode steps = JsonNodeFactory.instance.arrayNode();
  private final List<String> expected = new ArrayList<>();
  private long segment;
  private final VirtualPlayer virtual = new VirtualPlayer(this::hear);
  private Optional<Plan> sent = Optional.empty();

  private void hear(Sounded s) {
    long micros = Math.max(segment, s.micros());
    String kind = s.kind() == Sounded.Kind.ON ? "on" : "off";
    expected.add(micros + " " + kind + " " + s.part().value() + " " + s.pitch());
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
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
      Command command = command();
      List<HeldKey> before = engine.stage().heldKeys();
      boolean done = engine.apply(command, now, now) instanceof Outcome.Done;
      if (done) {
        hands(command, before, engine.stage().heldKeys(), step, now);
      }
      tell(engine);
    }
    List<String> sounded = new ArrayList<>();
    for (JsonNode event : page()) {
      sounded.add(event.textValue());
    }
    assertThat(expected.size()).as("something sounds").isGreaterThan(STEPS / 4);
    List<String> missing = new ArrayList<>(expected);
    sounded.forEach(missing::remove);
    List<String> surplus = new ArrayList<>(sounded);
    expected.forEach(surplus::remove);
    assertThat(List.of(missing, surplus)).as("missing, surplus").allMatch(List::isEmpty);
  }

  private Command command() {
    InputKey key = KEYS[random.nextInt(KEYS.length)];
    return switch (random.nextInt(16)) {
      case 0, 1, 2, 3, 4 -> new Command.KeyDown(key, 90);
      case 5, 6, 7, 8 -> new Command.KeyUp(key);
      case 9, 10 -> new Command.MainPress();
      case 11 -> new Command.SetTempo(new Tempo(60_000 + random.nextInt(240_000)));
      case 12 -> new Command.Peel();
      case 13 -> new Command.Restore();
      case 14 -> new Command.Arm(new PartId(1 + random.nextInt(2)));
      default -> random.nextInt(6) == 0 ? new Command.Stop() : new Command.Panic();
    };
  }

  private ObjectNode step(long until) {
    return steps.addObject().put("until", until);
  }

  /** What the engine took of the hands, for both players. */
  private void hands(
      Command command, List<HeldKey> before, List<HeldKey> after, ObjectNode step, long now) {
    if (command instanceof Command.Panic) {
      step.put("panic", true);
      virtual.panic(now);
      return;
    }
    for (HeldKey key : before) {
      if (!after.contains(key)) {
        step.putArray("up").add(key.part().value()).add(key.key().pitch());
        virtual.handUp(key.part(), key.key().pitch(), now);
        step = command instanceof Command.KeyDown ? step(now) : step;
      }
    }
    if (command instanceof Command.KeyDown) {
      for (HeldKey key : after) {
        if (!before.contains(key)) {
          step.putArray("down").add(key.part().value()).add(key.key().pitch());
          virtual.handDown(key.part(), key.key().pitch(), 90, now);
        }
      }
    }
  }

  private void tell(Engine engine) {
    Plan plan = engine.plan();
    if (!sent.equals(Optional.of(plan))) {
      ObjectNode last = (ObjectNode) steps.get(steps.size() - 1);
      last.set("plan", PlanJson.changes(sent, plan));
      sent = Optional.of(plan);
      virtual.take(plan, last.get("until").asLong());
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
