package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.note.Grid;
import ancora.core.time.Tempo;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Collection;
import java.util.stream.Stream;

/**
 * What all parts go through.
 *
 * @param level dB, −60 to +6; −60 is silence
 * @param echo the time from one echo to the next, as a note value in the show's tempo
 * @param repeats how much of an echo comes again, 0 to 90 %
 * @param tone Hz above which an echo is dulled, 500 to 12 000
 * @param room how long the room sounds on, 0.2 to 8 s
 * @param limited whether what would be louder than an output can be is held at −1 dB
 */
@RecordBuilder
public record Master(double level, Grid echo, int repeats, int tone, double room, boolean limited)
    implements MasterBuilder.With {

  /** As loud as it is, an echo in eighths. */
  public static final Master DEFAULT = new Master(0, Grid.EIGHTH, 35, 4000, 1.8, true);

  /** A room's time is measured over 60 dB (ISO 3382). */
  private static final double ROOM_DECIBELS = 60;

  /** What is so much softer is not heard in 16 bits, in dB. */
  private static final double DIED_AWAY = 90;

  private static final double LONGEST_RING = 60;

  public Master {
    Refusal.unless(
        level >= Balance.SILENCE && level <= Balance.LOUDEST,
        "A level of %s dB is out of reach: use −60 to +6 dB.",
        level);
    Refusal.unless(echo != Grid.OFF, "An echo needs a note value; to be without, send nothing.");
    Refusal.unless(repeats >= 0 && repeats <= 90, "An echo repeats by 0 to 90 %.");
    Refusal.unless(tone >= 500 && tone <= 12_000, "The tone of an echo is 500 to 12000 Hz.");
    Refusal.unless(room >= 0.2 && room <= 8, "A room sounds on for 0.2 to 8 s.");
  }

  /**
   * How long echo and room go on after what sounded, in seconds: until both have died away by 90
   * dB; not longer than a minute.
   *
   * @param own the echo times that parts have of their own
   */
  public double ringsOn(Tempo tempo, Collection<Grid> own) {
    long slowest =
        Stream.concat(Stream.of(echo), own.stream()).mapToLong(Grid::step).max().orElseThrow();
    double step = slowest * tempo.microsPerTick() / 1e6;
    double again = Math.ceil(DIED_AWAY / (-20 * Math.log10(repeats / 100.0)));
    double rooms = room * DIED_AWAY / ROOM_DECIBELS;
    return Math.min(LONGEST_RING, Math.max(rooms, 2 * step * (1 + again)));
  }

  /** The level as a factor of amplitude. */
  public double gain() {
    return Balance.gainOf(level);
  }
}
