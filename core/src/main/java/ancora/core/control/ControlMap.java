package ancora.core.control;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.catalogue.Entry;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.Control.Kind;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Which controls stand for which commands.
 *
 * @param format {@value #FORMAT}
 * @param name as the performer calls it
 * @param assignments no control does two things by one gesture; pedals are shown in their order
 * @param lamps what controls are sent so that they light
 */
public record ControlMap(int format, String name, List<Assignment> assignments, Lamps lamps) {

  /** The format that is written; the one before it can be brought along. */
  public static final int FORMAT = 2;

  /** A map has no more assignments than this. */
  public static final int MOST = 512;

  /** A footboard has no more pedals than this on the screen. */
  public static final int MOST_PEDALS = 12;

  private static final Set<Class<?>> TAPPED =
      Set.of(HandCommand.Panic.class, SettingCommand.TapTempo.class, CueCommand.Stop.class);

  public ControlMap {
    Refusal.unless(
        format == FORMAT, "This is a map of format %s: only format %s is read.", format, FORMAT);
    name = Names.checked("map", name);
    assignments = List.copyOf(assignments);
    Refusal.unless(
        assignments.size() <= MOST, "A map has %s assignments at most: take some off.", MOST);
    Map<Control, List<Assignment>> controls = byControl(assignments);
    controls.values().forEach(ControlMap::check);
  }

  public ControlMap(String name, List<Assignment> assignments) {
    this(FORMAT, name, assignments, Lamps.USUAL);
  }

  private static Map<Control, List<Assignment>> byControl(List<Assignment> assignments) {
    Map<Control, List<Assignment>> controls = new LinkedHashMap<>();
    assignments.forEach(a -> controls.computeIfAbsent(a.control(), c -> new ArrayList<>()).add(a));
    return controls;
  }

  /** What one control does has to go together. */
  private static void check(List<Assignment> ofOne) {
    Set<Gesture> taken = new HashSet<>();
    for (Assignment a : ofOne) {
      Refusal.unless(
          taken.add(a.gesture()),
          "One control cannot do two things by a %s: choose one of them.",
          a.gesture().words());
      Refusal.unless(
          a.gesture() != Gesture.EACH || ofOne.size() == 1,
          "A control that latches does one thing only: take the others off it.");
    }
    boolean waits = taken.contains(Gesture.LONG) || taken.contains(Gesture.DOUBLE);
    for (Assignment a : ofOne) {
      Refusal.unless(
          !waits || a.gesture() != Gesture.SHORT || !isAlone(a.command()),
          "“%s” is done when the control goes down, and cannot be taken back: give it a control"
              + " without a long or a double press.",
          a.words());
    }
  }

  /** Whether nothing can be done in its place once it is done. */
  private static boolean isAlone(Command command) {
    return Entry.holdOf(command) != Entry.Hold.PRESSED || TAPPED.contains(command.getClass());
  }

  /** This map with an assignment, in place of what that control did by that gesture before. */
  public ControlMap with(Assignment assignment) {
    List<Assignment> next = new ArrayList<>(assignments);
    next.removeIf(
        a -> a.control().equals(assignment.control()) && a.gesture() == assignment.gesture());
    next.add(assignment);
    return new ControlMap(format, name, next, lamps);
  }

  /** This map without what a control does by a gesture. */
  public ControlMap without(Control control, Gesture gesture) {
    List<Assignment> left =
        assignments.stream()
            .filter(a -> !a.control().equals(control) || a.gesture() != gesture)
            .toList();
    return new ControlMap(format, name, left, lamps);
  }

  /** This map under another name. */
  public ControlMap named(String other) {
    return new ControlMap(format, other, assignments, lamps);
  }

  /** This map with other lamps. */
  public ControlMap lit(Lamps other) {
    return new ControlMap(format, name, assignments, other);
  }

  /** This map with some controls first, in that order: pedals are shown so. */
  public ControlMap ordered(List<Control> first) {
    List<Assignment> next = new ArrayList<>();
    new LinkedHashSet<>(first).forEach(control -> next.addAll(of(control)));
    assignments.stream().filter(a -> !first.contains(a.control())).forEach(next::add);
    return new ControlMap(format, name, next, lamps);
  }

  /** This map with what another has for the controls that have nothing in this one. */
  public ControlMap and(ControlMap other) {
    Set<Control> known = new HashSet<>();
    assignments.forEach(a -> known.add(a.control()));
    List<Assignment> next = new ArrayList<>(assignments);
    other.assignments.stream().filter(a -> !known.contains(a.control())).forEach(next::add);
    return new ControlMap(format, name, next, lamps);
  }

  /** What a control stands for. */
  public List<Assignment> of(Control control) {
    return assignments.stream().filter(a -> a.control().equals(control)).toList();
  }

  /**
   * What is shown of the footboard.
   *
   * @param control the pedal
   * @param gestures what it does, by each gesture that does anything: short, long, double
   */
  public record Pedal(Control control, List<Assignment> gestures) {}

  /**
   * The pedals of the footboard, one's own before the stand-in's: the controls that are pressed on
   * the devices that send control or program changes, or that have the main press, {@value
   * #MOST_PEDALS} of each device at most. Without any those of the stand-in footboard.
   */
  public List<Pedal> pedals() {
    Set<String> boards = new LinkedHashSet<>();
    pressed()
        .filter(a -> a.control().kind() != Kind.NOTE || isMain(a))
        .forEach(a -> boards.add(a.control().device()));
    if (boards.isEmpty()) {
      return ReadyMap.STAND_IN.pedals();
    }
    Comparator<String> ownFirst = Comparator.comparing(ReadyMap.FOOTBOARD::equals);
    return boards.stream().sorted(ownFirst).flatMap(this::pedals).toList();
  }

  private Stream<Pedal> pedals(String board) {
    Predicate<Assignment> there = a -> a.control().device().equals(board);
    return byControl(pressed().filter(there).toList()).entrySet().stream()
        .limit(MOST_PEDALS)
        .map(
            pedal ->
                new Pedal(
                    pedal.getKey(),
                    pedal.getValue().stream()
                        .sorted(Comparator.comparing(Assignment::gesture))
                        .toList()));
  }

  private Stream<Assignment> pressed() {
    return assignments.stream()
        .filter(a -> a.control().kind() != Kind.KEY)
        .filter(a -> Entry.holdOf(a.command()) != Entry.Hold.TURNED);
  }

  private static boolean isMain(Assignment assignment) {
    return assignment.command() instanceof PressCommand.MainPress;
  }
}
