package ancora.app.stage;

import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.Saving;
import ancora.core.engine.Engine;
import ancora.core.replay.Replay;
import ancora.core.rules.Command;
import ancora.core.run.Run;
import ancora.core.stage.Stage;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Takes down what is performed in a show, as runs: on a thread of its own, which does behind the
 * stage what the stage does. The same commands sound the same, so it need not hear anything.
 */
final class RunTaker {

  private static final Logger LOG = LoggerFactory.getLogger(RunTaker.class);

  /** So far behind, in commands, a run is given up. */
  private static final int MOST_BEHIND = 100_000;

  private final long showId;
  private final RunStore runs;
  private final Saving saving;
  private final Runnable kept;
  private final ExecutorService behind;
  private final AtomicInteger waiting = new AtomicInteger();

  private volatile boolean givenUp;

  /** Whether the stage rolls; of the stage's thread. */
  private boolean rolls;

  /** What follows is of the thread behind. */
  private Optional<Replay> replay = Optional.empty();

  private Optional<Run> before = Optional.empty();
  private OptionalInt id = OptionalInt.empty();
  private long began;

  /** Of what is done again it is known by when it began what had been kept. */
  private Map<Long, RunCard> known = Map.of();

  private final List<Runnable> unsaved = new ArrayList<>();

  /**
   * For one show.
   *
   * @param kept is told when the list of runs is another
   */
  RunTaker(long showId, RunStore runs, Saving saving, Runnable kept) {
    this(
        showId,
        runs,
        saving,
        kept,
        Executors.newSingleThreadExecutor(task -> thread(task, showId)));
  }

  /** One that takes down on a thread of somebody's. */
  RunTaker(long showId, RunStore runs, Saving saving, Runnable kept, ExecutorService behind) {
    this.showId = showId;
    this.runs = runs;
    this.saving = saving;
    this.kept = kept;
    this.behind = behind;
  }

  private static Thread thread(Runnable task, long showId) {
    Thread made = new Thread(task, "runs-" + showId);
    made.setDaemon(true);
    made.setPriority(Thread.MIN_PRIORITY);
    return made;
  }

  /** A command was done, which led from a stage to another. */
  void follow(Stage from, Command command, long stamp, long now, Stage to) {
    if (!rolls && to.map().isPresent()) {
      rolls = true;
      later(() -> begin(Replay.ofRuns(from), now));
    }
    if (rolls) {
      later(() -> replay.ifPresent(r -> step(r, now, () -> r.apply(command, stamp, now))));
      passed(to, now);
    }
  }

  /** Time has passed. */
  void passed(Stage to, long now) {
    if (rolls && to.map().isEmpty()) {
      rolls = false;
      later(() -> end(now));
    }
  }

  /**
   * A show is opened that rolls: its run goes on with what is kept of it, and with what was done
   * since.
   *
   * @param saved the stage as it was saved last: no later than the run
   * @param since what the journal has after that
   * @param now the present instant
   */
  void goOn(Stage saved, List<Keeper.Line> since, long now) {
    rolls = true;
    Deque<Keeper.Line> lines = new ArrayDeque<>(since);
    later(
        () -> {
          known =
              runs.all(showId).stream()
                  .collect(Collectors.toMap(RunCard::beganUs, card -> card, (one, other) -> one));
          if (saved.map().isEmpty()) {
            begin(Replay.ofRuns(saved), now);
          } else {
            runs.underway(showId)
                .ifPresentOrElse(
                    run -> goOnFrom(run, saved, lines), () -> goPast(saved, lines, now));
          }
        });
    later(() -> lines.forEach(line -> replay.ifPresent(r -> again(r, line))));
  }

  /** What was done until the run was kept has been taken down. */
  private void goOnFrom(RunStore.Kept kept, Stage saved, Deque<Keeper.Line> lines) {
    Run run = kept.history().performed();
    long at = Math.round(saved.map().orElseThrow().microsOf(run.until()));
    Engine engine = Engine.of(saved);
    while (!lines.isEmpty() && lines.peek().applied() <= at) {
      again(engine, lines.remove());
    }
    begin(Replay.resumed(engine.stage(), at), kept.card().beganUs());
    before = Optional.of(run);
    id = OptionalInt.of(kept.card().id());
  }

  /**
   * It was kept before the stage was saved, and goes on no more: so it has ended, and is whole. If
   * not, it could not be kept: what comes now is taken down at least.
   */
  private void goPast(Stage saved, Deque<Keeper.Line> lines, long now) {
    Engine engine = Engine.of(saved);
    while (!lines.isEmpty() && engine.stage().map().isPresent()) {
      again(engine, lines.remove());
    }
    Stage stage = engine.stage();
    begin(stage.map().isEmpty() ? Replay.ofRuns(stage) : Replay.resumed(stage, now), now);
  }

  private static void again(Engine engine, Keeper.Line line) {
    engine.apply(line.command(), line.stamp(), line.applied());
  }

  private void again(Replay r, Keeper.Line line) {
    step(r, line.applied(), () -> r.apply(line.command(), line.stamp(), line.applied()));
  }

  /**
   * What there is of a run is kept too, in case that it is broken off; and before the stage is, so
   * that it is known how a stage went on of which no run goes on.
   *
   * @param stage saves the stage
   */
  void save(long now, Runnable stage) {
    if (rolls) {
      later(
          () ->
              replay.ifPresent(
                  r -> {
                    step(r, now, () -> r.advance(now));
                    // however short: what is saved of the stage goes on from here
                    keepSoFar(r);
                  }));
    }
    behind.execute(stage);
  }

  /** What could not be kept is tried again. */
  void tryAgain() {
    later(
        () -> {
          List<Runnable> again = List.copyOf(unsaved);
          unsaved.clear();
          again.forEach(Runnable::run);
        });
  }

  /** Ends the thread, after what is waiting is done. */
  void close(long now, Runnable stage) {
    save(now, stage);
    behind.shutdown();
    try {
      if (!behind.awaitTermination(5, TimeUnit.SECONDS)) {
        LOG.warn("what was performed last in show {} is taken down after the next start", showId);
      }
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private void begin(Replay from, long now) {
    replay = Optional.of(from);
    before = Optional.empty();
    id = OptionalInt.empty();
    began = now;
  }

  /** Something is done behind the stage; of what that ends, and begins, a run is made. */
  private void step(Replay r, long now, Runnable done) {
    int ended = r.ended();
    boolean stood = r.stage().map().isEmpty();
    done.run();
    if (r.ended() > ended) {
      for (Run run : r.runs().subList(ended, r.ended())) {
        over(joined(run));
        begin(r, now);
      }
    }
    if (stood) {
      began = now;
    }
  }

  private void end(long now) {
    replay.ifPresent(r -> step(r, now, () -> r.advance(now)));
    replay = Optional.empty();
  }

  /** A run that has ended is kept if it is worth it, and was not before the house went down. */
  private void over(Run run) {
    boolean wasKept = known.containsKey(began) && !known.get(began).underway();
    if (wasKept) {
      return;
    }
    if (run.isWorthKeeping()) {
      keep(run, false);
    } else if (id.isPresent()) {
      int number = id.getAsInt();
      saving.then(name(number), () -> runs.letGo(showId, number), () -> {});
    }
  }

  /** What goes on, as far as it has come. */
  private void keepSoFar(Replay r) {
    if (r.stage().map().isPresent()) {
      List<Run> all = r.runs();
      keep(joined(all.get(all.size() - 1)), true);
    }
  }

  private Run joined(Run run) {
    return before.map(b -> b.followedBy(run)).orElseGet(run::withoutSilentParts);
  }

  private String name(int number) {
    return "run " + showId + " " + number;
  }

  private void keep(Run run, boolean underway) {
    long since = began;
    if (id.isEmpty()) {
      RunCard card = known.get(began);
      id = OptionalInt.of(card == null ? runs.nextId(showId) : card.id());
    }
    int number = id.getAsInt();
    Runnable[] again = new Runnable[1];
    again[0] =
        () ->
            saving.then(
                name(number),
                () -> {
                  runs.keep(showId, number, since, run, underway);
                  if (!underway) {
                    kept.run();
                  }
                },
                () -> later(() -> unsaved.add(again[0])));
    again[0].run();
  }

  private void later(Runnable task) {
    if (waiting.incrementAndGet() > MOST_BEHIND) {
      waiting.decrementAndGet();
      givenUp = true;
      return;
    }
    behind.execute(
        () -> {
          waiting.decrementAndGet();
          try {
            if (givenUp) {
              // something is lacking: what follows would be another performance
              LOG.error("a run of show {} is given up: too much was done at once", showId);
              replay = Optional.empty();
              givenUp = false;
            }
            task.run();
          } catch (RuntimeException fault) {
            LOG.error("a run of show {} is not taken down further", showId, fault);
            replay = Optional.empty();
          }
        });
  }
}
