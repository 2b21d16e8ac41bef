package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.note.Note;
import ancora.core.record.Played;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Undoing edits and doing them again, while the music goes on. */
final class Undoing {

  private Undoing() {}

  static Step undo(Stage stage) {
    List<Edit> done = stage.history().done();
    Refusal.unless(!done.isEmpty(), "There is nothing to undo.");
    Edit edit = done.get(done.size() - 1);
    Stage back = backed(stage, edit);
    Edit redo = Edit.between(edit.words(), stage, back);
    return Step.to(back.withHistory(stage.history().undone(redo)), "Undone: " + edit.words() + ".");
  }

  static Step redo(Stage stage) {
    List<Edit> undone = stage.history().undone();
    Refusal.unless(!undone.isEmpty(), "There is nothing to do again.");
    Edit edit = undone.get(undone.size() - 1);
    // what is kept is how to get from the state before the undoing to the one after it
    Stage again = backed(stage, edit);
    Edit undo = Edit.between(edit.words(), stage, again);
    return Step.to(
        again.withHistory(stage.history().redone(undo)), "Done again: " + edit.words() + ".");
  }

  /** The stage with the changes of an edit taken back, the last first. */
  private static Stage backed(Stage stage, Edit edit) {
    Show show = stage.show();
    for (int i = edit.changes().size() - 1; i >= 0; i--) {
      show = edit.changes().get(i).inverse().apply(show);
    }
    Settings.checkMeter(stage, show.meter());
    for (Part part : show.parts()) {
      // clips that have come since may have got a letter that is wanted back
      show = show.mapPart(part.id(), Part::withLettersApart);
    }
    return withoutPhantoms(settled(stage.withShow(show), edit.ended()));
  }

  /** When time ends, no note is held any more, wherever it is kept. */
  static Stage releasedAll(Stage stage) {
    Hands hands = stage.hands();
    return withoutPhantoms(stage.withHands(Hands.FREE)).withHands(hands);
  }

  /** Notes that are back though their keys are up by now have the lengths that were played. */
  private static Stage withoutPhantoms(Stage stage) {
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        List<Note> held =
            clip.allLayers().flatMap(l -> l.notes().stream()).filter(Note::held).toList();
        Clip released = clip;
        for (Note note : held) {
          released = released.mapNote(note.id(), n -> released(stage, part.id(), n));
        }
        next = held.isEmpty() ? next : next.withClip(part.id(), released);
      }
    }
    return next;
  }

  /** The stage of an edited show: what is gone sounds no more, what is back sounds again. */
  static Stage settled(Stage stage, Map<PartId, Vamp> ended) {
    Show show = stage.show();
    Map<PartId, PartStage> stages = new HashMap<>();
    // what was played on a part that is gone is remembered: the part may come back
    stage.partStages().forEach((part, on) -> stages.put(part, on.tacet()));
    for (Part part : show.parts()) {
      stages.put(part.id(), settled(stage, part, Optional.ofNullable(ended.get(part.id()))));
    }
    Set<PartId> there = show.parts().stream().map(Part::id).collect(Collectors.toSet());
    Hands hands = settled(stage.hands(), there, stage.armed());
    Stage next =
        stage
            .withPartStages(stages)
            .withHands(hands)
            .withArmed(
                stage
                    .armed()
                    .filter(there::contains)
                    // where a hand-off is undone, hands are back on the part before
                    .or(() -> stage.hands().handOver().map(Hands.HandOver::from))
                    .filter(there::contains))
            .withAlongside(
                stage.alongside().stream().filter(there::contains).collect(Collectors.toSet()));
    FormStage form = stage.form();
    boolean gone =
        form.next().isPresent()
            && show.form().stream().noneMatch(s -> s.id().equals(form.next().get().section()));
    return gone ? next.withForm(form.withNext(Optional.empty())) : next;
  }

  /** Hands let go of parts that are gone. */
  private static Hands settled(Hands hands, Set<PartId> there, Optional<PartId> armed) {
    boolean goesOver = armed.filter(there::contains).isPresent();
    return hands
        .withKeys(hands.keys().stream().filter(key -> there.contains(key.part())).toList())
        .withErase(hands.erase().filter(erase -> there.contains(erase.part())))
        .withHandOver(hands.handOver().filter(over -> goesOver && there.contains(over.from())))
        .withSustained(
            hands.sustained().stream().filter(s -> there.contains(s.key().part())).toList());
  }

  private static PartStage settled(Stage stage, Part part, Optional<Vamp> ended) {
    PartStage on = stage.on(part.id());
    Optional<Vamp> vamp = on.vamp().filter(v -> has(part, v.clip()));
    Optional<ClipId> ready = on.ready().filter(clip -> has(part, clip));
    boolean free = vamp.isEmpty() && on.first().isEmpty();
    Optional<Vamp> back = ended.filter(v -> free && has(part, v.clip()));
    return on.withVamp(stage.map().isPresent() ? vamp.or(() -> back) : Optional.empty())
        .withReady(ready)
        .withCue(on.cue().filter(cue -> cue.clip().map(clip -> has(part, clip)).orElse(true)))
        .withChange(vamp.isPresent() ? on.change() : Optional.empty())
        .withOverdub(on.overdub().filter(o -> has(part, o.clip())));
  }

  private static boolean has(Part part, ClipId clip) {
    return part.clip(clip).isPresent();
  }

  /** A note that comes back though its key is up by now has the length that was played. */
  static Note released(Stage stage, PartId part, Note note) {
    boolean down =
        stage.heldKeys().stream().anyMatch(key -> key.noteId() == note.id())
            || stage.hands().sustained().stream().anyMatch(s -> s.key().noteId() == note.id());
    if (!note.held() || down && stage.map().isPresent()) {
      return note;
    }
    return stage
        .on(part)
        .hindsight()
        .notes()
        .filter(played -> played.noteId() == note.id() && !played.isHeld())
        .findFirst()
        .map(played -> note.released(length(stage, played)))
        .orElse(note.released(note.length()));
  }

  private static long length(Stage stage, Played played) {
    return stage
        .map()
        .map(map -> map.tickAt(played.offMicros()) - map.tickAt(played.onMicros()))
        .orElse(Note.SHORTEST);
  }
}
