package ancora.core.rules.keeping;

import ancora.core.stage.Reading;

/** How a tempo that was found can be taken otherwise. */
public enum Otherwise {
  HALF,
  DOUBLE,
  EARLIER,
  LATER,
  THREE,
  FOUR,
  STEADY,
  AS_PLAYED,
  /** Steady where it is as played, else as played. */
  STEADY_OR_NOT,
  GIVE_UP;

  private static final int THREE_BEATS = 3;
  private static final int FOUR_BEATS = 4;

  Reading of(Reading before) {
    return switch (this) {
      case HALF -> before.withOctave(before.octave() - 1);
      case DOUBLE -> before.withOctave(before.octave() + 1);
      case EARLIER -> before.withLater(before.later() - 1);
      case LATER -> before.withLater(before.later() + 1);
      case THREE -> before.withBeats(THREE_BEATS);
      case FOUR -> before.withBeats(FOUR_BEATS);
      case STEADY -> before.withSteady(true);
      case AS_PLAYED -> before.withSteady(false);
      case STEADY_OR_NOT -> before.withSteady(!before.steady());
      case GIVE_UP -> before;
    };
  }
}
