package ancora.core.run;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.ToLongFunction;
import java.util.stream.Stream;

/**
 * A run put together from stretches of itself, one after another. What sounds at both sides of a
 * seam goes on over it; what sounds before it alone ends there; what is under way after it alone is
 * attacked there, if there is something left of it.
 */
final class Splice {

  /** Less than this of a note is not worth an attack, in ticks. */
  private static final long LEAST_REST = 240;

  /**
   * A stretch.
   *
   * @param from its first tick
   * @param until the first tick after it
   * @param later by how many ticks it lies later than it did
   */
  private record Piece(long from, long until, long later) {
    boolean has(long tick) {
      return tick >= from && tick < until;
    }
  }

  private final List<Piece> pieces = new ArrayList<>();
  private final long begin;
  private long end;

  /**
   * A splice.
   *
   * @param begin the tick at which the first stretch is to begin
   */
  Splice(long begin) {
    this.begin = begin;
    this.end = begin;
  }

  /** One more stretch; none where it is empty. */
  Splice with(long from, long until) {
    if (until > from) {
      pieces.add(new Piece(from, until, end - from));
      end += until - from;
    }
    return this;
  }

  /** The first tick after the last stretch. */
  long end() {
    return end;
  }

  /** The whole run, from stretches of it. */
  Run of(Run run) {
    Numbers numbers = new Numbers(run);
    return new Run(
        map(run.map()),
        run.meter(),
        begin,
        end,
        run.parts().stream().map(part -> of(part, numbers)).toList(),
        settings(
            run.sections(),
            true,
            From.OfSection::tick,
            (section, tick) -> new From.OfSection(tick, section.letter(), section.name())));
  }

  /** One part alone, from stretches of it: all that is later than the last has gone. */
  RunPart of(RunPart part, Numbers numbers) {
    List<Passage> passages = new ArrayList<>();
    Beside beside = new Beside(new ArrayList<>(), new ArrayList<>());
    part.passages().forEach(passage -> passages.addAll(of(passage, numbers, beside)));
    passages.sort(Comparator.comparingLong(Passage::from).thenComparingInt(Passage::number));
    return new RunPart(
        part.id(),
        part.name(),
        part.pennant(),
        always(
            part.sounds(),
            From.OfSound::tick,
            (sound, tick) -> new From.OfSound(tick, sound.sound())),
        always(
            part.balances(),
            From.OfBalance::tick,
            (balance, tick) -> new From.OfBalance(tick, balance.balance(), balance.heard())),
        passages,
        Stream.concat(notes(part.hands()).stream().map(Placed::note), beside.notes().stream())
            .sorted(BY_PLACE)
            .toList(),
        Stream.concat(moves(part).stream(), beside.moves().stream())
            .sorted(Comparator.comparingLong(ControllerMove::place))
            .toList());
  }

  /**
   * What a passage sounded after its end, where it was known late that it had left, in stretches
   * that have nothing else of it: it is kept as what hands do is.
   */
  private record Beside(List<RunNote> notes, List<ControllerMove> moves) {}

  /** Numbers for passages: the first of those that one becomes keeps its own. */
  static final class Numbers {
    private int next;

    Numbers(Run run) {
      next =
          1
              + run.parts().stream()
                  .flatMap(part -> part.passages().stream())
                  .mapToInt(Passage::number)
                  .max()
                  .orElse(0);
    }

    int next() {
      return next++;
    }
  }

  private static final Comparator<RunNote> BY_PLACE =
      Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch);

  /** A note at its new place, and in which piece it is attacked. */
  private record Placed(RunNote note, int piece) {}

  private List<Placed> notes(List<RunNote> notes) {
    List<Placed> placed = new ArrayList<>();
    Map<Integer, Integer> carried = new HashMap<>();
    for (int i = 0; i < pieces.size(); i++) {
      Piece piece = pieces.get(i);
      Optional<Piece> next =
          i + 1 < pieces.size() ? Optional.of(pieces.get(i + 1)) : Optional.empty();
      Map<Integer, Integer> goesOn = new HashMap<>();
      for (int n = 0; n < notes.size(); n++) {
        RunNote note = notes.get(n);
        int where = -1;
        if (piece.has(note.place())) {
          where = placed.size();
          placed.add(new Placed(note.until(piece.until).later(piece.later), i));
        } else if (note.isUnderWayAt(piece.from)) {
          long until = Math.min(note.end(), piece.until);
          if (carried.containsKey(n)) {
            where = carried.get(n);
            RunNote before = placed.get(where).note();
            RunNote longer = before.withLength(before.length() + until - piece.from);
            placed.set(where, new Placed(longer, placed.get(where).piece()));
          } else if (note.pitch() == Note.PEDAL || note.end() - piece.from >= LEAST_REST) {
            where = placed.size();
            placed.add(new Placed(note.from(piece.from).until(piece.until).later(piece.later), i));
          }
        }
        boolean crosses =
            where >= 0
                && note.end() > piece.until
                && next.filter(p -> note.isUnderWayAt(p.from)).isPresent();
        if (crosses) {
          goesOn.put(n, where);
        }
      }
      carried = goesOn;
    }
    return placed;
  }

  private List<Passage> of(Passage passage, Numbers numbers, Beside beside) {
    List<RunNote> absolute =
        passage.notes().stream().map(note -> note.later(passage.from())).toList();
    List<Placed> placed = notes(absolute);
    Map<Integer, List<RunNote>> byPiece = new HashMap<>();
    placed.forEach(p -> byPiece.computeIfAbsent(p.piece(), i -> new ArrayList<>()).add(p.note()));
    List<Passage> all = new ArrayList<>();
    for (int i = 0; i < pieces.size(); i++) {
      Piece piece = pieces.get(i);
      long from = Math.max(passage.from(), piece.from);
      long until = Math.min(passage.until(), piece.until);
      if (until > from) {
        Passage copy = copy(passage, piece, from, until, byPiece.getOrDefault(i, List.of()));
        Passage last = all.isEmpty() ? null : all.get(all.size() - 1);
        if (last != null && copy.goesOnFrom(last)) {
          all.set(all.size() - 1, last.together(copy));
        } else {
          all.add(all.isEmpty() ? copy : copy.withNumber(numbers.next()));
        }
      } else {
        beside.notes().addAll(byPiece.getOrDefault(i, List.of()));
        passage.moves().stream()
            .map(move -> move.withPlace(move.place() + passage.from()))
            .filter(move -> piece.has(move.place()))
            .forEach(move -> beside.moves().add(move.withPlace(move.place() + piece.later)));
      }
    }
    return all;
  }

  private static Passage copy(
      Passage passage, Piece piece, long from, long until, List<RunNote> notes) {
    long begins = from + piece.later;
    return passage.with(
        p ->
            p.phase(passage.phase() + piece.later)
                .from(begins)
                .until(until + piece.later)
                .notes(notes.stream().map(n -> n.later(-begins)).sorted(BY_PLACE).toList())
                .moves(
                    passage.moves().stream()
                        .map(move -> move.withPlace(move.place() + passage.from()))
                        .filter(move -> piece.has(move.place()))
                        .map(move -> move.withPlace(move.place() + piece.later - begins))
                        .toList()));
  }

  /** The hands' moves; and at each seam what brings controllers to where they stand after it. */
  private List<ControllerMove> moves(RunPart part) {
    List<ControllerMove> all = part.allMoves();
    List<ControllerMove> moves = new ArrayList<>();
    Map<Controller, Integer> standing = Map.of();
    for (Piece piece : pieces) {
      Map<Controller, Integer> wanted = standingAt(all, piece.from);
      for (Controller controller : known(standing, wanted)) {
        int rest = controller.springsBack() ? controller.rest() : 0;
        int is = standing.getOrDefault(controller, rest);
        int to = wanted.getOrDefault(controller, controller.springsBack() ? rest : is);
        if (is != to) {
          moves.add(new ControllerMove(controller, piece.from + piece.later, to));
        }
      }
      part.moves().stream()
          .filter(move -> piece.has(move.place()))
          .forEach(move -> moves.add(move.withPlace(move.place() + piece.later)));
      standing = standingAt(all, piece.until);
    }
    return moves;
  }

  private static List<Controller> known(
      Map<Controller, Integer> one, Map<Controller, Integer> other) {
    Map<Controller, Integer> both = new LinkedHashMap<>(one);
    both.putAll(other);
    return List.copyOf(both.keySet());
  }

  /** Where controllers stand just before a tick. */
  private static Map<Controller, Integer> standingAt(List<ControllerMove> moves, long tick) {
    Map<Controller, Integer> standing = new LinkedHashMap<>();
    moves.stream()
        .filter(move -> move.place() < tick)
        .forEach(move -> standing.put(move.controller(), move.value()));
    return standing;
  }

  /**
   * What a part is from where. It is something from the beginning on, also where the stretches lie
   * before it came.
   */
  private <T> List<T> always(List<T> all, ToLongFunction<T> tickOf, BiFunction<T, Long, T> at) {
    List<T> holds = settings(all, false, tickOf, at);
    return holds.isEmpty() ? List.of(at.apply(all.get(0), begin)) : holds;
  }

  /**
   * What holds from where: at each seam what held there, unless it held before it too.
   *
   * @param enters whether one that begins at the seam itself is said though it held before
   */
  private <T> List<T> settings(
      List<T> all, boolean enters, ToLongFunction<T> tickOf, BiFunction<T, Long, T> at) {
    List<T> out = new ArrayList<>();
    for (Piece piece : pieces) {
      T holds = null;
      for (T setting : all) {
        holds = tickOf.applyAsLong(setting) <= piece.from ? setting : holds;
      }
      if (holds != null) {
        T here = at.apply(holds, piece.from + piece.later);
        T last = out.isEmpty() ? null : at.apply(out.get(out.size() - 1), tickOf.applyAsLong(here));
        if (!here.equals(last) || enters && tickOf.applyAsLong(holds) == piece.from) {
          out.add(here);
        }
      }
      for (T setting : all) {
        long tick = tickOf.applyAsLong(setting);
        if (tick > piece.from && tick < piece.until) {
          out.add(at.apply(setting, tick + piece.later));
        }
      }
    }
    return out;
  }

  private TempoMap map(TempoMap map) {
    List<TempoMap.Anchor> anchors = new ArrayList<>();
    double micros = 0;
    for (Piece piece : pieces) {
      double origin = map.microsOf(piece.from);
      double begins = micros;
      anchors.add(new TempoMap.Anchor(piece.from + piece.later, begins, map.tempoAt(piece.from)));
      for (TempoMap.Anchor anchor : map.anchors()) {
        if (anchor.tick() > piece.from && anchor.tick() < piece.until) {
          anchors.add(
              new TempoMap.Anchor(
                  anchor.tick() + piece.later, begins + anchor.micros() - origin, anchor.tempo()));
        }
      }
      micros = begins + map.microsOf(piece.until) - origin;
    }
    TempoMap all = new TempoMap(withoutSame(anchors));
    double zero = all.microsOf(0);
    return new TempoMap(
        all.anchors().stream()
            .map(a -> new TempoMap.Anchor(a.tick(), a.micros() - zero, a.tempo()))
            .toList());
  }

  private static List<TempoMap.Anchor> withoutSame(List<TempoMap.Anchor> anchors) {
    List<TempoMap.Anchor> out = new ArrayList<>();
    for (TempoMap.Anchor anchor : anchors) {
      if (out.isEmpty() || !out.get(out.size() - 1).tempo().equals(anchor.tempo())) {
        out.add(anchor);
      }
    }
    return out;
  }
}
