package ancora.app.store;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;

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
 * @param deletedUs when it was taken off the list, likewise; 0 if it is on it
 */
public record ShowCard(
    long id,
    String title,
    int milliBpm,
    int meterBeats,
    int meterUnit,
    int parts,
    int clips,
    long openedUs,
    long deletedUs) {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);

  /** Tempo in words. */
  public String tempo() {
    return new ancora.core.time.Tempo(milliBpm).toString();
  }

  /** The day on which it was played last, where the house stands; empty for never. */
  public String playedOn() {
    return openedUs == 0 ? "" : day(openedUs);
  }

  public String deletedOn() {
    return day(deletedUs);
  }

  private static String day(long micros) {
    return DAY.format(Instant.EPOCH.plus(micros, ChronoUnit.MICROS).atZone(ZoneId.systemDefault()));
  }

  public String meter() {
    return meterBeats + "/" + meterUnit;
  }
}
