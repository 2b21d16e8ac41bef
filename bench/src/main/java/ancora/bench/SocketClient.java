package ancora.bench;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.WebSocket;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.LinkedBlockingQueue;

/** A page without a browser, which sends commands and waits for their acknowledgements. */
final class SocketClient implements WebSocket.Listener, AutoCloseable {

  private static final int WARM_UP = 700;
  private static final int MEASURED = 800;

  private final BlockingQueue<String> heard = new LinkedBlockingQueue<>();
  private final StringBuilder partial = new StringBuilder();
  private final WebSocket socket;

  SocketClient(int port) throws InterruptedException {
    socket =
        HttpClient.newHttpClient()
            .newWebSocketBuilder()
            .buildAsync(URI.create("ws://localhost:" + port + "/socket/1"), this)
            .join();
    say("{\"hello\":{\"client\":\"bench\"}}");
    next("{\"welcome");
  }

  /** Keys going down and up, a few milliseconds apart; in ms: median and 99 %. */
  double[] acknowledgements() throws InterruptedException {
    say("{\"ping\":0}");
    long server = Long.parseLong(next("{\"pong").replaceAll("\\D+0\\D+(\\d+).*", "$1"));
    long zero = System.nanoTime();
    List<Double> times = new ArrayList<>();
    for (int i = 1; i <= WARM_UP + MEASURED; i++) {
      long sent = System.nanoTime();
      say(
          "{\"seq\":%d,\"stamp\":%d,\"do\":\"%s\",\"device\":\"bench\",\"channel\":0,\"pitch\":60,\"velocity\":90}"
              .formatted(i, server + (sent - zero) / 1000, i % 2 == 1 ? "keyDown" : "keyUp"));
      next("{\"ack");
      if (i > WARM_UP) {
        times.add((System.nanoTime() - sent) / 1e6);
      }
      Thread.sleep(3);
    }
    return PageBench.medianAnd99(times);
  }

  private void say(String text) {
    socket.sendText(text, true).join();
  }

  private String next(String beginning) throws InterruptedException {
    String message = heard.take();
    while (!message.startsWith(beginning)) {
      message = heard.take();
    }
    return message;
  }

  @Override
  public CompletionStage<?> onText(WebSocket from, CharSequence data, boolean last) {
    partial.append(data);
    if (last) {
      heard.add(partial.toString());
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
