package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What one pass of a clip sounds like. A pass that differs little from one that was planned before
 * is planned anew only for the pitches that differ, and of these, where it can be, only for what
 * differs: a note costs what it and the one before it do, however much else sounds.
 */
public final class PassPlan {

  private static final Comparator<PlannedNote> ORDER =
      Comparator.comparingLong(PlannedNote::place)
          .thenComparingInt(PlannedNote::pitch)
          .thenComparingLong(PlannedNote::id);

  /** Where notes have become others at no more places, only these are looked at. */
  private static final int A_FEW = 16;

  private final Clip clip;
  private final Material material;
  private final OnePitch rule;
  private final Silencing silencing;
  private final Map<Integer, PitchPass> byPitch;
  private final List<PlannedNote> notes;
  private final List<ControllerMove> moves;

  private PassPlan(
      Clip clip,
      Material material,
      OnePitch rule,
      Silencing silencing,
      Map<Integer, PitchPass> byPitch,
      List<PlannedNote> notes,
      List<ControllerMove> moves) {
    this.clip = clip;
    this.material = material;
    this.rule = rule;
    this.silencing = silencing;
    this.byPitch = byPitch;
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
    Map<Integer, PitchPass> byPitch = new HashMap<>();
    List<PlannedNote> notes = new ArrayList<>();
    material.pitches().stream()
        .forEach(pitch -> byPitch.put(pitch, rule.pass(material.silenced(pitch, silencing))));
    byPitch.values().forEach(pitch -> notes.addAll(pitch.notes()));
    notes.sort(ORDER);
    return new PassPlan(clip, material, rule, silencing, byPitch, notes, moves(clip));
  }

  /** A pass as it is by now, of the same clip or another; the same as {@link #of} says. */
  public PassPlan next(Clip now, long beat, Silencing silencingNow) {
    OnePitch ruleNow = new OnePitch(now.window(), now.manner().ring(), beat);
    Optional<Set<Long>> otherwise = silencingNow.since(silencing);
    if (!ruleNow.equals(rule) || otherwise.isEmpty() || !clip.id().equals(now.id())) {
      return of(now, beat, silencingNow);
    }
    Material.Becoming becoming = material.next(now.layers());
    Map<Integer, PitchPass> byPitchNow = new HashMap<>(byPitch);
    List<PlannedNote> notesNow = notes;
    BitSet pitches = becoming.pitches(otherwise.get());
    for (int pitch = pitches.nextSetBit(0); pitch >= 0; pitch = pitches.nextSetBit(pitch + 1)) {
      PitchPass before = byPitch.getOrDefault(pitch, PitchPass.NONE);
      long[] places = becoming.places(pitch, otherwise.get());
      PitchPass anew = next(before, pitch, places, becoming.now(), silencingNow);
      notesNow = exchanged(notesNow, before.notes(), anew.notes());
      byPitchNow.put(pitch, anew);
    }
    return new PassPlan(
        now,
        becoming.now(),
        rule,
        silencingNow,
        byPitchNow,
        notesNow,
        becoming.moves() ? moves(now) : moves);
  }

  private PitchPass next(
      PitchPass before, int pitch, long[] places, Material now, Silencing silencingNow) {
    return (places.length > A_FEW
            ? Optional.<PitchPass>empty()
            : rule.next(before, places, now.silencedAt(pitch, places, silencingNow)))
        .orElseGet(() -> rule.pass(now.silenced(pitch, silencingNow)));
  }

  /** Some notes, of which those of one pitch have become others. All three are in order. */
  private static List<PlannedNote> exchanged(
      List<PlannedNote> among, List<PlannedNote> old, List<PlannedNote> anew) {
    List<PlannedNote> gone = new ArrayList<>();
    List<PlannedNote> come = new ArrayList<>();
    int i = 0;
    int j = 0;
    while (i < old.size() || j < anew.size()) {
      PlannedNote one = i < old.size() ? old.get(i) : null;
      PlannedNote other = j < anew.size() ? anew.get(j) : null;
      int order =
          one == other ? 0 : one == null ? 1 : other == null ? -1 : ORDER.compare(one, other);
      boolean same = one == other || order == 0 && one.equals(other);
      if (order <= 0 && !same) {
        gone.add(one);
      }
      if (order >= 0 && !same) {
        come.add(other);
      }
      i += order <= 0 ? 1 : 0;
      j += order >= 0 ? 1 : 0;
    }
    return Exchange.of(among, gone, come, ORDER);
  }

  /** The notes, by rising place. */
  public List<PlannedNote> notes() {
    return notes;
  }

  /** What controllers do, by rising place. */
  public List<ControllerMove> moves() {
    return moves;
  }

  private static List<ControllerMove> moves(Clip clip) {
    LoopWindow window = clip.window();
    return clip.moves()
        .filter(move -> window.contains(move.place()))
        .sorted(Comparator.comparingLong(ControllerMove::place))
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
        .mapToObj(pitch -> material.silenced(pitch, Silencing.NONE))
        .forEach(pitch -> notes.addAll(OnePitch.once(pitch, before)));
    notes.sort(ORDER);
    return List.copyOf(notes);
  }
}
