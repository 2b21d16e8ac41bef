package ancora.app.browser;

import static org.assertj.core.api.Assertions.fail;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.stage.StageHouse;
import ancora.app.time.HeldClock;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A Stage in time that goes on only here: house, pages and audio thread go on together, step by
 * step. What is done between two steps is done at one instant, however long the machine takes, and
 * what is heard is the same on every machine.
 */
final class HeldStage {

  /** Whole blocks of sound at 48 kHz, and a frame of the screen, in ms. */
  static final int STEP = 16;

  /** The same for long: what is waited for without a look goes on in such strides. */
  private static final int STRIDE = 4 * STEP;

  /** What has not come by then does not come, in ms of the stage's time. */
  private static final int LONGEST = 60_000;

  /** What comes so soon is found to a step, in ms of the stage's time. */
  private static final int SOON = 500;

  /** An assertion looks this long before time goes on, in ms of the machine's. */
  private static final int LOOK = 1;

  /** The same, for what takes the machine long; and how often. */
  private static final int LONG_LOOK = 250;

  private static final int LOOKS = 1000;

  /** The device that {@link #play} plays on. */
  static final String KEYS = "keys";

  private static final int NOTE_ON = 0x90;
  private static final int NOTE_OFF = 0x80;

  /** So many addresses one after the other a page is led to at most. */
  private static final int ADDRESSES = 3;

  private static final Pattern OF_SHOW = Pattern.compile("/shows/(\\d+)");

  private final Stagehand hand;

  /** Whether what sounds is rendered. */
  private final boolean listens;

  private House house;
  private HeldClock clock;

  /** What takes what a device sends, in the page. */
  private String sends = "(...sent) => ancora.hub.receive(...sent)";

  private final List<Page> pages = new ArrayList<>();
  private final List<PageStandIn> devices = new ArrayList<>();

  private HeldStage(Stagehand hand, House house, boolean listens) {
    this.hand = hand;
    this.listens = listens;
    movesTo(house);
  }

  /** The house has been begun anew. */
  void movesTo(House other) {
    house = other;
    clock = other.bean(HeldClock.class);
  }

  /**
   * Opens a show in a house that is {@link House#held}, with its sound on, to which nobody listens.
   */
  static HeldStage open(Stagehand hand, House house, long show) {
    HeldStage stage = of(hand, house, "/shows/" + show);
    stage.soundsOn();
    return stage;
  }

  /** The same, where what sounds can be looked at. */
  static HeldStage listenedTo(Stagehand hand, House house, long show) {
    HeldStage stage = listenedTo(hand, house, "/shows/" + show);
    stage.soundsOn();
    stage.page().evaluate(Stagehand.TAP);
    return stage;
  }

  /** The same, where the devices are behind the browser's own Web MIDI. */
  static HeldStage openWithWebMidi(Stagehand hand, House house, long show, String... devices) {
    HeldStage stage = of(hand, house, "/shows/" + show);
    stage.putsWebMidi();
    stage.soundsOn();
    stage.until("globalThis.plug");
    for (String device : devices) {
      stage.page().evaluate("plug", device);
    }
    stage.sends = "midi";
    return stage;
  }

  /** The page is loaded again, with devices of a test's own behind the browser's Web MIDI. */
  void putsWebMidi() {
    page().addInitScript(Stagehand.script("web-midi.js"));
    page().reload();
    until("globalThis.ancora?.connection.open");
  }

  /** Opens a page of such a house, without a touch yet. */
  static HeldStage of(Stagehand hand, House house, String path) {
    return of(hand, house, path, false);
  }

  /** The same, where what sounds is rendered. */
  static HeldStage listenedTo(Stagehand hand, House house, String path) {
    return of(hand, house, path, true);
  }

  private static HeldStage of(Stagehand hand, House house, String path, boolean listens) {
    HeldStage stage = new HeldStage(hand, house, listens);
    stage.also(path);
    return stage;
  }

  /** The page is touched, and its sound comes. */
  void soundsOn() {
    until("globalThis.ancora?.connection.open");
    page().mouse().click(640, 120);
    until("ancora.sound.isOn && ancora.sound.delay !== null");
    until("ancora.who.isHere");
    // how late the page sounds is told to the stage every three seconds
    until("ancora.sound.reported");
  }

  /** One more page of the house, in the same time. */
  Page also(String path) {
    Page page = hand.heldPage(house, path, listens);
    pages.add(page);
    run(STEP);
    return page;
  }

  /** Devices on a page that is not there. */
  PageStandIn devices() {
    PageStandIn standIn = new PageStandIn(house.port(), show(page()).getAsLong(), "devices");
    devices.add(standIn);
    return standIn;
  }

  /** The first page. */
  Page page() {
    return pages.get(0);
  }

  /** Lets so much time pass, in ms. */
  void run(long millis) {
    for (long done = 0; done < millis; ) {
      int step = millis - done < STRIDE ? STEP : STRIDE;
      pass(step, "true");
      done += step;
    }
  }

  /**
   * House and pages go on by a step, in ms; what something in JavaScript of the first page is then.
   */
  private Object pass(int step, String asked) {
    devices.forEach(PageStandIn::now);
    clock.pass(step);
    hostsCatchUp();
    Object answer = null;
    for (Page page : pages) {
      boolean first = page == page();
      String then = first ? asked : "true";
      Object found =
          asked(
              page,
              "([millis, micros]) => held.step(millis, micros).then(() => %s)".formatted(then),
              List.of(step, (double) micros()));
      answer = first ? found : answer;
    }
    hostsCatchUp();
    return answer;
  }

  /** Asks a page; one that is just leaving for another address is asked again there. */
  private static Object asked(Page page, String script, Object of) {
    for (int left = 1; ; left++) {
      try {
        return page.evaluate(script, of);
      } catch (PlaywrightException leaving) {
        if (left > ADDRESSES || !leaving.getMessage().contains("navigation")) {
          throw leaving;
        }
        page.waitForLoadState();
      }
    }
  }

  private void hostsCatchUp() {
    pages.stream()
        .flatMapToLong(page -> show(page).stream())
        .distinct()
        .forEach(show -> house.bean(StageHouse.class).show(show));
  }

  /** The show that a page is of. */
  private static OptionalLong show(Page page) {
    Matcher of = OF_SHOW.matcher(page.url());
    return of.find() ? OptionalLong.of(Long.parseLong(of.group(1))) : OptionalLong.empty();
  }

  /** Lets time pass until something is so, in JavaScript of the first page, and is drawn. */
  void until(String condition) {
    first(condition);
    run(2 * STEP);
  }

  /**
   * Lets time pass until the first step at which something is so; of a stride, once it takes long.
   */
  private void first(String condition) {
    String asked = "!!(%s)".formatted(condition);
    boolean is = (boolean) asked(page(), "() => " + asked, null);
    for (int waited = 0; !is; ) {
      if (waited > LONGEST) {
        fail("it never came, in %s s of the stage's time: %s", LONGEST / 1000, condition);
      }
      int step = waited < SOON ? STEP : STRIDE;
      is = (boolean) pass(step, asked);
      waited += step;
    }
  }

  /** Lets time pass until an assertion of what a page shows holds. */
  void soon(Runnable assertion) {
    look(assertion, LOOK, STRIDE, LONGEST / STRIDE);
  }

  /**
   * Waits for what the machine does at its own pace, as rendering a file; time hardly passes
   * meanwhile.
   */
  void soonAtItsPace(Runnable assertion) {
    look(assertion, LONG_LOOK, STEP, LOOKS);
  }

  private void look(Runnable assertion, int millis, int step, int looks) {
    PlaywrightAssertions.setDefaultAssertionTimeout(millis);
    try {
      for (int looked = 1; looked < looks; looked++) {
        try {
          assertion.run();
          return;
        } catch (AssertionError notYet) {
          run(step);
        }
      }
      assertion.run();
    } finally {
      PlaywrightAssertions.setDefaultAssertionTimeout(Stagehand.PATIENCE);
    }
  }

  /** Lets time pass until the first step at which a tick of the transport has come. */
  void untilTick(long tick) {
    first("ancora.state.map");
    String left = "(ancora.state.map.microsOf(%s) - ancora.clock.now()) / 1000".formatted(tick);
    double millis = ((Number) evaluate("() => " + left)).doubleValue();
    run((long) millis / STRIDE * STRIDE);
    first("ancora.state.map?.tickAt(ancora.clock.now()) >= %s".formatted(tick));
  }

  /** The tick of the transport at this instant. */
  long tick() {
    return ((Number) evaluate("() => ancora.state.map.tickAt(ancora.clock.now())")).longValue();
  }

  /** Server time, in microseconds. */
  long micros() {
    return clock.micros();
  }

  /** Lets time pass until an instant of server time has come. */
  void untilMicros(long instant) {
    run(Math.max(0, instant - micros() + 999) / 1000);
  }

  Object evaluate(String script) {
    return page().evaluate(script);
  }

  /** Sends a command, as JavaScript. */
  void send(String command) {
    evaluate("() => ancora.connection.do(%s)".formatted(command));
    run(STEP);
  }

  /** A device sends bytes at this instant. */
  void bytes(String device, int... bytes) {
    page()
        .evaluate(
            "([device, bytes]) => (%s)(device, bytes, performance.now())".formatted(sends),
            List.of(device, Arrays.stream(bytes).boxed().toList()));
  }

  /** A short note of a keyboard. */
  void play(int pitch) {
    bytes(KEYS, NOTE_ON, pitch, 90);
    run(2 * STEP);
    bytes(KEYS, NOTE_OFF, pitch, 0);
    run(STEP);
  }

  /** A part is armed, and the transport rolls. */
  HeldStage rolling(int part) {
    send("{ do: 'arm', part: %d }".formatted(part));
    send("{ do: 'start' }");
    until("ancora.state.map?.tickAt(ancora.clock.now()) > 100");
    return this;
  }

  /** A key of the computer, or several together, is pressed at this instant. */
  void press(String keys) {
    page().keyboard().press(keys);
    run(2 * STEP);
  }

  /** Something is clicked, once it is there. */
  void click(Locator locator) {
    soon(() -> PlaywrightAssertions.assertThat(locator).isVisible());
    locator.click();
    run(2 * STEP);
  }

  void click(String selector) {
    click(page().locator(selector));
  }

  void close() {
    devices.forEach(PageStandIn::close);
    pages.forEach(page -> page.context().close());
  }
}
