package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Optional;

/**
 * How recordings begin and close.
 *
 * @param entersOn the boundary on which recordings (and cues) take effect
 * @param closesOn the unit whose multiples a loop's length is: beat, bar
 * @param forgiveness how late a press may come
 * @param lengthRule which lengths are allowed
 * @param fixedUnits the length at which a recording closes by itself, in units of {@code closesOn},
 *     1 to 64; 0 for none
 * @param overdubAfter whether closing goes on to overdub; else the loop vamps
 * @param takesAfter whether closing goes on to takes, one each pass
 * @param countInBars 0, 1 or 2
 * @param breatherBars after each recorded pass, the bars in which nothing is recorded, 0 to 8
 * @param mergePedals whether an overdub adds its sustain pedal to a clip that has one; else the
 *     foot is heard, and what is added lasts as long as it holds
 * @param fromFirstNote whether, without count-in, recording begins with the first note played
 * @param punchGoesOn whether a punch goes on after the first pass in which something was played
 * @param runUp the bar at which recordings begin; empty for the next boundary, or at once
 */
@RecordBuilder
public record RecordingSettings(
    EntryUnit entersOn,
    EntryUnit closesOn,
    Forgiveness forgiveness,
    LengthRule lengthRule,
    int fixedUnits,
    boolean overdubAfter,
    boolean takesAfter,
    int countInBars,
    int breatherBars,
    boolean mergePedals,
    boolean fromFirstNote,
    boolean punchGoesOn,
    Optional<RunUp> runUp)
    implements RecordingSettingsBuilder.With {

  /** On the bar, one bar of count-in, any length, then vamp. */
  public static final RecordingSettings DEFAULT =
      new RecordingSettings(
          EntryUnit.BAR,
          EntryUnit.BAR,
          Forgiveness.DEFAULT,
          LengthRule.ANY,
          0,
          false,
          false,
          1,
          0,
          false,
          false,
          false,
          Optional.empty());

  /** The longest clip, in bars. */
  public static final int MOST_BARS = 64;

  public RecordingSettings {
    Refusal.unless(
        closesOn == EntryUnit.BAR || closesOn == EntryUnit.BEAT,
        "Loops close on a bar or on a beat.");
    Refusal.unless(
        fixedUnits >= 0 && fixedUnits <= MOST_BARS,
        "A set length of %s is out of reach: use 1 to %s, or 0 for none.",
        fixedUnits,
        MOST_BARS);
    Refusal.unless(breatherBars >= 0 && breatherBars <= 8, "A breather has 0 to 8 bars.");
    Refusal.unless(countInBars >= 0 && countInBars <= 2, "A count-in has 0, 1 or 2 bars.");
  }
}
