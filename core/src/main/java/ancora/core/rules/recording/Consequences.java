package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.note.Note;
import ancora.core.record.Played;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.Erase;
import ancora.core.stage.FormStage;
import ancora.core.stage.Hands;
import ancora.core.stage.PartStage;
import ancora.core.stage.PastRun;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What becomes of what sounds, and of hands, where the show has become another. */
public final class Consequences {

  private Consequences() {}

  /** When time ends, no note is held any more, wherever it is kept. */
  public static Stage releasedAll(Stage stage) {
    Hands hands = stage.hands();
    Show none = stage.show().withParts(List.of());
    return withoutPhantoms(stage.withHands(Hands.FREE), none).withHands(hands);
  }

  /**
   * Notes that are back though their keys are up by now have the lengths that were played.
   *
   * @param before in clips that are as they were in this show none has come back
   */
  public static Stage withoutPhantoms(Stage stage, Show before) {
    Set<Clip> same = Collections.newSetFromMap(new IdentityHashMap<>());
    before.parts().forEach(part -> same.addAll(part.shelf()));
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        if (same.contains(clip)) {
          continue;
        }
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

  /** The stage of a changed show: what is gone sounds no more, what is back sounds again. */
  public static Stage reconciled(Stage changed, Map<PartId, Vamp> ended) {
    Show show = changed.show();
    Stage stage = withoutRecordingsOfLost(changed);
    Map<PartId, PartStage> stages = new TreeMap<>();
    // what was played on a part that is gone is remembered: the part may come back
    stage.partStages().forEach((part, on) -> stages.put(part, on.tacet()));
    for (Part part : show.parts()) {
      stages.put(part.id(), partOf(stage, part, Optional.ofNullable(ended.get(part.id()))));
    }
    TreeSet<PartId> there = new TreeSet<>(show.parts().stream().map(Part::id).toList());
    Hands hands = letGo(stage.hands(), show, there);
    TreeSet<PartId> alongside = new TreeSet<>(stage.alongside());
    alongside.retainAll(there);
    Stage next =
        stage
            .withPartStages(stages)
            .withHands(hands)
            .withArmed(
                stage
                    .armed()
                    .filter(there::contains)
                    // where a hand-off is undone, hands are back on the part before
                    .or(
                        () ->
                            stage.hands().handOvers().stream()
                                .filter(o -> stage.armed().equals(Optional.of(o.to())))
                                .map(Hands.HandOver::from)
                                .findFirst())
                    .filter(there::contains))
            .withAlongside(alongside);
    FormStage form = stage.form();
    boolean gone =
        form.next().isPresent()
            && show.form().stream().noneMatch(s -> s.id().equals(form.next().get().section()));
    return gone ? next.withForm(form.withNext(Optional.empty())) : next;
  }

  /** What was being recorded on a part that is gone is in hindsight alone. */
  private static Stage withoutRecordingsOfLost(Stage stage) {
    Stage next = stage;
    for (Map.Entry<PartId, PartStage> on : stage.partStages().entrySet()) {
      boolean lost = stage.show().parts().stream().noneMatch(part -> part.id().equals(on.getKey()));
      next =
          lost && on.getValue().first().isPresent()
              ? FirstRecordings.drop(next, on.getKey())
              : next;
    }
    return next;
  }

  /** Hands without what they hold on parts and clips that are gone. */
  public static Hands letGo(Hands hands, Show show, TreeSet<PartId> there) {
    return hands
        .withKeys(hands.keys().stream().filter(key -> there.contains(key.part())).toList())
        .withErases(there(hands.erases(), show, there))
        .withErased(there(hands.erased(), show, there))
        .withHandOvers(
            hands.handOvers().stream()
                .filter(over -> there.contains(over.to()) && there.contains(over.from()))
                .toList())
        .withSustained(
            hands.sustained().stream().filter(s -> there.contains(s.key().part())).toList());
  }

  private static List<Erase> there(List<Erase> erases, Show show, TreeSet<PartId> there) {
    return erases.stream()
        .filter(
            erase ->
                there.contains(erase.part())
                    && show.part(erase.part())
                        .clip(erase.clip())
                        .filter(clip -> clip.findTake(erase.take()).isPresent())
                        .isPresent())
        .toList();
  }

  public static PartStage partOf(Stage stage, Part part, Optional<Vamp> ended) {
    PartStage on = stage.on(part.id());
    Optional<Vamp> vamp = on.vamp().filter(v -> has(part, v.clip()));
    Optional<ClipId> ready = on.ready().filter(clip -> has(part, clip));
    boolean free = vamp.isEmpty() && on.first().isEmpty();
    Optional<Vamp> back = ended.filter(v -> free && has(part, v.clip()));
    return on.withVamp(stage.map().isPresent() ? vamp.or(() -> back) : Optional.empty())
        .withReady(ready)
        .withCue(on.cue().flatMap(cue -> cue.among(clip -> has(part, clip))))
        .withChange(vamp.isPresent() ? on.change() : Optional.empty())
        .withHears(
            on.hears()
                .filter(
                    h ->
                        vamp.isPresent()
                            && part.clipOf(vamp.get().clip()).findTake(h.take()).isPresent()))
        .withStutter(vamp.isPresent() ? on.stutter() : Optional.empty())
        .withRecording(
            on.recording()
                .filter(
                    r ->
                        part.clip(r.clip())
                            .filter(c -> c.findTake(r.take()).isPresent())
                            .isPresent()));
  }

  private static boolean has(Part part, ClipId clip) {
    return part.clip(clip).isPresent();
  }

  /** A note that comes back though its key is up by now has the length that was played. */
  private static Note released(Stage stage, PartId part, Note note) {
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
    TempoMap map =
        stage
            .map()
            .or(() -> stage.lastRun().map(PastRun::map))
            .orElseGet(() -> TempoMap.of(0, played.onMicros(), stage.show().tempo()));
    return map.tickAt(played.offMicros()) - map.tickAt(played.onMicros());
  }
}
