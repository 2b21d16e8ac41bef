package ancora.core.standin;

import ancora.core.Refusal;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Something that a stand-in player can play, in 4/4.
 *
 * @param name as the performer chooses it
 * @param ticks how long it lasts before it repeats
 * @param strokes its notes, by rising tick
 */
public record Pattern(String name, long ticks, List<Stroke> strokes) {

  private static final long BAR = Ticks.PER_WHOLE;
  private static final int KICK = 36;
  private static final int SNARE = 38;
  private static final int CLOSED_HAT = 42;
  private static final int OPEN_HAT = 46;
  private static final int RIM = 37;

  /**
   * A note of a pattern.
   *
   * @param tick its onset
   * @param pitch 0 to 127
   * @param velocity 1 to 127
   * @param length ticks
   */
  public record Stroke(long tick, int pitch, int velocity, long length) {}

  /** Two bars of kick and snare, with a push before bar 2. */
  public static final Pattern LANTERN_BEAT =
      of(
          "lantern beat",
          2 * BAR,
          hits(KICK, 108, 0, 1680, 1920, 3840, 4560, 5760),
          hits(SNARE, 100, 960, 2880, 4800, 6720),
          hits(RIM, 60, 7440));

  /** Two bars of eighths on the closed hat, the last of them open. */
  public static final Pattern TIDE_HATS =
      of(
          "tide hats",
          2 * BAR,
          hits(CLOSED_HAT, 84, 0, 960, 1920, 2880, 3840, 4800, 5760, 6720),
          hits(CLOSED_HAT, 62, 480, 1440, 2400, 3360, 4320, 5280, 6240),
          hits(OPEN_HAT, 78, 7200));

  /** Two bars of sixteenths on the closed hat. */
  public static final Pattern SIXTEENTHS = sixteenths();

  /** Two bars of a low line, for a pitched part. */
  public static final Pattern KEEL_LINE =
      of(
          "keel line",
          2 * BAR,
          notes(96, 420, new long[] {0, 1440, 2400, 3360}, new int[] {40, 40, 43, 45}),
          notes(96, 420, new long[] {3840, 5280, 6240, 7200}, new int[] {47, 47, 45, 43}));

  /** All patterns, in the order in which they are offered. */
  public static final List<Pattern> ALL = List.of(LANTERN_BEAT, TIDE_HATS, SIXTEENTHS, KEEL_LINE);

  public Pattern {
    strokes = List.copyOf(strokes);
  }

  /** The pattern with a name; refuses others. */
  public static Pattern named(String name) {
    return ALL.stream()
        .filter(pattern -> pattern.name().equals(name))
        .findFirst()
        .orElseThrow(
            () -> new Refusal("The stand-in knows no such pattern: choose from its list."));
  }

  @SafeVarargs
  private static Pattern of(String name, long ticks, List<Stroke>... voices) {
    List<Stroke> all = new ArrayList<>();
    for (List<Stroke> voice : voices) {
      all.addAll(voice);
    }
    all.sort(Comparator.comparingLong(Stroke::tick));
    return new Pattern(name, ticks, all);
  }

  private static Pattern sixteenths() {
    List<Stroke> strokes = new ArrayList<>();
    for (int i = 0; i < 32; i++) {
      strokes.add(new Stroke(i * 240L, CLOSED_HAT, i % 4 == 0 ? 100 : 74, 90));
    }
    return of("sixteenths", 2 * BAR, strokes);
  }

  private static List<Stroke> hits(int pitch, int velocity, long... ticks) {
    List<Stroke> strokes = new ArrayList<>();
    for (long tick : ticks) {
      strokes.add(new Stroke(tick, pitch, velocity, 90));
    }
    return strokes;
  }

  private static List<Stroke> notes(int velocity, long length, long[] ticks, int[] pitches) {
    List<Stroke> strokes = new ArrayList<>();
    for (int i = 0; i < ticks.length; i++) {
      strokes.add(new Stroke(ticks[i], pitches[i], velocity, length));
    }
    return strokes;
  }
}
