package ancora.app.start;

import java.io.IOException;
import java.net.HttpURLConnection;
import java.net.URI;
import java.util.List;
import java.util.Locale;

/** The browser of this machine, for who starts Ancora by a picture and no words. */
public final class Browser {

  private static final int PATIENCE_MILLIS = 2_000;

  private Browser() {}

  /** Where the pages are. */
  public static String address(int port) {
    return "http://localhost:" + port + "/";
  }

  /** Whether an Ancora answers at a port already. */
  public static boolean isAncora(int port) {
    try {
      HttpURLConnection ask =
          (HttpURLConnection) URI.create(address(port) + "img/icon.svg").toURL().openConnection();
      ask.setConnectTimeout(PATIENCE_MILLIS);
      ask.setReadTimeout(PATIENCE_MILLIS);
      String policy = ask.getHeaderField("Content-Security-Policy");
      return ask.getResponseCode() == HttpURLConnection.HTTP_OK && policy != null;
    } catch (IOException nobody) {
      return false;
    }
  }

  /** Shows the pages; where there is no such program, who started it goes there himself. */
  public static void open(int port) {
    try {
      new ProcessBuilder(opener(System.getProperty("os.name"), address(port)))
          .redirectErrorStream(true)
          .redirectOutput(ProcessBuilder.Redirect.DISCARD)
          .start();
    } catch (IOException none) {
      System.out.println("Open " + address(port) + " in a browser.");
    }
  }

  static List<String> opener(String system, String address) {
    String name = system.toLowerCase(Locale.ROOT);
    if (name.startsWith("windows")) {
      return List.of("rundll32", "url.dll,FileProtocolHandler", address);
    }
    return List.of(name.startsWith("mac") ? "open" : "xdg-open", address);
  }
}
