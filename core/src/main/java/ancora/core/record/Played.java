package ancora.core.record;

import ancora.core.note.Note;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;

/**
 * A note as hands played it, remembered whether or not anything was recording.
 *
 * @param noteId the id that the note has in a clip too, if it is recorded
 * @param pitch 0 to 127; {@link Note#PEDAL} for the sustain pedal
 * @param velocity 1 to 127
 * @param onMicros instant of the key going down, in microseconds of server time
 * @param offMicros instant of the key coming up; {@link Ticks#OPEN} while it is down
 * @param plain whether it sounded as it was played: neither repeated, nor a choice of what is
 *     erased
 * @param recorded whether a clip has it
 */
@RecordBuilder
public record Played(
    long noteId,
    int pitch,
    int velocity,
    long onMicros,
    long offMicros,
    boolean plain,
    boolean recorded)
    implements PlayedBuilder.With {

  public static Played down(long noteId, int pitch, int velocity, long onMicros) {
    return new Played(noteId, pitch, velocity, onMicros, Ticks.OPEN, true, false);
  }

  public boolean isPedal() {
    return pitch == Note.PEDAL;
  }

  public boolean isHeld() {
    return offMicros == Ticks.OPEN;
  }

  public Played withOff(long micros) {
    return new Played(noteId, pitch, velocity, onMicros, micros, plain, recorded);
  }
}
