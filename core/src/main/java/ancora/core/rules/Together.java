package ancora.core.rules;

import ancora.core.Refusal;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.List;

/**
 * Parts that are armed together are one for every way of recording: the armed part decides, and one
 * that cannot do the same is left alone, and named.
 */
public final class Together {

  private Together() {}

  /** The armed part, and those armed alongside in their order; none if none is armed. */
  public static List<PartId> of(Stage stage) {
    List<PartId> parts = new ArrayList<>();
    stage.armed().ifPresent(parts::add);
    stage.alongside().stream().filter(part -> !parts.contains(part)).forEach(parts::add);
    return parts;
  }

  /** Does something on the armed part, and on those armed alongside. */
  public static Result each(Stage stage, Stage.PartChange change) {
    PartId armed = stage.armedPart();
    Stage next = change.apply(stage, armed);
    List<String> leftAlone = new ArrayList<>();
    for (PartId part : of(stage)) {
      if (!part.equals(armed)) {
        try {
          next = change.apply(next, part);
        } catch (Refusal refusal) {
          leftAlone.add(stage.show().part(part).name());
        }
      }
    }
    return leftAlone.isEmpty()
        ? Result.to(next)
        : Result.to(next, String.join(", ", leftAlone) + " cannot: left as it is.");
  }
}
