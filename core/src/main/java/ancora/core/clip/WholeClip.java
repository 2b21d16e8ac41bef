package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.time.Ticks;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * What is true of every clip that was made here, and has to be of one that comes from elsewhere.
 */
public final class WholeClip {

  /** Places further from the material's tick 0 than this are none of a loop's, in ticks. */
  private static final long FURTHEST = 1L << 31;

  private static final int MOST_TAKES = 200;
  private static final int MOST_LAYERS = 2000;
  private static final Pattern LETTER = Pattern.compile("[a-z]{1,2}");

  private WholeClip() {}

  /** Refuses, in a sentence, a clip that could not have been made here. */
  public static void check(Clip clip) {
    Refusal.unless(
        LETTER.matcher(clip.letter()).matches(), "A clip has a letter from a to z, or two.");
    String broken = "Clip " + clip.letter() + " is broken: ";
    Refusal.unless(
        isNear(clip.window().start()) && clip.window().length() <= FURTHEST,
        broken + "its window is out of reach.");
    Refusal.unless(
        clip.halvedFrom()
            .map(from -> from.start() == clip.window().start() && from.length() <= FURTHEST)
            .orElse(true),
        broken + "it was halved from nowhere.");
    Refusal.unless(
        isNear(clip.recordedAt()) && clip.id().value() >= 0, broken + "it was recorded nowhere.");
    List<Take> takes = clip.takes();
    Refusal.unless(
        !takes.isEmpty() && takes.size() <= MOST_TAKES,
        broken + "it has too few takes, or too many.");
    Set<Integer> numbers = new HashSet<>();
    Set<Long> notes = new HashSet<>();
    for (Take take : takes) {
      Refusal.unless(
          numbers.add(take.number()) && take.number() >= 1 && take.number() < clip.nextTake(),
          broken + "its takes have no numbers of their own.");
      check(take, broken, notes);
    }
    Refusal.unless(numbers.containsAll(clip.heard()), broken + "a take that is heard is lacking.");
    takes.forEach(
        take ->
            take.stretches()
                .forEach(
                    s ->
                        Refusal.unless(
                            isNear(s.from()) && isNear(s.to()) && s.from() < s.to(),
                            broken + "a stretch of its comp is none.")));
  }

  private static void check(Take take, String broken, Set<Long> notes) {
    List<Layer> layers = take.allLayers().toList();
    Refusal.unless(layers.size() <= MOST_LAYERS, broken + "it has too many layers.");
    Refusal.unless(
        take.nextLayer() >= 1 && take.nextMove() >= 1,
        broken + "its next layer, or move, would have no number.");
    Refusal.unless(
        take.noteCount() <= Clip.MOST_NOTES && take.moveCount() <= Clip.MOST_MOVES,
        broken + "a take holds too much.");
    Set<Integer> numbers = new HashSet<>();
    Set<Long> moves = new HashSet<>();
    for (Layer layer : layers) {
      Refusal.unless(
          layer.number() >= 1 && layer.number() < take.nextLayer() && numbers.add(layer.number()),
          broken + "its layers have no numbers of their own.");
      for (Note note : layer.notes()) {
        Refusal.unless(
            isNear(note.meant())
                && isNear(note.played())
                && note.length() <= FURTHEST
                && !note.held()
                && note.id() > 0
                && notes.add(note.id()),
            broken + "one of its notes is none.");
      }
      for (ControllerMove move : layer.moves()) {
        Refusal.unless(
            isNear(move.place())
                && move.id() > 0
                && move.id() < take.nextMove()
                && moves.add(move.id()),
            broken + "a move of a controller is none.");
      }
    }
  }

  private static boolean isNear(long place) {
    return Ticks.isWithin(place, FURTHEST);
  }
}
