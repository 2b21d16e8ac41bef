package ancora.core.record;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.note.Move;
import ancora.core.note.Note;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What a vamping clip's passes have brought: which layer each pass made, and when each recorded
 * note was heard live. Passes are counted from the phase; the first recording is pass 0.
 *
 * @param layerOfPass the number of the layer that a pass made
 * @param movedOver notes moved over the line to a pass, by that pass, while it has no note of its
 *     own
 * @param heardLive the tick q of each recorded note's meant onset: the loop sounds it only later
 */
public record PassLog(
    Map<Long, Integer> layerOfPass, Map<Long, Set<Long>> movedOver, Map<Long, Long> heardLive) {

  /** Nothing recorded. */
  public static final PassLog EMPTY = new PassLog(Map.of(), Map.of(), Map.of());

  /**
   * A clip with a note, and the log that knows of it.
   *
   * @param clip the clip
   * @param log its passes
   */
  public record Added(Clip clip, PassLog log) {}

  /** A log of a first recording just closed. */
  public static PassLog ofFirst(Map<Long, Long> heardLive) {
    return new PassLog(Map.of(0L, 1), Map.of(), Map.copyOf(heardLive));
  }

  /**
   * Adds a note. It makes one layer with the others meant for its pass. One that is moved over the
   * line joins the pass that it is moved to only if that pass gets another note; until then it
   * stays with the pass in which it was played. A new note ends what can be restored.
   *
   * @param clip the clip
   * @param note the note, with its place in the clip's window
   * @param playedPass the pass in which it was played
   * @param meantPass the pass in which it is meant to sound
   * @param meantTick q: the tick of its meant onset
   */
  public Added add(Clip clip, Note note, long playedPass, long meantPass, long meantTick) {
    Clip fresh = clip.withPeeled(List.of());
    Map<Long, Integer> layers = new HashMap<>(layerOfPass);
    Set<Integer> gone = clip.peeled().stream().map(Layer::number).collect(Collectors.toSet());
    layers.values().removeAll(gone);
    Map<Long, Set<Long>> moved = new HashMap<>(movedOver);
    boolean movedNote = meantPass > playedPass && !layers.containsKey(meantPass);
    long pass = movedNote ? playedPass : meantPass;
    int number = numberOf(pass, layers, fresh);
    Clip next = fresh.withNote(number, note);
    if (movedNote) {
      Set<Long> waiting = new HashSet<>(moved.getOrDefault(meantPass, Set.of()));
      waiting.add(note.id());
      moved.put(meantPass, Set.copyOf(waiting));
    } else if (moved.containsKey(pass)) {
      for (long waiting : moved.remove(pass)) {
        next = moveTo(number, next, waiting);
      }
    }
    Map<Long, Long> heard = new HashMap<>(heardLive);
    heard.put(note.id(), meantTick);
    return new Added(next, new PassLog(Map.copyOf(layers), Map.copyOf(moved), Map.copyOf(heard)));
  }

  /**
   * Adds a move of a controller. It joins the layer of its pass. One that follows the one before
   * within a moment takes its place, so that moves are never denser than that.
   *
   * @param clip the clip
   * @param move with its place in the clip's window
   * @param pass the pass that it is made in
   * @param within ticks; moves of a controller are at least this far apart
   */
  public Added add(Clip clip, Move move, long pass, long within) {
    Clip fresh = clip.withPeeled(List.of());
    Map<Long, Integer> layers = new HashMap<>(layerOfPass);
    Set<Integer> gone = clip.peeled().stream().map(Layer::number).collect(Collectors.toSet());
    layers.values().removeAll(gone);
    int number = numberOf(pass, layers, fresh);
    Clip next =
        fresh.mapLayer(number, layer -> layer.withMoves(Moves.with(layer.moves(), move, within)));
    return new Added(next, new PassLog(Map.copyOf(layers), movedOver, heardLive));
  }

  /** The layer of a pass; a new one gets a number that no layer of these passes has had. */
  private static int numberOf(long pass, Map<Long, Integer> layers, Clip clip) {
    int most = layers.values().stream().mapToInt(Integer::intValue).max().orElse(0);
    return layers.computeIfAbsent(pass, p -> Math.max(clip.nextLayerNumber(), most + 1));
  }

  /** What is played after the window has changed makes layers of its own. */
  public PassLog afterWindowChange() {
    return new PassLog(Map.of(), Map.of(), heardLive);
  }

  /** This log without notes whose tick lies more than a pass back: the loop has sounded them. */
  public PassLog forgetting(long before) {
    if (heardLive.values().stream().noneMatch(tick -> tick < before)) {
      return this;
    }
    Map<Long, Long> heard = new HashMap<>(heardLive);
    heard.values().removeIf(tick -> tick < before);
    return new PassLog(layerOfPass, movedOver, Map.copyOf(heard));
  }

  private static Clip moveTo(int layerNumber, Clip clip, long noteId) {
    return clip.notes()
        .filter(note -> note.id() == noteId)
        .findFirst()
        .map(note -> clip.withoutNote(noteId).withNote(layerNumber, note))
        .orElse(clip);
  }
}
