package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A take put together from stretches of others. It remembers its stretches, and holds copies as its
 * first layer: later changes to the takes do not touch it. A note goes with the stretch that holds
 * its onset, and ends at the latest where its pitch is attacked next. The sustain pedal is cut at
 * the edges of a stretch.
 */
public final class Comp {

  private Comp() {}

  /**
   * A take put together from stretches of others, a later over an earlier; refuses stretches that
   * do not cover the window, or that hold nothing.
   *
   * @param nextId its notes get ids from here on
   */
  public static Take of(Clip clip, List<Stretch> stretches, long nextId) {
    List<Stretch> covering = Stretch.covering(stretches, clip.window());
    Copying copying = new Copying(nextId, 1);
    covering.forEach(stretch -> copying.add(clip, stretch));
    Refusal.unless(
        copying.notes.stream().anyMatch(note -> !note.isPedal()),
        "There are no notes in these stretches.");
    Layer layer = new Layer(1, cut(copying.notes), copying.moves, List.of(), List.of());
    return Take.of(clip.nextTake(), List.of(layer)).withName("comp").withStretches(covering);
  }

  /**
   * A comp with one stretch drawn anew from a take, and nothing else of it otherwise; refuses a
   * take that is no comp, and a stretch outside the loop.
   */
  public static Take redrawn(Clip clip, int number, Stretch drawn, long nextId) {
    Take comp = clip.take(number);
    Refusal.unless(
        !comp.stretches().isEmpty(), "Take %s is no comp: put one together first.", number);
    Refusal.unless(
        drawn.from() >= clip.window().start()
            && drawn.to() <= clip.window().end()
            && drawn.from() < drawn.to(),
        Stretch.WITHIN);
    Copying copying = new Copying(nextId, comp.nextMove());
    copying.add(clip, drawn);
    List<Note> notes = new ArrayList<>();
    for (Note note : first(comp).notes()) {
      if (!drawn.contains(note.meant())) {
        notes.add(note);
      }
    }
    notes.addAll(copying.notes);
    List<ControllerMove> moves = new ArrayList<>();
    first(comp).moves().stream().filter(m -> !drawn.contains(m.place())).forEach(moves::add);
    moves.addAll(copying.moves);
    Layer layer = first(comp).withNotes(cut(notes)).withMoves(moves);
    return comp.mapLayer(layer.number(), l -> layer)
        .withNext(comp.nextLayer(), copying.nextMove)
        .withStretches(Stretch.with(comp.stretches(), drawn));
  }

  /**
   * A take with some stretches drawn from another: it is that comp drawn anew, or a new one.
   *
   * @param base the take that holds outside of them
   */
  public static Take swept(Clip clip, int base, List<Stretch> drawn, long nextId) {
    Take take = clip.take(base);
    if (take.stretches().isEmpty()) {
      LoopWindow window = clip.window();
      List<Stretch> stretches = new ArrayList<>(drawn);
      stretches.add(0, new Stretch(window.start(), window.end(), base));
      return of(clip, stretches, nextId);
    }
    Clip next = clip;
    long id = nextId;
    for (Stretch stretch : drawn) {
      Take redrawn = redrawn(next, base, stretch, id);
      id =
          Math.max(
              id,
              redrawn
                      .allLayers()
                      .flatMap(l -> l.notes().stream())
                      .mapToLong(Note::id)
                      .max()
                      .orElse(id)
                  + 1);
      next = next.with(redrawn);
    }
    return next.take(base);
  }

  private static Layer first(Take comp) {
    return comp.layers().get(0);
  }

  private static final class Copying {
    private final List<Note> notes = new ArrayList<>();
    private final List<ControllerMove> moves = new ArrayList<>();
    private long nextId;
    private long nextMove;

    private Copying(long nextId, long nextMove) {
      this.nextId = nextId;
      this.nextMove = nextMove;
    }

    private void add(Clip clip, Stretch stretch) {
      Take from = clip.take(stretch.take());
      from.soundingMoves()
          .filter(move -> stretch.contains(move.place()))
          .forEach(move -> moves.add(move.withId(nextMove++)));
      for (Note note : from.sounding().toList()) {
        if (note.isPedal()) {
          Pedal.within(note, stretch.from(), stretch.to())
              .ifPresent(span -> notes.add(released(span).withId(nextId++)));
        } else if (stretch.contains(note.meant())) {
          notes.add(released(note).withId(nextId++));
        }
      }
    }

    private static Note released(Note note) {
      return note.held() ? note.released(note.length()) : note;
    }
  }

  /** Notes that end at the latest where their pitch is attacked next. */
  private static List<Note> cut(List<Note> notes) {
    Map<Integer, Long> next = new HashMap<>();
    List<Note> backwards =
        notes.stream().sorted(Comparator.comparingLong(Note::meant).reversed()).toList();
    Map<Long, Note> cut = new HashMap<>();
    Map<Integer, Long> at = new HashMap<>();
    for (Note note : backwards) {
      Long same = at.get(note.pitch());
      Long later = same != null && same > note.meant() ? same : next.get(note.pitch());
      cut.put(
          note.id(),
          later == null ? note : note.withLength(Math.min(note.length(), later - note.meant())));
      if (same == null || same != note.meant()) {
        if (same != null) {
          next.put(note.pitch(), same);
        }
        at.put(note.pitch(), note.meant());
      }
    }
    return notes.stream()
        .map(note -> cut.get(note.id()))
        .sorted(Comparator.comparingLong(Note::id))
        .toList();
  }
}
