package ancora.app.start;

import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.web.embedded.tomcat.ConnectorStartFailedException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;

/** The port of the room is another program's. */
@Order(Ordered.HIGHEST_PRECEDENCE)
final class DoorTaken extends AbstractFailureAnalyzer<ConnectorStartFailedException> {

  @Override
  protected FailureAnalysis analyze(Throwable rootFailure, ConnectorStartFailedException taken) {
    return new FailureAnalysis(
        "Port %s is in use: end what uses it, or let others in at another (--listen=N)."
            .formatted(taken.getPort()),
        null,
        rootFailure);
  }
}
