package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What one pass of a clip sounds like. A pass that differs little from one that was planned before
 * is planned anew only for the pitches that differ: a note costs what its own pitch does, however
 * much else sounds.
 */
public final class PassPlan {

  private static final Comparator<PlannedNote> ORDER =
      Comparator.comparingLong(PlannedNote::place)
          .thenComparingInt(PlannedNote::pitch)
          .thenComparingLong(PlannedNote::id);

  private final Clip clip;
  private final Material material;
  private final OnePitch rule;
  private final Silencing silencing;
  private final List<PlannedNote> notes;
  private final List<Move> moves;

  private PassPlan(
      Clip clip,
      Material material,
      OnePitch rule,
      Silencing silencing,
      List<PlannedNote> notes,
      List<Move> moves) {
    this.clip = clip;
    this.material = material;
    this.rule = rule;
    this.silencing = silencing;
    this.notes = List.copyOf(notes);
    this.moves = List.copyOf(moves);
  }

  /**
   * A pass of a clip.
   *
   * @param beat ticks of a beat: a note longer than the loop by less than that sounds as long as
   *     the loop, a longer one is a drone
   * @param silencing when which notes are silent
   */
  public static PassPlan of(Clip clip, long beat, Silencing silencing) {
    OnePitch rule = new OnePitch(clip.window(), clip.manner().ring(), beat);
    Material material = Material.of(clip.layers());
    List<PlannedNote> notes = planned(material, material.pitches(), rule, silencing);
    return new PassPlan(clip, material, rule, silencing, notes, moves(clip));
  }

  /** A pass as it is by now, of the same clip or another; the same as {@link #of} says. */
  public PassPlan next(Clip now, long beat, Silencing silencingNow) {
    OnePitch ruleNow = new OnePitch(now.window(), now.manner().ring(), beat);
    Optional<Set<Long>> otherwise = silencingNow.since(silencing);
    if (!ruleNow.equals(rule) || otherwise.isEmpty() || !clip.id().equals(now.id())) {
      return of(now, beat, silencingNow);
    }
    Material.Becoming becoming = material.next(now.layers());
    BitSet pitches = becoming.pitches();
    if (!otherwise.get().isEmpty()) {
      pitches.or(becoming.now().pitchesOf(otherwise.get()));
    }
    return new PassPlan(
        now,
        becoming.now(),
        rule,
        silencingNow,
        pitches.isEmpty() ? notes : with(pitches, becoming.now(), silencingNow),
        becoming.moves() ? moves(now) : moves);
  }

  private List<PlannedNote> with(BitSet pitches, Material now, Silencing silencingNow) {
    List<PlannedNote> anew = planned(now, pitches, rule, silencingNow);
    List<PlannedNote> all = new ArrayList<>(notes.size() + anew.size());
    int next = 0;
    for (PlannedNote note : notes) {
      if (!pitches.get(note.pitch())) {
        while (next < anew.size() && ORDER.compare(anew.get(next), note) < 0) {
          all.add(anew.get(next++));
        }
        all.add(note);
      }
    }
    all.addAll(anew.subList(next, anew.size()));
    return all;
  }

  /** The notes, by rising place. */
  public List<PlannedNote> notes() {
    return notes;
  }

  /** What controllers do, by rising place. */
  public List<Move> moves() {
    return moves;
  }

  private static List<Move> moves(Clip clip) {
    LoopWindow window = clip.window();
    return clip.moves()
        .filter(move -> window.contains(move.place()))
        .sorted(Comparator.comparingLong(Move::place))
        .toList();
  }

  /**
   * What sounds before a clip enters: its material before the window. Places are those of the
   * material.
   *
   * @param ticks how far back it goes, at least one
   */
  public static List<PlannedNote> pickup(Clip clip, long ticks) {
    LoopWindow before = new LoopWindow(clip.window().start() - ticks, ticks);
    Material material = Material.of(clip.layers());
    List<PlannedNote> notes = new ArrayList<>();
    material.pitches().stream()
        .mapToObj(pitch -> material.sounding(pitch, Silencing.NONE))
        .forEach(pitch -> notes.addAll(OnePitch.once(pitch, before)));
    notes.sort(ORDER);
    return List.copyOf(notes);
  }

  private static List<PlannedNote> planned(
      Material material, BitSet pitches, OnePitch rule, Silencing silencing) {
    List<PlannedNote> notes = new ArrayList<>();
    pitches.stream()
        .mapToObj(pitch -> material.sounding(pitch, silencing))
        .forEach(pitch -> notes.addAll(rule.pass(pitch)));
    notes.sort(ORDER);
    return notes;
  }
}
