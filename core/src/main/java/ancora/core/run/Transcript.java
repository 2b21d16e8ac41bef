package ancora.core.run;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.player.Ear;
import ancora.core.player.Sounded;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.LongStream;

/**
 * Writes down what sounds, as notes from attack to end: of each span, and of the hands, by itself.
 */
public final class Transcript implements Ear {

  private record Voice(PartId part, int pitch) {}

  private record Attack(Sounded on, Optional<String> by) {}

  private record Source(PartId part, Optional<String> by) {}

  /** A controller of a part on a tick: where it is moved more than once there, the last counts. */
  private record Where(PartId part, Controller controller, long tick) {}

  private static final Comparator<RunNote> BY_PLACE =
      Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch);

  private final Map<Voice, Attack> sounding = new LinkedHashMap<>();
  private final Map<Source, List<RunNote>> notes = new HashMap<>();
  private final Map<Source, List<ControllerMove>> moves = new HashMap<>();

  /** All moves, in the order in which they were heard; their places are those of the run. */
  private final List<Moved> moved = new ArrayList<>();

  private record Moved(Source source, ControllerMove move) {
    Moved by(long tick) {
      return new Moved(source, move.withPlace(Math.min(tick, move.place())));
    }

    Where where() {
      return new Where(source.part(), move.controller(), move.place());
    }
  }

  @Override
  public void hear(Sounded sounded, Optional<String> by) {
    if (sounded.isClick()) {
      return;
    }
    if (sounded.isNote() || sounded.isPedal()) {
      int pitch = sounded.isPedal() ? Note.PEDAL : sounded.pitch();
      Voice voice = new Voice(sounded.part(), pitch);
      end(voice, sounded.tick());
      if (sounded.velocity() > 0) {
        sounding.put(voice, new Attack(sounded, by));
      }
      return;
    }
    ControllerMove move =
        new ControllerMove(sounded.controller(), sounded.tick(), sounded.velocity());
    add(new Moved(new Source(sounded.part(), by), move));
  }

  private void add(Moved one) {
    moved.add(one);
    moves.computeIfAbsent(one.source(), s -> new ArrayList<>()).add(one.move());
  }

  /**
   * This, as if all that still sounds were over at a tick, and what moves later had moved there:
   * what leaves late lets go of its controllers on the tick after the last. What was attacked
   * there, or later, has not sounded.
   */
  public Transcript endedAt(long tick) {
    Transcript ended = new Transcript();
    notes.forEach((source, list) -> ended.notes.put(source, new ArrayList<>(list)));
    Map<Where, Moved> last = new LinkedHashMap<>();
    for (Moved each : moved) {
      Moved one = each.by(tick);
      last.remove(one.where());
      last.put(one.where(), one);
    }
    last.values().forEach(ended::add);
    ended.sounding.putAll(sounding);
    List.copyOf(sounding.keySet()).forEach(voice -> ended.end(voice, tick));
    ended.notes.values().forEach(list -> list.removeIf(note -> note.place() >= tick));
    return ended;
  }

  /**
   * Where a run of what was heard begins: on tick 0, or on the last bar line before it from which
   * on all sounded, and moved.
   *
   * @param bar ticks of a bar
   */
  public long begins(long bar) {
    long first =
        LongStream.concat(
                notes.values().stream().flatMap(List::stream).mapToLong(RunNote::place),
                moved.stream().mapToLong(one -> one.move().place()))
            .reduce(0, Math::min);
    return Ticks.floor(first, bar);
  }

  private void end(Voice voice, long tick) {
    Attack attack = sounding.remove(voice);
    if (attack != null) {
      Sounded on = attack.on();
      long length = Math.max(0, tick - on.tick());
      notes
          .computeIfAbsent(new Source(voice.part(), attack.by()), s -> new ArrayList<>())
          .add(new RunNote(on.tick(), voice.pitch(), on.velocity(), length));
    }
  }

  /**
   * The notes of a span, or of the hands, by rising tick.
   *
   * @param by the id of the span; empty for the hands
   */
  public List<RunNote> notes(PartId part, Optional<String> by) {
    return notes.getOrDefault(new Source(part, by), List.of()).stream().sorted(BY_PLACE).toList();
  }

  /** What it did to controllers, in order. */
  public List<ControllerMove> moves(PartId part, Optional<String> by) {
    return List.copyOf(moves.getOrDefault(new Source(part, by), List.of()));
  }

  /** Whether a span has been heard. */
  public boolean has(PartId part, String by) {
    Source source = new Source(part, Optional.of(by));
    boolean sounds =
        sounding.entrySet().stream()
            .anyMatch(
                e -> e.getKey().part().equals(part) && e.getValue().by().equals(Optional.of(by)));
    return sounds || notes.containsKey(source) || moves.containsKey(source);
  }

  /** A passage with what its span sounded. */
  public Passage passage(Passage bare, PartId part, String span) {
    long from = bare.from();
    return bare.with(
        p ->
            p.notes(notes(part, Optional.of(span)).stream().map(n -> n.later(-from)).toList())
                .moves(
                    moves(part, Optional.of(span)).stream()
                        .map(m -> m.withPlace(m.place() - from))
                        .toList()));
  }
}
