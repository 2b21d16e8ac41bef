package ancora.app.store;

/**
 * An accepted command.
 *
 * @param showId the show
 * @param seq its place in the journal of the show
 * @param stampUs instant at which hand or foot acted, in microseconds of server time
 * @param appliedUs instant at which it was applied
 * @param client the page that sent it
 * @param clientSeq its number among those of that page
 * @param command the command as JSON
 * @param rules the version of the rules under which it was done
 */
public record JournalRow(
    long showId,
    long seq,
    long stampUs,
    long appliedUs,
    String client,
    long clientSeq,
    String command,
    int rules) {}
