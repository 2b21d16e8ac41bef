package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.show.PartId;
import ancora.core.sound.Sound;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * What one part did in a run.
 *
 * @param id the part, by its id in the show
 * @param name the name that it had at the end
 * @param pennant its figure, 0 to 15
 * @param sounds its sounds, by rising tick, at least one
 * @param balances how it stood in the whole, by rising tick, at least one
 * @param passages what it sounded of clips, by where they begin
 * @param hands what hands and feet sounded besides, by rising place, which is a tick of the run
 * @param moves what they did to controllers, likewise
 */
@RecordBuilder
public record RunPart(
    PartId id,
    String name,
    int pennant,
    List<From.OfSound> sounds,
    List<From.OfBalance> balances,
    List<Passage> passages,
    List<RunNote> hands,
    List<ControllerMove> moves)
    implements RunPartBuilder.With {

  public RunPart {
    Refusal.unless(
        !sounds.isEmpty() && !balances.isEmpty(),
        "A part of a run has no sound or balance: leave the part out, or give it one.");
    sounds = List.copyOf(sounds);
    balances = List.copyOf(balances);
    passages = List.copyOf(passages);
    hands = List.copyOf(hands);
    moves = List.copyOf(moves);
  }

  /** Whether anything sounded on it. */
  public boolean isSilent() {
    return passages.stream().allMatch(passage -> passage.notes().isEmpty()) && hands.isEmpty();
  }

  /** All that it sounded, of clips and by hand, by rising tick of the run. */
  public List<RunNote> allNotes() {
    List<RunNote> all = new ArrayList<>(hands);
    for (Passage passage : passages) {
      passage.notes().forEach(note -> all.add(note.later(passage.from())));
    }
    all.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
    return all;
  }

  /** All that moved its controllers, by rising tick of the run. */
  public List<ControllerMove> allMoves() {
    List<ControllerMove> all = new ArrayList<>(moves);
    for (Passage passage : passages) {
      passage.moves().forEach(move -> all.add(move.withPlace(move.place() + passage.from())));
    }
    all.sort(Comparator.comparingLong(ControllerMove::place));
    return all;
  }

  /** The sound that it had at a tick. */
  public Sound soundAt(long tick) {
    Sound sound = sounds.get(0).sound();
    for (From.OfSound next : sounds) {
      sound = next.tick() <= tick ? next.sound() : sound;
    }
    return sound;
  }
}
