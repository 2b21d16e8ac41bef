package ancora.app.store;

/**
 * An accepted command, or what was done to the list of shows.
 *
 * @param seq its place in its journal, rising
 * @param stampUs instant at which hand or foot acted, in microseconds of server time
 * @param appliedUs instant at which it was applied
 * @param client the page that sent it
 * @param clientSeq its number among those of that page
 * @param command as a JSON object, with at least a field
 * @param rules the version of the rules under which it was done
 */
public record JournalRow(
    long seq,
    long stampUs,
    long appliedUs,
    String client,
    long clientSeq,
    String command,
    int rules) {}
