package ancora.core.engine;

import java.util.List;
import java.util.Optional;

/**
 * What a command would do now. It is found by doing it, on a copy: a stage is a value.
 *
 * @param effects what would become otherwise; nothing if it is refused
 * @param word what would be said
 * @param refusal why it would be refused, if it would
 */
public record Forecast(List<Effect> effects, Optional<String> word, Optional<String> refusal) {

  public Forecast {
    effects = List.copyOf(effects);
  }

  /** Whether the command would be done. */
  public boolean isDone() {
    return refusal.isEmpty();
  }
}
