package ancora.core.note;

import io.soabase.recordbuilder.core.RecordBuilder;

/**
 * A controller being moved, as a clip keeps it.
 *
 * @param id unique in its take; 0 while it has none
 * @param controller which
 * @param place tick of the clip's material
 * @param value 0 to {@link Controller#most()}
 */
@RecordBuilder
public record ControllerMove(long id, Controller controller, long place, int value)
    implements ControllerMoveBuilder.With {

  public ControllerMove {
    if (value < 0 || value > controller.most()) {
      throw new IllegalArgumentException(controller + " at " + value);
    }
  }

  /** A move that is in no take yet. */
  public ControllerMove(Controller controller, long place, int value) {
    this(0, controller, place, value);
  }
}
