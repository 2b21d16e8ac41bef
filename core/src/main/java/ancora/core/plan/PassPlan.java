package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.plan.OnePitch.Sounding;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

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

  /** Pitches are 0 to this; the highest is the sustain pedal. */
  private static final int HIGHEST = Note.PEDAL;

  private final Clip clip;
  private final List<Layer> layers;
  private final OnePitch rule;
  private final Silencing silencing;
  private final List<PlannedNote> notes;
  private final List<Move> moves;

  private PassPlan(
      Clip clip, OnePitch rule, Silencing silencing, List<PlannedNote> notes, List<Move> moves) {
    this.clip = clip;
    this.layers = clip.layers();
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
    BitSet all = new BitSet();
    all.set(0, HIGHEST + 1);
    List<PlannedNote> notes = planned(clip.layers(), all, rule, silencing);
    return new PassPlan(clip, rule, silencing, notes, moves(clip));
  }

  /** A pass as it is by now, of the same clip or another; the same as {@link #of} says. */
  public PassPlan next(Clip now, long beat, Silencing silencingNow) {
    OnePitch ruleNow = new OnePitch(now.window(), now.manner().ring(), beat);
    Optional<Set<Long>> otherwise = silencingNow.since(silencing);
    if (!ruleNow.equals(rule) || otherwise.isEmpty() || !clip.id().equals(now.id())) {
      return of(now, beat, silencingNow);
    }
    Differing differing = new Differing(layers, now.layers());
    differing.ids(otherwise.get());
    return new PassPlan(
        now,
        rule,
        silencingNow,
        differing.pitches.isEmpty() ? notes : with(differing.pitches, now, silencingNow),
        differing.moves ? moves(now) : moves);
  }

  private List<PlannedNote> with(BitSet pitches, Clip now, Silencing silencingNow) {
    List<PlannedNote> anew = planned(now.layers(), pitches, rule, silencingNow);
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
    BitSet all = new BitSet();
    all.set(0, HIGHEST + 1);
    List<PlannedNote> notes = new ArrayList<>();
    sounding(clip.layers(), all, Silencing.NONE)
        .values()
        .forEach(pitch -> notes.addAll(OnePitch.once(pitch, before)));
    notes.sort(ORDER);
    return List.copyOf(notes);
  }

  private static List<PlannedNote> planned(
      List<Layer> layers, BitSet pitches, OnePitch rule, Silencing silencing) {
    List<PlannedNote> notes = new ArrayList<>();
    sounding(layers, pitches, silencing).values().forEach(pitch -> notes.addAll(rule.pass(pitch)));
    notes.sort(ORDER);
    return notes;
  }

  /** What sounds of some pitches, pitch by pitch. */
  private static Map<Integer, List<Sounding>> sounding(
      List<Layer> layers, BitSet pitches, Silencing silencing) {
    Map<Integer, List<Sounding>> sounding = new TreeMap<>();
    Set<Long> out = new HashSet<>();
    for (Layer layer : layers) {
      out.addAll(layer.notesOut());
    }
    for (Layer layer : layers) {
      for (Note note : layer.notes()) {
        if (pitches.get(note.pitch()) && !(out.size() > 0 && out.contains(note.id()))) {
          sounding
              .computeIfAbsent(note.pitch(), pitch -> new ArrayList<>())
              .add(new Sounding(note, silencing.of(layer.number(), note)));
        }
      }
    }
    return sounding;
  }

  /** Which pitches are not what they were, and whether any move is not. */
  private static final class Differing {
    private final List<Layer> before;
    private final List<Layer> now;
    private final BitSet pitches = new BitSet();
    private final Set<Long> ids = new HashSet<>();
    private boolean moves;

    /** Layers, by rising number; those that are untouched are the same objects. */
    Differing(List<Layer> before, List<Layer> now) {
      this.before = before;
      this.now = now;
      if (before != now) {
        compare();
      }
    }

    private void compare() {
      int i = 0;
      int j = 0;
      while (i < before.size() || j < now.size()) {
        Layer old = i < before.size() ? before.get(i) : null;
        Layer next = j < now.size() ? now.get(j) : null;
        if (old == next) {
          i++;
          j++;
        } else if (next == null || old != null && old.number() < next.number()) {
          compare(old, Layer.empty(old.number()));
          i++;
        } else if (old == null || next.number() < old.number()) {
          compare(Layer.empty(next.number()), next);
          j++;
        } else {
          compare(old, next);
          i++;
          j++;
        }
      }
    }

    private void compare(Layer old, Layer next) {
      moves |= !old.moves().equals(next.moves()) || !old.movesOut().equals(next.movesOut());
      notes(old.notes(), next.notes());
      if (!old.notesOut().equals(next.notesOut())) {
        Set<Long> other = new HashSet<>(old.notesOut());
        next.notesOut().stream().filter(id -> !other.remove(id)).forEach(ids::add);
        ids.addAll(other);
      }
    }

    /** Notes by rising id. */
    private void notes(List<Note> old, List<Note> next) {
      int i = 0;
      int j = 0;
      while (i < old.size() || j < next.size()) {
        Note one = i < old.size() ? old.get(i) : null;
        Note other = j < next.size() ? next.get(j) : null;
        if (one == other) {
          i++;
          j++;
        } else if (other == null || one != null && one.id() < other.id()) {
          pitches.set(one.pitch());
          i++;
        } else if (one == null || other.id() < one.id()) {
          pitches.set(other.pitch());
          j++;
        } else {
          if (!one.equals(other)) {
            pitches.set(one.pitch());
            pitches.set(other.pitch());
          }
          i++;
          j++;
        }
      }
    }

    /** The pitches of notes of which something else than the note itself has changed. */
    void ids(Collection<Long> more) {
      ids.addAll(more);
      if (!ids.isEmpty()) {
        pitchesOf(before);
        pitchesOf(now);
      }
    }

    private void pitchesOf(List<Layer> layers) {
      for (Layer layer : layers) {
        for (Note note : layer.notes()) {
          if (ids.contains(note.id())) {
            pitches.set(note.pitch());
          }
        }
      }
    }
  }
}
