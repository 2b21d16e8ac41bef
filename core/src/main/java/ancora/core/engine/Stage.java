package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Taps;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * All there is to know at one moment of a performance: the show, and what is being done with it. A
 * value; every command makes a new one.
 *
 * @param show what is saved
 * @param transport whether time goes on
 * @param partStages what each part is doing; one that is not named is tacet
 * @param armed the part that recording goes to
 * @param heldKeys keys that are down, in the order in which they went down
 * @param taps the latest taps of the tempo
 * @param delayMicros D: delivery and output latency as the page reports them
 * @param cleared clips that were cleared, the latest at the end
 */
public record Stage(
    Show show,
    Transport transport,
    Map<PartId, PartStage> partStages,
    Optional<PartId> armed,
    List<HeldKey> heldKeys,
    Taps taps,
    long delayMicros,
    List<Cleared> cleared) {

  public Stage {
    partStages = Map.copyOf(partStages);
    heldKeys = List.copyOf(heldKeys);
    cleared = List.copyOf(cleared);
  }

  /** A show at standstill; of each part its first clip stands ready, and a sole part is armed. */
  public static Stage of(Show show) {
    Map<PartId, PartStage> stages = new HashMap<>();
    for (Part part : show.parts()) {
      Optional<ClipId> first = part.shelf().stream().findFirst().map(Clip::id);
      stages.put(part.id(), PartStage.TACET.withReady(first));
    }
    return new Stage(
        show,
        new Transport.Standing(),
        stages,
        show.parts().size() == 1 ? Optional.of(show.parts().get(0).id()) : Optional.empty(),
        List.of(),
        Taps.NONE,
        0,
        List.of());
  }

  public PartStage on(PartId part) {
    return partStages.getOrDefault(part, PartStage.TACET);
  }

  /** The tempo map, while the transport runs. */
  public Optional<TempoMap> map() {
    return transport instanceof Transport.Rolling rolling
        ? Optional.of(rolling.map())
        : Optional.empty();
  }

  /** A clip on a part's shelf; refuses one that is not there. */
  public Clip clip(PartId part, ClipId clip) {
    return show.part(part)
        .clip(clip)
        .orElseThrow(() -> new Refusal("There is no such clip on the shelf of this part."));
  }

  /** The part that recording goes to; refuses if none is armed. */
  public PartId armedPart() {
    return armed.orElseThrow(() -> new Refusal("Arm a part first: select one."));
  }

  public Stage withShow(Show newShow) {
    return new Stage(newShow, transport, partStages, armed, heldKeys, taps, delayMicros, cleared);
  }

  public Stage withTransport(Transport newTransport) {
    return new Stage(show, newTransport, partStages, armed, heldKeys, taps, delayMicros, cleared);
  }

  public Stage withArmed(PartId part) {
    show.part(part);
    return new Stage(
        show, transport, partStages, Optional.of(part), heldKeys, taps, delayMicros, cleared);
  }

  public Stage withHeldKeys(List<HeldKey> keys) {
    return new Stage(show, transport, partStages, armed, keys, taps, delayMicros, cleared);
  }

  public Stage withTaps(Taps newTaps) {
    return new Stage(show, transport, partStages, armed, heldKeys, newTaps, delayMicros, cleared);
  }

  public Stage withDelay(long micros) {
    return new Stage(show, transport, partStages, armed, heldKeys, taps, micros, cleared);
  }

  public Stage withCleared(List<Cleared> clips) {
    return new Stage(show, transport, partStages, armed, heldKeys, taps, delayMicros, clips);
  }

  public Stage mapOn(PartId part, UnaryOperator<PartStage> change) {
    Map<PartId, PartStage> next = new HashMap<>(partStages);
    next.put(part, change.apply(on(part)));
    return new Stage(show, transport, next, armed, heldKeys, taps, delayMicros, cleared);
  }

  /** This stage with something done for each part in turn. */
  public Stage forEachPart(PartChange change) {
    Stage stage = this;
    for (Part part : new ArrayList<>(show.parts())) {
      stage = change.apply(stage, part.id());
    }
    return stage;
  }

  public Stage withClip(PartId part, Clip clip) {
    return withShow(show.mapPart(part, p -> p.withClip(clip)));
  }

  /** What is done for one part. */
  @FunctionalInterface
  public interface PartChange {
    Stage apply(Stage stage, PartId part);
  }
}
