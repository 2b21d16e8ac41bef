package ancora.app.start;

import ancora.core.Refusal;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.DefaultApplicationArguments;

/** What a command is given: words, and options as {@code --name} or {@code --name=value}. */
public final class Given {

  /** The option of every command: the folder of the shows. */
  private static final String DATA = "data";

  private final ApplicationArguments arguments;
  private final String usage;

  private Given(ApplicationArguments arguments, String usage) {
    this.arguments = arguments;
    this.usage = usage;
  }

  /**
   * Reads it; refuses an option that the command does not have.
   *
   * @param usage what is said then
   * @param options those that it has, besides {@code --data}
   */
  public static Given of(List<String> given, String usage, Set<String> options) {
    ApplicationArguments arguments = new DefaultApplicationArguments(given.toArray(String[]::new));
    boolean known =
        arguments.getOptionNames().stream()
            .allMatch(name -> name.equals(DATA) || options.contains(name));
    Refusal.unless(known, usage);
    return new Given(arguments, usage);
  }

  /** What is no option, in order. */
  public List<String> words() {
    return arguments.getNonOptionArgs();
  }

  public boolean has(String option) {
    return arguments.containsOption(option);
  }

  /** What an option is set to, if it is given; refuses one without a value, or with two. */
  public Optional<String> value(String option) {
    if (!has(option)) {
      return Optional.empty();
    }
    List<String> values = arguments.getOptionValues(option);
    Refusal.unless(values.size() == 1 && !values.get(0).isBlank(), usage);
    return Optional.of(values.get(0));
  }

  /** What an option is set to that may do without a value; refuses one with two. */
  public String valueOr(String option, String without) {
    List<String> values = arguments.getOptionValues(option);
    Refusal.unless(values.size() <= 1, usage);
    return values.isEmpty() || values.get(0).isBlank() ? without : values.get(0);
  }

  /**
   * The folder of the shows. What is not named is {@code data}, or where a package keeps it ({@code
   * -Dancora.kept}); what is named is seen from where one stands ({@code -Dancora.from}), which for
   * a package is not its own folder.
   */
  public Path data() {
    String usual = System.getProperty("ancora.kept", DATA);
    Path from = Path.of(System.getProperty("ancora.from", "")).toAbsolutePath();
    return from.resolve(value(DATA).orElse(usual)).normalize();
  }
}
