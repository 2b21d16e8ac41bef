package ancora.core.time;

import java.util.ArrayList;
import java.util.List;

/**
 * Which tick is heard at which instant. Between two anchors the tempo is steady; before the first
 * and after the last it goes on for ever, so that every instant has a tick and every tick an
 * instant. The map is continuous: a tempo change skips no tick and repeats none.
 *
 * @param anchors at least one, by rising tick
 */
public record TempoMap(List<Anchor> anchors) {

  /** Beyond this many, anchors older than {@link #KEPT_MICROS} are dropped. */
  static final int MANY_ANCHORS = 256;

  /** What lies no further back than this stays where it was, in microseconds: ten minutes. */
  static final double KEPT_MICROS = 600e6;

  /** More anchors than these are never kept: seven changes a second for ten minutes. */
  static final int MOST_ANCHORS = 4096;

  /** Two instants no further apart are one, in microseconds: less than any two of a clock. */
  static final double SAME_MICROS = 0.5;

  /**
   * From here on a tempo holds.
   *
   * @param tick the tick
   * @param micros server time at which it is heard, in microseconds
   * @param tempo the tempo from there on
   */
  public record Anchor(long tick, double micros, Tempo tempo) {
    double microsOf(double atTick) {
      return micros + (atTick - tick) * tempo.microsPerTick();
    }

    double tickAt(double atMicros) {
      return tick + (atMicros - micros) / tempo.microsPerTick();
    }
  }

  public TempoMap {
    anchors = List.copyOf(anchors);
  }

  /** A map with one tempo, on which {@code tick} is heard at {@code micros}. */
  public static TempoMap of(long tick, double micros, Tempo tempo) {
    return new TempoMap(List.of(new Anchor(tick, micros, tempo)));
  }

  /** The instant at which a tick is heard, in microseconds of server time. */
  public double microsOf(long tick) {
    return anchorFor(tick).microsOf(tick);
  }

  /** The tempo at a tick. */
  public Tempo tempoAt(long tick) {
    return anchorFor(tick).tempo();
  }

  /** The place heard at an instant, with its fraction. */
  public double exactTickAt(double micros) {
    for (int i = anchors.size() - 1; i > 0; i--) {
      if (anchors.get(i).micros() <= micros) {
        return anchors.get(i).tickAt(micros);
      }
    }
    return anchors.get(0).tickAt(micros);
  }

  /**
   * Whether this is of another time that the music goes than a map before it: stopped and started
   * within one command, so that ticks are counted anew. However often the tempo has changed since,
   * a map of the same time begins on a tick which the map before heard at the same instant.
   */
  public boolean isAnewAfter(TempoMap before) {
    Anchor first = anchors.get(0);
    return Math.abs(before.microsOf(first.tick()) - first.micros()) > SAME_MICROS;
  }

  /** The tick nearest to an instant; halfway goes to the later one. */
  public long tickAt(double micros) {
    return Ticks.round(exactTickAt(micros));
  }

  /** The last tick whose instant has come, in exactly the sense of {@link #microsOf}. */
  public long lastTickBy(double micros) {
    long tick = tickAt(micros);
    return microsOf(tick) <= micros ? tick : tick - 1;
  }

  /** The first tick heard at an instant or after it. */
  public long firstTickFrom(double micros) {
    return (long) Math.ceil(exactTickAt(micros));
  }

  /** The ticks from one place back over some microseconds. */
  public long ticksBefore(long tick, double micros) {
    return tick - tickAt(microsOf(tick) - micros);
  }

  /**
   * This map with a new tempo from the first tick at or after an instant. What lies before stays as
   * it was. A change that is to come is never overtaken: an instant before the last anchor counts
   * as that anchor.
   *
   * @param tempo the new tempo
   * @param micros server time from which it may sound, in microseconds
   */
  public TempoMap withTempoFrom(Tempo tempo, double micros) {
    Anchor last = anchors.get(anchors.size() - 1);
    long tick = Math.max(firstTickFrom(micros), last.tick());
    List<Anchor> next = new ArrayList<>(anchors);
    if (tick == last.tick()) {
      next.remove(next.size() - 1);
    }
    next.add(new Anchor(tick, last.microsOf(tick), tempo));
    return new TempoMap(next.subList(surplus(next), next.size()));
  }

  /** How many of the oldest anchors nothing needs: what lies before them is long gone. */
  private static int surplus(List<Anchor> anchors) {
    double kept = anchors.get(anchors.size() - 1).micros() - KEPT_MICROS;
    int surplus = Math.max(0, anchors.size() - MOST_ANCHORS);
    // the anchor that holds at the oldest instant that is kept lies before it
    while (anchors.size() - surplus > MANY_ANCHORS && anchors.get(surplus + 1).micros() <= kept) {
      surplus++;
    }
    return surplus;
  }

  private Anchor anchorFor(long tick) {
    for (int i = anchors.size() - 1; i > 0; i--) {
      if (anchors.get(i).tick() <= tick) {
        return anchors.get(i);
      }
    }
    return anchors.get(0);
  }
}
