package ancora.core.vamp;

import ancora.core.clip.ClipId;
import ancora.core.show.SectionId;
import ancora.core.time.EntryUnit;
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
 * @param replaced what was to come before it was cued
 */
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
    Optional<Cue> replaced) {

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
    return new Cue(
        at,
        boundary,
        unit,
        clip,
        phase,
        entry,
        Optional.of(section),
        goesOn,
        closes,
        before.map(Cue::alone));
  }

  /** This cue as it is asked for anew, of the same section, for the same reasons. */
  public Cue like(Cue before) {
    return new Cue(
        at,
        boundary,
        unit,
        clip,
        phase,
        entry,
        before.by,
        before.byItself,
        before.closes,
        before.replaced);
  }

  public Cue withCloses(boolean recording) {
    return new Cue(at, boundary, unit, clip, phase, entry, by, byItself, recording, replaced);
  }

  public Cue withReplaced(Optional<Cue> before) {
    return new Cue(
        at, boundary, unit, clip, phase, entry, by, byItself, closes, before.map(Cue::alone));
  }

  public Cue withClip(ClipId other) {
    return new Cue(
        at, boundary, unit, Optional.of(other), phase, entry, by, byItself, closes, replaced);
  }

  private Cue alone() {
    return new Cue(at, boundary, unit, clip, phase, entry, by, byItself, closes, Optional.empty());
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
