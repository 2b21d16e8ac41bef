package ancora.app.start;

import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.diagnostics.FailureAnalyzer;
import org.springframework.boot.tomcat.ConnectorStartFailedException;
import org.springframework.boot.web.server.PortInUseException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;

/** A port, this machine's own or the room's, is another program's. */
@Order(Ordered.HIGHEST_PRECEDENCE)
final class PortTaken implements FailureAnalyzer {

  @Override
  public FailureAnalysis analyze(Throwable failure) {
    return Stream.iterate(failure, cause -> cause != null, Throwable::getCause)
        .flatMap(cause -> said(cause).stream())
        .findFirst()
        .map(sentence -> new FailureAnalysis(sentence, null, failure))
        .orElse(null);
  }

  private static Optional<String> said(Throwable cause) {
    if (cause instanceof PortInUseException own) {
      return Optional.of(
          "Port %s is in use: end what uses it, which may be another Ancora, or choose another (--port=N)."
              .formatted(own.getPort()));
    }
    if (cause instanceof ConnectorStartFailedException room) {
      return Optional.of(
          "Port %s is in use: end what uses it, or let others in at another (--listen=N)."
              .formatted(room.getPort()));
    }
    return Optional.empty();
  }
}
