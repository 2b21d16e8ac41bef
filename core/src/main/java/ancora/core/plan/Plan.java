package ancora.core.plan;

import ancora.core.note.NoteRepeat;
import ancora.core.show.Click;
import ancora.core.show.PartId;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;

/**
 * All that is to sound. In a steady state it needs no further word: the player goes round by
 * itself.
 *
 * @param map which tick is heard when; empty while the transport stands still
 * @param firstTick the first tick of the roll: 0, or before it by the count-in
 * @param meter the meter
 * @param click the metronome
 * @param clickSpans the ticks in which the click sounds
 * @param repeat how held keys are repeated, by the player itself
 * @param tolerances what the player forgives
 * @param parts what each part sounds
 */
public record Plan(
    Optional<TempoMap> map,
    long firstTick,
    Meter meter,
    Click click,
    List<ClickSpan> clickSpans,
    Optional<NoteRepeat> repeat,
    Tolerances tolerances,
    List<PartPlan> parts) {

  /**
   * A stretch in which the click sounds.
   *
   * @param from first tick
   * @param until first tick after it
   */
  public record ClickSpan(long from, long until) {}

  /**
   * What a part sounds.
   *
   * @param part the part
   * @param sound its sound
   * @param changes the sounds that it has later, by rising tick
   * @param spans by rising time
   */
  public record PartPlan(PartId part, Sound sound, List<SoundChange> changes, List<Span> spans) {

    /** A part that has one sound throughout. */
    public PartPlan(PartId part, Sound sound, List<Span> spans) {
      this(part, sound, List.of(), spans);
    }
  }

  /**
   * Another sound for a part.
   *
   * @param tick from which on it has that
   */
  public record SoundChange(long tick, Sound sound) {}
}
