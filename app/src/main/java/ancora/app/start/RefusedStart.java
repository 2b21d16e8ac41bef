package ancora.app.start;

import ancora.core.Refusal;
import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/** A start that was refused says why in its own sentence. */
final class RefusedStart extends AbstractFailureAnalyzer<Refusal> {

  @Override
  protected FailureAnalysis analyze(Throwable rootFailure, Refusal refusal) {
    return new FailureAnalysis(refusal.getMessage(), null, rootFailure);
  }
}
