package ancora.core.record;

import ancora.core.note.Note;

/**
 * A note that was played, in ticks of the transport. A clip has it at a place of its material, as a
 * {@link Note}.
 *
 * @param id the id that the note has in a clip
 * @param pitch 0 to 127; {@link Note#PEDAL} for the sustain pedal
 * @param velocity 1 to 127
 * @param tick at which it was played
 * @param meant the tick at which it is meant to sound
 * @param length ticks, at least {@link Note#SHORTEST}; while its key is down what is known so far
 * @param held whether its key is down
 */
public record Taken(
    long id, int pitch, int velocity, long tick, long meant, long length, boolean held) {

  /** What hands played, up to now. */
  public static Taken of(Played played, long tick, long meant, long length) {
    return new Taken(
        played.noteId(),
        played.pitch(),
        played.velocity(),
        tick,
        meant,
        played.isHeld() ? Note.SHORTEST : Math.max(Note.SHORTEST, length),
        played.isHeld());
  }

  /** The note of a clip that it becomes, meant at a place of its material. */
  public Note at(long place) {
    return new Note(id, pitch, velocity, place + tick - meant, place, length, held);
  }
}
