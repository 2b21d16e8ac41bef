package ancora.app;

import ancora.app.time.HeldClock;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;

/** A running Ancora for tests: on a free port, with its data in a folder. */
public final class House implements AutoCloseable {

  private static final String PORT = "--ancora.port=";

  private final ConfigurableApplicationContext context;

  private House(ConfigurableApplicationContext context) {
    this.context = context;
  }

  public static House open(Path data, String... more) {
    return new House(builder().run(arguments(data, more)));
  }

  /** A house whose time stands still; its clock, a {@link HeldClock}, is a bean. */
  public static House held(Path data, String... more) {
    return new House(
        builder()
            .initializers(
                (GenericApplicationContext context) ->
                    context.registerBean(
                        HeldClock.class, HeldClock::new, bean -> bean.setPrimary(true)))
            .run(arguments(data, more)));
  }

  /**
   * One in a process of its own, as a launcher starts it; what it says can be read. What is tested
   * of it is how it ends: it may begin quickly.
   */
  public static Process begun(Path data, int port, String... more) throws IOException {
    List<String> command =
        new ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-XX:+UnlockDiagnosticVMOptions",
                "-XX:-BytecodeVerificationRemote",
                "-Dspring.aot.enabled=true",
                "-cp",
                System.getProperty(
                    "surefire.test.class.path", System.getProperty("java.class.path")),
                Ancora.class.getName(),
                PORT + port,
                "--ancora.data=" + data));
    command.addAll(List.of(more));
    return new ProcessBuilder(command).redirectErrorStream(true).start();
  }

  private static SpringApplicationBuilder builder() {
    return new SpringApplicationBuilder(Ancora.class).main(Ancora.class);
  }

  private static String[] arguments(Path data, String... more) {
    List<String> arguments =
        new ArrayList<>(List.of("--ancora.data=" + data, "--spring.main.banner-mode=off"));
    arguments.addAll(List.of(more));
    if (arguments.stream().noneMatch(one -> one.startsWith(PORT))) {
      arguments.add(PORT + 0);
    }
    return arguments.toArray(String[]::new);
  }

  public int port() {
    return ((ServletWebServerApplicationContext) context).getWebServer().getPort();
  }

  public String url(String path) {
    return "http://localhost:" + port() + path;
  }

  public <T> T bean(Class<T> type) {
    return type.isInstance(context) ? type.cast(context) : context.getBean(type);
  }

  @Override
  public void close() {
    context.close();
  }
}
