package ancora.app.files;

/** What a file that leaves the house is called: so that every system takes it. */
final class FileName {

  /** What some system does not have in the name of a file. */
  private static final String NOWHERE = "[\\\\/:*?\"<>|\\p{Cntrl}]";

  private FileName() {}

  /**
   * A name, as {@code Lighthouse Night - Lamp.mid}.
   *
   * @param show the show's title
   * @param what of it, in words; empty for all of it
   * @param ending without its dot; empty for none
   */
  static String of(String show, String what, String ending) {
    String whole = plain(what).isEmpty() ? plain(show) : plain(show) + " - " + plain(what);
    return (whole.isEmpty() ? "Ancora" : whole) + (ending.isEmpty() ? "" : "." + ending);
  }

  /** Without a dot at its beginning or end, which some systems hide or cut off. */
  private static String plain(String name) {
    return name.replaceAll(NOWHERE, " ").strip().replaceAll("^[. ]+|[. ]+$", "");
  }
}
