package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.Reshaping;
import ancora.core.note.Note;
import ancora.core.show.PartId;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Keeping what was edited in the history, with words for it. */
final class Edits {

  private Edits() {}

  /** The stage after an edit, which knows how to undo it. */
  static Stage noted(Stage before, Stage after, String words) {
    return after.withHistory(after.history().with(Edit.between(words, before, after)));
  }

  /** The stage after a clip was changed over some time; only that is undone. */
  static Stage notedClip(Stage after, PartId part, Clip before, String words) {
    Clip now = after.clip(part, before.id());
    Clip was = before.calledAs(now);
    if (now.equals(was)) {
      return after;
    }
    Change change = new Change.OfClip(part, Optional.of(was), Optional.of(now));
    return after.withHistory(after.history().with(new Edit(words, List.of(change), Map.of())));
  }

  /** The stage with a next id that no note of its clips has. */
  static Stage counted(Stage stage) {
    long most =
        stage.show().parts().stream()
            .flatMap(part -> part.shelf().stream())
            .flatMap(Clip::allLayers)
            .flatMap(layer -> layer.notes().stream())
            .mapToLong(Note::id)
            .max()
            .orElse(0);
    return most < stage.show().nextId() ? stage : stage.withShow(stage.show().withNextId(most + 1));
  }

  /** As a performer calls a clip: the part's name and the clip's letter. */
  static String name(Stage stage, PartId part, Clip clip) {
    return stage.show().part(part).name() + " " + clip.letter();
  }

  static String words(Reshaping reshaping) {
    if (reshaping instanceof Reshaping.Halve) {
      return "halve";
    }
    if (reshaping instanceof Reshaping.Twice) {
      return "double";
    }
    if (reshaping instanceof Reshaping.Shift) {
      return "shift";
    }
    return reshaping instanceof Reshaping.ToTake ? "another take" : "set the window";
  }
}
