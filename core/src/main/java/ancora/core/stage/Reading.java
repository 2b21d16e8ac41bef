package ancora.core.stage;

import ancora.core.Refusal;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;

/**
 * How a tempo that was found is taken.
 *
 * @param octave how often it is doubled, or halved if negative: −2 to 2
 * @param later by how many beats the bar begins later, or earlier if negative: −16 to 16
 * @param beats of a bar, 2 to 12; 0 as found
 * @param steady whether each bar is brought to one tempo; else notes lie as they were played
 */
@RecordBuilder
public record Reading(int octave, int later, int beats, boolean steady)
    implements ReadingBuilder.With {

  /** As it was found. */
  public static final Reading AS_FOUND = new Reading(0, 0, 0, true);

  private static final int MOST_OCTAVES = 2;
  private static final int MOST_LATER = 16;

  public Reading {
    Refusal.unless(Ticks.isWithin(octave, MOST_OCTAVES), "The tempo goes no further that way.");
    Refusal.unless(Ticks.isWithin(later, MOST_LATER), "The bar goes no further that way.");
    Refusal.unless(beats == 0 || beats >= 2 && beats <= 12, "A bar has 2 to 12 beats.");
  }
}
