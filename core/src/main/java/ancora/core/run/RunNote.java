package ancora.core.run;

import ancora.core.note.Note;

/**
 * A note that sounded, from its attack to its end; or the sustain pedal, from its going down to its
 * lift.
 *
 * @param place tick of its attack, counted from where its passage, or its run, begins
 * @param pitch MIDI note number, 0 to 127; {@link Note#PEDAL} for the sustain pedal
 * @param velocity 1 to 127
 * @param length ticks until it ended, at least 0
 */
public record RunNote(long place, int pitch, int velocity, long length) {

  public RunNote {
    if (pitch < 0 || pitch > Note.PEDAL || velocity < 1 || velocity > 127 || length < 0) {
      throw new IllegalArgumentException(
          "not a note: pitch " + pitch + ", velocity " + velocity + ", length " + length);
    }
  }

  /** The first tick at which it is over. */
  public long end() {
    return place + length;
  }

  /** Whether it begins before a tick and sounds on after it. */
  boolean isUnderWayAt(long tick) {
    return place < tick && end() > tick;
  }

  /** This note so many ticks later. */
  public RunNote later(long ticks) {
    return new RunNote(place + ticks, pitch, velocity, length);
  }

  RunNote withLength(long ticks) {
    return new RunNote(place, pitch, velocity, ticks);
  }

  RunNote from(long tick) {
    return new RunNote(tick, pitch, velocity, end() - tick);
  }

  RunNote until(long tick) {
    return end() > tick ? withLength(tick - place) : this;
  }
}
