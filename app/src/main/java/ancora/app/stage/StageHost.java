package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.app.store.Disk;
import ancora.app.store.JournalWriter;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.engine.Lit;
import ancora.core.engine.Outcome;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.stage.FirstPress;
import ancora.core.stage.Stage;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

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

  /** What has changed is sent together with what changes within this, where more is waiting. */
  private static final long TOGETHER_NANOS = 10_000_000;

  private static final long SEEN_EVERY_SECONDS = 20;
  private static final String HOUSE = "house";

  /** What a page holds is let go so long after it went, if it has not come back. */
  private static final long LET_GO_AFTER_MILLIS = 2_000;

  private static final long NOBODY_AFTER_MILLIS = 10_000;

  private static final int MOST_BYTES = 16;

  /** What rings of a run has died away by then, in microseconds. */
  private static final long AFTER_RUN = 2_000_000;

  /** A wish for the sound only where nobody has it. */
  private static final String IF_FREE = "ifFree";

  private static final String CLOSED = "This show has been closed: go to the list of shows.";

  private static final String FULL =
      "The disk takes nothing, and much waits for it: free space on it, then go on.";

  /** A show that nobody has open is closed after so long, in microseconds. */
  private static final long IDLE = 300_000_000;

  private static final String OLDER_RULES =
      "This show stands as it was last saved: what was played after that, under older rules, is in"
          + " its journal.";

  private final long showId;
  private final ShowStore store;
  private final Disk disk;
  private final JournalWriter journal;
  private final HouseClock clock;
  private final StageThread thread;
  private final Keeper keeper;
  private final Engine engine;
  private final Pages pages;
  private final Publishing publishing;
  private final Controlling controlling;

  /** When a page had it open last, in microseconds, as it is kept. */
  private long seenAt;

  /** When somebody asked for it last, in microseconds; on any thread. */
  private volatile long wanted;

  private long published;
  private boolean behind;
  private ScheduledFuture<?> due;
  private ScheduledFuture<?> save;
  private ScheduledFuture<?> words;
  private ScheduledFuture<?> keepingWords;

  /** The words that were told last, and when those of keeping may be found again, in ns. */
  private Map<String, String> told = Map.of();

  private long keepingDue = System.nanoTime();
  private final Runnable noMoreTold;
  private final Runnable controlsNoMoreTold;
  private final RunTaker taker;
  private final RunDesk desk;
  private final ExecutorService deskThread;
  private ScheduledFuture<?> over;

  /** Opens a show. */
  StageHost(
      long showId,
      ShowStore store,
      RunStore runs,
      Disk disk,
      HouseSettings settings,
      HouseClock clock,
      JsonMapper json) {
    this.showId = showId;
    this.store = store;
    this.disk = disk;
    this.journal = disk.journal();
    this.clock = clock;
    this.keeper = new Keeper(showId, store, disk.journals(), journal, disk.saving(), json);
    this.engine = keeper.engine();
    this.publishing = new Publishing(engine.stage());
    this.controlling = new Controlling(settings);
    this.pages = new Pages(clock.micros());
    this.thread = new StageThread("stage-" + showId, pages::hasSound);
    this.seenAt = store.seenAt(showId);
    this.wanted = clock.micros();
    this.taker =
        new RunTaker(
            showId,
            runs,
            disk.saving(),
            () -> run(() -> pages.tell(Messages.of("runs", runs.cards(showId)))));
    this.desk = new RunDesk(showId, runs, message -> run(() -> pages.tell(message)));
    this.deskThread =
        Executors.newSingleThreadExecutor(
            task -> {
              Thread made = new Thread(task, "run-desk-" + showId);
              made.setDaemon(true);
              return made;
            });
    goOnWithTheRun();
    this.controlsNoMoreTold = settings.onChange(() -> run(this::tellControls));
    this.noMoreTold = disk.lamp().listen(trouble -> run(() -> tellTrouble(trouble)));
    run(this::stopIfAbandoned);
    thread.after(NOBODY_AFTER_MILLIS, TimeUnit.MILLISECONDS, this::letGoIfNobodyCame);
    thread.every(SEEN_EVERY_SECONDS, this::markSeen);
  }

  /** A show that rolled when the house went down has a run that goes on. */
  private void goOnWithTheRun() {
    long now = clock.micros();
    engine.advance(now);
    if (keeper.base().map().isPresent() || engine.stage().map().isPresent()) {
      taker.goOn(keeper.base(), keeper.again(), now);
      taker.passed(engine.stage(), now);
    }
  }

  /** A page comes in: it is told all there is. */
  void enter(Page page) {
    run(
        () -> {
          long now = clock.micros();
          engine.advance(now);
          publish();
          pages.enter(page, keeper::knows, now);
          keeper.forget(pages::isThere);
          Numbers numbers = keeper.numbers(page.client());
          numbers.comes(page, page.first());
          ObjectNode welcome = publishing.whole(engine);
          welcome
              .put("now", clock.micros())
              .put("client", page.client())
              .put("last", numbers.next() - 1);
          welcome.set("press", CoreJson.write(words()));
          welcome.set("controls", controlling.controls());
          welcome.set("lit", CoreJson.write(lit()));
          welcome.set("pedals", controlling.footboard());
          welcome.set("clockTo", CoreJson.write(controlling.clockTo()));
          pages.holder().ifPresent(client -> welcome.put("holder", client));
          desk.heard().ifPresent(heard -> welcome.set("hearing", heard.get("hearing")));
          tell(page, Messages.of("welcome", welcome));
          if (disk.lamp().isLit()) {
            tell(page, Messages.of("disk", true));
          }
          if (keeper.leftOut() > 0) {
            tell(page, Messages.of("word", OLDER_RULES));
          }
          disk.saving().then("opened " + showId, () -> store.opened(showId, now), () -> {});
          markSeen();
          tellTimeWhenDue();
        },
        page);
  }

  /**
   * A page goes.
   *
   * @param clean whether it did so of its own accord
   */
  void leave(Page page, boolean clean) {
    run(
        () -> {
          long left = clock.micros();
          pages.leave(page, clean, left);
          wanted = left;
          thread.after(
              LET_GO_AFTER_MILLIS, TimeUnit.MILLISECONDS, () -> letGo(page.instance(), left));
        },
        page);
  }

  /** What a page holds that has gone, and not come back, is let go at the instant it went. */
  private void letGo(String instance, long left) {
    pages.letGo(instance).forEach(release -> apply(release, left));
  }

  /** Keys that were down when the house went down are let go, if their page does not come back. */
  private void letGoIfNobodyCame() {
    Stage stage = engine.stage();
    boolean held = !stage.heldKeys().isEmpty() || stage.hands().isErasing();
    if (pages.isEmpty() && held) {
      long now = clock.micros();
      apply(new HandCommand.Panic(), now);
      apply(new MendCommand.EraseHeld(false), now);
    }
  }

  /** A message from a page. */
  void receive(Page page, JsonNode message) {
    run(
        () -> {
          page.answered();
          try {
            answer(page, message);
          } finally {
            if (behind) {
              publish();
            }
          }
        },
        page);
  }

  /**
   * A numbered message from a page that was refused before it came here is answered in its turn.
   */
  void refuse(Page page, long number, String why) {
    run(
        () -> {
          Numbers numbers = keeper.numbers(page.client());
          if (numbers.isNext(number)) {
            tell(page, numbers.refused(number, why));
          } else {
            numbers.again(number).ifPresent(answer -> tell(page, answer));
          }
        },
        page);
  }

  private void answer(Page page, JsonNode message) {
    if (message.has("do")) {
      command(page, message);
    } else if (message.has("hold")) {
      hold(page, message.get("hold"));
    } else if (message.has("bytes")) {
      relay(page, message);
    } else if (message.has("measure")) {
      tell(page, Answers.measured(engine, CommandJson.whole(message, "measure")));
    } else if (message.has("controls")) {
      controlling.setControls(message.get("controls"), this::tellUnsaved);
    } else if (message.has("clockTo")) {
      controlling.setClockTo(message.get("clockTo"), this::tellUnsaved);
      pages.tell(Messages.of("clockTo", controlling.clockTo()));
    } else if (message.has("run")) {
      askDesk(page, message.get("run"));
    } else if (message.has("forecast")) {
      JsonNode command = message.get("forecast");
      tell(page, Answers.forecast(engine, command, clock.micros()));
    } else if (message.has("concert")) {
      tell(page, Answers.concert(engine.stage()));
    } else if (message.has("standIn")) {
      tell(page, Answers.standIn(engine.stage(), message.get("standIn"), clock.micros()));
    } else {
      throw new Refusal("That message is not understood: reload the page.");
    }
  }

  /** What is asked of runs is answered on their own thread: nobody's playing waits for it. */
  private void askDesk(Page page, JsonNode ask) {
    Stage stage = engine.stage();
    long now = clock.micros();
    deskThread.execute(
        StageThread.answering(
            page,
            () -> {
              desk.answer(ask, stage, now, command -> thread.await(() -> applyFor(command)))
                  .ifPresent(answer -> tell(page, answer));
              run(
                  () -> {
                    publish();
                    tellWhenRunIsOver();
                  });
            }));
  }

  /** Renames the show. */
  void rename(String title) {
    apply(new SettingCommand.Rename(title));
  }

  /**
   * Does something that no page asked for by its socket, and waits until it is on the disk; refuses
   * what cannot be done.
   */
  void apply(Command command) {
    thread.await(() -> applyFor(command));
    journal.await();
  }

  /** The stage as it is now. */
  Stage stage() {
    AtomicReference<Stage> stage = new AtomicReference<>();
    thread.await(
        () -> {
          passTime();
          stage.set(engine.stage());
        });
    return stage.get();
  }

  /** Somebody asks for the show, and may come in soon. */
  void isWanted() {
    wanted = clock.micros();
  }

  /**
   * Whether nobody has had the show open for some time, it stands still, and all of it is in the
   * database.
   */
  boolean isIdle() {
    AtomicBoolean idle = new AtomicBoolean();
    thread.await(
        () ->
            idle.set(
                pages.isEmpty()
                    && thread.isIdle()
                    && clock.micros() - wanted > IDLE
                    && engine.stage().map().isEmpty()
                    && desk.heard().isEmpty()
                    && keeper.isSaved()
                    && disk.saving().isIdle()));
    return idle.get();
  }

  /** Sends pages away and ends the thread; what can be saved is on its way to the disk. */
  void close() {
    thread.await(
        () -> {
          long now = clock.micros();
          taker.close(now, keeper.toSave(now));
          pages.sendAway(Messages.of("gone", CLOSED));
        });
    noMoreTold.run();
    controlsNoMoreTold.run();
    deskThread.shutdown();
    thread
        .end()
        .forEach(
            page -> {
              page.answered();
              tell(page, Messages.of("gone", CLOSED));
            });
  }

  private void command(Page page, JsonNode message) {
    long number = CommandJson.whole(message, "seq");
    Numbers numbers = keeper.numbers(page.client());
    if (!numbers.isNext(number)) {
      numbers.again(number).ifPresent(answer -> tell(page, answer));
      return;
    }
    Outcome outcome;
    long stamp = 0;
    try {
      Refusal.unless(!journal.isFull(), FULL);
      Command command = CommandJson.read(keeper.counted(page.client(), message));
      stamp = CommandJson.whole(message, "stamp");
      outcome = apply(command, stamp, page.client(), page.instance(), number);
    } catch (Refusal refusal) {
      outcome = new Outcome.Refused(refusal.getMessage());
    } catch (RuntimeException | StackOverflowError fault) {
      // a stage is a value: what was begun has left no trace
      LOG.error("a command was left out", fault);
      outcome = new Outcome.Refused(StageThread.STUMBLED);
    }
    if (outcome instanceof Outcome.Refused refused) {
      tell(page, numbers.refused(number, refused.why()));
    } else if (outcome instanceof Outcome.Done done) {
      if (done.word().isPresent()) {
        tell(page, said(done.word().get(), stamp));
      }
    }
  }

  /** A word, and how long it holds where it asks for a second press. */
  private ObjectNode said(String word, long stamp) {
    Optional<FirstPress> asks = engine.stage().firstPress().filter(press -> press.stamp() == stamp);
    return asks.isEmpty()
        ? Messages.of("word", word)
        : Messages.of(
            "asks",
            JsonNodeFactory.instance
                .objectNode()
                .put("word", word)
                .put("until", asks.get().until()));
  }

  /** Does something in the show that a page asked for otherwise than by a command. */
  private void applyFor(Command command) {
    Refusal.unless(!journal.isFull(), FULL);
    if (apply(command, clock.micros()) instanceof Outcome.Refused refused) {
      throw new Refusal(refused.why());
    }
  }

  /** Where a run that is heard has ended the stage is silent again. */
  private void tellWhenRunIsOver() {
    if (over != null) {
      over.cancel(false);
    }
    desk.over()
        .ifPresent(
            instant ->
                over =
                    thread.after(
                        instant + AFTER_RUN - clock.micros(),
                        TimeUnit.MICROSECONDS,
                        () -> silenceFrom(instant + AFTER_RUN)));
  }

  /** What is heard ends, if its time has come: that is the house's, whatever the timer says. */
  private void silenceFrom(long instant) {
    if (clock.micros() < instant) {
      tellWhenRunIsOver();
    } else {
      desk.silence();
      publish();
    }
  }

  /** Does what the house itself wants. */
  private Outcome apply(Command command, long stamp) {
    return apply(command, stamp, HOUSE, HOUSE, keeper.nextOfHouse());
  }

  private Outcome apply(Command command, long stamp, String client, String instance, long number) {
    long now = clock.micros();
    engine.advance(now);
    Stage before = engine.stage();
    Outcome outcome = engine.apply(command, stamp, now);
    publish();
    if (outcome instanceof Outcome.Done) {
      taker.follow(before, command, stamp, now, engine.stage());
      pages.heldBy(instance).after(command);
      keeper.write(
          command,
          stamp,
          now,
          client,
          number,
          sentence -> run(() -> pages.tell(Messages.of("error", sentence))));
      saveSoon();
    }
    tellTimeWhenDue();
    return outcome;
  }

  /**
   * Sends what has changed: at once, but where more is waiting to be done, all together with what
   * that changes. So a flood from one page is none for the others.
   */
  private void publish() {
    long now = System.nanoTime();
    behind = thread.isBusy() && now - published < TOGETHER_NANOS;
    if (!behind) {
      published = now;
      if (engine.stage().map().isPresent()) {
        desk.rolls();
      }
      publishing.changes(engine, desk.plan(engine.stage())).forEach(pages::tell);
      tellWordsSoon();
    }
  }

  /**
   * What each pedal does next is found by trying: not for every note of a run, but a moment after.
   */
  private void tellWordsSoon() {
    if (words == null || words.isDone()) {
      words = thread.after(WORDS_AFTER_MILLIS, TimeUnit.MILLISECONDS, this::tellWords);
    }
  }

  /**
   * What keeping would do costs the more to find the more was played: so that it takes a small part
   * of the time only, its words may come later than the others.
   */
  private void tellWords() {
    long began = System.nanoTime();
    boolean early = began - keepingDue < 0;
    long now = clock.micros();
    boolean another = keeper.mayBeAnother(now);
    FootboardWords.Told before = new FootboardWords.Told(told, early, another);
    told = FootboardWords.of(engine, controlling.pedals(), now, before);
    if (another) {
      thread.after(Keeper.ANOTHER_WITHIN_MILLIS, TimeUnit.MILLISECONDS, this::tellWordsSoon);
    }
    publishing.words(told).ifPresent(pages::tell);
    publishing.lit(lit()).ifPresent(pages::tell);
    if (!early) {
      keepingDue = began + FootboardWords.restAfter(System.nanoTime() - began);
    } else if (keepingWords == null || keepingWords.isDone()) {
      keepingWords = thread.after(keepingDue - began, TimeUnit.NANOSECONDS, this::tellWords);
    }
  }

  /** The controls are others, in the whole house. */
  private void tellControls() {
    pages.tell(Messages.of("controls", controlling.controls()));
    pages.tell(Messages.of("pedals", controlling.footboard()));
    tellWordsSoon();
  }

  private Map<String, Lit> lit() {
    return controlling.lit(engine, clock.micros());
  }

  private Map<String, String> words() {
    return FootboardWords.of(
        engine, controlling.pedals(), clock.micros(), FootboardWords.Told.NOTHING);
  }

  /** A page asks for the sound: to have it in any case, or if nobody has. */
  private void hold(Page page, JsonNode wish) {
    if (wish.asString("").equals(IF_FREE)) {
      pages.takeIfFree(page, clock.micros());
    } else {
      pages.take(page);
    }
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
    pages.plugged(page, device);
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("device", device).put("stamp", CommandJson.whole(message, "stamp"));
    body.set("bytes", bytes);
    pages.tellHolder(Messages.of("bytes", body));
  }

  private void tellUnsaved() {
    String sentence = "That could not be saved: free space on the disk.";
    run(() -> pages.tell(Messages.of("error", sentence)));
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
                    thread.after(instant - clock.micros(), TimeUnit.MICROSECONDS, this::passTime));
  }

  /** What takes effect by itself by now does so. */
  private void passTime() {
    long now = clock.micros();
    engine.advance(now);
    taker.passed(engine.stage(), now);
    publish();
    tellTimeWhenDue();
  }

  /** What the disk did not take is kept; once it takes it, the show is saved as well. */
  private void tellTrouble(boolean trouble) {
    pages.tell(Messages.of("disk", trouble));
    if (!trouble) {
      taker.tryAgain();
      saveSoon();
    }
  }

  private void saveSoon() {
    if (save == null || save.isDone()) {
      save = thread.after(SAVE_AFTER_MILLIS, TimeUnit.MILLISECONDS, this::saveIfDue);
    }
  }

  private void saveIfDue() {
    long now = clock.micros();
    if (keeper.wantsSaving(now)) {
      taker.save(now, keeper.toSave(now));
    } else if (keeper.waitsToSave(now)) {
      saveSoon();
    }
  }

  private void markSeen() {
    saveIfDue();
    if (!pages.isEmpty()) {
      long now = clock.micros();
      seenAt = now;
      disk.saving().then("seen " + showId, () -> store.seen(showId, now), () -> {});
    } else if (engine.stage().map().isPresent()) {
      stopIfAbandoned();
    }
  }

  private void stopIfAbandoned() {
    long now = clock.micros();
    long last = Math.max(seenAt, keeper.lastDone());
    if (engine.stage().map().isPresent() && now - last > LONGEST_ABSENCE) {
      apply(new CueCommand.Stop(), now);
    }
  }

  private static void tell(Page page, ObjectNode message) {
    page.send(message.toString());
  }

  private void run(Runnable task) {
    thread.run(task);
  }

  private void run(Runnable task, Page page) {
    if (!thread.run(page, task)) {
      page.answered();
      tell(page, Messages.of("gone", CLOSED));
    }
  }
}
