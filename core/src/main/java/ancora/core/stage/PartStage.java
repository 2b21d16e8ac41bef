package ancora.core.stage;

import ancora.core.clip.ClipId;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.LoopRecording;
import ancora.core.vamp.Cue;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.Stutter;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.Optional;

/**
 * What a part is doing.
 *
 * @param ready the clip that enters when the transport starts; empty for tacet, and while it runs
 * @param vamp the clip that sounds, or enters next after silence, while the transport runs
 * @param past what sounded before it
 * @param cue what comes next
 * @param change another window that the sounding clip is to have
 * @param hears another take of the sounding clip that is to be heard
 * @param first the first recording that is cued or under way
 * @param recording the recording onto the loop that goes on, or that was closed last: a note that
 *     arrives late still finds its place in it
 * @param stutter while it is held, and as far as it still sounds
 * @param hindsight all that was played
 */
public record PartStage(
    Optional<ClipId> ready,
    Optional<Vamp> vamp,
    Optional<PastVamp> past,
    Optional<Cue> cue,
    Optional<WindowChange> change,
    Optional<TakeSwitch> hears,
    Optional<FirstRecording> first,
    Optional<LoopRecording> recording,
    Optional<Stutter> stutter,
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
          Optional.empty(),
          Optional.empty(),
          Hindsight.EMPTY);

  public PartStage withReady(Optional<ClipId> clip) {
    return new PartStage(
        clip, vamp, past, cue, change, hears, first, recording, stutter, hindsight);
  }

  public PartStage withVamp(Optional<Vamp> newVamp) {
    return new PartStage(
        ready, newVamp, past, cue, change, hears, first, recording, stutter, hindsight);
  }

  public PartStage withVamp(Vamp newVamp) {
    return withVamp(Optional.of(newVamp));
  }

  public PartStage withPast(Optional<PastVamp> newPast) {
    return new PartStage(
        ready, vamp, newPast, cue, change, hears, first, recording, stutter, hindsight);
  }

  public PartStage withCue(Optional<Cue> newCue) {
    return new PartStage(
        ready, vamp, past, newCue, change, hears, first, recording, stutter, hindsight);
  }

  public PartStage withChange(Optional<WindowChange> newChange) {
    return new PartStage(
        ready, vamp, past, cue, newChange, hears, first, recording, stutter, hindsight);
  }

  public PartStage withHears(Optional<TakeSwitch> take) {
    return new PartStage(
        ready, vamp, past, cue, change, take, first, recording, stutter, hindsight);
  }

  public PartStage withFirst(Optional<FirstRecording> newFirst) {
    return new PartStage(
        ready, vamp, past, cue, change, hears, newFirst, recording, stutter, hindsight);
  }

  public PartStage withFirst(FirstRecording newFirst) {
    return withFirst(Optional.of(newFirst));
  }

  public PartStage withRecording(Optional<LoopRecording> newRecording) {
    return new PartStage(
        ready, vamp, past, cue, change, hears, first, newRecording, stutter, hindsight);
  }

  public PartStage withRecording(LoopRecording newRecording) {
    return withRecording(Optional.of(newRecording));
  }

  public PartStage withStutter(Optional<Stutter> newStutter) {
    return new PartStage(
        ready, vamp, past, cue, change, hears, first, recording, newStutter, hindsight);
  }

  public PartStage withHindsight(Hindsight memory) {
    return new PartStage(ready, vamp, past, cue, change, hears, first, recording, stutter, memory);
  }

  /** Nothing sounds, is cued or recorded any more; what was played is remembered. */
  public PartStage tacet() {
    return TACET.withHindsight(hindsight);
  }

  /** The recording onto the loop that goes on. */
  public Optional<LoopRecording> open() {
    return recording.filter(LoopRecording::isOpen);
  }

  /** The clip that sounds, or that stands ready. */
  public Optional<ClipId> inHand() {
    return vamp.map(Vamp::clip).or(() -> ready);
  }
}
