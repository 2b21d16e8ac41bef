package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Note;
import ancora.core.show.PartId;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Held erase: pitches held with it are taken out of the loop as they pass. */
final class Erasing {

  private Erasing() {}

  static Stage set(Stage stage, boolean on, Moment moment) {
    if (!on) {
      Refusal.unless(stage.hands().erase().isPresent(), "Erase is not held.");
      return end(stage, Mends.tick(stage, moment));
    }
    Refusal.unless(stage.hands().erase().isEmpty(), "Erase is held already.");
    PartId part = stage.armedPart();
    Clip clip = Mends.soundingClip(stage, part);
    Refusal.unless(
        stage.on(part).overdub().map(o -> !o.isOpen() || o.isAdding()).orElse(true),
        "One way of recording at a time: switch the other off first.");
    long tick = Mends.tick(stage, moment);
    Erase erase = new Erase(part, clip, List.of());
    for (HeldKey key : stage.heldKeys()) {
      erase = key.part().equals(part) ? erase.down(key.pitch(), tick) : erase;
    }
    return stage.withHands(stage.hands().withErase(Optional.of(erase)));
  }

  static Stage passTo(Stage stage, long tick) {
    Erase erase = stage.hands().erase().orElseThrow();
    Optional<Vamp> vamp = vampOf(stage, erase);
    if (vamp.isEmpty()) {
      return stage;
    }
    Clip clip = stage.clip(erase.part(), erase.before().id());
    Set<Long> out = erased(clip, erase, vamp.get(), tick);
    return out.isEmpty()
        ? stage
        : stage.withClip(erase.part(), Mends.without(clip, out, List.of()));
  }

  /**
   * Ends a hold of erase, as one step of the history. Notes that were taken out after its end,
   * since the end arrived late, are back.
   */
  static Stage end(Stage stage, long tick) {
    Erase erase = stage.hands().erase().orElseThrow().allUp(tick);
    Stage next = stage.withHands(stage.hands().withErase(Optional.empty()));
    Optional<Vamp> vamp = vampOf(stage, erase);
    if (vamp.isEmpty()) {
      return next;
    }
    Clip before = erase.before();
    Clip now = next.clip(erase.part(), before.id());
    Set<Long> out = erased(before, erase, vamp.get(), tick);
    Clip mended = Mends.withBack(next, erase.part(), now, before, out, List.of());
    Clip added = Mends.without(mended, erased(mended, erase, vamp.get(), tick), List.of());
    return Edits.notedClip(
        next.withClip(erase.part(), added),
        erase.part(),
        before,
        "erase in " + Edits.name(stage, erase.part(), before));
  }

  private static Optional<Vamp> vampOf(Stage stage, Erase erase) {
    return stage.on(erase.part()).vamp().filter(v -> v.clip().equals(erase.before().id()));
  }

  /** Notes of a held pitch that were passed while it was held, and drones that sounded on one. */
  private static Set<Long> erased(Clip clip, Erase erase, Vamp vamp, long tick) {
    LoopWindow window = clip.window();
    return clip.notes()
        .filter(note -> window.contains(note.meant()))
        .filter(
            note ->
                erase.strokes().stream()
                    .anyMatch(
                        stroke -> {
                          long until = Math.min(stroke.until(), tick);
                          boolean drone = note.length() >= window.length() && until > stroke.from();
                          return stroke.pitch() == note.pitch()
                              && (drone
                                  || Mends.passed(
                                      note.meant(), window, vamp, stroke.from(), until));
                        }))
        .map(Note::id)
        .collect(Collectors.toSet());
  }
}
