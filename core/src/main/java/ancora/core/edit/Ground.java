package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.LoopWindow;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Meter;

/**
 * What an edit goes by besides the take that it is made in.
 *
 * @param show where other clips are found
 * @param part the part whose clip it is
 * @param window what goes round
 * @param ids notes that are made get ids from here
 */
public record Ground(Show show, PartId part, LoopWindow window, Ids ids) {

  Meter meter() {
    return show.meter();
  }

  /** The grid on which the part is played. */
  InputGrid grid() {
    return show.part(part).inputGrid();
  }

  /**
   * A place that is meant for the loop, and went past its edge, goes round; others stay outside.
   */
  long round(Note note, long place) {
    return round(note.meant(), place);
  }

  long round(long was, long place) {
    return window.contains(was) ? window.wrap(place) : place;
  }

  /** Whether a note was played early for the loop's line: it stays there. */
  boolean isEarly(Note note) {
    return note.meant() == window.start() && note.played() < window.start();
  }

  Clip clip(ClipId id) {
    return show.parts().stream()
        .map(Part::shelf)
        .flatMap(shelf -> shelf.stream().filter(clip -> clip.id().equals(id)))
        .findFirst()
        .orElseThrow(() -> new Refusal("That clip is not on a shelf any more: choose another."));
  }
}
