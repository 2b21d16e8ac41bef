package ancora.core.note;

/**
 * A note of a clip, in ticks of the clip's material.
 *
 * @param id unique in its show, for as long as the show exists
 * @param pitch MIDI note number, 0 to 127
 * @param velocity 1 to 127
 * @param played onset as it was played
 * @param meant onset as it was meant: on the grid, as far as the grid's strength says
 * @param length ticks, at least {@link #SHORTEST}; of a held note what is known so far
 * @param held whether the key is still down, so that the length is not yet known
 */
public record Note(
    long id, int pitch, int velocity, long played, long meant, long length, boolean held) {

  /** No note is shorter than this, in ticks. */
  public static final long SHORTEST = 15;

  public Note {
    if (pitch < 0 || pitch > 127 || velocity < 1 || velocity > 127 || length < SHORTEST) {
      throw new IllegalArgumentException(
          "not a note: pitch " + pitch + ", velocity " + velocity + ", length " + length);
    }
  }

  /** A note that is complete. */
  public static Note of(long id, int pitch, int velocity, long played, long meant, long length) {
    return new Note(id, pitch, velocity, played, meant, length, false);
  }

  /** This note, released. */
  public Note released(long ticks) {
    return new Note(id, pitch, velocity, played, meant, Math.max(SHORTEST, ticks), false);
  }

  /** This note with both its onsets moved by the same distance, so that it is meant elsewhere. */
  public Note meantAt(long tick) {
    return new Note(id, pitch, velocity, played + tick - meant, tick, length, held);
  }

  /** This note with another meant onset; where it was played stays. */
  public Note withMeant(long tick) {
    return new Note(id, pitch, velocity, played, tick, length, held);
  }
}
