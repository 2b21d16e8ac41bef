package ancora.app;

import ancora.app.safety.Safety;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.EnableConfigurationProperties;

/** Starts Ancora. */
@SpringBootApplication
@EnableConfigurationProperties(Safety.class)
public class Ancora {

  public static void main(String[] arguments) {
    SpringApplication.run(Ancora.class, arguments);
  }
}
