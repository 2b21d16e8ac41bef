package ancora.core.record;

import ancora.core.note.Controller;

/**
 * A controller as hands moved it, remembered whether or not anything was recording.
 *
 * @param controller which
 * @param value 0 to {@link Controller#most()}
 * @param micros the instant, in microseconds of server time
 */
public record PlayedMove(Controller controller, int value, long micros) {}
