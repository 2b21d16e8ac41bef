package ancora.app;

import java.nio.file.Path;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/** A running Ancora for tests: on a free port, with its data in a folder. */
public final class House implements AutoCloseable {

  private final ConfigurableApplicationContext context;

  private House(ConfigurableApplicationContext context) {
    this.context = context;
  }

  public static House open(Path data, String... more) {
    String[] arguments = new String[more.length + 3];
    arguments[0] = "--ancora.port=0";
    arguments[1] = "--ancora.data=" + data;
    arguments[2] = "--spring.main.banner-mode=off";
    System.arraycopy(more, 0, arguments, 3, more.length);
    return new House(new SpringApplicationBuilder(Ancora.class).run(arguments));
  }

  public int port() {
    return ((ServletWebServerApplicationContext) context).getWebServer().getPort();
  }

  public String url(String path) {
    return "http://localhost:" + port() + path;
  }

  public <T> T bean(Class<T> type) {
    return context.getBean(type);
  }

  @Override
  public void close() {
    context.close();
  }
}
