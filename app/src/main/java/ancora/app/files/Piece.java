package ancora.app.files;

import ancora.app.stage.RenderingJson;
import ancora.core.file.MidiFile;
import ancora.core.run.Rendering;
import ancora.core.run.Run;
import ancora.core.show.Show;
import com.fasterxml.jackson.databind.node.ObjectNode;

/**
 * Something with a beginning and an end that leaves the house.
 *
 * @param show the show that it is of
 * @param title what it is called
 * @param run what it sounds
 */
public record Piece(Show show, String title, Run run) {

  /** As a Standard MIDI File. */
  public MidiFile midi(MidiFile.Type type) {
    return MidiFile.of(title, run, type);
  }

  /** What a page renders to sound files. */
  public ObjectNode rendering() {
    return RenderingJson.of(title, Rendering.of(run, show.master()));
  }
}
