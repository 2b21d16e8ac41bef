package ancora.core.player;

/**
 * Something that happens on a tick.
 *
 * @param rank what comes first on one tick
 * @param happen what is done then
 */
record Event(long tick, int rank, Runnable happen) {}
