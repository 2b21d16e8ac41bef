package ancora.app.demo;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/** Writes the clips of the demo, as one writes music down: beats counted from 0, notes by name. */
final class Phrase {

  private static final String STEPS = "C.D.EF.G.A.B";

  private final List<Layer> layers = new ArrayList<>();
  private List<Note> notes = new ArrayList<>();
  private long nextId;

  /**
   * A clip with nothing in it.
   *
   * @param firstId the id of its first note
   */
  Phrase(long firstId) {
    nextId = firstId;
  }

  /**
   * Notes one after the other: "D3 1 1.5" is D3 at quarter note 1 for one and a half; several are
   * divided by commas, chords are "D3+F3+A3".
   */
  Phrase notes(int velocity, String text) {
    for (String one : text.split(",")) {
      String[] words = one.trim().split(" ");
      for (String name : words[0].split("\\+")) {
        add(pitch(name), velocity, Double.parseDouble(words[1]), Double.parseDouble(words[2]));
      }
    }
    return this;
  }

  /** Strokes of a drum at quarter notes. */
  Phrase hits(int drum, int velocity, double... quarters) {
    for (double quarter : quarters) {
      add(drum, velocity, quarter, 0.1);
    }
    return this;
  }

  /** The sustain pedal is down from a quarter note for some. */
  Phrase pedal(double at, double length) {
    add(Note.PEDAL, 127, at, length);
    return this;
  }

  /** What there is, as a take of a clip. */
  Take take(int number, String name) {
    layer();
    return Take.of(number, layers).withName(name);
  }

  /** What follows is another layer. */
  Phrase layer() {
    layers.add(new Layer(layers.size() + 1, notes));
    notes = new ArrayList<>();
    return this;
  }

  /** The clip. */
  Clip clip(int id, String letter, String name, double quarters) {
    layer();
    LoopWindow window = new LoopWindow(0, ticks(quarters));
    return Clip.of(new ClipId(id), letter, window, List.of()).withName(name).withLayers(layers);
  }

  private void add(int pitch, int velocity, double at, double length) {
    notes.add(Note.of(nextId++, pitch, velocity, ticks(at), ticks(at), ticks(length)));
  }

  private static long ticks(double quarters) {
    return Math.round(quarters * Ticks.PER_QUARTER);
  }

  /** C4 is 60, as General MIDI has it; b lowers by a semitone. */
  private static int pitch(String name) {
    boolean flat = name.contains("b");
    int octave = name.charAt(name.length() - 1) - '0';
    return 12 * (octave + 1) + STEPS.indexOf(name.charAt(0)) - (flat ? 1 : 0);
  }
}
