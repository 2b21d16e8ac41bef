package ancora.core.control;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.Control.Kind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Which controls stand for which actions.
 *
 * @param format 1, the only one there is
 * @param name as the performer calls it
 * @param assignments no control does two things by one gesture
 */
public record ControlMap(int format, String name, List<Assignment> assignments) {

  /** The format that is written, and the only one that is read. */
  public static final int FORMAT = 1;

  /** A map has no more assignments than this. */
  public static final int MOST = 256;

  /** A footboard has no more pedals than this on the screen. */
  public static final int MOST_PEDALS = 12;

  /** The stand-in footboard's name as a device. */
  public static final String FOOTBOARD = "stand-in footboard";

  /** The stand-in knobs' name as a device. */
  public static final String KNOBS = "stand-in knobs";

  /** The map for the stand-in devices: one pedal alone makes a whole loop. */
  public static final ControlMap STAND_IN =
      new ControlMap(
          FORMAT,
          "stand-in devices",
          List.of(
              pedal(1, Gesture.SHORT, Action.MAIN),
              pedal(1, Gesture.LONG, Action.PEEL),
              pedal(1, Gesture.DOUBLE, Action.TACET),
              pedal(2, Gesture.SHORT, Action.PEEL),
              pedal(2, Gesture.LONG, Action.RESTORE),
              pedal(3, Gesture.SHORT, Action.NEXT_SECTION),
              pedal(3, Gesture.LONG, Action.PREVIOUS_SECTION),
              pedal(4, Gesture.SHORT, Action.ERASE),
              pedal(5, Gesture.SHORT, Action.HAND_OFF),
              pedal(5, Gesture.LONG, Action.KEEP),
              pedal(6, Gesture.SHORT, Action.START_STOP),
              pedal(6, Gesture.LONG, Action.STOP_ALL),
              knob(1, Action.LEVEL),
              knob(2, Action.ECHO),
              knob(3, Action.ROOM),
              knob(4, Action.TEMPO)));

  public ControlMap {
    Refusal.unless(
        format == FORMAT, "This is a map of format %s: only format %s is read.", format, FORMAT);
    name = Names.checked("map", name);
    assignments = List.copyOf(assignments);
    Refusal.unless(
        assignments.size() <= MOST, "A map has %s assignments at most: take some off.", MOST);
    Set<List<Object>> taken = new HashSet<>();
    for (Assignment a : assignments) {
      Refusal.unless(
          taken.add(List.of(a.control(), a.gesture())),
          "One control cannot do two things by a %s: choose one of them.",
          a.gesture().words());
      Refusal.unless(
          a.gesture() != Gesture.EACH
              || assignments.stream().filter(o -> o.control().equals(a.control())).count() == 1,
          "A control that latches does one thing only: take the others off it.");
    }
  }

  /** This map with an assignment, in place of what that control did by that gesture before. */
  public ControlMap with(Assignment assignment) {
    List<Assignment> next = new ArrayList<>(assignments);
    next.removeIf(
        a -> a.control().equals(assignment.control()) && a.gesture() == assignment.gesture());
    next.add(assignment);
    return new ControlMap(format, name, next);
  }

  /**
   * What is shown of the footboard.
   *
   * @param control the pedal
   * @param gestures what it does, by each gesture that does anything: short, long, double
   */
  public record Pedal(Control control, List<Assignment> gestures) {}

  /**
   * The pedals of the footboard: the controls that can be pressed on the device that has the main
   * press, {@value #MOST_PEDALS} at most. Without a main press those of the stand-in footboard.
   */
  public List<Pedal> pedals() {
    Optional<String> board =
        assignments.stream()
            .filter(a -> a.action() == Action.MAIN)
            .map(a -> a.control().device())
            .findFirst();
    if (board.isEmpty()) {
      return STAND_IN.pedals();
    }
    Map<Control, List<Assignment>> pedals = new LinkedHashMap<>();
    assignments.stream()
        .filter(a -> a.control().device().equals(board.get()))
        .filter(a -> a.action().hold() != Action.Hold.KNOB)
        .forEach(a -> pedals.computeIfAbsent(a.control(), c -> new ArrayList<>()).add(a));
    return pedals.entrySet().stream()
        .limit(MOST_PEDALS)
        .map(pedal -> new Pedal(pedal.getKey(), inOrder(pedal.getValue())))
        .toList();
  }

  private static List<Assignment> inOrder(List<Assignment> gestures) {
    return gestures.stream().sorted(Comparator.comparing(Assignment::gesture)).toList();
  }

  private static Assignment pedal(int number, Gesture gesture, Action action) {
    Control control = new Control(FOOTBOARD, Kind.CONTROL_CHANGE, 0, 79 + number);
    return new Assignment(control, gesture, action, 0);
  }

  private static Assignment knob(int number, Action action) {
    Control control = new Control(KNOBS, Kind.CONTROL_CHANGE, 0, 15 + number);
    return new Assignment(control, Gesture.SHORT, action, 0);
  }
}
