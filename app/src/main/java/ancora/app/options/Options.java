package ancora.app.options;

import ancora.core.Refusal;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * All that is said to a server as it starts: its settings under {@code ancora}, as {@code
 * application.yml} has them where nothing is said.
 *
 * @param data the folder in which the shows are kept
 * @param port of this machine alone
 * @param listen the port of all machines in the room; empty where none is let in
 * @param plain whether the room is spoken to without TLS
 * @param hostNames names under which pages may be asked for, separated by commas, besides those of
 *     this machine
 * @param stay how long a visitor is known after what was heard of him last
 * @param saysWhere whether the start says where the pages are
 * @param opensBrowser and shows them
 * @param demo whether the demo show is made if it is not there
 */
@ConfigurationProperties("ancora")
public record Options(
    Path data,
    int port,
    String listen,
    boolean plain,
    String hostNames,
    Duration stay,
    boolean saysWhere,
    boolean opensBrowser,
    boolean demo) {

  private static final int LAST_PORT = 65_535;

  public Options {
    data = data.toAbsolutePath().normalize();
    Refusal.unless(
        listen.isEmpty() || isPort(listen) && (port == 0 || !listen.equals("" + port)),
        "'%s' is not a port to listen on: use 1 to %s, and not the one of this machine (%s).",
        listen,
        LAST_PORT,
        port);
    Refusal.unless(
        !plain || !listen.isEmpty(), "--plain is about those who are let in: add --listen.");
  }

  private static boolean isPort(String text) {
    return text.matches("\\d{1,5}") && Integer.parseInt(text) <= LAST_PORT;
  }

  /** The port of all machines in the room, if they are let in; 0 for any that is free. */
  public OptionalInt listenPort() {
    return listen.isEmpty() ? OptionalInt.empty() : OptionalInt.of(Integer.parseInt(listen));
  }

  /** Names under which pages may be asked for, besides those of this machine. */
  public Stream<String> names() {
    return Arrays.stream(hostNames.split(",")).map(String::strip).filter(name -> !name.isEmpty());
  }
}
