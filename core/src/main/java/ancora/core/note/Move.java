package ancora.core.note;

/**
 * A controller being moved, as a clip keeps it.
 *
 * @param id unique in its take; 0 while it has none
 * @param controller which
 * @param place tick of the clip's material
 * @param value 0 to {@link Controller#most()}
 */
public record Move(long id, Controller controller, long place, int value) {

  public Move {
    if (value < 0 || value > controller.most()) {
      throw new IllegalArgumentException(controller + " at " + value);
    }
  }

  /** A move that is in no take yet. */
  public Move(Controller controller, long place, int value) {
    this(0, controller, place, value);
  }

  public Move withId(long newId) {
    return new Move(newId, controller, place, value);
  }

  public Move withPlace(long tick) {
    return new Move(id, controller, tick, value);
  }

  public Move withValue(int newValue) {
    return new Move(id, controller, place, newValue);
  }
}
