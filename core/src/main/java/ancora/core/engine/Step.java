package ancora.core.engine;

import java.util.Optional;

/**
 * Where a command leads.
 *
 * @param stage the stage after it
 * @param word something that the performer should know; mostly nothing
 */
record Step(Stage stage, Optional<String> word) {

  static Step to(Stage stage) {
    return new Step(stage, Optional.empty());
  }

  static Step to(Stage stage, String word) {
    return new Step(stage, Optional.of(word));
  }
}
