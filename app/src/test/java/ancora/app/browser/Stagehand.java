package ancora.app.browser;

import ancora.app.House;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** A browser in front of a house, as a performer has it. */
final class Stagehand implements AutoCloseable {

  /** What a page shows, and does, may take a machine that has much else to do so long, in ms. */
  static final int PATIENCE = 60_000;

  private static final List<String> ARGUMENTS =
      List.of(
          "--no-sandbox",
          "--autoplay-policy=no-user-gesture-required",
          "--disable-background-networking",
          "--disable-component-update",
          "--disable-sync",
          "--no-first-run",
          // a name of this machine that is no secure context, as those of others in a room are not
          "--host-resolver-rules=MAP lamp.house 127.0.0.1",
          "--disable-quic");

  /** Collects what sounds, with the number of its first frame. */
  static final String TAP =
      """
      async () => {
        const source = `registerProcessor("tap", class extends AudioWorkletProcessor {
          process([[left]]) {
            if (left) this.port.postMessage({ frame: currentFrame, data: left.slice() });
            return true;
          }
        })`;
        const { context, output } = ancora.sound;
        await context.audioWorklet.addModule(URL.createObjectURL(new Blob([source], { type: "text/javascript" })));
        const tap = new AudioWorkletNode(context, "tap");
        globalThis.tapped = [];
        globalThis.clocks = [];
        ancora.sound.addEventListener("clock", ({ detail }) => clocks.push(detail));
        tap.port.onmessage = ({ data }) => globalThis.tapped.push(data);
        output.connect(tap);
        globalThis.heard = () => {
          const first = tapped[0].frame;
          const all = new Float32Array(tapped.at(-1).frame + 128 - first);
          for (const { frame, data } of tapped) all.set(data, frame - first);
          return { first, all };
        };
        const { sampleRate } = context;
        // how far the player's clock went otherwise than the frames between two of its reports, in ms
        const strayed = (a, b) => (b.micros - a.micros) / 1000 - ((b.frame - a.frame) / sampleRate) * 1000;
        // the instant that the player took a frame for
        globalThis.instantOf = (frame) => {
          const i = Math.max(0, Math.min(clocks.length - 2, clocks.findLastIndex((c) => c.frame <= frame)));
          const [a, b] = [clocks[i], clocks[i + 1]];
          const even = Math.abs(strayed(a, b)) < 5;
          const perFrame = even ? (b.micros - a.micros) / (b.frame - a.frame) : 1e6 / sampleRate;
          return a.micros + (frame - a.frame) * perFrame;
        };
        // the stretches, in frames, in which the player's clock was stepped, since the output had stalled
        globalThis.steps = () =>
          clocks.slice(1).flatMap((c, i) =>
            Math.abs(strayed(clocks[i], c)) < 5 ? [] : [[clocks[i].frame, c.frame]]);
      }""";

  /** One for all tests of a process; it ends with it. */
  private static final Browser BROWSER = launched();

  private final List<String> faults = new ArrayList<>();

  Stagehand() {
    PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE);
  }

  private static Browser launched() {
    Map<String, String> environment = Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1");
    return Playwright.create(new Playwright.CreateOptions().setEnv(environment))
        .chromium()
        .launch(
            new BrowserType.LaunchOptions()
                .setExecutablePath(Path.of("/usr/bin/chromium-headless-shell"))
                .setArgs(ARGUMENTS));
  }

  /** A page of the house in a window of its own; the tap needs the page's policy out of its way. */
  Page page(House house, String path, boolean forTap) {
    BrowserContext context =
        BROWSER.newContext(
            new Browser.NewContextOptions().setViewportSize(1280, 800).setBypassCSP(forTap));
    context.addInitScript(script("small-room.js"));
    context.setDefaultTimeout(PATIENCE);
    Page page = context.newPage();
    page.onPageError(faults::add);
    page.navigate(house.url(path));
    return page;
  }

  /** A page in the hands of somebody in the room, whose browser was told to trust the house. */
  Page inTheRoom(String url, int width, int height) {
    BrowserContext context =
        BROWSER.newContext(
            new Browser.NewContextOptions()
                .setViewportSize(width, height)
                .setHasTouch(true)
                .setIgnoreHTTPSErrors(true));
    context.setDefaultTimeout(PATIENCE);
    Page page = context.newPage();
    page.onPageError(faults::add);
    page.navigate(url);
    return page;
  }

  /**
   * A page of the house in time that goes on only when it is told to. If nobody listens it sounds
   * for all it knows, but nothing is rendered: that costs more than all else that it does.
   */
  Page heldPage(House house, String path, boolean listens) {
    BrowserContext context =
        BROWSER.newContext(
            new Browser.NewContextOptions().setViewportSize(1280, 800).setBypassCSP(true));
    context.addInitScript("globalThis.listens = " + listens);
    context.addInitScript(script("held-time.js"));
    context.addInitScript(script("small-room.js"));
    context.setDefaultTimeout(PATIENCE);
    Page page = context.newPage();
    page.onPageError(faults::add);
    page.navigate(house.url(path));
    return page;
  }

  /** A script of the tests that a page is given. */
  static String script(String name) {
    try (InputStream script = Stagehand.class.getResourceAsStream("/browser/" + name)) {
      return new String(script.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException missing) {
      throw new UncheckedIOException(missing);
    }
  }

  /** A Stage that nobody has touched yet. */
  Page silentStage(House house, long show) {
    Page page = page(house, "/shows/" + show, false);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    return page;
  }

  /** A Stage with its sound on. */
  Page stage(House house, long show) {
    Page page = page(house, "/shows/" + show, true);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.mouse().click(640, 120);
    // where another page of the test has the sound it is taken
    page.waitForFunction(
        "() => ancora.who.isHere || !document.getElementById('sound-lamp').hidden");
    page.evaluate("() => ancora.who.isHere || document.getElementById('sound-lamp').click()");
    page.waitForFunction("() => ancora.sound.isOn && ancora.sound.delay !== null");
    page.waitForFunction("() => ancora.who.isHere");
    page.evaluate(TAP);
    return page;
  }

  /** Waits until a tick of the transport has come, by the page's own clock. */
  static void untilTick(Page page, long tick) {
    page.waitForFunction(
        "tick => ancora.state.map?.tickAt(ancora.clock.now()) >= tick", (double) tick);
  }

  /** Closes all pages. */
  void leave() {
    List.copyOf(BROWSER.contexts()).forEach(BrowserContext::close);
  }

  /** What went wrong in the pages' scripts. */
  List<String> faults() {
    return faults;
  }

  /** Nothing of what it did is left to the next. */
  @Override
  public void close() {
    leave();
  }
}
