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
 * @param vamp the clip that sounds, or enters next after silence, while the transport runs
 * @param left what sounded before it
 * @param cue what comes next
 * @param change what is to become of the sounding clip
 * @param first the first recording that is cued or under way
 * @param overdub the overdub that goes on, or the stretch of recording that was closed last: a note
 *     that arrives late still finds its place in it
 * @param hindsight all that was played
 */
public record PartStage(
    Optional<ClipId> ready,
    Optional<Vamp> vamp,
    Optional<Left> left,
    Optional<Cue> cue,
    Optional<ClipChange> change,
    Optional<FirstRecording> first,
    Optional<Overdub> overdub,
    Hindsight hindsight) {

  /** Silent, with nothing played. */
  public static final PartStage TACET =
      new PartStage(
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Hindsight.EMPTY);

  public PartStage withReady(Optional<ClipId> clip) {
    return new PartStage(clip, vamp, left, cue, change, first, overdub, hindsight);
  }

  public PartStage withVamp(Optional<Vamp> newVamp) {
    return new PartStage(ready, newVamp, left, cue, change, first, overdub, hindsight);
  }

  public PartStage withVamp(Vamp newVamp) {
    return withVamp(Optional.of(newVamp));
  }

  public PartStage withLeft(Optional<Left> newLeft) {
    return new PartStage(ready, vamp, newLeft, cue, change, first, overdub, hindsight);
  }

  public PartStage withCue(Optional<Cue> newCue) {
    return new PartStage(ready, vamp, left, newCue, change, first, overdub, hindsight);
  }

  public PartStage withChange(Optional<ClipChange> newChange) {
    return new PartStage(ready, vamp, left, cue, newChange, first, overdub, hindsight);
  }

  public PartStage withFirst(Optional<FirstRecording> recording) {
    return new PartStage(ready, vamp, left, cue, change, recording, overdub, hindsight);
  }

  public PartStage withFirst(FirstRecording recording) {
    return withFirst(Optional.of(recording));
  }

  public PartStage withOverdub(Optional<Overdub> newOverdub) {
    return new PartStage(ready, vamp, left, cue, change, first, newOverdub, hindsight);
  }

  public PartStage withOverdub(Overdub newOverdub) {
    return withOverdub(Optional.of(newOverdub));
  }

  public PartStage withHindsight(Hindsight memory) {
    return new PartStage(ready, vamp, left, cue, change, first, overdub, memory);
  }

  /** Nothing sounds, is cued or recorded any more; what was played is remembered. */
  public PartStage tacet() {
    return TACET.withHindsight(hindsight);
  }

  /** Whether an overdub is switched on at a tick or later. */
  public boolean overdubs(long tick) {
    return overdub.isPresent() && overdub.get().until() > tick;
  }
}
