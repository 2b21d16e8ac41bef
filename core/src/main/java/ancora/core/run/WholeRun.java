package ancora.core.run;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.show.Part;
import ancora.core.time.TempoMap;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What is true of every run that was taken down here, and has to be of one from elsewhere. */
public final class WholeRun {

  /** Places further from bar 1 than this are none of a run's, in ticks. */
  private static final long FURTHEST = 1L << 31;

  private static final int MOST_LETTERS = 2;

  private WholeRun() {}

  /** Refuses, in a sentence, a run that could not have been performed here. */
  public static void check(Run run) {
    refuse(isNear(run.from()) && isNear(run.until()), "it begins or ends out of reach");
    anchors(run.map().anchors());
    run.sections().forEach(section -> sign(section.letter(), "section", section.name()));
    Set<Object> ids = new HashSet<>();
    Set<Integer> numbers = new HashSet<>();
    for (RunPart part : run.parts()) {
      Names.checked("part", part.name());
      refuse(ids.add(part.id()), "two of its parts have one id");
      refuse(
          part.pennant() >= 0 && part.pennant() < Part.PENNANTS,
          part.name() + " has a pennant that there is not");
      part.sounds().forEach(from -> near(from.tick(), part));
      part.balances().forEach(from -> near(from.tick(), part));
      part.hands().forEach(note -> near(note, part));
      part.moves().forEach(move -> near(move, part));
      for (Passage passage : part.passages()) {
        refuse(numbers.add(passage.number()), "two of its passages have one number");
        sign(passage.letter(), "clip", passage.name());
        near(passage.phase(), part);
        near(passage.from(), part);
        near(passage.until(), part);
        near(passage.window(), part);
        passage.notes().forEach(note -> near(note, part));
        passage.moves().forEach(move -> near(move, part));
      }
    }
  }

  private static void anchors(List<TempoMap.Anchor> anchors) {
    refuse(!anchors.isEmpty(), "it has no tempo");
    for (int i = 0; i < anchors.size(); i++) {
      TempoMap.Anchor anchor = anchors.get(i);
      boolean rises =
          i == 0
              || anchor.tick() > anchors.get(i - 1).tick()
                  && anchor.micros() > anchors.get(i - 1).micros();
      refuse(
          rises && isNear(anchor.tick()) && Double.isFinite(anchor.micros()),
          "its tempi do not follow one another");
    }
  }

  private static void sign(String letter, String what, String name) {
    refuse(letter.length() <= MOST_LETTERS, "a " + what + " of it has no letter");
    Names.checkedOrEmpty(what, name);
  }

  private static void near(LoopWindow window, RunPart part) {
    near(window.start(), part);
    near(window.length(), part);
  }

  private static void near(RunNote note, RunPart part) {
    near(note.place(), part);
    near(note.length(), part);
  }

  private static void near(ControllerMove move, RunPart part) {
    near(move.place(), part);
    refuse(move.id() >= 0, "a move of a controller has no id");
  }

  private static void near(long tick, RunPart part) {
    refuse(isNear(tick), "something that " + part.name() + " sounded lies out of reach");
  }

  private static boolean isNear(long tick) {
    return tick >= -FURTHEST && tick <= FURTHEST;
  }

  private static void refuse(boolean holds, String why) {
    if (!holds) {
      throw new Refusal("A run of that file is broken: " + why + ". Export it again.");
    }
  }
}
