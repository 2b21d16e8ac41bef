package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.app.store.JournalRow;
import ancora.app.store.JournalWriter;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.control.Assignment;
import ancora.core.control.ControlMap;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.plan.Plan;
import ancora.core.record.OffsetMeasure;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.standin.Concert;
import ancora.core.standin.HumanTiming;
import ancora.core.standin.Pattern;
import ancora.core.standin.StandInPlayer;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * One open show: owns its engine, on one thread. Commands come in, in order; changes of the state,
 * plans and acknowledgements go out to all pages.
 */
final class StageHost {

  private static final Logger LOG = LoggerFactory.getLogger(StageHost.class);

  /** How long after the last change at standstill the show is saved. */
  private static final long SAVE_AFTER_MILLIS = 300;

  /** A show left running without a page for longer than this is stopped, in microseconds. */
  private static final long LONGEST_ABSENCE = 600_000_000;

  /** The words of the footboard follow a change by this. */
  private static final long WORDS_AFTER_MILLIS = 15;

  private static final long SEEN_EVERY_SECONDS = 20;
  private static final String HOUSE = "house";

  /** What a page holds is let go so long after it went, if it has not come back. */
  private static final long LET_GO_AFTER_MILLIS = 2_000;

  private static final long NOBODY_AFTER_MILLIS = 10_000;

  private static final int LONGEST_STEM = 36;
  private static final int MOST_BYTES = 16;
  private static final int MOST_CLOCKED = 16;

  private static final String FULL =
      "The disk takes nothing, and much waits for it: free space on it, then go on.";

  private static final String STUMBLED =
      "That went wrong, and was left out: nothing else is changed.";

  private static final String OLDER_RULES =
      "This show stands as it was last saved: what was played after that, under older rules, is in"
          + " its journal.";

  private final long showId;
  private final ShowStore store;
  private final JournalWriter journal;
  private final HouseClock clock;
  private final ObjectMapper json;
  private final ScheduledExecutorService thread;
  private final Set<Page> pages = new LinkedHashSet<>();
  private final Map<Page, Set<String>> devices = new HashMap<>();
  private final Map<String, Long> lastOfEachClient;
  private final Map<String, Holding> holding = new HashMap<>();

  private final Engine engine;
  private long seq;
  private int leftOut;
  private Optional<Stage> saved;
  private Stage sentStage;
  private Optional<Plan> sentPlan = Optional.empty();
  private Map<String, String> sentWords = Map.of();
  private ControlMap controls;
  private List<String> clockTo;
  private Optional<String> holder = Optional.empty();
  private ScheduledFuture<?> due;
  private ScheduledFuture<?> save;
  private ScheduledFuture<?> words;
  private final Runnable noMoreTold;

  /** Opens a show: as it stood at its last standstill, and then as the journal leads on. */
  StageHost(
      long showId, ShowStore store, JournalWriter journal, HouseClock clock, ObjectMapper json) {
    this.showId = showId;
    this.store = store;
    this.journal = journal;
    this.clock = clock;
    this.json = json;
    ShowStore.Saved base =
        store
            .find(showId)
            .orElseThrow(() -> new Refusal("There is no such show: choose one from the list."));
    this.engine = Engine.of(base.stage());
    this.saved = Optional.of(base.stage());
    this.controls = store.controls();
    this.clockTo = store.clockTo();
    this.lastOfEachClient = new HashMap<>(store.lastOfEachClient(showId));
    this.seq = base.seq();
    for (JournalRow row : store.journalAfter(showId, base.seq())) {
      if (row.rules() == Engine.RULES) {
        replay(row);
      } else {
        // a show is never done again under other rules than its own
        seq = row.seq();
        leftOut++;
      }
    }
    this.sentStage = engine.stage();
    this.thread =
        new ScheduledThreadPoolExecutor(
            1,
            task -> {
              Thread made = new Thread(task, "stage-" + showId);
              made.setDaemon(true);
              return made;
            },
            new ThreadPoolExecutor.DiscardPolicy());
    this.noMoreTold = journal.onTrouble(trouble -> run(() -> tellTrouble(trouble)));
    run(this::stopIfAbandoned);
    thread.schedule(guarded(this::letGoIfNobodyCame), NOBODY_AFTER_MILLIS, TimeUnit.MILLISECONDS);
    thread.scheduleWithFixedDelay(
        guarded(this::markSeen), SEEN_EVERY_SECONDS, SEEN_EVERY_SECONDS, TimeUnit.SECONDS);
  }

  /** A page comes in: it is told all there is. */
  void enter(Page page) {
    run(
        () -> {
          engine.advance(clock.micros());
          publish();
          if (pages.isEmpty()) {
            // they may have been set from another show
            controls = store.controls();
            clockTo = store.clockTo();
          }
          if (pages.stream().anyMatch(other -> isAnother(page, other))) {
            page.call(freeName(page.client()));
          }
          pages.add(page);
          ObjectNode welcome = message("welcome", JsonNodeFactory.instance.objectNode());
          ObjectNode body = (ObjectNode) welcome.get("welcome");
          body.put("now", clock.micros());
          body.put("client", page.client());
          body.put("last", lastOfEachClient.getOrDefault(page.client(), 0L));
          body.set("state", StateJson.whole(engine.stage()));
          body.set("plan", PlanJson.whole(engine.plan()));
          body.set("press", json.valueToTree(words()));
          body.set("controls", CoreJson.write(controls));
          body.set("pedals", pedals());
          body.set("clockTo", CoreJson.write(clockTo));
          holder.ifPresent(client -> body.put("holder", client));
          tell(page, welcome);
          if (journal.isInTrouble()) {
            tell(page, message("disk", true));
          }
          if (leftOut > 0) {
            tell(page, message("word", OLDER_RULES));
          }
          long now = clock.micros();
          journal.then(() -> store.opened(showId, now), () -> {});
          markSeen();
          tellTimeWhenDue();
        });
  }

  /** A duplicated tab has the name of the other: what it does must not be taken for that one's. */
  private static boolean isAnother(Page page, Page other) {
    return other.client().equals(page.client()) && !other.instance().equals(page.instance());
  }

  private String freeName(String taken) {
    String stem = taken.substring(0, Math.min(taken.length(), LONGEST_STEM));
    int number = 2;
    while (lastOfEachClient.containsKey(stem + "~" + number) || isThere(stem + "~" + number)) {
      number++;
    }
    return stem + "~" + number;
  }

  private boolean isThere(String client) {
    return pages.stream().anyMatch(page -> page.client().equals(client));
  }

  /** A page goes; if it held the sound, nobody does. */
  void leave(Page page) {
    run(
        () -> {
          pages.remove(page);
          unplug(page);
          boolean stillThere = isThere(page.client());
          if (!stillThere) {
            long left = clock.micros();
            thread.schedule(
                guarded(() -> letGo(page.client(), left)),
                LET_GO_AFTER_MILLIS,
                TimeUnit.MILLISECONDS);
          }
          if (!stillThere && holder.filter(page.client()::equals).isPresent()) {
            hold(Optional.empty());
          }
        });
  }

  /** What a page holds that has gone, and not come back, is let go at the instant it went. */
  private void letGo(String client, long left) {
    Holding held = isThere(client) ? null : holding.remove(client);
    if (held != null) {
      held.releases().forEach(release -> apply(release, left, HOUSE, seq + 1, () -> {}));
    }
  }

  /** Keys that were down when the house went down are let go, if their page does not come back. */
  private void letGoIfNobodyCame() {
    Stage stage = engine.stage();
    boolean held = !stage.heldKeys().isEmpty() || stage.hands().isErasing();
    if (pages.isEmpty() && held) {
      long now = clock.micros();
      apply(new HandCommand.Panic(), now, HOUSE, seq + 1, () -> {});
      apply(new MendCommand.EraseHeld(false), now, HOUSE, seq + 1, () -> {});
    }
  }

  /** A message from a page. */
  void receive(Page page, JsonNode message) {
    run(
        () -> {
          if (message.has("do")) {
            command(page, message);
          } else if (message.has("hold")) {
            hold(Optional.of(page.client()));
          } else if (message.has("bytes")) {
            relay(page, message);
          } else if (message.has("measure")) {
            measure(page, CommandJson.whole(message, "measure"));
          } else if (message.has("controls")) {
            setControls(message.get("controls"));
          } else if (message.has("clockTo")) {
            setClockTo(message.get("clockTo"));
          } else if (message.has("concert")) {
            concert(page);
          } else if (message.has("standIn")) {
            standIn(page, message.get("standIn"));
          } else {
            throw new Refusal("That message is not understood: reload the page.");
          }
        },
        page);
  }

  /** Renames the show. */
  void rename(String title) {
    await(
        () -> {
          Outcome outcome =
              apply(new SettingCommand.Rename(title), clock.micros(), HOUSE, seq + 1, () -> {});
          if (outcome instanceof Outcome.Refused refused) {
            throw new Refusal(refused.why());
          }
        });
  }

  /** Sends pages away and ends the thread; what can be saved is on its way to the disk. */
  void close() {
    await(
        () -> {
          saveIfQuiet();
          pages.forEach(page -> tell(page, message("gone", "This show has been closed.")));
          pages.clear();
        });
    noMoreTold.run();
    thread.shutdown();
  }

  private void command(Page page, JsonNode message) {
    long number = CommandJson.whole(message, "seq");
    if (number <= lastOfEachClient.getOrDefault(page.client(), 0L)) {
      tell(page, message("ack", number));
      return;
    }
    Outcome outcome;
    try {
      Refusal.unless(!journal.isFull(), FULL);
      Command command = CommandJson.read(message);
      long stamp = CommandJson.whole(message, "stamp");
      outcome =
          apply(command, stamp, page.client(), number, () -> tell(page, message("ack", number)));
    } catch (Refusal refusal) {
      outcome = new Outcome.Refused(refusal.getMessage());
    } catch (RuntimeException fault) {
      // a stage is a value: what was begun has left no trace
      LOG.error("a command was left out", fault);
      outcome = new Outcome.Refused(STUMBLED);
    }
    if (outcome instanceof Outcome.Refused refused) {
      tell(page, message("refused", number).put("why", refused.why()));
    } else if (outcome instanceof Outcome.Done done) {
      done.word().ifPresent(word -> tell(page, message("word", word)));
    }
  }

  private Outcome apply(Command command, long stamp, String client, long number, Runnable written) {
    long now = clock.micros();
    Outcome outcome = engine.apply(command, stamp, now);
    publish();
    if (outcome instanceof Outcome.Done) {
      seq++;
      holding.computeIfAbsent(client, c -> new Holding()).after(command);
      lastOfEachClient.put(client, number);
      journal.append(
          new JournalRow(
              showId,
              seq,
              stamp,
              now,
              client,
              number,
              CommandJson.write(command).toString(),
              Engine.RULES),
          written,
          sentence -> tellAll(message("error", sentence)));
      saveSoon();
    }
    tellTimeWhenDue();
    return outcome;
  }

  private void replay(JournalRow row) {
    try {
      engine.apply(CommandJson.read(json.readTree(row.command())), row.stampUs(), row.appliedUs());
    } catch (RuntimeException | JsonProcessingException unreadable) {
      LOG.warn("line {} of the journal of show {} is passed over", row.seq(), showId, unreadable);
    }
    seq = row.seq();
  }

  /** Sends what has changed. */
  private void publish() {
    Stage stage = engine.stage();
    if (stage != sentStage) {
      ObjectNode changes = StateJson.changes(sentStage, stage);
      sentStage = stage;
      if (!changes.isEmpty()) {
        tellAll(message("state", changes));
        Plan plan = engine.plan();
        if (!sentPlan.equals(Optional.of(plan))) {
          tellAll(message("plan", PlanJson.changes(sentPlan, plan)));
          sentPlan = Optional.of(plan);
        }
      }
    }
    tellWordsSoon();
  }

  /**
   * What each pedal does next is found by trying: not for every note of a run, but a moment after.
   */
  private void tellWordsSoon() {
    if (words == null || words.isDone()) {
      words = thread.schedule(guarded(this::tellWords), WORDS_AFTER_MILLIS, TimeUnit.MILLISECONDS);
    }
  }

  private void tellWords() {
    Map<String, String> now = words();
    if (!now.equals(sentWords)) {
      sentWords = now;
      tellAll(message("press", now));
    }
  }

  /** One page at a time has the sound. */
  private void hold(Optional<String> client) {
    holder = client;
    tellAll(message("holder", client.orElse("")));
  }

  /** The stand-in begins where a recording that is cued begins, else on the next bar line. */
  private void standIn(Page page, JsonNode wish) {
    Pattern pattern = Pattern.named(CommandJson.text(wish, "pattern"));
    HumanTiming timing =
        new HumanTiming(
            CommandJson.whole(wish, "seed"),
            CommandJson.number(wish, "spread"),
            CommandJson.number(wish, "earlyDownbeat"),
            CommandJson.number(wish, "velocitySpread"));
    Stage stage = engine.stage();
    TempoMap map =
        stage
            .map()
            .orElseThrow(
                () -> new Refusal("Start first: the stand-in plays to a running transport."));
    long bar = stage.show().meter().barTicks();
    long soon = map.tickAt(clock.micros() + 150_000);
    long from =
        stage
            .armed()
            .flatMap(part -> stage.on(part).first())
            .map(first -> first.start())
            .filter(start -> start >= soon)
            .orElse(Math.max(0, Ticks.ceil(soon, bar)));
    List<StandInPlayer.Message> messages =
        StandInPlayer.perform(
            pattern, CommandJson.integer(wish, "times"), from, map, stage.show().meter(), timing);
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    messages.forEach(
        m -> rows.addArray().add(m.micros()).add(m.status()).add(m.data1()).add(m.data2()));
    tell(page, message("standIn", rows));
  }

  /** A stand-in device on another page: its bytes go to the page that has the sound. */
  private void relay(Page page, JsonNode message) {
    String device = CommandJson.text(message, "device");
    JsonNode bytes = message.get("bytes");
    Refusal.unless(
        Names.isDevice(device),
        "The device needs a name of at most %s characters.",
        Names.LONGEST_DEVICE);
    boolean whole = bytes.isArray() && bytes.size() >= 1 && bytes.size() <= MOST_BYTES;
    for (JsonNode one : whole ? bytes : JsonNodeFactory.instance.arrayNode()) {
      whole &= one.isInt() && one.intValue() >= 0 && one.intValue() <= 255;
    }
    Refusal.unless(whole, "A device sends 1 to %s bytes at a time, each 0 to 255.", MOST_BYTES);
    devices.computeIfAbsent(page, p -> new LinkedHashSet<>()).add(device);
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("device", device).put("stamp", CommandJson.whole(message, "stamp"));
    body.set("bytes", bytes);
    tellHolder(message("bytes", body));
  }

  /** The devices of a page that has gone have gone. */
  private void unplug(Page page) {
    Set<String> gone = devices.remove(page);
    if (gone != null) {
      tellHolder(message("unplugged", gone));
    }
  }

  private void tellHolder(ObjectNode message) {
    pages.stream()
        .filter(page -> holder.filter(page.client()::equals).isPresent())
        .forEach(page -> tell(page, message));
  }

  /**
   * How late taps on the armed part have come after the click, since an instant: as they arrived,
   * without the part's present offset.
   */
  private void measure(Page page, long since) {
    Stage stage = engine.stage();
    TempoMap map =
        stage
            .map()
            .orElseThrow(() -> new Refusal("Start first: the measure is taken with the click."));
    PartId part = stage.armed().orElseThrow(() -> new Refusal("Arm the part that is tapped on."));
    double offset = stage.show().part(part).input().offset();
    long click = stage.show().click().ticks(stage.show().meter());
    List<Double> late =
        stage.on(part).hindsight().since(since).stream()
            .map(Played::onMicros)
            .map(on -> on - map.microsOf(Ticks.nearest(map.tickAt(on), click)) + offset * 1000.0)
            .toList();
    ObjectNode told = JsonNodeFactory.instance.objectNode().put("taps", late.size());
    OffsetMeasure.of(late)
        .ifPresent(
            m ->
                told.put("offset", m.offset()).put("spread", m.spread()).put("clear", m.isClear()));
    tell(page, message("measured", told));
  }

  private void setControls(JsonNode wish) {
    boolean ready = wish.isTextual() && wish.textValue().equals("ready");
    Refusal.unless(ready || wish.isObject(), "Controls are an object, or “ready”.");
    ControlMap map = ready ? ControlMap.STAND_IN : CoreJson.read(wish, ControlMap.class);
    controls = map;
    keepInHouse(() -> store.saveControls(map));
    tellAll(message("controls", CoreJson.write(map)));
    tellAll(message("pedals", pedals()));
    tellWordsSoon();
  }

  /** The outside devices that are sent MIDI clock. */
  private void setClockTo(JsonNode wish) {
    List<String> devices = CommandJson.list(wish, String.class);
    Refusal.unless(
        devices.size() <= MOST_CLOCKED && devices.stream().allMatch(Names::isDevice),
        "MIDI clock goes to %s devices at most, each with a name of at most %s characters.",
        MOST_CLOCKED,
        Names.LONGEST_DEVICE);
    clockTo = devices;
    keepInHouse(() -> store.saveClockTo(devices));
    tellAll(message("clockTo", devices));
  }

  private void keepInHouse(Runnable saving) {
    journal.then(
        saving,
        () -> tellAll(message("error", "That could not be saved: free space on the disk.")));
  }

  private Map<String, String> words() {
    return FootboardWords.of(engine, controls.pedals(), clock.micros());
  }

  private ArrayNode pedals() {
    ArrayNode pedals = JsonNodeFactory.instance.arrayNode();
    for (ControlMap.Pedal pedal : controls.pedals()) {
      ObjectNode node = pedals.addObject();
      node.set("control", CoreJson.write(pedal.control()));
      ArrayNode gestures = node.putArray("gestures");
      for (Assignment assignment : pedal.gestures()) {
        gestures
            .addObject()
            .put("gesture", assignment.gesture().name())
            .put("action", assignment.action().name())
            .put("number", assignment.number())
            .put("words", assignment.words());
      }
    }
    return pedals;
  }

  /** The stand-in plays a whole piece: the page is told what to do on which tick. */
  private void concert(Page page) {
    Stage stage = engine.stage();
    Refusal.unless(stage.isStill(), "Stop first: the concert begins from standstill.");
    List<Concert.Request> steps = Concert.of(stage.show());
    Refusal.unless(
        !steps.isEmpty(), "This show has no sections: make some, then it can be played.");
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    steps.forEach(step -> rows.addArray().add(step.tick()).add(CommandJson.write(step.command())));
    tell(page, message("concert", rows));
  }

  private void tellTimeWhenDue() {
    if (due != null) {
      due.cancel(false);
    }
    engine
        .nextDue()
        .ifPresent(
            instant ->
                due =
                    thread.schedule(
                        guarded(
                            () -> {
                              engine.advance(clock.micros());
                              publish();
                              tellTimeWhenDue();
                            }),
                        Math.max(0, instant - clock.micros()),
                        TimeUnit.MICROSECONDS));
  }

  /** What the disk did not take is kept; once it takes it, the show is saved as well. */
  private void tellTrouble(boolean trouble) {
    tellAll(message("disk", trouble));
    if (!trouble) {
      saveSoon();
    }
  }

  private void saveSoon() {
    if (save == null || save.isDone()) {
      save = thread.schedule(guarded(this::saveIfQuiet), SAVE_AFTER_MILLIS, TimeUnit.MILLISECONDS);
    }
  }

  /**
   * At standstill, with no key down, the show is saved as it is; while it runs the journal has all.
   */
  private void saveIfQuiet() {
    Stage stage = engine.stage();
    boolean quiet = stage.transport() instanceof Transport.Standing && stage.heldKeys().isEmpty();
    if (quiet) {
      Optional<Stage> before = saved;
      long lastSeq = seq;
      saved = Optional.of(stage);
      journal.then(
          () -> store.save(showId, stage, before, lastSeq),
          () -> run(() -> saved = Optional.empty()));
    }
  }

  private void markSeen() {
    if (!pages.isEmpty()) {
      long now = clock.micros();
      journal.then(() -> store.seen(showId, now), () -> {});
    } else if (engine.stage().map().isPresent()) {
      stopIfAbandoned();
    }
  }

  private void stopIfAbandoned() {
    long now = clock.micros();
    if (engine.stage().map().isPresent() && now - store.seenAt(showId) > LONGEST_ABSENCE) {
      apply(new CueCommand.Stop(), now, HOUSE, seq + 1, () -> {});
    }
  }

  private static void tell(Page page, ObjectNode message) {
    page.send(message.toString());
  }

  private void tellAll(ObjectNode message) {
    String text = message.toString();
    pages.forEach(page -> page.send(text));
  }

  private ObjectNode message(String kind, Object body) {
    ObjectNode message = JsonNodeFactory.instance.objectNode();
    message.set(kind, body instanceof JsonNode node ? node : json.valueToTree(body));
    return message;
  }

  private void run(Runnable task) {
    thread.execute(guarded(task));
  }

  private void run(Runnable task, Page page) {
    thread.execute(
        guarded(
            () -> {
              try {
                task.run();
              } catch (Refusal refusal) {
                tell(page, message("error", refusal.getMessage()));
              } catch (RuntimeException fault) {
                LOG.error("a message was left out", fault);
                tell(page, message("error", STUMBLED));
              }
            }));
  }

  private void await(Runnable task) {
    try {
      thread.submit(task).get(10, TimeUnit.SECONDS);
    } catch (ExecutionException failure) {
      if (failure.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      throw new IllegalStateException(failure.getCause());
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    } catch (TimeoutException slow) {
      throw new IllegalStateException(slow);
    }
  }

  /** A fault in one task does not end the thread. */
  private static Runnable guarded(Runnable task) {
    return () -> {
      try {
        task.run();
      } catch (RuntimeException fault) {
        LOG.error("the stage goes on after a fault", fault);
      }
    };
  }
}
