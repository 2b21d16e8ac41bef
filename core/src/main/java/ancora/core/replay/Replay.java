package ancora.core.replay;

import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.plan.Plan;
import ancora.core.player.Roll;
import ancora.core.player.Sounded;
import ancora.core.player.VirtualPlayer;
import ancora.core.rules.Command;
import ancora.core.rules.hands.HandCommand;
import ancora.core.run.Run;
import ancora.core.show.PartId;
import ancora.core.stage.HeldKey;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A performance done again in virtual time, from its journal: as fast as the machine can, with no
 * clock. What the hands and the loops sounded comes out event by event.
 */
public final class Replay {

  private final Engine engine;
  private final List<Sounded> sounded = new ArrayList<>();
  private final List<Run> runs = new ArrayList<>();
  private final VirtualPlayer player = new VirtualPlayer(this::hear);

  /**
   * Of each key that is down the part on which it sounds: where it is handed over meanwhile it is
   * let go of there.
   */
  private final Map<Long, PartId> soundsOn = new HashMap<>();

  private final List<Roll> rolls = new ArrayList<>();
  private Plan plan;
  private Optional<TempoMap> rolling = Optional.empty();
  private int rollBegan;
  private long now;
  private Optional<RunTaking> taking = Optional.empty();

  private final boolean keepsSounded;

  private Replay(Engine engine, boolean keepsSounded) {
    this.engine = engine;
    this.keepsSounded = keepsSounded;
    this.plan = engine.plan();
  }

  /** Begins with a stage at standstill. */
  public static Replay of(Stage stage) {
    Replay replay = new Replay(Engine.of(stage), true);
    replay.player.take(replay.plan, 0);
    return replay;
  }

  /** Begins with a stage at standstill; of what sounds only runs are kept. */
  public static Replay ofRuns(Stage stage) {
    Replay replay = new Replay(Engine.of(stage), false);
    replay.player.take(replay.plan, 0);
    return replay;
  }

  /**
   * Goes on with a stage that rolls; of what sounds only the run is kept, from there on.
   *
   * @param micros the instant at which it stood so
   */
  public static Replay resumed(Stage stage, long micros) {
    Replay replay = new Replay(Engine.of(stage), false);
    replay.engine.advance(micros);
    replay.taking = Optional.of(new RunTaking(stage, replay.plan, true));
    replay.rolling = stage.map();
    replay.now = micros;
    replay.player.resume(replay.plan, micros);
    for (HeldKey key : stage.heldKeys()) {
      if (!key.erases()) {
        replay.soundsOn.put(key.noteId(), key.part());
      }
      if (!key.erases() && key.nextLine().isEmpty()) {
        replay.player.handDown(key.part(), key.pitch(), key.velocity(), micros);
      }
    }
    return replay;
  }

  /**
   * Does one thing of the journal.
   *
   * @param stamp instant at which hand or foot acted, in microseconds
   * @param applied instant at which the command was applied; no earlier than those before it
   */
  public Outcome apply(Command command, long stamp, long applied) {
    advance(applied);
    List<HeldKey> before = engine.stage().heldKeys();
    Outcome outcome = engine.apply(command, stamp, applied);
    if (outcome instanceof Outcome.Done) {
      sound(command, before, stamp, applied);
    }
    follow(applied);
    return outcome;
  }

  /** Lets time pass. */
  public void advance(long micros) {
    for (OptionalLong due = engine.nextDue();
        due.isPresent() && due.getAsLong() < micros;
        due = engine.nextDue()) {
      player.advance(due.getAsLong());
      engine.advance(due.getAsLong());
      follow(due.getAsLong());
    }
    player.advance(micros);
    engine.advance(micros);
    follow(micros);
  }

  /** What has sounded so far, in order. */
  public List<Sounded> sounded() {
    return List.copyOf(sounded);
  }

  public Stage stage() {
    return engine.stage();
  }

  /** What sounded while the transport ran, each run by itself; the last may still go on. */
  public List<Roll> rolls() {
    List<Roll> all = new ArrayList<>(rolls);
    rolling.ifPresent(map -> all.add(new Roll(map, sounded.subList(rollBegan, sounded.size()))));
    return all;
  }

  /** How many runs have ended. */
  public int ended() {
    return runs.size();
  }

  /** The same, as runs that are kept; the last may still go on: then it is what there is so far. */
  public List<Run> runs() {
    List<Run> all = new ArrayList<>(runs);
    taking.ifPresent(run -> all.add(run.stoppedAt(now)));
    return all;
  }

  private void hear(Sounded heard, Optional<String> by) {
    if (keepsSounded) {
      sounded.add(heard);
    }
    taking.ifPresent(run -> run.hear(heard, by));
  }

  /** Keys that the engine took sound, and end, on the part that they went to. */
  private void sound(Command command, List<HeldKey> before, long stamp, long micros) {
    List<HeldKey> after = engine.stage().heldKeys();
    for (HeldKey key : before) {
      if (!isIn(after, key)) {
        PartId part = soundsOn.remove(key.noteId());
        if (part != null) {
          player.handUp(part, key.pitch(), micros);
        }
      }
    }
    for (HeldKey key : after) {
      if (!isIn(before, key) && !key.erases()) {
        soundsOn.put(key.noteId(), key.part());
        if (key.nextLine().isPresent()) {
          player.handRepeats(key.part(), key.pitch(), key.velocity(), firstLine(key));
        } else {
          player.handDown(key.part(), key.pitch(), key.velocity(), micros);
        }
      }
    }
    if (command instanceof HandCommand.KeyPressure press) {
      after.stream()
          .filter(key -> key.key().equals(press.key()))
          .filter(key -> soundsOn.containsKey(key.noteId()))
          .forEach(
              key -> player.handPresses(soundsOn.get(key.noteId()), key.pitch(), key.velocity()));
    }
    if (command instanceof HandCommand.MoveController move) {
      for (PartId part : engine.partsPlayedAt(stamp)) {
        if (engine.stage().show().part(part).input().hears(move.device(), move.channel())) {
          player.handMoves(part, move.controller(), move.value(), micros);
        }
      }
    }
    if (command instanceof HandCommand.Panic) {
      player.panic(micros);
    }
  }

  private long firstLine(HeldKey key) {
    Stage stage = engine.stage();
    TempoMap map = stage.map().orElseThrow();
    return stage
        .hands()
        .repeat()
        .orElseThrow()
        .firstLine(map.tickAt(key.onMicros()), stage.show().meter(), map);
  }

  private static boolean isIn(List<HeldKey> keys, HeldKey key) {
    return keys.stream().anyMatch(other -> other.noteId() == key.noteId());
  }

  private void follow(long micros) {
    now = micros;
    Plan next = engine.plan();
    Optional<TempoMap> map = engine.stage().map();
    boolean anew =
        rolling.filter(was -> map.filter(m -> m.isAnewAfter(was)).isPresent()).isPresent();
    if (anew) {
      // stopped and started within one command: two runs
      player.take(next, micros);
      plan = next;
      taking.ifPresent(ended -> runs.add(ended.stoppedAt(micros)));
      taking = Optional.empty();
      rolls.add(new Roll(rolling.get(), sounded.subList(rollBegan, sounded.size())));
      rollBegan = sounded.size();
    }
    if (map.isPresent()) {
      if (taking.isEmpty()) {
        taking = Optional.of(new RunTaking(engine.stage(), next, false));
      } else {
        taking.get().follow(engine.stage(), next, micros);
      }
    }
    if (!next.equals(plan)) {
      plan = next;
      player.take(next, micros);
    }
    if (taking.isPresent() && map.isEmpty()) {
      runs.add(taking.get().stoppedAt(micros));
      taking = Optional.empty();
    }
    if (rolling.isPresent() && map.isEmpty()) {
      rolls.add(new Roll(rolling.get(), sounded.subList(rollBegan, sounded.size())));
    } else if (rolling.isEmpty()) {
      rollBegan = sounded.size();
    }
    rolling = map;
  }
}
