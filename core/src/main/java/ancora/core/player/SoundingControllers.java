package ancora.core.player;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.plan.Span;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Where the controllers of each part stand, and what loops do to them. */
final class SoundingControllers {

  private final Map<PartId, Map<Controller, Integer>> values = new HashMap<>();
  private final Ear out;

  SoundingControllers(Ear out) {
    this.out = out;
  }

  /** A hand moves a controller. */
  void move(long tick, long micros, PartId part, Controller controller, int value) {
    move(tick, micros, part, controller, value, Optional.empty());
  }

  private void move(
      long tick, long micros, PartId part, Controller controller, int value, Optional<String> by) {
    values.computeIfAbsent(part, p -> new LinkedHashMap<>()).put(controller, value);
    out.hear(new Sounded(tick, micros, part, kind(controller), controller.number(), value), by);
  }

  /** A loop moves a controller: nothing is sent where it is already. */
  private void loopMoves(
      long tick, long micros, PartId part, Controller controller, int value, Span span) {
    if (at(part, controller).filter(now -> now == value).isEmpty()) {
      move(tick, micros, part, controller, value, Optional.of(span.id()));
    }
  }

  /** At an entry, and at the line: what is in force at a place is sent where it is otherwise. */
  void settle(long tick, long micros, PartId part, Span span, long place) {
    for (Controller controller : controllers(span)) {
      loopMoves(tick, micros, part, controller, inForce(span, controller, place), span);
    }
  }

  /** Controllers move where their place comes round; at the line they are where they should be. */
  List<Event> events(PartId part, Span span, long after, long last, TempoMap map) {
    List<Event> events = new ArrayList<>();
    if (span.moves().isEmpty()) {
      return events;
    }
    for (long tick : Occurrences.ticksOf(span, span.window().start(), after, last)) {
      if (tick > span.from()) {
        events.add(
            new Event(
                tick,
                2,
                () ->
                    settle(
                        tick, Ticks.round(map.microsOf(tick)), part, span, span.window().start())));
      }
    }
    for (ControllerMove move : span.moves()) {
      for (long tick : Occurrences.ticksOf(span, move.place(), after, last)) {
        if (tick > span.from()) {
          events.add(
              new Event(
                  tick,
                  3,
                  () ->
                      loopMoves(
                          tick,
                          Ticks.round(map.microsOf(tick)),
                          part,
                          move.controller(),
                          move.value(),
                          span)));
        }
      }
    }
    return events;
  }

  /** Where a clip leaves, what springs back does so. */
  void release(long tick, long micros, PartId part, Span span) {
    controllers(span)
        .forEach(controller -> springBack(tick, micros, part, controller, Optional.of(span.id())));
  }

  /** All that springs back does so, everywhere. */
  void releaseAll(long tick, long micros) {
    values.keySet().stream()
        .sorted((a, b) -> Integer.compare(a.value(), b.value()))
        .forEach(
            part ->
                List.copyOf(values.get(part).keySet())
                    .forEach(
                        controller ->
                            springBack(tick, micros, part, controller, Optional.empty())));
  }

  private void springBack(
      long tick, long micros, PartId part, Controller controller, Optional<String> by) {
    boolean moved =
        controller.springsBack()
            && at(part, controller).filter(now -> now != controller.rest()).isPresent();
    if (moved) {
      move(tick, micros, part, controller, controller.rest(), by);
    }
  }

  private Optional<Integer> at(PartId part, Controller controller) {
    return Optional.ofNullable(values.getOrDefault(part, Map.of()).get(controller));
  }

  /** The value in force at a place, counted round the circle. */
  private static int inForce(Span span, Controller controller, long place) {
    List<ControllerMove> moves =
        span.moves().stream().filter(move -> move.controller().equals(controller)).toList();
    return moves.stream()
        .filter(move -> move.place() <= place)
        .reduce((a, b) -> b)
        .orElse(moves.get(moves.size() - 1))
        .value();
  }

  private static List<Controller> controllers(Span span) {
    return span.moves().stream().map(ControllerMove::controller).distinct().toList();
  }

  private static Sounded.Kind kind(Controller controller) {
    return Sounded.Kind.valueOf(controller.kind().name());
  }
}
