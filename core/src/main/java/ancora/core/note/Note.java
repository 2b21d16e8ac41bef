package ancora.core.note;

import io.soabase.recordbuilder.core.RecordBuilder;

/**
 * A note of a clip, in ticks of the clip's material. The sustain pedal is kept in the same way,
 * from its going down to its lift, since it follows the same rules at the line.
 *
 * @param id unique in its show, for as long as the show exists
 * @param pitch MIDI note number, 0 to 127; {@link #PEDAL} for the sustain pedal
 * @param velocity 1 to 127
 * @param played onset as it was played
 * @param meant onset as it was meant: on the grid, as far as the grid's strength says
 * @param length ticks, at least {@link #SHORTEST}; of a held note what is known so far
 * @param held whether the key is still down, so that the length is not yet known
 */
@RecordBuilder
public record Note(
    long id, int pitch, int velocity, long played, long meant, long length, boolean held)
    implements NoteBuilder.With {

  /** No note is shorter than this, in ticks. */
  public static final long SHORTEST = 15;

  /** What the sustain pedal has in place of a pitch. */
  public static final int PEDAL = 128;

  public Note {
    if (pitch < 0 || pitch > PEDAL || velocity < 1 || velocity > 127 || length < SHORTEST) {
      throw new IllegalArgumentException(
          "not a note: pitch " + pitch + ", velocity " + velocity + ", length " + length);
    }
  }

  /** Whether this is the sustain pedal being down. */
  public boolean isPedal() {
    return pitch == PEDAL;
  }

  /** Whether it lies where it was played, on no grid. */
  public boolean isAsPlayed() {
    return played == meant && !isPedal();
  }

  /** A note that is complete. */
  public static Note of(long id, int pitch, int velocity, long played, long meant, long length) {
    return new Note(id, pitch, velocity, played, meant, length, false);
  }

  public Note withLength(long ticks) {
    return new Note(id, pitch, velocity, played, meant, Math.max(SHORTEST, ticks), held);
  }

  /** This note, released. */
  public Note released(long ticks) {
    return new Note(id, pitch, velocity, played, meant, Math.max(SHORTEST, ticks), false);
  }

  /** This note with both its onsets moved by the same distance, so that it is meant elsewhere. */
  public Note meantAt(long tick) {
    return new Note(id, pitch, velocity, played + tick - meant, tick, length, held);
  }
}
