package ancora.core.rules;

import ancora.core.stage.Stage;
import java.util.Optional;

/**
 * Where a command leads.
 *
 * @param stage the stage after it
 * @param word something that the performer should know; mostly nothing
 */
public record Result(Stage stage, Optional<String> word) {

  public static Result to(Stage stage) {
    return new Result(stage, Optional.empty());
  }

  public static Result to(Stage stage, String word) {
    return new Result(stage, Optional.of(word));
  }
}
