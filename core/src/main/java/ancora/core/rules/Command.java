package ancora.core.rules;

import ancora.core.stage.Stage;

/**
 * Something asked for: by hands, feet, a button or a pedal. A command is a value, and knows the
 * rule that carries it out. Commands are sorted by topic, beside the rules of that topic.
 */
public interface Command {

  /** The stage after it; refuses what makes no sense now. */
  Result apply(Stage stage, Moment moment);

  /**
   * The command that is meant, as things stand: with the ids of what it names by an address, and on
   * or off for what it turns over. Refuses what names nothing.
   *
   * @param stamp the instant at which it is judged, in microseconds
   */
  default Command meant(Stage stage, long stamp) {
    return this;
  }

  /** Whether it counts by its stamp however late it arrives; others are refused after 1 s. */
  default boolean isTimeless() {
    return false;
  }

  /**
   * Whether it is bound to no moment, as a setting is, or undo: however late it arrives it is done,
   * as if asked for just now.
   */
  default boolean isOfNoMoment() {
    return false;
  }

  /**
   * Whether being late with it would be heard: a press that stands for it is done when the foot
   * comes down, and taken back if it turns out to be a long or a double one.
   */
  default boolean isAtOnce() {
    return false;
  }

  /** A command that counts by its stamp however late it arrives. */
  interface Timeless extends Command {
    @Override
    default boolean isTimeless() {
      return true;
    }
  }

  /** A command that is done when the foot comes down. */
  interface AtOnce extends Command {
    @Override
    default boolean isAtOnce() {
      return true;
    }
  }

  /** Something that is on or off, so that it can be turned over. */
  interface Switched extends Command {
    boolean on();

    /**
     * Whether it is on.
     *
     * @param stamp the instant at which that is asked, in microseconds
     */
    boolean isOn(Stage stage, long stamp);
  }

  /** Something that is switched off by its stamp, however late that arrives. */
  interface OffByItsStamp extends Switched {
    @Override
    default boolean isTimeless() {
      return !on();
    }
  }

  /** Something that is short for another command, found as things stand. */
  interface ShortFor extends Command {
    @Override
    Command meant(Stage stage, long stamp);

    @Override
    default Result apply(Stage stage, Moment moment) {
      return meant(stage, moment.stamp()).apply(stage, moment);
    }
  }

  /** Something that a long press does at once, where a short one only says what would go. */
  interface Sure extends Command {
    boolean sure();
  }

  /** What hands and feet do on the instruments, and what goes on by itself. */
  interface ByHand extends Timeless {}
}
