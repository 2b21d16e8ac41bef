package ancora.app.files;

import ancora.app.stage.RenderingJson;
import ancora.core.file.MidiFile;
import ancora.core.run.Rendering;
import ancora.core.run.Run;
import ancora.core.show.Show;
import tools.jackson.databind.node.ObjectNode;

/**
 * Something with a beginning and an end that leaves the house.
 *
 * @param show the show that it is of
 * @param what it is, of the show; empty for the form
 * @param run what it sounds
 * @param loop how long the clip lasts that goes round, in ticks; 0 for what does not
 */
public record Piece(Show show, String what, Run run, long loop) {

  /** As a Standard MIDI File. */
  public MidiFile midi(MidiFile.Type type) {
    return MidiFile.of(what.isEmpty() ? show.title() : what, run, type);
  }

  /** What a file of it is called. */
  String fileName(String ending) {
    return FileName.of(show.title(), what, ending);
  }

  /** What a page renders to sound files. */
  public ObjectNode rendering() {
    ObjectNode node = RenderingJson.of(fileName(""), Rendering.of(run, show.master()));
    if (loop > 0) {
      double from = run.map().microsOf(run.from());
      ObjectNode round = node.putObject("loop");
      round.put("from", run.map().microsOf(0) - from);
      round.put("micros", run.map().microsOf(loop) - run.map().microsOf(0));
    }
    return node;
  }
}
