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

  private static final String ONCE =
      "The stretches cover the loop once, from its start to its end, without gap or overlap.";

  public boolean contains(long place) {
    return place >= from && place < to;
  }

  /** Refuses stretches that do not cover a window once. */
  static List<Stretch> covering(List<Stretch> stretches, LoopWindow window) {
    Refusal.unless(
        !stretches.isEmpty() && stretches.size() <= MOST, "A comp has 1 to %s stretches.", MOST);
    List<Stretch> sorted =
        stretches.stream().sorted(Comparator.comparingLong(Stretch::from)).toList();
    long place = window.start();
    for (Stretch stretch : sorted) {
      Refusal.unless(stretch.from() == place && stretch.to() > stretch.from(), ONCE);
      place = stretch.to();
    }
    Refusal.unless(place == window.end(), ONCE);
    return sorted;
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
