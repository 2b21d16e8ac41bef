package ancora.core.rules;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.stage.Stage;
import java.util.List;
import java.util.Optional;

/**
 * Several commands on one control, one after another, all judged at one stamp. If the first cannot
 * be done, nothing is; where a later one cannot, it is left out, and that is said.
 *
 * @param name as the performer calls it; empty for what its commands are
 * @param commands 2 to {@value #MOST}, none of them a sequence
 */
public record Sequence(String name, List<Command> commands) implements Command {

  /** A sequence has no more commands. */
  public static final int MOST = 8;

  public Sequence {
    commands = List.copyOf(commands);
    Refusal.unless(
        commands.size() >= 2 && commands.size() <= MOST,
        "A sequence has 2 to %s commands, one after another.",
        MOST);
    Refusal.unless(
        commands.stream().noneMatch(Sequence.class::isInstance),
        "A sequence has no other sequence in it: take its commands.");
    name = Names.checkedOrEmpty("sequence", name);
  }

  /** How a command is carried out by itself. */
  @FunctionalInterface
  public interface One {
    Result apply(Stage stage, Command meant);
  }

  /**
   * The stage after all of them.
   *
   * @param one how each is carried out
   * @param stamp the instant at which all are judged, in microseconds
   */
  public Result apply(Stage stage, long stamp, One one) {
    Stage next = stage;
    Optional<String> word = Optional.empty();
    for (int i = 0; i < commands.size(); i++) {
      try {
        Result result = one.apply(next, commands.get(i).meant(next, stamp));
        next = result.stage();
        Optional<String> before = word;
        word = result.word().or(() -> before);
      } catch (Refusal refusal) {
        if (i == 0) {
          throw refusal;
        }
        return Result.to(next, "Step " + (i + 1) + " was left out: " + refusal.getMessage());
      }
    }
    return new Result(next, word);
  }

  @Override
  public Result apply(Stage stage, Moment moment) {
    return apply(stage, moment.stamp(), (s, meant) -> meant.apply(s, moment));
  }

  @Override
  public boolean isTimeless() {
    return commands.stream().allMatch(Command::isTimeless);
  }

  @Override
  public boolean isAtOnce() {
    return commands.stream().anyMatch(Command::isAtOnce);
  }
}
