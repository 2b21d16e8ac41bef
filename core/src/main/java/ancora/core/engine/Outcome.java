package ancora.core.engine;

import java.util.Optional;

/** What came of a command. */
public sealed interface Outcome {

  /**
   * It was done.
   *
   * @param word something that the performer should know; mostly nothing
   */
  record Done(Optional<String> word) implements Outcome {}

  /**
   * It was not done, and nothing has changed.
   *
   * @param why one sentence that says what to do
   */
  record Refused(String why) implements Outcome {}
}
