package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.FormStage;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.vamp.Cue;
import ancora.core.vamp.ShortLoop;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** What is otherwise in one stage than in another, as the performer would say it. */
final class Effects {

  private final Stage before;
  private final Stage after;
  private final List<Effect> effects = new ArrayList<>();

  private Effects(Stage before, Stage after) {
    this.before = before;
    this.after = after;
  }

  /** What leads from one stage to the next, the transport first, then part by part. */
  static List<Effect> between(Stage before, Stage after) {
    Effects found = new Effects(before, after);
    found.addTransport();
    found.addForm();
    found.addParts();
    found.addHands();
    return List.copyOf(found.effects);
  }

  private void addTransport() {
    if (before.map().isEmpty() && after.transport() instanceof Transport.Rolling rolling) {
      effects.add(new Effect.Starts(-rolling.firstTick()));
    }
    if (before.map().isPresent() && after.map().isEmpty()) {
      effects.add(new Effect.Stops());
    }
    Optional<PartId> awaited = awaited(before);
    Optional<PartId> awaits = awaited(after);
    if (!awaited.equals(awaits)) {
      awaits
          .or(() -> awaited)
          .ifPresent(part -> effects.add(new Effect.Awaits(part, awaits.isPresent())));
    }
    if (!before.armed().equals(after.armed())) {
      after.armed().ifPresent(part -> effects.add(new Effect.Arms(part)));
    }
  }

  private static Optional<PartId> awaited(Stage stage) {
    return stage.transport() instanceof Transport.AwaitingFirstNote awaiting
        ? Optional.of(awaiting.part())
        : Optional.empty();
  }

  private void addForm() {
    Optional<FormStage.Next> was = before.form().next();
    Optional<FormStage.Next> is = after.form().next();
    if (after.map().isEmpty() && !before.form().now().equals(after.form().now())) {
      after.form().now().ifPresent(now -> effects.add(new Effect.StandsReadyAs(now)));
    }
    if (was.equals(is)) {
      return;
    }
    if (is.isPresent()) {
      effects.add(new Effect.EntersSection(is.get().section(), is.get().at()));
    } else if (after.map().isPresent()) {
      effects.add(new Effect.CallsOffSection());
    }
  }

  private void addParts() {
    Map<PartId, Part> old = new HashMap<>();
    before.show().parts().forEach(part -> old.put(part.id(), part));
    for (Part part : after.show().parts()) {
      Part was = old.remove(part.id());
      if (was == null) {
        effects.add(new Effect.MakesPart(part.id(), part.name()));
      } else if (was != part) {
        addShelf(was, part);
      }
      if (after.map().isPresent() == before.map().isPresent()) {
        addStage(part.id(), before.on(part.id()), after.on(part.id()));
      } else if (after.map().isPresent()) {
        addRecording(part.id(), before.on(part.id()), after.on(part.id()));
      }
    }
    old.values().forEach(part -> effects.add(new Effect.RemovesPart(part.name())));
  }

  private void addShelf(Part was, Part is) {
    for (Clip clip : is.shelf()) {
      Optional<Clip> old = was.clip(clip.id());
      if (old.isEmpty()) {
        effects.add(new Effect.BringsIn(is.id(), clip.letter()));
      } else if (!old.get().equals(clip)) {
        addClip(is.id(), old.get(), clip);
      }
    }
    for (Clip clip : was.shelf()) {
      if (is.clip(clip.id()).isEmpty()) {
        effects.add(new Effect.TakesAway(is.id(), clip.letter()));
      }
    }
  }

  private void addClip(PartId part, Clip was, Clip is) {
    int before = effects.size();
    for (Take take : was.takes()) {
      if (is.findTake(take.number()).isEmpty()) {
        effects.add(new Effect.DropsTake(part, take.number()));
      }
    }
    if (was.take().number() != is.take().number()) {
      if (effects.size() == before) {
        effects.add(new Effect.ChangesClip(part, is.id()));
      }
      return;
    }
    for (int i = was.layers().size() - 1; i >= 0; i--) {
      Layer layer = was.layers().get(i);
      if (!is.take().isOn(layer.number())) {
        effects.add(
            new Effect.TakesOff(
                part,
                is.id(),
                layer.number(),
                layer.notes().size(),
                was.take().notesOut().size() - is.take().notesOut().size()));
      }
    }
    for (Layer layer : is.layers()) {
      if (!was.take().isOn(layer.number())) {
        effects.add(new Effect.PutsBack(part, is.id(), layer.number(), layer.notes().size()));
      }
    }
    if (effects.size() == before) {
      effects.add(new Effect.ChangesClip(part, is.id()));
    }
  }

  private void addStage(PartId part, PartStage was, PartStage is) {
    addRecording(part, was, is);
    addCue(part, was, is);
    if (!was.change().equals(is.change()) && is.vamp().isPresent()) {
      effects.add(
          is.change()
              .<Effect>map(change -> new Effect.Reshapes(part, is.vamp().get().clip(), change.at()))
              .orElse(new Effect.CallsOff(part)));
    }
    if (!was.hears().equals(is.hears()) && is.vamp().isPresent()) {
      effects.add(
          is.hears()
              .<Effect>map(hears -> new Effect.HearsTake(part, hears.take(), hears.at()))
              .orElse(new Effect.CallsOff(part)));
    }
    boolean stuttered = was.stutter().filter(ShortLoop::isHeld).isPresent();
    if (stuttered != is.stutter().filter(ShortLoop::isHeld).isPresent()) {
      effects.add(new Effect.Stutters(part, !stuttered));
    }
    if (!was.ready().equals(is.ready())) {
      effects.add(
          is.ready()
              .<Effect>map(clip -> new Effect.StandsReady(part, clip))
              .orElse(new Effect.StandsTacet(part)));
    }
  }

  private void addCue(PartId part, PartStage was, PartStage is) {
    if (Objects.equals(was.cue(), is.cue())) {
      return;
    }
    if (is.cue().isEmpty()) {
      boolean entered = !was.vamp().map(Vamp::from).equals(is.vamp().map(Vamp::from));
      if (!entered && is.first().isEmpty()) {
        effects.add(new Effect.CallsOff(part));
      }
      return;
    }
    Cue cue = is.cue().get();
    Optional<ClipId> clip = cue.clip();
    effects.add(
        clip.<Effect>map(id -> new Effect.Enters(part, id, cue.at()))
            .orElse(new Effect.GoesTacet(part, cue.at())));
  }

  private void addRecording(PartId part, PartStage was, PartStage is) {
    Optional<FirstRecording> old = was.first();
    Optional<FirstRecording> now = is.first();
    if (now.isPresent() && old.map(f -> f.start() != now.get().start()).orElse(true)) {
      long start = now.get().start();
      boolean drops = old.filter(f -> !f.notes().isEmpty()).isPresent();
      effects.add(drops ? new Effect.BeginsAgain(part, start) : new Effect.Records(part, start));
    }
    if (old.isPresent() && now.isEmpty() && is.vamp().equals(was.vamp())) {
      effects.add(new Effect.DropsRecording(part));
    }
    if (now.isPresent()
        && now.get().isAskedToClose()
        && !old.equals(now)
        && closes(old, now.get())) {
      effects.add(new Effect.Closes(part, now.get().until(), now.get().then()));
    }
    boolean asked = old.filter(FirstRecording::isAskedToClose).isPresent();
    if (asked && now.isPresent() && !now.get().isAskedToClose()) {
      effects.add(new Effect.RecordsOn(part));
    }
    addOnto(part, was.recording(), is.recording());
  }

  private static boolean closes(Optional<FirstRecording> old, FirstRecording now) {
    return old.map(f -> f.until() != now.until()).orElse(true);
  }

  private void addOnto(PartId part, Optional<LoopRecording> was, Optional<LoopRecording> is) {
    boolean wasOpen = was.filter(LoopRecording::isOpen).isPresent();
    boolean isOpen = is.filter(LoopRecording::isOpen).isPresent();
    if (isOpen && (!wasOpen || was.get().since() != is.get().since())) {
      LoopRecording on = is.get();
      effects.add(
          on.way() == Way.ADD
              ? new Effect.Adds(part, on.clip(), on.since())
              : new Effect.Switches(part, on.way(), true));
    }
    if (wasOpen && !isOpen && is.isPresent()) {
      effects.add(
          switch (was.get().way()) {
            case ADD -> new Effect.StopsAdding(part, is.get().until());
            case TAKES ->
                new Effect.EndsTakes(part, after.clip(part, is.get().clip()).take().number());
            case REPLACE, PUNCH -> new Effect.Switches(part, was.get().way(), false);
          });
    }
  }

  private void addHands() {
    boolean erased = before.hands().isErasing();
    if (erased != after.hands().isErasing()) {
      effects.add(new Effect.Erases(!erased));
    }
    if (!before.hands().repeat().equals(after.hands().repeat())) {
      effects.add(new Effect.Repeats(after.hands().repeat().isPresent()));
    }
    int released = before.heldKeys().size() - after.heldKeys().size();
    if (released > 0) {
      effects.add(new Effect.LetsGo(released));
    }
  }
}
