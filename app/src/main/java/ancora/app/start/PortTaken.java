package ancora.app.start;

import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.web.server.PortInUseException;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;

/** The port is another program's. */
@Order(Ordered.HIGHEST_PRECEDENCE)
final class PortTaken extends AbstractFailureAnalyzer<PortInUseException> {

  @Override
  protected FailureAnalysis analyze(Throwable rootFailure, PortInUseException taken) {
    return new FailureAnalysis(
        "Port %s is in use: end what uses it, which may be another Ancora, or choose another (--port=N)."
            .formatted(taken.getPort()),
        null,
        rootFailure);
  }
}
