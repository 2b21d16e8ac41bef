package ancora.app;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.WebSocket;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A page without a browser: speaks the protocol of {@code docs/protocol.md} over a real socket. */
public final class PageStandIn implements WebSocket.Listener, AutoCloseable {

  private static final JsonMapper JSON = JsonMapper.shared();

  /** What does not come within so many seconds does not come on the busiest machine. */
  private static final int PATIENCE = 60;

  private final BlockingQueue<JsonNode> heard = new LinkedBlockingQueue<>();
  private final StringBuilder partial = new StringBuilder();
  private final WebSocket socket;
  private long seq;
  private volatile boolean ended;

  /** Opens a socket, and says hello if the page has a name. */
  public PageStandIn(int port, long show, String client) {
    socket =
        HttpClient.newHttpClient()
            .newWebSocketBuilder()
            .connectTimeout(Duration.ofSeconds(PATIENCE))
            .buildAsync(URI.create("ws://localhost:" + port + "/socket/" + show), this)
            .join();
    if (client != null) {
      say("{\"hello\":{\"client\":\"" + client + "\"}}");
    }
  }

  public PageStandIn say(String text) {
    socket.sendText(text, true).join();
    return this;
  }

  /** Sends a command with a stamp, and gives its number. */
  public long command(String command, long stamp) {
    try {
      ObjectNode node = (ObjectNode) JSON.readTree(command);
      say(node.put("seq", ++seq).put("stamp", stamp).toString());
      return seq;
    } catch (tools.jackson.core.JacksonException impossible) {
      throw new IllegalArgumentException(impossible);
    }
  }

  /** Its next command has the number after this one. */
  public void goOnFrom(long number) {
    seq = number;
  }

  /** What has come is not asked for. */
  public void forget() {
    heard.clear();
  }

  /** What has come and has not been asked for yet. */
  public Stream<JsonNode> heard() {
    return heard.stream();
  }

  /** Sends a command as if done now, and waits until it is on disk. */
  public void done(String command) {
    // a machine that has much else to do may refuse it as too late: what it says is done
    String why = refusal(command);
    for (int again = 0; again < 10 && why.endsWith("try again."); again++) {
      why = refusal(command);
    }
    if (!why.isEmpty()) {
      throw new AssertionError(why);
    }
  }

  private String refusal(String command) {
    long number = command(command, now());
    return next(m -> m.path("ack").asLong() == number || m.path("refused").asLong() == number)
        .path("why")
        .asString();
  }

  /** Server time. */
  public long now() {
    say("{\"ping\":0}");
    return next(m -> m.has("pong")).get("server").asLong();
  }

  /** The next message of a kind; others are passed over. */
  public JsonNode next(String kind) {
    return next(m -> m.has(kind)).get(kind);
  }

  /** The next message that fits; others are passed over. */
  public JsonNode next(Predicate<JsonNode> fits) {
    return search(fits)
        .orElseThrow(
            () -> new AssertionError("no such message came" + (ended ? ": it was sent away" : "")));
  }

  /** Whether a message comes that fits, before the house ends the connection. */
  public boolean finds(Predicate<JsonNode> fits) {
    return search(fits).isPresent();
  }

  private Optional<JsonNode> search(Predicate<JsonNode> fits) {
    try {
      for (long waited = 0; waited < PATIENCE; ) {
        JsonNode message = heard.poll(1, TimeUnit.SECONDS);
        if (message == null) {
          if (ended && heard.isEmpty()) {
            return Optional.empty();
          }
          waited++;
        } else if (fits.test(message)) {
          return Optional.of(message);
        }
      }
      return Optional.empty();
    } catch (InterruptedException interrupted) {
      throw new AssertionError(interrupted);
    }
  }

  @Override
  public CompletionStage<?> onClose(WebSocket from, int code, String reason) {
    ended = true;
    return null;
  }

  @Override
  public void onError(WebSocket from, Throwable fault) {
    ended = true;
  }

  @Override
  public CompletionStage<?> onText(WebSocket from, CharSequence data, boolean last) {
    partial.append(data);
    if (last) {
      try {
        heard.add(JSON.readTree(partial.toString()));
      } catch (tools.jackson.core.JacksonException broken) {
        throw new AssertionError(broken);
      }
      partial.setLength(0);
    }
    from.request(1);
    return null;
  }

  @Override
  public void close() {
    socket.abort();
  }
}
