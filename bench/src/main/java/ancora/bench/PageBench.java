package ancora.bench;

import com.google.gson.JsonElement;
import com.google.gson.JsonObject;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import java.io.IOException;
import java.net.HttpURLConnection;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/**
 * What can only be measured from end to end: the packaged application, and a real page before it.
 */
final class PageBench implements AutoCloseable {

  /** What has not come by then does not come, in ms. */
  private static final int LONGEST = 600_000;

  private final Process server;
  private final int port;
  private final double startSeconds;
  private Playwright playwright;
  private Page page;

  PageBench() throws IOException, InterruptedException {
    this(launch());
  }

  private PageBench(List<String> launch) throws IOException, InterruptedException {
    try (ServerSocket free = new ServerSocket(0)) {
      port = free.getLocalPort();
    }
    long began = System.nanoTime();
    List<String> words = new ArrayList<>(launch);
    words.add("--ancora.port=" + port);
    words.add("--ancora.demo=true");
    words.add("--ancora.data=" + Files.createTempDirectory("ancora-bench"));
    server =
        new ProcessBuilder(words)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    while (!answers()) {
      if (!server.isAlive()) {
        throw new IOException("The application ended at once: start it by itself, and see.");
      }
      Thread.sleep(50);
    }
    startSeconds = (System.nanoTime() - began) / 1e9;
  }

  /** The command that launches the application. */
  static List<String> launch() {
    return List.of(System.getProperty("ancora.launch").split(" "));
  }

  /** From launching to the first page. */
  static double secondsToStart(List<String> launch) throws IOException, InterruptedException {
    try (PageBench started = new PageBench(launch)) {
      return started.startSeconds;
    }
  }

  /** Opens the Stage in a browser, with its sound on. */
  void openPage() {
    playwright =
        Playwright.create(
            new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
    Browser browser =
        playwright
            .chromium()
            .launch(
                new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium-headless-shell"))
                    .setArgs(
                        List.of(
                            "--no-sandbox",
                            "--autoplay-policy=no-user-gesture-required",
                            "--disable-background-networking",
                            "--disable-component-update",
                            "--disable-sync",
                            "--no-first-run",
                            "--disable-quic")));
    page = browser.newPage(new Browser.NewPageOptions().setViewportSize(1280, 800));
    page.navigate("http://localhost:" + port + "/");
    page.getByLabel("Name of a new show").fill("Bench");
    page.getByLabel("Name of a new show").press("Enter");
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.mouse().click(640, 120);
    page.waitForFunction("() => ancora.sound.isOn && ancora.sound.delay !== null");
  }

  double startSeconds() {
    return startSeconds;
  }

  /** D: delivery and output latency as the page reports them, in ms, once settled. */
  double delayMillis() {
    page.waitForTimeout(3000);
    return ((Number) ask(page, "() => ancora.sound.delay")).doubleValue() / 1000;
  }

  /** Milliseconds from a command to its acknowledgement, journal included: median and 99 %. */
  double[] acknowledgement() throws InterruptedException {
    try (SocketClient client = new SocketClient(port)) {
      return client.acknowledgements();
    }
  }

  /** Errors of recorded onsets against the hand's true times, in ms: median and 99 %. */
  double[] recordedOnsets() {
    ask(
        page,
        """
        () => {
          ancora.connection.addEventListener("standIn", ({ detail }) => (globalThis.sent = detail));
          const part = ancora.state.armedPart;
          ancora.connection.do({ do: "setInputGrid", part: part.id, ...part.inputGrid, grid: "off" });
          ancora.connection.do({ do: "mainPress" });
        }""");
    page.waitForFunction("() => ancora.state.parts.get(1).first");
    ask(
        page,
        """
        () => ancora.connection.ask({
          standIn: { pattern: "sixteenths", times: 4, seed: 3, spread: 15, earlyDownbeat: 0, velocitySpread: 8 }
        })""");
    Object found =
        page.waitForFunction(
                """
                () => {
                  const { first, recorded = [] } = ancora.state.parts.get(1);
                  if (!first || recorded.length < 128) return null;
                  const ons = sent.filter(([, status]) => status === 0x90);
                  return recorded.map(([, , , meant], i) =>
                    Math.abs(ancora.state.map.microsOf(first.origin + meant) - ons[i][0]) / 1000);
                }""",
                null,
                new Page.WaitForFunctionOptions().setTimeout(60_000))
            .jsonValue();
    page.keyboard().press("Space");
    return medianAnd99(found);
  }

  /**
   * Onsets of two bars of sixteenths at 120 out of the page's audio thread, rendered: errors in ms
   * against a grid through the first, as far as one sample tells: the median, 99 %, the greatest on
   * the line.
   */
  double[] renderedOnsets() {
    Object found =
        ask(
            page,
            """
            async () => {
              const rate = 48000;
              const { Decoder, fetchedBank } = await import("/built/offline.js");
              const bank = await fetchedBank();
              const decoder = await Decoder.begin();
              decoder.take(bank);
              const sound = { drums: true, program: 0 };
              const samples = await decoder.decode(sound);
              const notes = Array.from({ length: 32 }, (_, i) => [i + 1, i * 240, 90, 37, 100]);
              const plan = {
                tolerances: { entryMicros: 30e3, leastRest: 240, handBeforeMicros: 80e3, strokeTicks: 120, sameGestureMicros: 60e3 },
                rolling: true, firstTick: 0, anchors: [[0, 1.7e15, 60e6 / 120 / 960]],
                click: { ticks: 960, perBeat: 1, velocities: [120, 92, 71], barTicks: 3840, beatKey: 77, downbeatKey: 76, gain: 1, spans: [] },
                parts: [{ part: 1, sound, spans: [{ id: "s", start: 0, length: 7680, phase: 0, from: 0, notes }] }],
                order: [1],
              };
              const context = new OfflineAudioContext(2, 16 * rate, rate);
              await context.audioWorklet.addModule("/built/worklet.js");
              const messages = [{ measure: { frame: 0, micros: 1.7e15 } }, samples, { plan }];
              const options = { numberOfInputs: 0, outputChannelCount: [2], processorOptions: { bank, messages } };
              new AudioWorkletNode(context, "ancora-player", options).connect(context.destination);
              const all = (await context.startRendering()).getChannelData(0);
              const onsets = [];
              for (let i = 0; i < 128; i++) {
                const at = i * 6000;
                let frame = Math.max(0, at - 200);
                while (frame < all.length && Math.abs(all[frame]) < 0.02) frame++;
                onsets.push(frame - at);
              }
              return onsets.map((onset) => (Math.abs(onset - onsets[0]) / rate) * 1000);
            }""");
    double[] errors =
        ((List<?>) found).stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
    double atLine = Math.max(errors[32], Math.max(errors[64], errors[96]));
    double[] both = medianAnd99(found);
    return new double[] {both[0], both[1], atLine};
  }

  /** Milliseconds while the loops go round. */
  record Frames(double[] script, double[] apart) {}

  /** What a frame takes, and how far frames are apart: each the median and 99 %. */
  Frames frames() {
    Map<?, ?> found =
        (Map<?, ?>)
            ask(
                page,
                """
                async () => {
                  const script = [];
                  const apart = [];
                  let before;
                  const real = requestAnimationFrame;
                  globalThis.requestAnimationFrame = (act) => real((at) => {
                    if (before !== undefined) apart.push(at - before);
                    before = at;
                    const began = performance.now();
                    act(at);
                    script.push(performance.now() - began);
                  });
                  await new Promise((done) => setTimeout(done, 10_000));
                  globalThis.requestAnimationFrame = real;
                  return { script, apart };
                }""");
    return new Frames(medianAnd99(found.get("script")), medianAnd99(found.get("apart")));
  }

  /**
   * What a page has more of after some time: heap in MB, nodes, and listeners; each after a
   * collection.
   */
  record Gained(double heap, long nodes, long listeners) {}

  /** While the band plays, over so many seconds. */
  Gained gained(int seconds) {
    CDPSession session = page.context().newCDPSession(page);
    session.send("Performance.enable");
    Map<String, Double> before = metrics(session);
    page.waitForTimeout(seconds * 1000);
    Map<String, Double> after = metrics(session);
    return new Gained(
        (after.get("JSHeapUsedSize") - before.get("JSHeapUsedSize")) / 1e6,
        Math.round(after.get("Nodes") - before.get("Nodes")),
        Math.round(after.get("JSEventListeners") - before.get("JSEventListeners")));
  }

  private static Map<String, Double> metrics(CDPSession session) {
    session.send("HeapProfiler.collectGarbage");
    Map<String, Double> all = new HashMap<>();
    for (JsonElement metric : session.send("Performance.getMetrics").getAsJsonArray("metrics")) {
      JsonObject one = metric.getAsJsonObject();
      all.put(one.get("name").getAsString(), one.get("value").getAsDouble());
    }
    return all;
  }

  /** How many times faster than it sounds a run of so many seconds is made into sound files. */
  record Wav(double seconds, double mix, double each) {}

  /** The demo's run, its middle three times; once all together, once with each part besides. */
  Wav wav() {
    Page other = page.context().browser().newPage();
    other.navigate("http://localhost:" + port + "/shows/1");
    other.waitForFunction("() => globalThis.ancora?.connection.open");
    List<?> found =
        (List<?>)
            ask(
                other,
                """
                async () => {
                  const { connection } = ancora;
                  const edited = new Promise((done) => connection.addEventListener("run", done, { once: true }));
                  connection.ask({ run: { edit: 1, by: { by: "repeat", part: null, from: 1, bars: 24, times: 3 } } });
                  await edited;
                  const { Rendering, WavFile } = await import("/built/offline.js");
                  const score = await (await fetch("/shows/1/runs/1.rendering.json")).json();
                  const sounds = (score.micros + score.tail) / 1e6;
                  const faster = async (each) => {
                    const rendering = new Rendering(score, 48000, each);
                    const files = rendering.names.map((name) => new WavFile(name, 48000, 24));
                    const began = performance.now();
                    await rendering.run((input, left, right) => files[input].take(left, right), () => {});
                    return sounds / ((performance.now() - began) / 1000);
                  };
                  return [sounds, await faster(false), await faster(true)];
                }""");
    other.close();
    double[] numbers = found.stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
    return new Wav(numbers[0], numbers[1], numbers[2]);
  }

  /** Makes a show of sixteen parts, each with a clip of 200 notes, and lets it play. */
  void openBand() {
    ask(
        page,
        """
        async () => {
          const { connection, state } = ancora;
          while (state.order.length < 16) {
            const before = state.order.length;
            connection.do({ do: "addPart", name: `Part ${before + 1}`, drums: false, program: before });
            while (state.order.length === before) await new Promise((done) => setTimeout(done, 20));
          }
          const wait = (millis) => new Promise((done) => setTimeout(done, millis));
          if (state.transport.rolling) connection.do({ do: "stop" });
          while (state.transport.rolling) await wait(20);
          connection.do({ do: "setRecording", ...state.show.recording, countInBars: 0, fixedUnits: 4 });
          const [first, ...others] = state.order;
          state.parts.get(first).shelf.forEach((clip) => connection.do({ do: "deleteClip", part: first, clip }));
          connection.do({ do: "arm", part: first });
          others.forEach((part) => connection.do({ do: "armAlongside", part, on: true }));
          connection.do({ do: "start" });
          while (!state.transport.rolling) await wait(20);
          connection.do({ do: "mainPress" });
          while (!state.parts.get(first).first) await wait(5);
          const { start } = state.parts.get(first).first;
          while (state.map.tickAt(ancora.clock.now()) < start) await wait(5);
          for (let i = 0; i < 200; i++) {
            const at = state.map.microsOf(start + i * 70);
            while (ancora.clock.now() < at) await wait(5);
            const own = ancora.clock.own(at);
            connection.do({ do: "keyDown", device: "bench", channel: 0, pitch: 48 + (i % 24), velocity: 80 }, own);
            connection.do({ do: "keyUp", device: "bench", channel: 0, pitch: 48 + (i % 24) }, own + 20);
          }
          while (state.order.some((part) => !state.parts.get(part).vamp)) await wait(20);
          // sixteen staves are drawn anew, once: not what a frame takes while they go round
          await wait(3000);
        }""");
  }

  /** The Workshop of a clip of 4000 notes: milliseconds until it is drawn, and its frames. */
  record Workshop(double opening, Frames frames) {}

  /** Draws 4000 notes into an empty clip, and opens it while it sounds. */
  Workshop workshop() {
    Object opening =
        ask(
            page,
            """
            async () => {
              const { connection, state, workshop } = ancora;
              const wait = (millis) => new Promise((done) => setTimeout(done, millis));
              const [part] = state.order;
              const known = new Set(state.clips.keys());
              connection.do({ do: "makeClip", part, bars: 64 });
              const made = () => [...state.clips.keys()].find((id) => !known.has(id));
              while (!made()) await wait(20);
              const clip = made();
              for (let i = 0; i < 4000; i += 50) {
                const edits = Array.from({ length: 50 }, (_, k) => i + k).map((n) => (
                  { by: "draw", pitch: 40 + (n % 40), place: Math.floor((n * 64 * 3840) / 4000), length: 200 }));
                connection.do({ do: "editNotes", part, clip, edits });
              }
              const count = () => state.clips.get(clip).layers.reduce((sum, { notes }) => sum + notes.length, 0);
              while (count() < 4000) await wait(50);
              connection.do({ do: "cueClip", part, clip });
              while (state.parts.get(part).vamp?.clip !== clip) await wait(50);
              const began = performance.now();
              workshop.open(part, clip);
              while (workshop.dirty) await new Promise(requestAnimationFrame);
              return performance.now() - began;
            }""");
    Frames frames = frames();
    ask(page, "() => ancora.workshop.close()");
    return new Workshop(((Number) opening).doubleValue(), frames);
  }

  /** Milliseconds from a foot on a pedal, by its bytes. */
  record Pedal(double[] acknowledged, double[] words) {}

  /** To the acknowledgement, and to the footboard's new words: each the median and 99 %. */
  Pedal pedal() {
    Map<?, ?> found =
        (Map<?, ?>)
            ask(
                page,
                """
                async () => {
                  const { connection, controls, hub, state } = ancora;
                  connection.do({ do: "arm", part: state.order[0] });
                  const control = { device: "bench board", kind: "CONTROL_CHANGE", channel: 0, number: 90 };
                  const main = { control: { ...control, key: "" }, gesture: "SHORT", command: { do: "mainPress" } };
                  connection.ask({ controls: { teach: [main] } });
                  while (!controls.of(control).length) await new Promise((done) => setTimeout(done, 20));
                  await new Promise((done) => setTimeout(done, 500));
                  const acknowledged = [];
                  const words = [];
                  for (let i = 0; i < 120; i++) {
                    const began = performance.now();
                    const ack = new Promise((done) =>
                      connection.socket.addEventListener("message", function heard({ data }) {
                        if (data.startsWith('{"ack"')) {
                          connection.socket.removeEventListener("message", heard);
                          done(performance.now() - began);
                        }
                      }));
                    const press = new Promise((done) =>
                      connection.addEventListener("press", () => done(performance.now() - began), { once: true }));
                    hub.receive("bench board", [0xb0, 90, 127], began);
                    hub.receive("bench board", [0xb0, 90, 0], began + 1);
                    acknowledged.push(await ack);
                    words.push(await press);
                    await new Promise((done) => setTimeout(done, 60));
                  }
                  return { acknowledged, words };
                }""");
    return new Pedal(medianAnd99(found.get("acknowledged")), medianAnd99(found.get("words")));
  }

  /**
   * What a page answers; one that never does is a fault of this bench, not something to wait for.
   */
  private static Object ask(Page page, String script) {
    return page.evaluate(
        """
        () => Promise.race([
          (%s)(),
          new Promise((_, fail) => setTimeout(() => fail(new Error("the page never came so far")), %d)),
        ])"""
            .formatted(script, LONGEST));
  }

  private boolean answers() {
    try {
      HttpURLConnection home =
          (HttpURLConnection) URI.create("http://localhost:" + port + "/").toURL().openConnection();
      return home.getResponseCode() == 200;
    } catch (IOException notYet) {
      return false;
    }
  }

  static double[] medianAnd99(Object list) {
    double[] sorted =
        ((List<?>) list).stream().mapToDouble(n -> ((Number) n).doubleValue()).sorted().toArray();
    Arrays.sort(sorted);
    return new double[] {
      sorted[sorted.length / 2], sorted[Math.min(sorted.length - 1, sorted.length * 99 / 100)]
    };
  }

  @Override
  public void close() throws InterruptedException {
    if (playwright != null) {
      playwright.close();
    }
    server.destroy();
    server.waitFor(10, TimeUnit.SECONDS);
  }
}
