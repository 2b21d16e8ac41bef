package ancora.core.clip;

import ancora.core.Refusal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * A stretch of a take, as a comp is put together from.
 *
 * @param from its first place, in ticks of the clip's material
 * @param to the first place after it
 * @param take the number of the take
 */
public record Stretch(long from, long to, int take) {

  /** A comp has no more stretches than this. */
  public static final int MOST = 64;

  static final String WITHIN =
      "The stretch lies within the loop, from an earlier place to a later one.";

  private static final String BARE =
      "The stretches cover the whole loop: lay the first over all of it, others over that.";

  public boolean contains(long place) {
    return place >= from && place < to;
  }

  /**
   * Stretches as they lie: where they overlap, the later in the list is over the earlier. Refuses
   * what leaves a part of the window bare, or lies outside.
   */
  static List<Stretch> covering(List<Stretch> stretches, LoopWindow window) {
    Refusal.unless(
        !stretches.isEmpty() && stretches.size() <= MOST, "A comp has 1 to %s stretches.", MOST);
    List<Stretch> laid = List.of();
    for (Stretch stretch : stretches) {
      Refusal.unless(
          stretch.from() >= window.start()
              && stretch.from() < stretch.to()
              && stretch.to() <= window.end(),
          WITHIN);
      laid = with(laid, stretch);
    }
    Refusal.unless(
        laid.stream().mapToLong(stretch -> stretch.to() - stretch.from()).sum() == window.length(),
        BARE);
    return laid;
  }

  /** Stretches with one of them drawn anew: what others had of it is its own. */
  static List<Stretch> with(List<Stretch> stretches, Stretch drawn) {
    List<Stretch> next = new ArrayList<>();
    for (Stretch stretch : stretches) {
      if (stretch.from() < drawn.from()) {
        next.add(new Stretch(stretch.from(), Math.min(stretch.to(), drawn.from()), stretch.take()));
      }
      if (stretch.to() > drawn.to()) {
        next.add(new Stretch(Math.max(stretch.from(), drawn.to()), stretch.to(), stretch.take()));
      }
    }
    next.add(drawn);
    next.sort(Comparator.comparingLong(Stretch::from));
    return List.copyOf(next);
  }
}
