package ancora.core.note;

/**
 * A controller being moved, as a clip keeps it.
 *
 * @param controller which
 * @param place tick of the clip's material
 * @param value 0 to {@link Controller#most()}
 */
public record Move(Controller controller, long place, int value) {

  public Move {
    if (value < 0 || value > controller.most()) {
      throw new IllegalArgumentException(controller + " at " + value);
    }
  }

  public Move withPlace(long tick) {
    return new Move(controller, tick, value);
  }
}
