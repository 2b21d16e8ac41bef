package ancora.core.note;

import ancora.core.Refusal;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;

/**
 * A grid of lines that starts afresh at each bar line. Named as a fraction of a whole note; T is a
 * triplet, three in the time of two.
 */
public enum Grid {
  OFF("off", 0),
  QUARTER("1/4", 960),
  EIGHTH("1/8", 480),
  SIXTEENTH("1/16", 240),
  THIRTY_SECOND("1/32", 120),
  SIXTY_FOURTH("1/64", 60),
  QUARTER_TRIPLET("1/4T", 640),
  EIGHTH_TRIPLET("1/8T", 320),
  SIXTEENTH_TRIPLET("1/16T", 160),
  THIRTY_SECOND_TRIPLET("1/32T", 80);

  private final String words;
  private final long step;

  Grid(String words, long step) {
    this.words = words;
    this.step = step;
  }

  /** As the performer reads it: 1/16, 1/8T, off. */
  public String words() {
    return words;
  }

  /** Ticks from one line to the next, without swing; 0 if there is no grid. */
  public long step() {
    return step;
  }

  /** The grid with a name as {@link #words()} gives it; refuses others. */
  public static Grid named(String words) {
    for (Grid grid : values()) {
      if (grid.words.equals(words)) {
        return grid;
      }
    }
    throw new Refusal("There is no grid " + words + ": use 1/4 to 1/64, 1/4T to 1/32T, or off.");
  }

  /**
   * The line nearest to a tick, bars being counted from tick 0; halfway goes to the later one. The
   * next bar line is a line; lines past it do not exist. Without a grid it is the tick itself.
   *
   * @param tick any tick
   * @param meter gives the bar lines
   * @param swing where the second line of each pair lies in it, 50 to 75 %
   */
  public long nearestLine(long tick, Meter meter, double swing) {
    if (step == 0) {
      return tick;
    }
    long bar = Ticks.floor(tick, meter.barTicks());
    long barEnd = bar + meter.barTicks();
    long index = (tick - bar) / step;
    long best = bar;
    for (long k = Math.max(0, index - 1); k <= index + 2; k++) {
      long line = Math.min(bar + linePlace(k, swing), barEnd);
      long nearer = Math.abs(line - tick) - Math.abs(best - tick);
      if (nearer < 0 || (nearer == 0 && line > best)) {
        best = line;
      }
    }
    return best;
  }

  /** The first line at a tick or after it; bar lines are lines. The grid may not be off. */
  public long lineFrom(long tick, Meter meter, double swing) {
    long bar = Ticks.floor(tick, meter.barTicks());
    for (long index = Math.max(0, (tick - bar) / step - 1); ; index++) {
      long line = Math.min(bar + linePlace(index, swing), bar + meter.barTicks());
      if (line >= tick) {
        return line;
      }
    }
  }

  /** The last line before a tick; bar lines are lines. The grid may not be off. */
  public long lineBefore(long tick, Meter meter, double swing) {
    long bar = Ticks.floor(tick - 1, meter.barTicks());
    long before = bar;
    for (long index = Math.max(0, (tick - bar) / step - 2); ; index++) {
      long line = bar + linePlace(index, swing);
      if (line >= tick) {
        return before;
      }
      before = line;
    }
  }

  /**
   * Ticks from the bar line to a line.
   *
   * @param index the line, from 0
   * @param swing 50 to 75 %
   */
  public long linePlace(long index, double swing) {
    long pair = index / 2 * 2 * step;
    return index % 2 == 0 ? pair : pair + Ticks.round(2 * step * swing / 100);
  }
}
