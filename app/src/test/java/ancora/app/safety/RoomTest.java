package ancora.app.safety;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.io.IOException;
import java.io.InputStream;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.net.http.WebSocket;
import java.net.http.WebSocketHandshakeException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManagerFactory;
import org.apache.catalina.Context;
import org.apache.catalina.Session;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.tomcat.TomcatWebServer;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ApplicationContext;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Others in the room, over TLS that the JDK's own client checks against the house's certificate.
 */
class RoomTest {

  private static final String HTML = "text/html";
  private static final String JSON = "application/json";

  /** In seconds. */
  private static final int DAY = 86_400;

  @TempDir Path data;
  private final List<Line> lines = new ArrayList<>();
  private House house;
  private long show;

  @BeforeEach
  void open() {
    house = House.open(data, "--ancora.listen=0");
    show =
        house
            .bean(ShowStore.class)
            .add(Show.named("Gale").withNewPart("Kit", Sound.STANDARD_KIT), false);
  }

  @AfterEach
  void close() {
    lines.forEach(Line::cut);
    house.close();
  }

  /** Somebody with a browser, which keeps cookies. */
  private final class Tablet {
    private final HttpClient client;

    Tablet() throws Exception {
      client =
          HttpClient.newBuilder().sslContext(trusting()).cookieHandler(new CookieManager()).build();
    }

    HttpResponse<String> get(String path, String accepts) throws Exception {
      HttpRequest ask =
          HttpRequest.newBuilder(uri("https", path)).header("Accept", accepts).build();
      return client.send(ask, BodyHandlers.ofString());
    }

    HttpResponse<String> post(String path, String form) throws Exception {
      HttpRequest ask =
          HttpRequest.newBuilder(uri("https", path))
              .header("Content-Type", "application/x-www-form-urlencoded")
              .POST(BodyPublishers.ofString(form))
              .build();
      return client.send(ask, BodyHandlers.ofString());
    }

    String token() throws Exception {
      Matcher token =
          Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"").matcher(get("/login", HTML).body());
      assertThat(token.find()).isTrue();
      return "_csrf=" + URLEncoder.encode(token.group(1), StandardCharsets.UTF_8);
    }

    HttpResponse<String> say(String phrase) throws Exception {
      return post(
          "/login", token() + "&phrase=" + URLEncoder.encode(phrase, StandardCharsets.UTF_8));
    }

    Line line(String path) {
      Line line = new Line();
      lines.add(line);
      line.socket = client.newWebSocketBuilder().buildAsync(uri("wss", path), line).join();
      return line;
    }

    /** With which status a socket is refused. */
    int refused(String path) {
      try {
        line(path).socket.abort();
        return 101;
      } catch (CompletionException refused) {
        return ((WebSocketHandshakeException) refused.getCause()).getResponse().statusCode();
      }
    }
  }

  /** The end of a socket. */
  private static final class Line implements WebSocket.Listener {
    private final BlockingQueue<String> heard = new LinkedBlockingQueue<>();
    private WebSocket socket;

    @Override
    public CompletionStage<?> onText(WebSocket from, CharSequence text, boolean last) {
      heard.add(text.toString());
      from.request(1);
      return null;
    }

    @Override
    public CompletionStage<?> onClose(WebSocket from, int status, String reason) {
      heard.add("closed " + status);
      return null;
    }

    void cut() {
      if (socket != null) {
        socket.abort();
      }
    }

    void ends() throws InterruptedException {
      String said = "";
      while (said != null && !said.startsWith("closed")) {
        said = heard.poll(60, TimeUnit.SECONDS);
      }
      assertThat(said).isNotNull();
    }

    String asks(String message, String answer) throws InterruptedException {
      socket.sendText(message, true).join();
      String all = "";
      while (!all.contains(answer)) {
        String next = heard.poll(60, TimeUnit.SECONDS);
        assertThat(next).as("an answer with %s after %s", answer, all).isNotNull();
        all += next;
      }
      return all;
    }
  }

  private URI uri(String scheme, String path) {
    return URI.create(scheme + "://127.0.0.1:" + house.bean(Invitation.class).port() + path);
  }

  private PassPhrases phrases() {
    return PassPhrases.of(data);
  }

  private SSLContext trusting() throws Exception {
    KeyStore own = KeyStore.getInstance("PKCS12");
    try (InputStream in = Files.newInputStream(data.resolve(Certificate.FILE))) {
      own.load(in, Certificate.PASSWORD.toCharArray());
    }
    KeyStore trusted = KeyStore.getInstance("PKCS12");
    trusted.load(null, null);
    trusted.setCertificateEntry("house", own.getCertificate(Certificate.ALIAS));
    TrustManagerFactory trust = TrustManagerFactory.getInstance("PKIX");
    trust.init(trusted);
    SSLContext context = SSLContext.getInstance("TLS");
    context.init(null, trust.getTrustManagers(), null);
    return context;
  }

  private Tablet in(String phrase) throws Exception {
    Tablet tablet = new Tablet();
    HttpResponse<String> answer = tablet.say(phrase);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(302);
    return tablet;
  }

  @Test
  void whoSaysNothingIsAskedForThePhrase() throws Exception {
    Tablet stranger = new Tablet();
    HttpResponse<String> asked = stranger.get("/", HTML);
    assertThat(asked.statusCode()).isEqualTo(302);
    assertThat(asked.headers().firstValue("Location").orElseThrow()).endsWith("/login");
    // a browser would trust a certificate that nobody has signed no more after this
    assertThat(asked.headers().firstValue("Strict-Transport-Security")).isEmpty();
    assertThat(stranger.get("/login", HTML).body()).contains("Pass phrase").doesNotContain("Gale");
    assertThat(stranger.get("/shows.json", JSON).body()).startsWith("Say the pass phrase first");
    assertThat(stranger.refused("/socket/" + show)).isEqualTo(401);
    assertThat(stranger.refused("/socket/" + show + "?view=watch")).isEqualTo(401);
  }

  @Test
  void whoPerformsDoesAll() throws Exception {
    Tablet tablet = in(phrases().perform());
    assertThat(tablet.get("/", HTML).body())
        .contains("Gale", "New show")
        .doesNotContain("to play, with");
    assertThat(tablet.get("/shows/" + show, HTML).statusCode()).isEqualTo(200);
    Line line = tablet.line("/socket/" + show);
    line.asks("{\"hello\":{\"client\":\"tablet\"}}", "\"welcome\"");
    line.asks("{\"seq\":1,\"stamp\":0,\"do\":\"rename\"}", "\"refused\":1");
    assertThat(tablet.post("/shows", tablet.token() + "&title=Squall").statusCode()).isEqualTo(302);
    assertThat(house.bean(ShowStore.class).cards()).extracting("title").contains("Squall");
  }

  @Test
  void whoWatchesSeesWhatSoundsAndNoMore() throws Exception {
    Tablet tablet = in(phrases().watch());
    assertThat(tablet.get("/", HTML).body())
        .contains("Gale", "view=watch")
        .doesNotContain("New show", "Delete");
    HttpResponse<String> stage = tablet.get("/shows/" + show, HTML);
    assertThat(stage.headers().firstValue("Location").orElseThrow())
        .endsWith("/shows/" + show + "?view=watch");
    assertThat(tablet.get("/shows/" + show + "?view=watch", HTML).body()).contains("What sounds");
    assertThat(tablet.refused("/socket/" + show)).isEqualTo(403);
    Line line = tablet.line("/socket/" + show + "?view=watch");
    line.asks("{\"hello\":{\"client\":\"phone\"}}", "\"welcome\"");
    assertThat(line.asks("{\"seq\":1,\"stamp\":0,\"do\":\"start\"}", "\"refused\":1"))
        .contains("only watches");
  }

  /** Every address of the house, as the framework knows them. */
  @Test
  void whatIsNotForThemIsRefusedToWatchersAndStrangersAlike() throws Exception {
    Tablet watcher = in(phrases().watch());
    Tablet stranger = new Tablet();
    String token = watcher.token();
    String strangers = stranger.token();
    List<String> open = List.of("/login", "/known", "/", "/login/again");
    int asked = 0;
    for (RequestMappingInfo info : mapping().getHandlerMethods().keySet()) {
      for (String pattern : info.getPatternValues()) {
        String path = pattern.replaceAll("\\{[^}]*}", "" + show);
        if (open.contains(path) || path.equals("/error") || path.contains("*")) {
          continue;
        }
        boolean posts = info.getMethodsCondition().getMethods().contains(RequestMethod.POST);
        HttpResponse<String> answer = posts ? watcher.post(path, token) : watcher.get(path, JSON);
        HttpResponse<String> none =
            posts ? stranger.post(path, strangers) : stranger.get(path, JSON);
        assertThat(answer.statusCode()).as("%s: %s", path, answer.body()).isEqualTo(403);
        assertThat(answer.body()).startsWith("With this pass phrase you watch");
        assertThat(none.statusCode()).as("%s: %s", path, none.body()).isEqualTo(401);
        asked++;
      }
    }
    assertThat(asked).isGreaterThan(25);
    assertThat(watcher.get("/actuator/health", JSON).statusCode()).isEqualTo(403);
    assertThat(house.bean(ShowStore.class).cards()).hasSize(1);
  }

  private RequestMappingHandlerMapping mapping() {
    return house
        .bean(ApplicationContext.class)
        .getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class);
  }

  /** By this machine's own door a page that watches is told apart by where it asks from. */
  @Test
  void aPageThatWatchesChangesNothingOnThisMachineEither() throws Exception {
    HttpClient here = HttpClient.newBuilder().cookieHandler(new CookieManager()).build();
    String list =
        here.send(
                HttpRequest.newBuilder(URI.create(house.url("/"))).build(), BodyHandlers.ofString())
            .body();
    Matcher token = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"").matcher(list);
    assertThat(token.find()).isTrue();
    String form = "title=Squall&_csrf=" + URLEncoder.encode(token.group(1), StandardCharsets.UTF_8);
    List<Integer> statuses = new ArrayList<>();
    for (String from : List.of("/shows/" + show + "?view=watch", "/")) {
      HttpRequest ask =
          HttpRequest.newBuilder(URI.create(house.url("/shows")))
              .header("Content-Type", "application/x-www-form-urlencoded")
              .header("Referer", house.url(from))
              .POST(BodyPublishers.ofString(form))
              .build();
      statuses.add(here.send(ask, BodyHandlers.ofString()).statusCode());
    }
    assertThat(statuses).containsExactly(403, 302);
  }

  @Test
  void fiveWrongPhrasesCostAMinuteAndNobodyWhoIsInIsSentAway() throws Exception {
    Tablet before = in(phrases().watch());
    Tablet tablet = new Tablet();
    for (int i = 1; i < Tries.FROM_ONE; i++) {
      HttpResponse<String> wrong = tablet.say("lantern oar mist " + i);
      assertThat(wrong.statusCode()).isEqualTo(401);
      assertThat(wrong.body()).contains("That is not one of the two pass phrases");
    }
    assertThat(tablet.say("").body())
        .contains("too many wrong pass phrases: try again in a minute");
    HttpResponse<String> right = tablet.say(phrases().perform());
    assertThat(right.statusCode()).isEqualTo(429);
    assertThat(right.body()).containsPattern("try again in \\d+ seconds");
    assertThat(before.get("/known", JSON).statusCode()).isEqualTo(204);
    assertThat(Files.readString(data.resolve("ancora.log")))
        .contains("too many wrong pass phrases, the last from 127.0.0.1: a minute's wait");
  }

  /** Kept cookies and the certificate are good after the house was ended and started again. */
  @Test
  void whoWasInIsKnownAfterAStart() throws Exception {
    Tablet tablet = in(phrases().perform());
    String certificate = house.bean(Room.class).certificate().orElseThrow().fingerprint();
    house.close();
    house = House.open(data, "--ancora.listen=0");
    assertThat(house.bean(Room.class).certificate().orElseThrow().fingerprint())
        .isEqualTo(certificate);
    assertThat(tablet.get("/", HTML).body()).contains("Gale", "New show");
    assertThat(tablet.refused("/socket/" + show)).isEqualTo(101);
  }

  @Test
  void aVisitIsForEverWhileASocketOfItIsOpenAndADayBeyond() throws Exception {
    Tablet stays = in(phrases().watch());
    Session visit = visits().get(0);
    assertThat(visit.getMaxInactiveInterval()).isEqualTo(DAY);
    Line first = stays.line("/socket/" + show + "?view=watch");
    first.asks("{\"hello\":{\"client\":\"phone\"}}", "\"welcome\"");
    Line second = stays.line("/socket/" + show + "?view=watch");
    second.asks("{\"hello\":{\"client\":\"tablet\"}}", "\"welcome\"");
    assertThat(visits()).containsExactly(visit);
    assertThat(visit.getMaxInactiveInterval()).isEqualTo(-1);
    first.socket.sendClose(WebSocket.NORMAL_CLOSURE, "").join();
    first.ends();
    assertThat(visit.getMaxInactiveInterval()).isEqualTo(-1);
    second.socket.abort();
    long tries = 0;
    while (visit.getMaxInactiveInterval() < 0 && tries++ < 60_000) {
      TimeUnit.MILLISECONDS.sleep(1);
    }
    assertThat(visit.getMaxInactiveInterval()).isGreaterThanOrEqualTo(DAY);
  }

  private List<Session> visits() {
    TomcatWebServer server =
        (TomcatWebServer) house.bean(ServletWebServerApplicationContext.class).getWebServer();
    Context pages = (Context) server.getTomcat().getHost().findChildren()[0];
    return List.of(pages.getManager().findSessions());
  }

  /** By the clock: nothing is asked for during a minute, and again, until a visit is over. */
  @Test
  @EnabledIfSystemProperty(named = "ancora.long", matches = "true")
  void aSocketIsNotCutOffWhereAVisitOfAMinuteWouldBeOver() throws Exception {
    house.close();
    house = House.open(data, "--ancora.listen=0", "--ancora.stay=1m");
    Tablet stays = in(phrases().watch());
    Line line = stays.line("/socket/" + show + "?view=watch");
    line.asks("{\"hello\":{\"client\":\"phone\"}}", "\"welcome\"");
    Tablet goes = in(phrases().watch());
    do {
      TimeUnit.SECONDS.sleep(61);
    } while (goes.get("/known", JSON).statusCode() != 401);
    line.asks("{\"ping\":7}", "\"pong\":7");
    assertThat(line.heard).noneMatch(said -> said.startsWith("closed"));
    assertThat(stays.get("/known", JSON).statusCode()).isEqualTo(204);
  }

  @Test
  void aStrangeNameIsTurnedAway() throws Exception {
    for (String host : List.of("lighthouse.example", "127.0.0.1.example:443", "")) {
      assertThat(raw("GET /login HTTP/1.1\r\nHost: " + host + "\r\nConnection: close\r\n\r\n"))
          .startsWith("HTTP/1.1 40");
    }
    assertThat(raw("GET /login HTTP/1.1\r\nHost: 198.51.100.9\r\nConnection: close\r\n\r\n"))
        .startsWith("HTTP/1.1 200");
    String other = "Host: 198.51.100.9\r\nOrigin: https://lighthouse.example\r\n";
    assertThat(
            raw(
                "POST /login HTTP/1.1\r\n"
                    + other
                    + "Content-Length: 0\r\nConnection: close\r\n\r\n"))
        .startsWith("HTTP/1.1 403");
  }

  private String raw(String request) throws Exception {
    try (SSLSocket socket =
        (SSLSocket)
            trusting().getSocketFactory().createSocket("127.0.0.1", uri("https", "/").getPort())) {
      socket.getOutputStream().write(request.getBytes(StandardCharsets.US_ASCII));
      return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException cut) {
      return "cut off: " + cut;
    }
  }
}
