package ancora.core.engine;

import java.util.Optional;

/**
 * Where a command leads.
 *
 * @param stage the stage after it
 * @param word something that the performer should know; mostly nothing
 */
record Result(Stage stage, Optional<String> word) {

  static Result to(Stage stage) {
    return new Result(stage, Optional.empty());
  }

  static Result to(Stage stage, String word) {
    return new Result(stage, Optional.of(word));
  }
}
