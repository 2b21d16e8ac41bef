package ancora.core.stage;

import ancora.core.clip.ClipId;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.LoopRecording;
import ancora.core.vamp.Cue;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.ShortLoop;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import io.soabase.recordbuilder.core.RecordBuilder;
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
 * @param lapsed a first recording that closed by itself with nothing in it: a note of it that
 *     arrives late still makes it
 * @param recording the recording onto the loop that goes on, or that was closed last: a note that
 *     arrives late still finds its place in it
 * @param stutter while it is held, and as far as it still sounds
 * @param hindsight all that was played
 */
@RecordBuilder
public record PartStage(
    Optional<ClipId> ready,
    Optional<Vamp> vamp,
    Optional<PastVamp> past,
    Optional<Cue> cue,
    Optional<WindowChange> change,
    Optional<TakeSwitch> hears,
    Optional<FirstRecording> first,
    Optional<FirstRecording> lapsed,
    Optional<LoopRecording> recording,
    Optional<ShortLoop> stutter,
    Hindsight hindsight)
    implements PartStageBuilder.With {

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
          Optional.empty(),
          Hindsight.EMPTY);

  public PartStage withVamp(Vamp newVamp) {
    return withVamp(Optional.of(newVamp));
  }

  public PartStage withFirst(FirstRecording newFirst) {
    return withFirst(Optional.of(newFirst));
  }

  public PartStage withRecording(LoopRecording newRecording) {
    return withRecording(Optional.of(newRecording));
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
