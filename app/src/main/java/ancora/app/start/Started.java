package ancora.app.start;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Says where the pages are once they are there. */
@Component
class Started {

  private final int port;
  private final boolean saysWhere;
  private final boolean opensBrowser;

  Started(
      @Value("${ancora.port}") int port,
      @Value("${ancora.says-where}") boolean saysWhere,
      @Value("${ancora.opens-browser}") boolean opensBrowser) {
    this.port = port;
    this.saysWhere = saysWhere;
    this.opensBrowser = opensBrowser;
  }

  @Order(1)
  @EventListener(ApplicationReadyEvent.class)
  void say() {
    if (saysWhere) {
      System.out.println("Ancora is at " + Browser.address(port) + "  (Ctrl-C ends it)");
    }
    if (opensBrowser) {
      Browser.open(port);
    }
  }
}
