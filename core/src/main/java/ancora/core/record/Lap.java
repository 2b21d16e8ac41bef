package ancora.core.record;

import java.util.ArrayList;
import java.util.List;

/**
 * A stretch of recording that makes one layer: a pass, or what of it lies before, between or after
 * mends.
 *
 * @param begin its first tick
 * @param take the take that its layer is in; 0 while it has none
 * @param layer the number of its layer; 0 while it has none
 * @param ended whether it is a step of the history by now, and no more under way
 * @param brought what it has brought, in the order of arrival
 */
public record Lap(long begin, int take, int layer, boolean ended, List<Brought> brought) {

  public Lap {
    brought = List.copyOf(brought);
  }

  /** What a lap brings. */
  public enum Kind {
    NOTE,
    MOVE,
    NOTE_OUT,
    MOVE_OUT
  }

  /**
   * Something that a lap has brought.
   *
   * @param kind a note or a move, added or taken out
   * @param id its id
   * @param tick when it was played, or was passed
   * @param meant the tick at which it is meant to sound
   */
  public record Brought(Kind kind, long id, long tick, long meant) {

    /** Whether it was played, and not taken out. */
    public boolean isPlayed() {
      return kind == Kind.NOTE || kind == Kind.MOVE;
    }
  }

  /** A lap that has brought nothing yet. */
  public static Lap at(long begin) {
    return new Lap(begin, 0, 0, false, List.of());
  }

  public boolean hasLayer() {
    return layer != 0;
  }

  /** This lap, for which there is no layer any more: what still comes for it begins another. */
  public Lap withoutLayer() {
    return new Lap(begin, 0, 0, false, brought);
  }

  /** Whether something was played in it. */
  public boolean isPlayed() {
    return brought.stream().anyMatch(Brought::isPlayed);
  }

  /** The last tick at which it has brought something. */
  public long last() {
    return brought.stream().mapToLong(Brought::tick).max().orElse(begin);
  }

  public Lap with(Brought one) {
    List<Brought> next = new ArrayList<>(brought.size() + 1);
    next.addAll(brought);
    next.add(one);
    return withBrought(next);
  }

  public Lap withBrought(List<Brought> all) {
    return new Lap(begin, take, layer, ended, all);
  }

  public Lap withLayer(int takeNumber, int layerNumber) {
    return new Lap(begin, takeNumber, layerNumber, ended, brought);
  }

  public Lap withEnded() {
    return new Lap(begin, take, layer, true, brought);
  }

  /** The ids of one kind that it has brought at some tick or later. */
  public List<Long> ids(Kind kind, long since) {
    return brought.stream()
        .filter(b -> b.kind() == kind && b.tick() >= since)
        .map(Brought::id)
        .toList();
  }
}
