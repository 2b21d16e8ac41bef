package ancora.core.run;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.player.Ear;
import ancora.core.player.Sounded;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
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

  private record Attack(Sounded on, Optional<String> by) {
    Voice voice() {
      return new Voice(on.part(), on.isPedal() ? Note.PEDAL : on.pitch());
    }
  }

  private record Source(PartId part, Optional<String> by) {}

  /** A controller of a part on a tick: where it is moved more than once there, the last counts. */
  private record Where(PartId part, Controller controller, long tick) {}

  private final Map<Voice, Attack> sounding = new LinkedHashMap<>();
  private final Map<Source, Passes> notes = new HashMap<>();
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

  /**
   * A span is to come that goes round; told before it is heard, what is alike in it is kept once.
   *
   * @param phase a tick at which a pass begins
   * @param length ticks of each
   */
  public void goesRound(PartId part, String span, long phase, long length) {
    notes.putIfAbsent(new Source(part, Optional.of(span)), new Passes(phase, length));
  }

  @Override
  public void hear(Sounded sounded, Optional<String> by) {
    if (sounded.isClick()) {
      return;
    }
    if (sounded.isNote() || sounded.isPedal()) {
      Attack attack = new Attack(sounded, by);
      end(attack.voice(), sounded.tick());
      if (sounded.velocity() > 0) {
        sounding.put(attack.voice(), attack);
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
    notes.forEach(
        (source, passes) ->
            passes.notes().stream()
                .filter(note -> note.place() < tick)
                .forEach(note -> ended.add(source, note)));
    Map<Where, Moved> last = new LinkedHashMap<>();
    for (Moved each : moved) {
      Moved one = each.by(tick);
      last.remove(one.where());
      last.put(one.where(), one);
    }
    last.values().forEach(ended::add);
    ended.sounding.putAll(sounding);
    sounding.values().stream()
        .filter(attack -> attack.on().tick() >= tick)
        .forEach(attack -> ended.sounding.remove(attack.voice()));
    List.copyOf(ended.sounding.keySet()).forEach(voice -> ended.end(voice, tick));
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
                notes.values().stream()
                    .flatMap(passes -> passes.notes().stream())
                    .mapToLong(RunNote::place),
                moved.stream().mapToLong(one -> one.move().place()))
            .reduce(0, Math::min);
    return Ticks.floor(first, bar);
  }

  private void end(Voice voice, long tick) {
    Attack attack = sounding.remove(voice);
    if (attack != null) {
      Sounded on = attack.on();
      long length = Math.max(0, tick - on.tick());
      add(
          new Source(voice.part(), attack.by()),
          new RunNote(on.tick(), voice.pitch(), on.velocity(), length));
    }
  }

  private void add(Source source, RunNote note) {
    notes.computeIfAbsent(source, s -> new Passes()).add(note);
  }

  /**
   * The notes of a span, or of the hands, by rising tick.
   *
   * @param by the id of the span; empty for the hands
   */
  public List<RunNote> notes(PartId part, Optional<String> by) {
    return notes.getOrDefault(new Source(part, by), new Passes()).notes();
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
    boolean heard = notes.containsKey(source) && !notes.get(source).isEmpty();
    return sounds || heard || moves.containsKey(source);
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
