package ancora.app.stage;

import static java.nio.charset.StandardCharsets.UTF_8;

import ancora.app.journal.CommandJson;
import ancora.app.safety.Visits;
import ancora.app.time.HouseClock;
import ancora.core.Refusal;
import jakarta.servlet.http.HttpSession;
import jakarta.websocket.Session;
import java.io.IOException;
import java.net.URI;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.socket.CloseStatus;
import org.springframework.web.socket.TextMessage;
import org.springframework.web.socket.WebSocketSession;
import org.springframework.web.socket.adapter.NativeWebSocketSession;
import org.springframework.web.socket.handler.TextWebSocketHandler;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The socket between a page and the host of its show; {@code docs/protocol.md} describes it. */
@Component
class StageSocket extends TextWebSocketHandler {

  /** A longer message is refused, in characters. */
  static final int LONGEST_MESSAGE = 16_384;

  /** The attribute of a socket that is the visit which it is of. */
  static final String VISIT = "visit";

  /** A view of the Stage that shows all and changes nothing. */
  static final String WATCH = "watch";

  private static final Logger LOG = LoggerFactory.getLogger(StageSocket.class);

  /** A page whose line takes nothing at all for so long has gone. */
  private static final long SEND_WITHIN_MILLIS = 20_000;

  /** The close code of a page that did not read. */
  private static final int SLOW = 4008;

  private static final int MOST_WAITING = 64;

  private static final int LONGEST_CLIENT = 40;

  private final StageHouse house;
  private final HouseClock clock;
  private final JsonMapper json;
  private final Visits visits;
  private final Map<String, Seat> seats = new ConcurrentHashMap<>();

  StageSocket(StageHouse house, HouseClock clock, JsonMapper json, Visits visits) {
    this.house = house;
    this.clock = clock;
    this.json = json;
    this.visits = visits;
  }

  /** A connection, and the page at its end once that has said hello. */
  private final class Seat implements Outbox.Line {
    private final WebSocketSession session;
    private final long showId;
    private final boolean watches;
    private final Outbox outbox;

    /** So many messages of a page may wait; then its own line waits, and nobody else. */
    private final Semaphore room = new Semaphore(MOST_WAITING);

    private volatile Optional<StageHost> host = Optional.empty();
    private volatile Optional<Page> page = Optional.empty();

    Seat(WebSocketSession session, URI uri) {
      this.session = session;
      this.showId = showId(uri);
      this.watches = uri != null && ("view=" + WATCH).equals(uri.getQuery());
      this.outbox = new Outbox(session.getId(), this, System::nanoTime);
    }

    /** Waits for room for a message; refuses where there is none for long. */
    private void await() {
      try {
        Refusal.unless(
            room.tryAcquire(SEND_WITHIN_MILLIS, TimeUnit.MILLISECONDS),
            "Too much of this page waits to be done: reload it.");
      } catch (InterruptedException ending) {
        Thread.currentThread().interrupt();
      }
    }

    void send(String message) {
      outbox.add(message);
    }

    @Override
    public void transmit(String text) throws IOException {
      session.sendMessage(new TextMessage(text));
    }

    @Override
    public void end(String why) {
      LOG.info("a page of show {} is sent away: {}", showId, why);
      try {
        session.close(new CloseStatus(SLOW, why));
      } catch (IOException | RuntimeException gone) {
        LOG.debug("a page has gone", gone);
      }
    }
  }

  @Override
  public void afterConnectionEstablished(WebSocketSession session) {
    if (session instanceof NativeWebSocketSession nativeSession) {
      nativeSession
          .getNativeSession(Session.class)
          .getUserProperties()
          .put("org.apache.tomcat.websocket.BLOCKING_SEND_TIMEOUT", SEND_WITHIN_MILLIS);
    }
    session.setTextMessageSizeLimit(LONGEST_MESSAGE * 4);
    visit(session).ifPresent(visits::opened);
    seats.put(session.getId(), new Seat(session, session.getUri()));
  }

  @Override
  protected void handleTextMessage(WebSocketSession session, TextMessage text) {
    Seat seat = seats.get(session.getId());
    JsonNode message;
    try {
      message = json.readTree(text.getPayload());
    } catch (JacksonException malformed) {
      say(seat, "That message is not JSON: reload the page.");
      return;
    }
    try {
      Refusal.unless(
          message != null && message.isObject(), "That is not a message: reload the page.");
      Refusal.unless(
          text.getPayloadLength() <= LONGEST_MESSAGE,
          "A message of %s characters is too long: %s at most.",
          text.getPayloadLength(),
          LONGEST_MESSAGE);
      Refusal.unless(
          isWritable(message), "A text of that message holds half a character: type it again.");
      receive(seat, message);
    } catch (Refusal refusal) {
      answer(seat, message, refusal.getMessage());
    }
  }

  @Override
  public void afterConnectionClosed(WebSocketSession session, CloseStatus status) {
    Seat seat = seats.remove(session.getId());
    if (seat != null) {
      visit(session).ifPresent(visits::closed);
      seat.outbox.close();
      boolean clean =
          status.getCode() == CloseStatus.NORMAL.getCode()
              || status.getCode() == CloseStatus.GOING_AWAY.getCode();
      seat.page.ifPresent(page -> seat.host.orElseThrow().leave(page, clean));
    }
  }

  private static Optional<HttpSession> visit(WebSocketSession session) {
    return Optional.ofNullable((HttpSession) session.getAttributes().get(VISIT));
  }

  /** Whether all texts of a message can be told to others: no half of a surrogate pair is left. */
  private static boolean isWritable(JsonNode message) {
    return UTF_8.newEncoder().canEncode(message.toString());
  }

  private void receive(Seat seat, JsonNode message) {
    if (message.has("ping")) {
      ObjectNode pong = JsonNodeFactory.instance.objectNode();
      pong.set("pong", message.get("ping"));
      seat.send(pong.put("server", clock.micros()).toString());
    } else if (message.has("hello")) {
      hello(seat, message.get("hello"));
    } else {
      Refusal.unless(!seat.watches, "This page only watches: play on the other one.");
      StageHost host =
          seat.host.orElseThrow(() -> new Refusal("Say hello first: reload the page."));
      seat.await();
      host.receive(seat.page.orElseThrow(), message);
    }
  }

  private void hello(Seat seat, JsonNode hello) {
    String client = CommandJson.text(hello, "client");
    Refusal.unless(
        !client.isBlank() && client.length() <= LONGEST_CLIENT,
        "A page needs a name of at most %s characters.",
        LONGEST_CLIENT);
    if (seat.host.isPresent()) {
      // it asks until it is welcome, which may be under way
      return;
    }
    StageHost host = house.host(seat.showId);
    Page page =
        new Page(
            client,
            hello.path("instance").asString(client),
            hello.path("from").asLong(0),
            hello.path("had").asBoolean(false),
            seat::send,
            seat.room::release);
    seat.page = Optional.of(page);
    seat.host = Optional.of(host);
    host.enter(page);
  }

  /** A command is refused by its number, so that it is not sent again. */
  private static void answer(Seat seat, JsonNode message, String sentence) {
    boolean numbered =
        message.path("seq").canConvertToLong() && message.path("seq").isIntegralNumber();
    if (numbered && seat.page.isPresent() && !seat.watches) {
      seat.host.orElseThrow().refuse(seat.page.get(), message.get("seq").longValue(), sentence);
    } else if (message.path("seq").isIntegralNumber()) {
      seat.send(Messages.of("refused", message.get("seq")).put("why", sentence).toString());
    } else {
      say(seat, sentence);
    }
  }

  private static void say(Seat seat, String sentence) {
    seat.send(JsonNodeFactory.instance.objectNode().put("error", sentence).toString());
  }

  private static long showId(URI uri) {
    String path = uri == null ? "" : uri.getPath();
    try {
      return Long.parseLong(path.substring(path.lastIndexOf('/') + 1));
    } catch (NumberFormatException none) {
      return 0;
    }
  }
}
