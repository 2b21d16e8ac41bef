package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Pedal;
import ancora.core.clip.Take;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.LongSummaryStatistics;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * What a performer may do to the notes of a take. An edit makes no layer: what it changes stays in
 * its layer. A note whose key is still down is left as it is.
 */
public sealed interface Edit {

  /** Nothing is moved or lengthened by more, in ticks. */
  long FARTHEST = 10_000_000;

  /** What it is called where it can be undone. */
  String words();

  /** The take after it; refuses what cannot be. */
  Take apply(Take take, Ground ground);

  /** Takes notes out for good. */
  record Delete(Chosen notes) implements Edit {
    @Override
    public String words() {
      return "delete notes";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      Set<Long> ids = notes.of(take);
      return take.mapLayers(
          layer ->
              holdsAny(layer, ids)
                  ? layer.where(note -> note.held() || !ids.contains(note.id()))
                  : layer);
    }
  }

  /**
   * Moves notes; past the loop's edge they go round.
   *
   * @param ticks later, or earlier if negative
   * @param semitones higher, or lower if negative
   */
  record Move(Chosen notes, long ticks, int semitones) implements Edit {
    public Move {
      checkDistance(ticks, semitones);
    }

    @Override
    public String words() {
      return "move notes";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      Take moved = mapNotes(take, notes.of(take), note -> moved(note, ticks, semitones, ground));
      return ticks == 0
          ? moved
          : moved.mapLayers(
              layer ->
                  layer.mapMoves(
                      move ->
                          notes.takesAlong(move)
                              ? move.withPlace(ground.round(move.place(), move.place() + ticks))
                              : move));
    }
  }

  /**
   * Copies notes, moved; a copy lies in the layer of its original.
   *
   * @param toPart the part that it goes to, if another
   * @param toClip the clip that it goes to, if another: into its newest layer
   */
  record Copy(
      Chosen notes, long ticks, int semitones, Optional<PartId> toPart, Optional<ClipId> toClip)
      implements Edit {
    public Copy {
      checkDistance(ticks, semitones);
      Refusal.unless(
          toPart.isEmpty() || toClip.isPresent(),
          "A copy to another part goes to one of its clips.");
    }

    @Override
    public String words() {
      return "copy notes";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      Take next = take;
      Set<Long> chosen = notes.of(take);
      for (Layer layer : take.allLayers().toList()) {
        List<Note> copies = of(layer, chosen, ground);
        next = copies.isEmpty() ? next : next.mapLayer(layer.number(), l -> l.with(copies));
        for (ControllerMove move : layer.moves()) {
          if (notes.takesAlong(move)) {
            long place = ground.round(move.place(), move.place() + ticks);
            next = next.withMove(layer.number(), move.withPlace(place));
          }
        }
      }
      return next;
    }

    /** The copies for another clip, at the same distance from the loop's start. */
    public List<Note> elsewhere(Take take, Ground from, Ground to) {
      Set<Long> ids = notes.of(take);
      long away = to.window().start() - from.window().start();
      return take.allLayers()
          .flatMap(layer -> of(layer, ids, from).stream())
          .map(note -> note.meantAt(to.window().wrap(note.meant() + away)))
          .toList();
    }

    private List<Note> of(Layer layer, Set<Long> ids, Ground ground) {
      return layer.notes().stream()
          .filter(note -> ids.contains(note.id()) && !note.held())
          .map(note -> moved(note, ticks, semitones, ground).withId(ground.ids().take()))
          .toList();
    }
  }

  /**
   * Copies notes after themselves, by the whole bars that they take up.
   *
   * @param times so often as far, from 1 on
   */
  record CopyOn(Chosen notes, int times) implements Edit {

    /** Nothing is pasted more often in a row. */
    private static final int MOST = 1000;

    public CopyOn {
      Refusal.unless(times >= 1 && times <= MOST, "Notes are copied on 1 to %s times.", MOST);
    }

    @Override
    public String words() {
      return "copy notes";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      Set<Long> ids = notes.of(take);
      LongSummaryStatistics places =
          take.allLayers()
              .flatMap(layer -> layer.notes().stream())
              .filter(note -> ids.contains(note.id()))
              .mapToLong(Note::meant)
              .summaryStatistics();
      if (places.getCount() == 0) {
        return take;
      }
      long bar = ground.meter().barTicks();
      long bars = Math.floorDiv(places.getMax(), bar) - Math.floorDiv(places.getMin(), bar) + 1;
      return new Copy(notes, bars * bar * times, 0, Optional.empty(), Optional.empty())
          .apply(take, ground);
    }
  }

  /**
   * Makes notes longer or shorter: one of the three.
   *
   * @param ticks how long they become
   * @param factor how many times as long
   * @param toNext whether out to the next onset
   */
  record Length(Chosen notes, OptionalLong ticks, OptionalDouble factor, boolean toNext)
      implements Edit {

    /** An onset no later than this after another is of the same chord: a thirty-second. */
    private static final long CHORD = Ticks.PER_QUARTER / 8;

    public Length {
      one(ticks.isPresent(), factor.isPresent(), toNext);
      Refusal.unless(
          ticks.orElse(1) >= 1 && ticks.orElse(1) <= FARTHEST,
          "A note lasts 1 to %s ticks.",
          FARTHEST);
      checkFactor(factor);
    }

    @Override
    public String words() {
      return "lengths";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      List<Long> onsets =
          toNext
              ? take.sounding()
                  .filter(n -> !n.isPedal() && ground.window().contains(n.meant()))
                  .map(Note::meant)
                  .sorted()
                  .toList()
              : List.of();
      return mapNotes(
          take,
          notes.of(take),
          note ->
              note.withLength(
                  toNext
                      ? untilNext(note, onsets, ground)
                      : Math.min(
                          FARTHEST,
                          ticks.orElseGet(
                              () -> Ticks.round(note.length() * factor.getAsDouble())))));
    }

    /** Ticks to the next onset after the chord, round the circle; with none the whole loop. */
    private static long untilNext(Note note, List<Long> onsets, Ground ground) {
      if (note.isPedal()) {
        return note.length();
      }
      long round = ground.window().length();
      long from = ground.window().wrap(note.meant());
      long next = firstAfter(onsets, from + CHORD);
      if (next == Ticks.OPEN) {
        next = firstAfter(onsets, from + CHORD - round);
        next = next == Ticks.OPEN ? next : next + round;
      }
      return Math.min(round, next - from);
    }

    /** The first onset after a place; {@link Ticks#OPEN} if there is none. */
    private static long firstAfter(List<Long> onsets, long place) {
      int found = Collections.binarySearch(onsets, place + 1);
      int first = found < 0 ? -found - 1 : found;
      return first < onsets.size() ? onsets.get(first) : Ticks.OPEN;
    }
  }

  /**
   * Makes notes louder or softer: one of the four.
   *
   * @param set how loud they become, 1 to 127
   * @param add louder by so much, or softer if negative
   * @param factor so many times as loud
   * @param accents whether as loud as their place is by itself
   */
  record Velocity(
      Chosen notes, OptionalInt set, OptionalInt add, OptionalDouble factor, boolean accents)
      implements Edit {
    public Velocity {
      one(set.isPresent(), add.isPresent(), factor.isPresent(), accents);
      Refusal.unless(
          set.orElse(1) >= 1 && set.orElse(1) <= 127 && Ticks.isWithin(add.orElse(0), 127),
          "A velocity is 1 to 127.");
      checkFactor(factor);
    }

    @Override
    public String words() {
      return "velocities";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      return mapNotes(
          take,
          notes.of(take),
          note -> note.isPedal() ? note : note.withVelocity(bounded(of(note, ground))));
    }

    private long of(Note note, Ground ground) {
      if (accents) {
        return Accents.at(note.meant(), ground.meter(), ground.grid());
      }
      if (factor.isPresent()) {
        return Ticks.round(note.velocity() * factor.getAsDouble());
      }
      return set.isPresent() ? set.getAsInt() : note.velocity() + (long) add.getAsInt();
    }

    private static int bounded(long velocity) {
      return (int) Math.max(1, Math.min(127, velocity));
    }
  }

  /**
   * Draws a note.
   *
   * @param place on the material's axis
   * @param velocity 1 to 127; if not given, as loud as its place is by itself
   * @param layer the layer that it lies in; if not given, the newest
   */
  record Draw(int pitch, long place, long length, OptionalInt velocity, OptionalInt layer)
      implements Edit {
    public Draw {
      Refusal.unless(
          pitch >= 0 && pitch < Note.PEDAL && Ticks.isWithin(place, FARTHEST),
          "There is no such place to draw at.");
      Refusal.unless(length >= 1 && length <= FARTHEST, "A note lasts 1 to %s ticks.", FARTHEST);
      Refusal.unless(
          velocity.orElse(1) >= 1 && velocity.orElse(1) <= 127, "A velocity is 1 to 127.");
    }

    @Override
    public String words() {
      return "draw";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      int loud = velocity.orElseGet(() -> Accents.at(place, ground.meter(), ground.grid()));
      long lasts = Math.max(Note.SHORTEST, length);
      Note note = Note.of(ground.ids().take(), pitch, loud, place, place, lasts);
      Take with = take.layers().isEmpty() ? take.begun() : take;
      int newest = with.layers().get(with.layers().size() - 1).number();
      int number = layer.orElse(newest);
      Refusal.unless(with.isOn(number), "There is no layer %s: choose one that is on.", number);
      return with.mapLayer(number, l -> l.with(note));
    }
  }

  /**
   * Puts notes to a grid, or to another clip's feel, from where each was played. One that was early
   * for the line stays on it.
   *
   * @param grid the grid; not given with a feel
   * @param strength 0 to 100 %
   * @param swing 50 to 75 %
   * @param endsToo whether ends are put to the grid as well
   * @param feelOf the clip whose onsets and accents are taken
   */
  record ToGrid(
      Chosen notes,
      Optional<Grid> grid,
      int strength,
      double swing,
      boolean endsToo,
      Optional<ClipId> feelOf)
      implements Edit {
    public ToGrid {
      one(grid.isPresent(), feelOf.isPresent());
      // it checks its own bounds
      new InputGrid(grid.orElse(Grid.OFF), strength, swing, endsToo);
    }

    @Override
    public String words() {
      return "to the grid";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      UnaryOperator<Note> change =
          grid.isPresent()
              ? note -> onGrid(note, new InputGrid(grid.get(), strength, swing, endsToo), ground)
              : felt(Feel.of(ground.clip(feelOf.orElseThrow()), ground.meter()), ground);
      return mapNotes(
          take,
          notes.of(take),
          note -> note.isPedal() || ground.isEarly(note) ? note : change.apply(note));
    }

    private Note onGrid(Note note, InputGrid lines, Ground ground) {
      long meant = lines.meant(note.played(), ground.meter());
      Note there = note.withMeant(ground.round(note, meant));
      if (!endsToo || lines.grid() == Grid.OFF) {
        return there;
      }
      // from where it was played: so it does not matter where another grid had it, or the line
      long end = lines.meant(note.played() + note.length(), ground.meter());
      return there.withLength(Math.max(lines.grid().step(), end - meant));
    }

    private UnaryOperator<Note> felt(Feel feel, Ground ground) {
      return note -> {
        Map.Entry<Long, Integer> line = feel.nearest(note.played());
        long meant = note.played() + Ticks.round(strength / 100.0 * line.getKey());
        long velocity =
            note.velocity() + Ticks.round(strength / 100.0 * (line.getValue() - note.velocity()));
        return note.withMeant(ground.round(note, meant)).withVelocity((int) velocity);
      };
    }
  }

  /** Takes notes off the grid, to where they were played; moved ones stay moved. */
  record AsPlayed(Chosen notes) implements Edit {
    @Override
    public String words() {
      return "as played";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      return mapNotes(
          take,
          notes.of(take),
          note -> ground.isEarly(note) ? note : note.withMeant(ground.round(note, note.played())));
    }
  }

  /**
   * Takes out what a controller does in a stretch.
   *
   * @param from its first place
   * @param to the first place after it
   */
  record DeleteMoves(Controller controller, long from, long to) implements Edit {
    public DeleteMoves {
      checkStretch(from, to);
    }

    @Override
    public String words() {
      return "pedal and controllers";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      return take.mapLayers(layer -> layer.whereMoves(move -> !lies(move, controller, from, to)));
    }
  }

  /**
   * Leaves of what a controller does in a stretch no more than is heard.
   *
   * @param from its first place
   * @param to the first place after it
   * @param every ticks in which one move stays, the last of them
   */
  record ThinMoves(Controller controller, long from, long to, long every) implements Edit {
    public ThinMoves {
      checkStretch(from, to);
      Refusal.unless(every >= 1 && every <= FARTHEST, "Thin by some ticks.");
    }

    @Override
    public String words() {
      return "pedal and controllers";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      List<ControllerMove> there =
          take.soundingMoves()
              .filter(move -> lies(move, controller, from, to))
              .sorted((a, b) -> Long.compare(a.place(), b.place()))
              .toList();
      Set<Long> gone = new HashSet<>();
      for (int i = 0; i + 1 < there.size(); i++) {
        long piece = Math.floorDiv(there.get(i).place() - from, every);
        if (Math.floorDiv(there.get(i + 1).place() - from, every) == piece) {
          gone.add(there.get(i).id());
        }
      }
      return take.mapLayers(layer -> layer.whereMoves(move -> !gone.contains(move.id())));
    }
  }

  /**
   * Lifts the sustain pedal in a stretch: what it holds across an edge is cut there.
   *
   * @param from its first place
   * @param to the first place after it
   */
  record DeletePedal(long from, long to) implements Edit {
    public DeletePedal {
      checkStretch(from, to);
    }

    @Override
    public String words() {
      return "pedal and controllers";
    }

    @Override
    public Take apply(Take take, Ground ground) {
      Set<Long> sounding = new HashSet<>();
      take.sounding().filter(Note::isPedal).forEach(note -> sounding.add(note.id()));
      return take.mapLayers(
          layer -> {
            if (!holdsAny(layer, sounding)) {
              return layer;
            }
            List<Note> notes = new ArrayList<>();
            for (Note note : layer.notes()) {
              if (sounding.contains(note.id()) && !note.held()) {
                notes.addAll(cut(note, ground));
              } else {
                notes.add(note);
              }
            }
            notes.sort((a, b) -> Long.compare(a.id(), b.id()));
            return layer.withNotes(notes);
          });
    }

    /** What is left of a span; where it goes over the line, of what comes round as well. */
    private List<Note> cut(Note span, Ground ground) {
      List<Note> left = List.of(span);
      for (long round = 0; round <= 1; round++) {
        long begin = from + round * ground.window().length();
        long end = to + round * ground.window().length();
        List<Note> next = new ArrayList<>();
        for (Note piece : left) {
          Pedal.within(piece, Long.MIN_VALUE / 2, begin).ifPresent(next::add);
          Pedal.within(piece, end, Long.MAX_VALUE / 2).ifPresent(next::add);
        }
        left = next;
      }
      List<Note> own = new ArrayList<>();
      for (Note piece : left) {
        Note there = piece.meantAt(ground.round(span, piece.meant()));
        own.add(own.isEmpty() ? there : there.withId(ground.ids().take()));
      }
      return own;
    }
  }

  private static boolean lies(ControllerMove move, Controller controller, long from, long to) {
    return move.controller().equals(controller) && move.place() >= from && move.place() < to;
  }

  private static boolean holdsAny(Layer layer, Set<Long> ids) {
    return layer.notes().stream().anyMatch(note -> ids.contains(note.id()));
  }

  private static Take mapNotes(Take take, Set<Long> ids, UnaryOperator<Note> change) {
    return take.mapLayers(
        layer ->
            holdsAny(layer, ids)
                ? layer.map(
                    note -> ids.contains(note.id()) && !note.held() ? change.apply(note) : note)
                : layer);
  }

  private static Note moved(Note note, long ticks, int semitones, Ground ground) {
    int pitch = note.isPedal() ? note.pitch() : note.pitch() + semitones;
    Refusal.unless(
        note.isPedal() || pitch >= 0 && pitch < Note.PEDAL,
        "Some of these notes would lie outside the 128 pitches: move them less far.");
    return note.withPitch(pitch).meantAt(ground.round(note, note.meant() + ticks));
  }

  private static void checkDistance(long ticks, int semitones) {
    Refusal.unless(
        Ticks.isWithin(ticks, FARTHEST) && Ticks.isWithin(semitones, Note.PEDAL - 1),
        "That is too far: move notes within the clip and the 128 pitches.");
  }

  private static void checkStretch(long from, long to) {
    Refusal.unless(
        from < to && Ticks.isWithin(from, FARTHEST) && Ticks.isWithin(to, FARTHEST),
        "A stretch ends after it begins, within reach.");
  }

  private static void checkFactor(OptionalDouble factor) {
    Refusal.unless(
        factor.orElse(1) > 0 && factor.orElse(1) <= 100,
        "A factor is more than 0, and 100 at most.");
  }

  private static void one(boolean... given) {
    int count = 0;
    for (boolean each : given) {
      count += each ? 1 : 0;
    }
    Refusal.unless(count == 1, "An edit says one thing to do to its notes: no more, and no less.");
  }
}
