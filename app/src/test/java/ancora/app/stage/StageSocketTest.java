package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.LongTable;
import ancora.app.PageStandIn;
import ancora.app.journal.CommandJson;
import ancora.app.store.JournalRow;
import ancora.app.store.Journals;
import ancora.app.store.ShowStore;
import ancora.core.engine.Engine;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The socket, the store behind it, and the doors before it, with real connections. */
@Timeout(300)
class StageSocketTest {

  private static final String KEY =
      "{\"do\":\"keyDown\",\"device\":\"pads\",\"channel\":9,\"pitch\":36,\"velocity\":90}";
  private static final String KEY_UP =
      "{\"do\":\"keyUp\",\"device\":\"pads\",\"channel\":9,\"pitch\":36}";

  @TempDir static Path data;
  private static House house;
  private long show;

  @BeforeAll
  static void open() {
    house = House.open(data);
  }

  @AfterAll
  static void close() {
    house.close();
  }

  @BeforeEach
  void newShow() {
    show =
        house
            .bean(ShowStore.class)
            .add(Show.named("Rehearsal").withNewPart("Kit", Sound.STANDARD_KIT), false);
  }

  private PageStandIn page(String client) {
    return new PageStandIn(house.port(), show, client);
  }

  @Test
  void aPageIsWelcomedWithAllThereIs() {
    try (PageStandIn page = page("one")) {
      JsonNode welcome = page.next("welcome");
      assertThat(welcome.at("/state/show/title").asString()).isEqualTo("Rehearsal");
      assertThat(welcome.at("/plan/rolling").asBoolean()).isFalse();
      assertThat(welcome.get("press").get("{\"do\":\"mainPress\"}").asString())
          .isEqualTo("count in 1 bar, then record Kit");
    }
  }

  @Test
  void severalPagesSeeTheSame() {
    try (PageStandIn one = page("one");
        PageStandIn two = page("two")) {
      one.next("welcome");
      two.next("welcome");
      one.done("{\"do\":\"setTempo\",\"bpm\":97.3}");
      assertThat(two.next("state").at("/show/bpm").asDouble()).isEqualTo(97.3);
      two.done("{\"do\":\"mainPress\"}");
      assertThat(one.next(m -> m.at("/state/transport/rolling").asBoolean())).isNotNull();
      assertThat(one.next(m -> m.at("/plan/rolling").asBoolean()).at("/plan/firstTick").asLong())
          .isEqualTo(-3840);
    }
  }

  @Test
  void badInputGetsASentenceAndTheConnectionStays() {
    try (PageStandIn page = page("one")) {
      page.next("welcome");
      assertThat(page.say("not json").next("error").asString()).contains("JSON");
      assertThat(page.say("[1,2]").next("error").asString()).endsWith(".");
      assertThat(page.say("{\"what\":1}").next("error").asString()).contains("not understood");
      assertThat(page.say("{\"x\":\"" + "y".repeat(20_000) + "\"}").next("error").asString())
          .contains("too long");
      assertThat(page.say("{\"do\":\"mainPress\"}").next("error").asString()).contains("seq");
      page.command("{\"do\":\"stop\"}", page.now());
      assertThat(page.next(m -> m.has("refused")).get("why").asString()).contains("stands still");
      page.command("{\"do\":\"setTempo\",\"bpm\":500}", page.now());
      assertThat(page.next(m -> m.has("refused")).get("why").asString()).contains("20 to 400");
      page.say("{\"standIn\":{\"pattern\":\"tide hats\"}}");
      assertThat(page.next("error").asString()).contains("seed");
      page.done("{\"do\":\"setTempo\",\"bpm\":90}");
    }
  }

  /** Every message is answered, and what is broken in it harms no page, now or later. */
  @Test
  void whatIsBrokenIsAnsweredAndHarmsNobody() {
    try (PageStandIn page = page("one")) {
      page.next("welcome");
      for (String broken :
          List.of(
              "{\"controls\":null}",
              "{\"controls\":[]}",
              "{\"clockTo\":null}",
              "{\"clockTo\":[null]}",
              "{\"measure\":null}",
              "{\"standIn\":null}",
              "{\"bytes\":null,\"device\":\"d\"}",
              "{\"hold\":\"Pad \\ud83c\"}")) {
        assertThat(page.say(broken).next("error").asString()).as(broken).endsWith(".");
      }
      for (String broken :
          List.of(
              "{\"do\":\"splitClip\",\"part\":1,\"clip\":1,\"pitches\":[36,36]}",
              "{\"do\":\"splitClip\",\"part\":1,\"clip\":1,\"pitches\":[null]}",
              "{\"do\":\"comp\",\"part\":1,\"clip\":1,\"stretches\":[null]}",
              "{\"do\":\"comp\",\"part\":1,\"clip\":1,\"stretches\":{}}",
              "{\"do\":\"setBalance\",\"part\":1,\"level\":null}")) {
        long number = page.command(broken, page.now());
        JsonNode answer = page.next(m -> m.path("refused").asLong() == number);
        assertThat(answer.get("why").asString()).as(broken).endsWith(".");
      }
      page.say("{\"do\":\"rename\",\"title\":\"Pad \\ud83c\",\"seq\":6,\"stamp\":1}");
      assertThat(page.next(m -> m.path("refused").asLong() == 6).get("why").asString())
          .as("half a character")
          .endsWith(".");
    }
    house.close();
    house = House.open(data);
    try (PageStandIn page = page("two")) {
      page.next("welcome");
      page.done("{\"do\":\"setTempo\",\"bpm\":90}");
    }
  }

  /** A tablet that sleeps takes nothing from the line: the performer does not wait for it. */
  @Test
  void aPageThatDoesNotReadDelaysNobody() {
    try (PageStandIn page = page("one")) {
      page.next("welcome");
      WebSocket asleep = asleep();
      String long16 = "{\"ping\":\"" + "z".repeat(15_000) + "\"}";
      boolean open = true;
      // far more than waits on the line itself, however late a slow machine gets to it
      for (int i = 0; i < 100_000 && open; i++) {
        open = asleep.sendText(long16, true).handle((sent, gone) -> gone == null).join();
      }
      assertThat(open).as("it is sent away once too much waits for it").isFalse();
      for (int i = 0; i < 20; i++) {
        page.done("{\"do\":\"setTempo\",\"bpm\":" + (90 + i) + "}");
      }
      asleep.abort();
    }
  }

  private WebSocket asleep() {
    WebSocket socket =
        HttpClient.newHttpClient()
            .newWebSocketBuilder()
            .buildAsync(
                URI.create("ws://localhost:" + house.port() + "/socket/" + show),
                new WebSocket.Listener() {
                  @Override
                  public void onOpen(WebSocket opened) {
                    // asks for nothing
                  }
                })
            .join();
    socket.sendText("{\"hello\":{\"client\":\"asleep\"}}", true).join();
    return socket;
  }

  /**
   * A duplicated tab has the same name: what it does is done, and so is what the first one does.
   */
  @Test
  void twoPagesOfOneNameAreToldApart() {
    try (PageStandIn one = new PageStandIn(house.port(), show, null);
        PageStandIn two = new PageStandIn(house.port(), show, null)) {
      one.say("{\"hello\":{\"client\":\"tab\",\"instance\":\"a\"}}");
      assertThat(one.next("welcome").get("client").asString()).isEqualTo("tab");
      one.done("{\"do\":\"setTempo\",\"bpm\":90}");
      two.say("{\"hello\":{\"client\":\"tab\",\"instance\":\"b\"}}");
      JsonNode welcome = two.next("welcome");
      assertThat(welcome.get("client").asString()).isEqualTo("tab~2");
      assertThat(welcome.get("last").asLong()).isZero();
      two.done("{\"do\":\"setTempo\",\"bpm\":91}");
      assertThat(one.next(m -> m.at("/state/show/bpm").asDouble() == 91)).isNotNull();
    }
    try (PageStandIn again = new PageStandIn(house.port(), show, null)) {
      again.say("{\"hello\":{\"client\":\"tab\",\"instance\":\"c\"}}");
      assertThat(again.next("welcome").get("last").asLong())
          .as("after a reload it is the same page")
          .isEqualTo(1);
    }
  }

  /** A line that cannot be done again is passed over: the show opens. */
  @Test
  void aJournalWithBrokenLinesOpens() throws IOException {
    Journals journals = house.bean(Journals.class);
    List<String> lines =
        List.of(
            "not json",
            "[]",
            "{\"do\":\"setTempo\"}",
            "{\"do\":\"comp\",\"part\":1,\"clip\":1,\"stretches\":7}",
            "{\"do\":\"setTempo\",\"bpm\":91}");
    for (int i = 0; i < lines.size(); i++) {
      journals.append(
          show, List.of(new JournalRow(i + 1, 0, i, "old", i + 1, lines.get(i), Engine.RULES)));
    }
    try (PageStandIn page = page("one")) {
      assertThat(page.next("welcome").at("/state/show/bpm").asDouble()).isEqualTo(91);
    }
  }

  /** What hands held at a page that has gone is let go, at the instant it went. */
  @Test
  void aPageThatGoesLetsGoOfItsKeys() {
    try (PageStandIn watcher = page("other")) {
      watcher.next("welcome");
      try (PageStandIn page = page("goes")) {
        page.next("welcome");
        page.done("{\"do\":\"start\"}");
        page.done(KEY);
        page.done("{\"do\":\"sustain\",\"device\":\"pads\",\"channel\":9,\"value\":127}");
      }
      watcher.next(m -> m.has("state"));
      watcher.done("{\"do\":\"stop\"}");
      ShowStore store = house.bean(ShowStore.class);
      // the show is saved only once no key is down any more
      while (store.find(show).orElseThrow().seq() == 0
          || !store.find(show).orElseThrow().stage().heldKeys().isEmpty()) {
        watcher.now();
      }
      assertThat(house.bean(Journals.class).after(show, 0).stream().map(JournalRow::command))
          .anyMatch(command -> command.contains("keyUp"))
          .anyMatch(command -> command.contains("\"value\":0"));
    }
  }

  /** Done at once, and then as if it had not been: for the page, and for the journal. */
  @Test
  void aPressThatTurnsOutToBeAnotherIsTakenBack() throws IOException {
    List<JournalRow> rows = List.of();
    // a busy machine may take longer than a foot: then it is done again, in another show
    for (int again = 0; again < 20 && isLate(rows); again++) {
      newShow();
      try (PageStandIn page = page("one")) {
        page.next("welcome");
        page.done("{\"do\":\"start\"}");
        long stamp = page.now();
        String act = "{\"do\":\"act\",\"action\":\"%s\",\"number\":0}";
        long press = page.command(act.formatted("MAIN"), stamp);
        page.command(KEY, stamp + 50_000);
        String instead =
            "{\"do\":\"instead\",\"press\":"
                + press
                + ",\"command\":"
                + act.formatted("CLICK")
                + "}";
        long last = page.command(instead, stamp);
        page.next(m -> m.path("ack").asLong() == last);
        rows = house.bean(Journals.class).after(show, 0);
      }
    }
    assertThat(rows.get(3).command()).contains("\"of\":2");
    Engine engine = Engine.of(Show.named("Rehearsal").withNewPart("Kit", Sound.STANDARD_KIT));
    for (JournalRow row : rows) {
      JsonNode command = JsonMapper.shared().readTree(row.command());
      engine.apply(CommandJson.read(command), row.stampUs(), row.appliedUs());
    }
    assertThat(engine.stage().on(engine.stage().show().parts().get(0).id()).first()).isEmpty();
    assertThat(engine.stage().heldKeys()).hasSize(1);
    assertThat(engine.stage().show().click().on()).isFalse();
  }

  private static boolean isLate(List<JournalRow> rows) {
    return rows.size() < 4
        || rows.get(3).appliedUs() - rows.get(1).appliedUs() > Engine.TAKEN_BACK_WITHIN;
  }

  @Test
  void anUnknownShowIsSaid() {
    show = 99_999;
    try (PageStandIn page = page("one")) {
      assertThat(page.next("error").asString()).contains("no such show");
    }
  }

  @Test
  void whatIsSentAgainIsDoneOnce() {
    try (PageStandIn page = page("one")) {
      page.next("welcome");
      String tap = "{\"seq\":1,\"stamp\":" + page.now() + ",\"do\":\"start\"}";
      page.say(tap);
      assertThat(page.next("ack").asLong()).isEqualTo(1);
      page.say(tap);
      assertThat(page.next(m -> m.has("ack") || m.has("refused")).has("ack")).isTrue();
    }
  }

  /** Asked again and again: what a page is told may come before the answer that it waits for. */
  private void untilThereIsAClip() {
    for (int asked = 0; ; asked++) {
      try (PageStandIn page = page("asks " + asked)) {
        if (page.next("welcome").at("/state/clips").size() > 0) {
          return;
        }
      }
    }
  }

  /**
   * All that was done is found again by a new host, exactly, while the transport runs on in phase.
   */
  @Test
  void aRestartFindsItAllAgain() {
    JsonNode anchors;
    JsonNode clips;
    try (PageStandIn page = page("one")) {
      page.next("welcome");
      page.done(
          "{\"do\":\"setRecording\",\"entersOn\":\"NOW\",\"closesOn\":\"BEAT\",\"forgiveness\":120,\"lengthRule\":\"ANY\",\"fixedUnits\":1,\"overdubAfter\":true,\"countInBars\":0,\"breatherBars\":0,\"mergePedals\":false,\"fromFirstNote\":false}");
      page.done("{\"do\":\"setTempo\",\"bpm\":400}");
      page.done("{\"do\":\"mainPress\"}");
      page.done(KEY);
      page.done(KEY_UP);
      untilThereIsAClip();
      page.done(KEY);
      page.done(KEY_UP);
    }
    try (PageStandIn page = page("two")) {
      JsonNode state = page.next("welcome").get("state");
      anchors = state.at("/transport/anchors");
      clips = state.get("clips");
      assertThat(clips.size()).isEqualTo(1);
      assertThat(anchors.size()).isEqualTo(1);
    }
    house.close();
    house = House.open(data);
    try (PageStandIn page = page("three")) {
      JsonNode state = page.next("welcome").get("state");
      assertThat(state.at("/transport/anchors")).isEqualTo(anchors);
      assertThat(state.get("clips")).isEqualTo(clips);
      page.done("{\"do\":\"peel\"}");
      page.done("{\"do\":\"stop\"}");
    }
    house.close();
    house = House.open(data);
    try (PageStandIn page = page("four")) {
      JsonNode welcome = page.next("welcome");
      assertThat(welcome.at("/state/transport/rolling").asBoolean()).isFalse();
      assertThat(welcome.at("/state/clips").iterator().next().get("peeled").asInt()).isEqualTo(1);
      assertThat(welcome.get("press").get("LONG {\"do\":\"restore\"}").asString())
          .startsWith("put back layer 2");
    }
  }

  @Test
  void tapsTellHowLateTheyArrive() {
    try (PageStandIn page = page("one")) {
      page.say("{\"measure\":0}");
      assertThat(page.next("error").asString()).startsWith("Start first");
      page.command("{\"do\":\"start\"}", page.now());
      long first =
          page.next(m -> m.at("/state/transport/anchors/0").isArray())
              .at("/state/transport/anchors/0/1")
              .asLong();
      while (page.now() < first + 20_000) {
        Thread.onSpinWait();
      }
      for (int i = 0; i < 16; i++) {
        page.command(KEY.replace("36", String.valueOf(40 + i)), first + 20_000);
      }
      page.say("{\"measure\":%d}".formatted(first));
      JsonNode measured = page.next("measured");
      assertThat(measured.get("taps").asInt()).isEqualTo(16);
      assertThat(measured.get("offset").asInt()).isEqualTo(20);
      assertThat(measured.get("spread").asInt()).isZero();
      assertThat(measured.get("clear").asBoolean()).isTrue();
    }
  }

  private static final int KILLS = Boolean.getBoolean("ancora.long") ? 50 : 2;

  /** What is acknowledged is there again, once, after each of some kills in the middle of it. */
  @Test
  @Timeout(value = 40, unit = TimeUnit.MINUTES)
  void whatIsAcknowledgedSurvivesKills() throws IOException, InterruptedException {
    Path other = data.resolve("killed");
    Set<Long> acknowledged = new TreeSet<>();
    for (int kill = 0; kill < KILLS; kill++) {
      Process process =
          House.begun(
              other,
              0,
              "--ancora.demo=true",
              "--logging.level.org.springframework.boot.tomcat=info");
      try (PageStandIn page = new PageStandIn(portOf(process), 1, "one")) {
        JsonNode welcome = page.next("welcome");
        assertThat(acknowledged).allMatch(number -> number <= welcome.get("last").asLong());
        assertThat(welcome.at("/state/transport/rolling").asBoolean()).isEqualTo(kill > 0);
        page.goOnFrom(welcome.get("last").asLong());
        if (kill == 0) {
          page.done("{\"do\":\"setTempo\",\"bpm\":123.456}");
          page.done("{\"do\":\"start\"}");
        }
        long stamp = page.now() + TimeUnit.HOURS.toMicros(1);
        for (int i = 0; i < 400; i++) {
          page.command(i % 2 == 0 ? KEY : KEY_UP, stamp);
          if (i == 350) {
            acknowledged.add(page.next(m -> m.has("ack")).get("ack").asLong());
          }
        }
        process.destroyForcibly().waitFor(60, TimeUnit.SECONDS);
        page.heard()
            .filter(m -> m.has("ack"))
            .forEach(m -> acknowledged.add(m.get("ack").asLong()));
      } finally {
        process.destroyForcibly().waitFor(60, TimeUnit.SECONDS);
      }
    }
    try (House again = House.open(other);
        PageStandIn page = new PageStandIn(again.port(), 1, "two")) {
      JsonNode state = page.next("welcome").get("state");
      assertThat(state.at("/show/bpm").asDouble()).isEqualTo(123.456);
      List<Long> kept =
          again.bean(Journals.class).after(1, 0).stream()
              .filter(row -> row.client().equals("one"))
              .map(JournalRow::clientSeq)
              .toList();
      assertThat(kept).doesNotHaveDuplicates().containsAll(acknowledged);
      // one at least before each kill
      assertThat(acknowledged).hasSizeGreaterThanOrEqualTo(KILLS);
      LongTable.row(
          "%s kills: commands kept, acknowledged, lost or doubled".formatted(KILLS),
          "%s, %s, 0".formatted(kept.size(), acknowledged.size()));
    }
  }

  private static int portOf(Process process) throws IOException {
    var reader = process.inputReader();
    for (String line = reader.readLine(); line != null; line = reader.readLine()) {
      var found = java.util.regex.Pattern.compile("started on port (\\d+)").matcher(line);
      if (found.find()) {
        return Integer.parseInt(found.group(1));
      }
    }
    throw new AssertionError("it did not start");
  }

  @Test
  void strangersAreTurnedAway() throws IOException, InterruptedException {
    HttpClient client = HttpClient.newHttpClient();
    HttpRequest.Builder form =
        HttpRequest.newBuilder(URI.create(house.url("/shows")))
            .header("Content-Type", "application/x-www-form-urlencoded")
            .POST(HttpRequest.BodyPublishers.ofString("title=Stolen"));
    assertThat(status(client, form)).as("a form without token").isEqualTo(403);
    assertThat(
            status(
                client,
                HttpRequest.newBuilder(URI.create(house.url("/")))
                    .header("Origin", "http://elsewhere.example")))
        .isEqualTo(403);
    HttpResponse<String> home =
        client.send(
            HttpRequest.newBuilder(URI.create(house.url("/"))).build(),
            HttpResponse.BodyHandlers.ofString());
    assertThat(home.statusCode()).isEqualTo(200);
    assertThat(home.headers().firstValue("Content-Security-Policy").orElseThrow())
        .contains("default-src 'self'")
        .doesNotContain("unsafe-inline");
    assertThat(status(client, HttpRequest.newBuilder(URI.create(house.url("/actuator/health")))))
        .isEqualTo(200);
    assertThat(status(client, HttpRequest.newBuilder(URI.create(house.url("/h2-console")))))
        .isEqualTo(404);
  }

  private static int status(HttpClient client, HttpRequest.Builder request)
      throws IOException, InterruptedException {
    return client.send(request.build(), HttpResponse.BodyHandlers.ofString()).statusCode();
  }

  /** What a stand-in device sends goes to the page that has the sound, and nowhere else. */
  @Test
  void bytesOfDevicesAreRelayedToTheHolder() {
    try (PageStandIn stage = page("stage");
        PageStandIn devices = page("devices")) {
      stage.next("welcome");
      devices.next("welcome");
      stage.say("{\"hold\":true}");
      stage.next("holder");
      devices.say("{\"bytes\":[144,60,90],\"device\":\"stand-in keyboard\",\"stamp\":5}");
      assertThat(stage.next("bytes").toString())
          .isEqualTo("{\"device\":\"stand-in keyboard\",\"stamp\":5,\"bytes\":[144,60,90]}");
      for (String wrong :
          new String[] {
            "[256]", "[]", "[1.5]", "\"x\"", "[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15,16,17]"
          }) {
        devices.say("{\"bytes\":" + wrong + ",\"device\":\"x\",\"stamp\":5}");
        assertThat(devices.next("error").stringValue()).contains("0 to 255");
      }
      devices.say(
          "{\"controls\":{\"format\":9,\"name\":\"x\",\"assignments\":[],\"lamps\":{\"nothing\":0,\"ready\":1,\"sounding\":2,\"cued\":3,\"recording\":4,\"on\":5}}}");
      assertThat(devices.next("error").stringValue()).contains("format 9");
    }
    try (PageStandIn stage = page("stage")) {
      assertThat(stage.next("welcome").at("/controls/map/name").stringValue())
          .isEqualTo("stand-in devices");
    }
  }
}
