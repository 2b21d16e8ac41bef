package ancora.app;

import ancora.app.time.HeldClock;
import java.nio.file.Path;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;

/** A running Ancora for tests: on a free port, with its data in a folder. */
public final class House implements AutoCloseable {

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

  private static SpringApplicationBuilder builder() {
    return new SpringApplicationBuilder(Ancora.class);
  }

  private static String[] arguments(Path data, String... more) {
    String[] arguments = new String[more.length + 3];
    arguments[0] = "--ancora.port=0";
    arguments[1] = "--ancora.data=" + data;
    arguments[2] = "--spring.main.banner-mode=off";
    System.arraycopy(more, 0, arguments, 3, more.length);
    return arguments;
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
