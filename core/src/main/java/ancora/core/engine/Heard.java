package ancora.core.engine;

import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartInput.Monitoring;
import ancora.core.stage.Stage;
import java.util.List;

/**
 * A part on which hands are heard while they play, of itself, whether it is recorded or not.
 *
 * @param part the part
 * @param input what it takes, and how that sounds on it
 * @param keys whether keys sound on it: they do not where they choose what is erased
 */
public record Heard(PartId part, PartInput input, boolean keys) {

  /** The parts on which hands are heard as things stand. */
  public static List<Heard> on(Stage stage) {
    List<Part> parts = stage.show().parts();
    PartId armed = stage.armed().or(() -> parts.stream().findFirst().map(Part::id)).orElse(null);
    return parts.stream()
        .filter(
            part -> isHeard(part, part.id().equals(armed) || stage.alongside().contains(part.id())))
        .map(part -> new Heard(part.id(), part.input(), stage.hands().eraseOn(part.id()).isEmpty()))
        .toList();
  }

  private static boolean isHeard(Part part, boolean armed) {
    return armed
        ? part.input().monitoring() != Monitoring.NEVER
        : part.input().monitoring() == Monitoring.ALWAYS;
  }
}
