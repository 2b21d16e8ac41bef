package ancora.app;

import ancora.app.options.Options;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;

/** Starts Ancora. Who comes in is known by a pass phrase, if at all: there are no users. */
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
@EnableConfigurationProperties(Options.class)
public class Ancora {

  public static void main(String[] arguments) {
    SpringApplication.run(Ancora.class, arguments);
  }
}
