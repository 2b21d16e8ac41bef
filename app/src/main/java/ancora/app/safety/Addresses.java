package ancora.app.safety;

import ancora.core.Refusal;
import java.net.Inet4Address;
import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.NetworkInterface;
import java.net.SocketException;
import java.net.UnknownHostException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Where this machine is found by others.
 *
 * @param numbers its addresses; those of version 4 first, which are typed more easily
 * @param name what it is called, without what comes after the first dot
 */
record Addresses(List<String> numbers, String name) {

  /** How a machine is called by others near it, where it answers to that (RFC 6762, section 3). */
  private static final String NEARBY = ".local";

  static Addresses ofThisMachine() {
    List<String> four = new ArrayList<>();
    List<String> six = new ArrayList<>();
    try {
      NetworkInterface.networkInterfaces()
          .filter(Addresses::isUp)
          .flatMap(NetworkInterface::inetAddresses)
          .filter(address -> !address.isLoopbackAddress() && !address.isLinkLocalAddress())
          .forEach(address -> (address instanceof Inet4Address ? four : six).add(text(address)));
    } catch (SocketException none) {
      throw new Refusal("The networks of this machine cannot be seen: leave --listen out.");
    }
    return new Addresses(Stream.concat(four.stream(), six.stream()).toList(), hostName());
  }

  private static boolean isUp(NetworkInterface network) {
    try {
      return network.isUp() && !network.isLoopback();
    } catch (SocketException gone) {
      return false;
    }
  }

  private static String text(InetAddress address) {
    String text = address.getHostAddress();
    return address instanceof Inet6Address ? text.replaceAll("%.*", "") : text;
  }

  private static String hostName() {
    try {
      return InetAddress.getLocalHost().getHostName().replaceAll("\\..*", "");
    } catch (UnknownHostException nameless) {
      return "localhost";
    }
  }

  /** The names by which it may be asked for. */
  Stream<String> names() {
    return Stream.of("localhost", name, name + NEARBY);
  }

  /** Whether the host of an address is given as a number, which nobody else can give a meaning. */
  static boolean isNumber(String host) {
    return host.startsWith("[") || host.matches("\\d{1,3}(\\.\\d{1,3}){3}");
  }
}
