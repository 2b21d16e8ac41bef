package ancora.app;

import ancora.app.start.Browser;
import ancora.app.start.Given;
import ancora.core.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** {@code ./ancora run} and {@code ./ancora demo}: what a performer says becomes configuration. */
public final class StartCommand {

  private static final String USAGE =
      "usage: ancora run|demo [--port=N] [--data=FOLDER] [--listen[=N]] [--plain] [--open]";

  private static final int USUAL_PORT = 8111;
  private static final int LAST_PORT = 65_535;
  private static final int BAD_INPUT = 2;

  private static final String OPEN = "open";
  private static final String LISTEN = "listen";
  private static final String PLAIN = "plain";
  private static final String PORT = "port";
  private static final Set<String> OPTIONS = Set.of(PORT, LISTEN, PLAIN, OPEN);

  private StartCommand() {}

  public static void main(String[] arguments) {
    List<String> configuration;
    try {
      Given given = Given.of(List.of(arguments), USAGE, OPTIONS);
      int port = port(given);
      if (given.has(OPEN) && Browser.isAncora(port)) {
        // it runs already: somebody wants to see it
        Browser.open(port);
        return;
      }
      configuration = configuration(given, port);
    } catch (Refusal refusal) {
      System.err.println(refusal.getMessage());
      System.exit(BAD_INPUT);
      return;
    }
    Ancora.main(configuration.toArray(String[]::new));
  }

  /** What the configuration is, as options of the application; refuses what is none. */
  static List<String> configuration(List<String> arguments) {
    Given given = Given.of(arguments, USAGE, OPTIONS);
    return configuration(given, port(given));
  }

  private static List<String> configuration(Given given, int port) {
    List<String> words = given.words();
    boolean demo = words.equals(List.of("demo"));
    Refusal.unless(demo || words.equals(List.of("run")), USAGE);
    List<String> all = new ArrayList<>();
    all.add("--ancora.port=" + port);
    all.add("--ancora.data=" + given.data());
    all.add("--ancora.demo=" + demo);
    all.add("--ancora.says-where=true");
    all.add("--ancora.opens-browser=" + given.has(OPEN));
    if (given.has(LISTEN)) {
      String beside = Integer.toString(port == LAST_PORT ? port - 1 : port + 1);
      all.add("--ancora.listen=" + given.valueOr(LISTEN, beside));
    }
    all.add("--ancora.plain=" + given.has(PLAIN));
    return all;
  }

  private static int port(Given given) {
    String named = given.value(PORT).orElse(Integer.toString(USUAL_PORT));
    Refusal.unless(
        named.matches("\\d{1,5}")
            && Integer.parseInt(named) >= 1
            && Integer.parseInt(named) <= LAST_PORT,
        "'%s' is not a port: use 1 to %s.",
        named,
        LAST_PORT);
    return Integer.parseInt(named);
  }
}
