package ancora.core.stage;

import ancora.core.clip.ClipId;
import ancora.core.show.PartId;
import ancora.core.time.Tempo;
import java.util.Optional;

/**
 * What was made of hindsight last. Pressed again soon, keep takes the other phrase: that of the
 * run, or that of the standstill.
 *
 * @param part on whose shelf it is
 * @param clip the clip that was made
 * @param played the part on which it was played
 * @param stamp the instant of the press
 * @param since the instant at which it begins, in microseconds
 * @param until the instant at which it ends
 * @param reading how its tempo was taken, if it was found; empty of what was played in a run
 * @param tempo the tempo that was found, as it is taken; empty where none was
 * @param sureness of it, 0 for a guess, to 1
 * @param more how many phrases before it were taken as well; negative for how many were let go of
 */
public record Kept(
    PartId part,
    ClipId clip,
    PartId played,
    long stamp,
    long since,
    long until,
    Optional<Reading> reading,
    Optional<Tempo> tempo,
    double sureness,
    int more) {

  /** So soon the second press comes, in microseconds. */
  public static final long WITHIN = 2_000_000;

  public boolean isOfRun() {
    return reading.isEmpty();
  }
}
