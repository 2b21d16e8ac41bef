package ancora.app.start;

import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.diagnostics.FailureAnalysisReporter;

/** A start that fails says so in a line, and no more. */
final class OneSentence implements FailureAnalysisReporter {

  @Override
  public void report(FailureAnalysis analysis) {
    System.err.println(analysis.getDescription());
  }
}
