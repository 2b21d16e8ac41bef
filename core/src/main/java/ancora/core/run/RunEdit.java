package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.show.PartId;
import java.util.Optional;

/**
 * What is done to a run, at bar lines (rule 19). Bar 1 begins at tick 0; bars of the count-in are 0
 * and less. A run is left as it is; what comes of an edit is another.
 */
public sealed interface RunEdit {

  /** A run goes no longer than this by repeating, in bars: some eight hours at 120. */
  int MOST_BARS = 16_384;

  /** A stretch sounds no more often than this. */
  int MOST_TIMES = 99;

  /** The run as it is then; refuses what cannot be. */
  Run of(Run run);

  /** What it does, in words. */
  String words();

  /**
   * Only some bars are left, and the first of them becomes bar 1.
   *
   * @param from the first bar
   * @param bars how many
   */
  record Trim(int from, int bars) implements RunEdit {
    @Override
    public Run of(Run run) {
      long begin = RunBars.from(run, from);
      long end = Math.min(run.until(), RunBars.until(run, from, bars));
      return new Splice(0).with(begin, end).of(run);
    }

    @Override
    public String words() {
      return "trim to " + RunBars.words(from, bars);
    }
  }

  /**
   * Some bars are taken out; what follows moves up.
   *
   * @param part of one part alone; of all, if empty
   */
  record Cut(Optional<PartId> part, int from, int bars) implements RunEdit {
    @Override
    public Run of(Run run) {
      long begin = RunBars.from(run, from);
      long end = Math.min(run.until(), RunBars.until(run, from, bars));
      Refusal.unless(
          part.isPresent() || begin > run.from() || end < run.until(),
          "Leave at least a bar of the run.");
      Splice splice = new Splice(run.from()).with(run.from(), begin).with(end, run.until());
      return RunBars.spliced(run, part, splice);
    }

    @Override
    public String words() {
      return "cut " + RunBars.words(from, bars);
    }
  }

  /**
   * Some bars sound several times; what follows moves back.
   *
   * @param part of one part alone; of all, if empty
   * @param times how often in all, 2 to 99
   */
  record Repeat(Optional<PartId> part, int from, int bars, int times) implements RunEdit {
    @Override
    public Run of(Run run) {
      Refusal.unless(
          times >= 2 && times <= MOST_TIMES, "A stretch sounds 2 to %s times.", MOST_TIMES);
      long begin = RunBars.from(run, from);
      long end = RunBars.until(run, from, bars);
      Refusal.unless(
          run.bars() + (long) bars * (times - 1) <= MOST_BARS,
          "A run has %s bars at most.",
          MOST_BARS);
      Splice splice = new Splice(run.from()).with(run.from(), end);
      for (int time = 2; time < times; time++) {
        splice.with(begin, end);
      }
      return RunBars.spliced(run, part, splice.with(begin, Math.max(end, run.until())));
    }

    @Override
    public String words() {
      return RunBars.words(from, bars) + " " + times + " times";
    }
  }

  /** A passage is silent, and gone. */
  record DeletePassage(int passage) implements RunEdit {
    @Override
    public Run of(Run run) {
      run.passage(passage);
      return RunBars.passages(run, passage, p -> Optional.empty());
    }

    @Override
    public String words() {
      return "delete a passage";
    }
  }

  /**
   * A passage sounds some bars later, or earlier if negative. What lies beside it stays: two that
   * overlap both sound.
   */
  record MovePassage(int passage, int bars) implements RunEdit {
    @Override
    public Run of(Run run) {
      long later = bars * run.meter().barTicks();
      Passage moved = run.passage(passage);
      Refusal.unless(
          bars != 0 && moved.from() + later >= run.from() && moved.until() + later <= run.until(),
          "A passage is moved within its run: by fewer bars.");
      return RunBars.passages(run, passage, p -> Optional.of(p.later(later)));
    }

    @Override
    public String words() {
      return "move a passage by "
          + RunBars.bars(Math.abs(bars))
          + (bars < 0 ? " earlier" : " later");
    }
  }

  /**
   * A passage sounds another clip instead, from the line on which the one before it went round.
   *
   * @param clip as it is now
   */
  record GiveClip(int passage, Clip clip) implements RunEdit {
    @Override
    public Run of(Run run) {
      RunPart part =
          run.parts().stream()
              .filter(p -> p.passages().stream().anyMatch(other -> other.number() == passage))
              .findFirst()
              .orElseThrow(() -> new Refusal("That passage is not in this run any more."));
      return RunBars.passages(
          run, passage, p -> Optional.of(Performing.passage(p, clip, part, run)));
    }

    @Override
    public String words() {
      return "give a passage clip " + clip.letter();
    }
  }
}
