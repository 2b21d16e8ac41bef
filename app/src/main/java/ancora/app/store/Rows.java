package ancora.app.store;

/** Rows of the tables that hang on a show. */
final class Rows {

  private Rows() {}

  record PartRow(
      long showId,
      int id,
      int place,
      String name,
      boolean drums,
      int program,
      String grid,
      int strength,
      double swing,
      boolean endsToo) {}

  record ClipRow(
      long showId,
      int id,
      int partId,
      String letter,
      long windowStart,
      long windowLength,
      boolean ring) {}

  record LayerRow(long showId, int clipId, boolean peeled, int place, int number) {}

  record NoteRow(
      long showId,
      int clipId,
      boolean peeled,
      int layer,
      int place,
      long id,
      int pitch,
      int velocity,
      long played,
      long meant,
      long length) {}
}
