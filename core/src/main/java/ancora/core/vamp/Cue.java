package ancora.core.vamp;

import ancora.core.clip.ClipId;
import ancora.core.show.SectionId;
import ancora.core.time.EntryUnit;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * What comes next in a part.
 *
 * @param at the tick at which it takes effect
 * @param boundary the boundary that it was asked for, at or before {@code at}
 * @param unit what that is a boundary of
 * @param clip the clip that enters there; empty if the part goes tacet
 * @param phase a tick at which the window's start falls
 * @param entry how the clip enters
 * @param by the section that asked for it; empty if the performer did, for this part alone
 * @param byItself whether that section was gone on to, and not cued by the performer
 * @param closes whether a recording closes for it that would have gone on
 * @param replaced what was to come before it was cued, and that alone
 */
@RecordBuilder
public record Cue(
    long at,
    long boundary,
    EntryUnit unit,
    Optional<ClipId> clip,
    long phase,
    Vamp.Entry entry,
    Optional<SectionId> by,
    boolean byItself,
    boolean closes,
    Optional<Cue> replaced)
    implements CueBuilder.With {

  public Cue {
    replaced = replaced.map(before -> before.replaced.isEmpty() ? before : before.alone());
  }

  public static Cue tacet(long at) {
    return new Cue(
        at,
        at,
        EntryUnit.NOW,
        Optional.empty(),
        at,
        Vamp.Entry.PLAIN,
        Optional.empty(),
        false,
        false,
        Optional.empty());
  }

  public static Cue of(
      long at, long boundary, EntryUnit unit, ClipId clip, long phase, Vamp.Entry entry) {
    return new Cue(
        at,
        boundary,
        unit,
        Optional.of(clip),
        phase,
        entry,
        Optional.empty(),
        false,
        false,
        Optional.empty());
  }

  public Cue by(SectionId section, boolean goesOn, Optional<Cue> before) {
    return with(cue -> cue.by(Optional.of(section)).byItself(goesOn).replaced(before));
  }

  /** This cue as it is asked for anew, of the same section, for the same reasons. */
  public Cue like(Cue before) {
    return with(
        cue ->
            cue.by(before.by)
                .byItself(before.byItself)
                .closes(before.closes)
                .replaced(before.replaced));
  }

  public Cue withClip(ClipId other) {
    return withClip(Optional.of(other));
  }

  private Cue alone() {
    return withReplaced(Optional.empty());
  }

  /**
   * What is left of it where some clips are gone: neither it nor what it replaced enters without
   * one.
   */
  public Optional<Cue> among(Predicate<ClipId> there) {
    return Optional.of(this)
        .filter(cue -> clip.map(there::test).orElse(true))
        .map(cue -> cue.withReplaced(replaced.flatMap(before -> before.among(there))));
  }

  /** What is still to come after a tick, of what it replaced. */
  public Optional<Cue> after(long tick) {
    return replaced.filter(cue -> cue.at() > tick);
  }
}
