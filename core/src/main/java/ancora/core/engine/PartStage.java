package ancora.core.engine;

import ancora.core.clip.ClipId;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.Overdub;
import java.util.Optional;

/**
 * What a part is doing.
 *
 * @param ready the clip that enters when the transport starts; empty for tacet, and while it runs
 * @param vamp the clip that sounds or is about to, while the transport runs
 * @param first the first recording that is cued or under way
 * @param overdub the overdub that goes on, or the stretch of recording that was closed last: a note
 *     that arrives late still finds its place in it
 * @param hindsight all that was played
 */
public record PartStage(
    Optional<ClipId> ready,
    Optional<Vamp> vamp,
    Optional<FirstRecording> first,
    Optional<Overdub> overdub,
    Hindsight hindsight) {

  /** Silent, with nothing played. */
  public static final PartStage TACET =
      new PartStage(
          Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Hindsight.EMPTY);

  public PartStage withReady(Optional<ClipId> clip) {
    return new PartStage(clip, vamp, first, overdub, hindsight);
  }

  public PartStage withVamp(Optional<Vamp> newVamp) {
    return new PartStage(ready, newVamp, first, overdub, hindsight);
  }

  public PartStage withVamp(Vamp newVamp) {
    return withVamp(Optional.of(newVamp));
  }

  public PartStage withFirst(Optional<FirstRecording> recording) {
    return new PartStage(ready, vamp, recording, overdub, hindsight);
  }

  public PartStage withFirst(FirstRecording recording) {
    return withFirst(Optional.of(recording));
  }

  public PartStage withOverdub(Optional<Overdub> newOverdub) {
    return new PartStage(ready, vamp, first, newOverdub, hindsight);
  }

  public PartStage withOverdub(Overdub newOverdub) {
    return withOverdub(Optional.of(newOverdub));
  }

  public PartStage withHindsight(Hindsight memory) {
    return new PartStage(ready, vamp, first, overdub, memory);
  }

  /** Whether an overdub is switched on at a tick or later. */
  public boolean overdubs(long tick) {
    return overdub.isPresent() && overdub.get().until() > tick;
  }
}
