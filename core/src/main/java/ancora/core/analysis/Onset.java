package ancora.core.analysis;

/**
 * A note that was begun.
 *
 * @param micros when, in microseconds from anywhere
 * @param pitch 0 to 127
 * @param velocity 1 to 127
 */
public record Onset(double micros, int pitch, int velocity) {}
