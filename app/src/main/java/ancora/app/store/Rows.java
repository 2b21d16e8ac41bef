package ancora.app.store;

/** Rows of the tables that hang on a show; bodies are JSON. */
final class Rows {

  private Rows() {}

  /** Whether a body says nothing. */
  static boolean isNothing(String body) {
    return body == null || body.equals("null");
  }

  record PartRow(long showId, int id, int place, String body) {}

  record ClipRow(long showId, int id, int partId, int place, String body) {}

  record PageRow(long showId, int partId, long firstNote, String body) {}

  record EditRow(long showId, boolean undone, int place, String body) {}
}
