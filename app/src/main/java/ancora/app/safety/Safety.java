package ancora.app.safety;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Who may come in.
 *
 * @param address the address that is listened on
 * @param hostNames names under which pages may be asked for, separated by commas, besides localhost
 * @param passPhrase what visitors must say; required unless the address is a loopback address
 */
@ConfigurationProperties("ancora")
public record Safety(String address, String hostNames, String passPhrase) {

  private static final int SHORTEST_PHRASE = 8;

  public Safety {
    boolean phrase = passPhrase != null && passPhrase.length() >= SHORTEST_PHRASE;
    if (!phrase && !isLoopback(address)) {
      throw new IllegalArgumentException(
          "Listening on "
              + address
              + " lets others in: set a pass phrase of at least "
              + SHORTEST_PHRASE
              + " characters with --ancora.pass-phrase=…, or listen on 127.0.0.1.");
    }
  }

  public boolean asksForPhrase() {
    return passPhrase != null && !passPhrase.isEmpty();
  }

  /** The host names, without ports, that a request may carry. */
  public List<String> allowedHosts() {
    Stream<String> own = Stream.of("localhost", "127.0.0.1", "[::1]", address);
    Stream<String> named = Arrays.stream(hostNames.split(",")).map(String::strip);
    return Stream.concat(own, named).filter(name -> !name.isEmpty()).toList();
  }

  private static boolean isLoopback(String address) {
    try {
      return InetAddress.getByName(address).isLoopbackAddress();
    } catch (UnknownHostException unknown) {
      return false;
    }
  }
}
