package ancora.core.note;

/**
 * A controller being moved, as a clip keeps it.
 *
 * @param id unique in its take; 0 while it has none
 * @param controller which
 * @param place tick of the clip's material
 * @param value 0 to {@link Controller#most()}
 */
public record ControllerMove(long id, Controller controller, long place, int value) {

  public ControllerMove {
    if (value < 0 || value > controller.most()) {
      throw new IllegalArgumentException(controller + " at " + value);
    }
  }

  /** A move that is in no take yet. */
  public ControllerMove(Controller controller, long place, int value) {
    this(0, controller, place, value);
  }

  public ControllerMove withId(long newId) {
    return new ControllerMove(newId, controller, place, value);
  }

  public ControllerMove withPlace(long tick) {
    return new ControllerMove(id, controller, tick, value);
  }

  public ControllerMove withValue(int newValue) {
    return new ControllerMove(id, controller, place, newValue);
  }
}
