package ancora.core.rules.editing;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.Take;
import ancora.core.edit.Difference;
import ancora.core.edit.Edit;
import ancora.core.edit.Editing;
import ancora.core.edit.Ground;
import ancora.core.edit.WhichTakes;
import ancora.core.note.Note;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.editing.EditCommand.EditNotes;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;

/** Rule 18: notes are edited by their ids while they sound, beside all that is recorded. */
final class Notes {

  private Notes() {}

  /** Makes edits in all takes and clips that are meant, as one step. */
  static Result edit(Stage stage, EditNotes command) {
    PartId part = command.part();
    Stage next = stage;
    Difference difference = Difference.NONE;
    List<String> names = new ArrayList<>();
    boolean held = false;
    Ids ids = new Ids(stage.show().nextId());
    for (ClipId id : new LinkedHashSet<>(command.clip().ids())) {
      Clip clip = next.clip(part, id);
      names.add(Steps.name(stage, part, clip));
      held |= clip.allLayers().flatMap(layer -> layer.notes().stream()).anyMatch(Note::held);
      for (Take take : command.takes() == WhichTakes.ALL ? clip.takes() : List.of(clip.take())) {
        Ground ground = new Ground(next.show(), part, clip.window(), ids);
        Take edited = take;
        List<Edit> here = new ArrayList<>();
        for (Edit edit : command.edits()) {
          if (edit instanceof Edit.Copy copy && isElsewhere(copy, part, id)) {
            Stage copied = copied(next, edited, copy, ground);
            difference =
                difference.and(
                    targetOf(next, copy, part), targetOf(copied, copy, part), clip.window());
            next = copied;
          } else {
            here.add(edit);
          }
        }
        int number = take.number();
        Stage now = next;
        edited = Editing.of(take, here, ground, layer -> isRecorded(now, part, id, number, layer));
        difference = difference.and(take, edited, clip.window());
        next = next.withClip(part, next.clip(part, id).with(edited));
      }
    }
    Refusal.unless(
        !next.show().equals(stage.show()),
        held
            ? "Those keys are still down: let them go, then edit."
            : "That changes nothing in these notes.");
    next = next.withShow(next.show().withNextId(ids.next()));
    String left = held ? "; keys still down are left as they are" : "";
    return new Result(
        Steps.noted(stage, next, words(command, names)),
        Optional.of(difference.words() + left + "."));
  }

  private static boolean isElsewhere(Edit.Copy copy, PartId part, ClipId id) {
    return copy.toClip().filter(to -> !to.equals(id)).isPresent()
        || copy.toPart().filter(to -> !to.equals(part)).isPresent();
  }

  private static Take targetOf(Stage stage, Edit.Copy copy, PartId part) {
    return stage.clip(copy.toPart().orElse(part), copy.toClip().orElseThrow()).take();
  }

  /** Copies go to the newest layer of the take that is heard there. */
  private static Stage copied(Stage stage, Take from, Edit.Copy copy, Ground ground) {
    PartId part = copy.toPart().orElse(ground.part());
    Clip clip = stage.clip(part, copy.toClip().orElseThrow());
    Ground there = new Ground(stage.show(), part, clip.window(), ground.ids());
    Take with = clip.take().layers().isEmpty() ? clip.take().begun() : clip.take();
    int newest = with.layers().get(with.layers().size() - 1).number();
    for (Note note : copy.elsewhere(from, ground, there)) {
      with = with.mapLayer(newest, layer -> layer.with(note));
    }
    Take checked = Editing.of(with, List.of(), there, layer -> true);
    return stage.withClip(part, clip.with(checked));
  }

  /** A layer that a recording goes on in stays, even if nothing is left in it. */
  private static boolean isRecorded(Stage stage, PartId part, ClipId clip, int take, int layer) {
    return stage.on(part).recording().filter(r -> r.isUnderWay(clip, take, layer)).isPresent();
  }

  private static String words(EditNotes command, List<String> names) {
    String what =
        command.edits().stream().map(Edit::words).distinct().count() == 1
            ? command.edits().get(0).words()
            : "edit notes";
    return what + " in " + String.join(", ", names.subList(0, Math.min(3, names.size())));
  }
}
