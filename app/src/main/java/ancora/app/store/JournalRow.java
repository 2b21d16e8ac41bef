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
    int rules) {

  /** A longer command is kept in a column of its own, in characters. */
  private static final int LONGEST_IN_ROW = 20_000;

  /** The command, if it is kept in its row; else nothing. */
  String inRow() {
    return command.length() <= LONGEST_IN_ROW ? command : "";
  }

  /** The command, if it is too long for that. */
  String apart() {
    return command.length() <= LONGEST_IN_ROW ? null : command;
  }
}
