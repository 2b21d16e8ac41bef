package ancora.app.store;

/**
 * A run as the list of runs has it.
 *
 * @param id its number in the show
 * @param beganUs when it began, in microseconds of server time
 * @param name as the performer calls it; empty if it has none
 * @param bars how many bars it has
 * @param lastsUs how long it lasts, in microseconds
 * @param sections the letters of the sections that were entered, in order
 * @param underway whether it goes on, or was broken off
 */
public record RunCard(
    int id, long beganUs, String name, int bars, long lastsUs, String sections, boolean underway) {}
