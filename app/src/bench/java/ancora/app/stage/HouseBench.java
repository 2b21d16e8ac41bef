package ancora.app.stage;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.store.Disk;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.WebSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Measures what the house costs: {@code ./ancora bench} runs it, and prints its rows with the
 * others.
 */
class HouseBench {

  private static final int LINES = 60_000;
  private static final long APART = 60_000;
  private static final JsonMapper JSON = JsonMapper.shared();

  @TempDir Path data;
  private final List<String> rows = new ArrayList<>();

  /** Time that goes on only when it is told to. */
  private static final class Virtual extends HouseClock {
    private volatile long now = System.currentTimeMillis() * 1000;

    @Override
    public long micros() {
      return now;
    }
  }

  /** Counts what a page is told. */
  private static final class Counting {
    private final Semaphore answered = new Semaphore(0);
    private volatile long acknowledged;
    private final Page page = new Page("bench", "bench", 1, false, this::count, answered::release);

    private void count(String message) {
      if (message.startsWith("{\"ack\"")) {
        acknowledged++;
      }
    }
  }

  private static String key(String what, int pitch) {
    return "{\"do\":\"%s\",\"device\":\"keys\",\"channel\":0,\"pitch\":%d,\"velocity\":90}"
        .formatted(what, pitch);
  }

  private void row(String what, String measured, String budget) {
    rows.add(what + "\t" + measured + "\t" + budget);
  }

  @AfterEach
  void tell() throws IOException {
    String file = System.getProperty("ancora.rows", "target/house.rows");
    Files.createDirectories(Path.of(file).getParent());
    Files.write(Path.of(file), rows, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
    rows.forEach(System.out::println);
  }

  @Test
  void bytes() {
    row(
        "bytes to a page a note, clip of 10 / 400 / 3900",
        "%d / %d / %d"
            .formatted(
                PublishingTest.bytesOfANote(10),
                PublishingTest.bytesOfANote(400),
                PublishingTest.bytesOfANote(3900)),
        "700, ±10 %");
  }

  @Test
  void hour() throws IOException, InterruptedException {
    opening(playing());
  }

  /** An hour of dense playing without a stop, in virtual time, each line through the host. */
  private long playing() throws IOException, InterruptedException {
    Show show =
        Show.named("Hour")
            .withRecording(RecordingSettings.DEFAULT.withCountInBars(0))
            .withNewPart("One", Sound.of(1))
            .withNewPart("Two", Sound.of(2))
            .withNewPart("Three", Sound.of(3))
            .withNewPart("Four", Sound.of(4));
    try (House house = House.open(data)) {
      ShowStore store = house.bean(ShowStore.class);
      long id = store.add(show, false);
      Virtual clock = new Virtual();
      StageHost host =
          new StageHost(
              id,
              store,
              house.bean(RunStore.class),
              house.bean(Disk.class),
              house.bean(HouseSettings.class),
              clock,
              JSON);
      Counting page = new Counting();
      host.enter(page.page);
      long sent = 0;
      for (int i = 0; page.acknowledged < LINES || i % 2 == 1; i++) {
        String command;
        if (i % 4000 == 0) {
          command = "{\"do\":\"arm\",\"part\":" + (1 + i / 4000 % 4) + "}";
        } else if (i % 4000 == 2) {
          command = "{\"do\":\"recordAnew\"}";
        } else if (i % 4000 == 134 || i % 400 == 200) {
          command = "{\"do\":\"mainPress\"}";
        } else {
          command = key(i % 2 == 0 ? "keyDown" : "keyUp", 40 + i / 2 % 40);
        }
        clock.now += APART;
        ObjectNode message = (ObjectNode) JSON.readTree(command);
        host.receive(page.page, message.put("seq", ++sent).put("stamp", clock.now));
        page.answered.acquire();
      }
      long before = System.nanoTime();
      while (page.acknowledged < sent * 0.95 && System.nanoTime() - before < 20e9) {
        Thread.sleep(20);
      }
      row(
          "data on disk for an hour, 60 000 lines",
          "%.1f MB".formatted(bytesOn(data) / 1e6),
          "30 MB");
      host.close();
      return id;
    }
  }

  /** What is written in a folder: database and journals, without room that was taken beforehand. */
  private static long bytesOn(Path folder) throws IOException {
    long bytes = Files.size(folder.resolve("ancora.mv.db"));
    try (Stream<Path> files = Files.walk(folder.resolve("journals"))) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        byte[] written = Files.readAllBytes(file);
        int end = written.length;
        while (end > 0 && written[end - 1] == 0) {
          end--;
        }
        bytes += end;
      }
    }
    return bytes;
  }

  private void opening(long show) throws IOException, InterruptedException {
    long began = System.nanoTime();
    try (House house = House.open(data)) {
      long asks = System.nanoTime();
      try (PageStandIn page = new PageStandIn(house.port(), show, "opens");
          PageStandIn performer = new PageStandIn(house.port(), show, "performer")) {
        double notes = page.next("welcome").toString().length() / 1e3;
        long open = System.nanoTime();
        row(
            "restart to an open show after that hour (%.0f kB)".formatted(notes),
            "%.1f s".formatted((open - began) / 1e9),
            "5 s");
        row("  of this, the show alone", "%.1f s".formatted((open - asks) / 1e9), "2 s");
        page.say("{\"run\":{\"list\":true}}");
        JsonNode card = page.next("runs").get(0);
        long asked = System.nanoTime();
        page.say("{\"run\":{\"open\":" + card.get("id") + "}}");
        page.next("run");
        row(
            "  its run opened: %d minutes, %d bars"
                .formatted(card.get("lastsUs").asLong() / 60_000_000, card.get("bars").asInt()),
            "%.2f s".formatted((System.nanoTime() - asked) / 1e9),
            "1 s");
        performer.next("welcome");
        AtomicBoolean on = new AtomicBoolean(true);
        Thread opens = new Thread(() -> openAgainAndAgain(page, card, on));
        opens.start();
        row("  acknowledgement while it is opened, 99 %", acknowledgements(performer), "50 ms");
        on.set(false);
        opens.join();
      }
    }
  }

  private static void openAgainAndAgain(PageStandIn page, JsonNode card, AtomicBoolean on) {
    while (on.get()) {
      page.say("{\"run\":{\"open\":" + card.get("id") + "}}");
      page.next("run");
    }
  }

  /** A show that was played in for a thousand hours opens as soon as a new one. */
  @Test
  void millionLines() throws IOException {
    Path few = data.resolve("few");
    Path many = data.resolve("many lines");
    ManyLines.in(few, 1_000);
    ManyLines.in(many, 1_000_000);
    row("data on disk for a million lines", "%.1f MB".formatted(bytesOn(many) / 1e6), "to compare");
    openingOf(few);
    List<Double> seconds = new ArrayList<>();
    List<Double> times = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      double[] small = openingOf(few);
      double[] large = openingOf(many);
      seconds.add(large[0]);
      times.add(large[1] / small[1]);
    }
    Collections.sort(seconds);
    Collections.sort(times);
    row("  restart to the open show", "%.1f s".formatted(seconds.get(1)), "3 s");
    row("  its processor, to that of a small one", "%.2f".formatted(times.get(1)), "1.2");
  }

  /** Seconds, and seconds of the processor, until a show in a folder is open. */
  private static double[] openingOf(Path folder) {
    long began = System.nanoTime();
    long processor = processor();
    try (House house = House.open(folder);
        PageStandIn page = new PageStandIn(house.port(), 1, "opens")) {
      page.next("welcome");
      return new double[] {(System.nanoTime() - began) / 1e9, (processor() - processor) / 1e9};
    }
  }

  private static long processor() {
    return ((OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean())
        .getProcessCpuTime();
  }

  @Test
  void standstill() throws IOException, InterruptedException {
    Path other = data.resolve("still");
    int strokes = 40;
    try (House house = House.open(other)) {
      long id =
          house.bean(ShowStore.class).add(Show.named("Still").withNewPart("A", Sound.of(1)), false);
      try (PageStandIn page = new PageStandIn(house.port(), id, "still")) {
        page.next("welcome");
        for (int i = 0; i < 2000; i++) {
          page.command(key(i % 2 == 0 ? "keyDown" : "keyUp", 60), page.now());
        }
        Thread.sleep(2000);
        long before = bytesOn(other);
        for (int i = 0; i < strokes; i++) {
          page.done(key("keyDown", 60));
          page.done(key("keyUp", 60));
          Thread.sleep(350);
        }
        long grown = bytesOn(other) - before;
        row(
            "at standstill a key played lets the data grow by",
            "%.1f kB".formatted(Math.max(0, grown) / 1e3 / strokes),
            "4 kB");
      }
    }
  }

  /**
   * Acknowledgements while a page sleeps, a hundred watch, and one sends 5000 commands a second.
   */
  @Test
  void manyPages() throws InterruptedException {
    try (House house = House.open(data.resolve("many"))) {
      long id =
          house.bean(ShowStore.class).add(Show.named("Many").withNewPart("A", Sound.of(1)), false);
      List<WebSocket> watchers = new ArrayList<>();
      HttpClient client = HttpClient.newHttpClient();
      try (PageStandIn performer = new PageStandIn(house.port(), id, "performer");
          PageStandIn flooder = new PageStandIn(house.port(), id, "flooder")) {
        performer.next("welcome");
        row("acknowledgement, one page alone, 99 %", acknowledgements(performer), "15 ms");
        WebSocket asleep = asleep(client, house.port(), id);
        for (int i = 0; i < 100; i++) {
          watchers.add(watching(client, house.port(), id, "watches " + i));
        }
        AtomicBoolean on = new AtomicBoolean(true);
        Thread flood = new Thread(() -> flood(flooder, on));
        flood.start();
        row("  one asleep, 100 watching, 5000/s from one", acknowledgements(performer), "50 ms");
        on.set(false);
        flood.join();
        asleep.abort();
      } finally {
        watchers.forEach(WebSocket::abort);
      }
    }
  }

  private static void flood(PageStandIn flooder, AtomicBoolean on) {
    long stamp = flooder.now() + TimeUnit.HOURS.toMicros(1);
    long next = System.nanoTime();
    while (on.get()) {
      for (int i = 0; i < 25; i++) {
        flooder.command("{\"do\":\"setTempo\",\"bpm\":" + (60 + i) + "}", stamp);
      }
      flooder.forget();
      next += 5_000_000;
      LockSupport.parkNanos(next - System.nanoTime());
    }
  }

  private static String acknowledgements(PageStandIn page) throws InterruptedException {
    long stamp = page.now() + TimeUnit.HOURS.toMicros(1);
    List<Double> times = new ArrayList<>();
    for (int i = 0; i < 1200; i++) {
      long sent = System.nanoTime();
      long number = page.command(key(i % 2 == 0 ? "keyDown" : "keyUp", 60), stamp);
      page.next(m -> m.path("ack").asLong() == number);
      if (i >= 400) {
        times.add((System.nanoTime() - sent) / 1e6);
      }
      Thread.sleep(3);
    }
    Collections.sort(times);
    return "%.1f ms (median %.1f)"
        .formatted(times.get(times.size() * 99 / 100), times.get(times.size() / 2));
  }

  /** Asks for nothing. */
  private static WebSocket asleep(HttpClient client, int port, long show) {
    return page(client, port, show, "asleep", socket -> {});
  }

  /** Takes everything, and does nothing with it. */
  private static WebSocket watching(HttpClient client, int port, long show, String name) {
    return page(client, port, show, name, socket -> socket.request(1));
  }

  private static WebSocket page(
      HttpClient client, int port, long show, String name, Consumer<WebSocket> goesOn) {
    WebSocket socket =
        client
            .newWebSocketBuilder()
            .buildAsync(
                URI.create("ws://localhost:" + port + "/socket/" + show),
                new WebSocket.Listener() {
                  @Override
                  public void onOpen(WebSocket opened) {
                    goesOn.accept(opened);
                  }

                  @Override
                  public CompletionStage<?> onText(
                      WebSocket from, CharSequence text, boolean last) {
                    goesOn.accept(from);
                    return null;
                  }
                })
            .join();
    socket.sendText("{\"hello\":{\"client\":\"" + name + "\"}}", true).join();
    return socket;
  }
}
