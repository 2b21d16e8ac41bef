package ancora.app.store;

/**
 * A show as the list of shows has it.
 *
 * @param id its number
 * @param title its name
 * @param milliBpm tempo in thousandths of a quarter note a minute
 * @param meterBeats beats in a bar
 * @param meterUnit note value of a beat
 * @param parts how many parts it has
 * @param clips how many clips it has
 * @param openedUs when it was opened last, in microseconds since 1970; 0 for never
 */
public record ShowCard(
    long id,
    String title,
    int milliBpm,
    int meterBeats,
    int meterUnit,
    int parts,
    int clips,
    long openedUs) {

  /** Tempo in words. */
  public String tempo() {
    return new ancora.core.time.Tempo(milliBpm).toString();
  }

  public String meter() {
    return meterBeats + "/" + meterUnit;
  }
}
