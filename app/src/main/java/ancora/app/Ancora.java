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
    SpringApplication ancora = new SpringApplication(Ancora.class);
    // what was wired when it was built has this name, whatever it is started by
    ancora.setMainApplicationClass(Ancora.class);
    ancora.run(arguments);
  }
}
