package ancora.app.browser;

import ancora.app.House;
import java.nio.file.Path;

/** A house with the demo's shows, in time that goes on only where a test says so. */
abstract class HeldNight extends DemoNight {

  @Override
  House open(Path folder) {
    return House.held(folder, "--ancora.demo=true");
  }
}
