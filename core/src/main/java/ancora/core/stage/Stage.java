package ancora.core.stage;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.history.History;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Taps;
import ancora.core.time.TempoMap;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;

/**
 * All there is to know at one moment of a performance: the show, and what is being done with it. A
 * value; every command makes a new one.
 *
 * @param show what is saved
 * @param transport whether time goes on
 * @param partStages what each part is doing; one that is not named is tacet
 * @param armed the part that recording goes to
 * @param alongside other parts that are played, and recorded on, together with it
 * @param armsNext a new part that is armed when what is recorded ends
 * @param hands what hands and feet hold, and what is made of it
 * @param taps the latest taps of the tempo
 * @param delayMicros D: delivery and output latency as the page reports them
 * @param form where the performance is in its form
 * @param history the steps that can be undone
 * @param firstPress a press of undo or clear that only said what it would silence
 * @param lastRun the run that ended last: what was played in it can still be kept
 * @param kept what was made of hindsight last
 */
@RecordBuilder
public record Stage(
    Show show,
    Transport transport,
    Map<PartId, PartStage> partStages,
    Optional<PartId> armed,
    Set<PartId> alongside,
    Optional<PartId> armsNext,
    Hands hands,
    Taps taps,
    long delayMicros,
    FormStage form,
    History history,
    Optional<FirstPress> firstPress,
    Optional<PastRun> lastRun,
    Optional<Kept> kept)
    implements StageBuilder.With {

  public Stage {
    partStages = PartStages.of(partStages);
    alongside =
        alongside.isEmpty() ? Set.of() : Collections.unmodifiableSet(new TreeSet<>(alongside));
  }

  /** A show at standstill; of each part its first clip stands ready, and a sole part is armed. */
  public static Stage of(Show show) {
    Map<PartId, PartStage> stages = new TreeMap<>();
    for (Part part : show.parts()) {
      Optional<ClipId> first = part.shelf().stream().findFirst().map(Clip::id);
      stages.put(part.id(), PartStage.TACET.withReady(first));
    }
    return new Stage(
        show,
        new Transport.Standing(),
        stages,
        show.parts().size() == 1 ? Optional.of(show.parts().get(0).id()) : Optional.empty(),
        Set.of(),
        Optional.empty(),
        Hands.FREE,
        Taps.NONE,
        0,
        FormStage.NOWHERE,
        History.EMPTY,
        Optional.empty(),
        Optional.empty(),
        Optional.empty());
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

  /** The tempo map; refuses while the transport stands still. */
  public TempoMap runningMap() {
    return map().orElseThrow(() -> new Refusal("The transport stands still: start it first."));
  }

  /** Whether the transport stands still and waits for nothing. */
  public boolean isStill() {
    return transport instanceof Transport.Standing;
  }

  /** Keys that are down, in the order in which they went down. */
  public List<HeldKey> heldKeys() {
    return hands.keys();
  }

  /** A clip on a part's shelf; refuses one that is not there. */
  public Clip clip(PartId part, ClipId clip) {
    return show.part(part).clipOf(clip);
  }

  /** The part that recording goes to; refuses if none is armed. */
  public PartId armedPart() {
    return armed.orElseThrow(() -> new Refusal("Arm a part first: select one."));
  }

  /** This stage with its hands changed. */
  public Stage mapHands(UnaryOperator<Hands> change) {
    return withHands(change.apply(hands));
  }

  /** The part that hands play on first: the armed one, else the first; refuses if there is none. */
  public PartId playedPart() {
    return armed.orElseGet(
        () -> {
          Refusal.unless(
              !show.parts().isEmpty(), "Add a part first, so that there is a sound to play.");
          return show.parts().get(0).id();
        });
  }

  public Stage withArmed(PartId part) {
    show.part(part);
    return withArmed(Optional.of(part));
  }

  public Stage withArmed(Optional<PartId> part) {
    return new Stage(
        show,
        transport,
        partStages,
        part,
        Set.of(),
        armsNext,
        hands,
        taps,
        delayMicros,
        form,
        history,
        firstPress,
        lastRun,
        kept);
  }

  public Stage withDelay(long micros) {
    return new Stage(
        show,
        transport,
        partStages,
        armed,
        alongside,
        armsNext,
        hands,
        taps,
        micros,
        form,
        history,
        firstPress,
        lastRun,
        kept);
  }

  public Stage mapHistory(UnaryOperator<History> change) {
    return withHistory(change.apply(history));
  }

  public Stage mapOn(PartId part, UnaryOperator<PartStage> change) {
    return withPartStages(PartStages.of(partStages).with(part, change.apply(on(part))));
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
