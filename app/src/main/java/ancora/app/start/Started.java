package ancora.app.start;

import ancora.app.options.Options;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Says where the pages are once they are there. */
@Component
class Started {

  private final Options options;

  Started(Options options) {
    this.options = options;
  }

  @Order(1)
  @EventListener(ApplicationReadyEvent.class)
  void say() {
    if (options.saysWhere()) {
      System.out.println("Ancora is at " + Browser.address(options.port()) + "  (Ctrl-C ends it)");
    }
    if (options.opensBrowser()) {
      Browser.open(options.port());
    }
  }
}
