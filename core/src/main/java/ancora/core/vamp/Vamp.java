package ancora.core.vamp;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A clip sounding, or about to.
 *
 * @param clip the clip
 * @param phase a tick at which the window's start falls
 * @param from the tick at which it enters
 * @param entry how it enters there
 * @param heard by note, the tick of the meant onset at which it was heard live: the loop sounds it
 *     only later
 * @param homes windows that were on before, oldest first
 * @param breather how it rests after each pass, if it does
 */
@RecordBuilder
public record Vamp(
    ClipId clip,
    long phase,
    long from,
    Entry entry,
    HeardLive heard,
    List<Home> homes,
    Optional<Breather> breather)
    implements VampBuilder.With {

  /** More windows that were on are not remembered. */
  private static final int MOST_HOMES = 32;

  public Vamp {
    homes = List.copyOf(homes);
  }

  /**
   * How a clip enters.
   *
   * @param pickup ticks of pickup that sound before
   * @param underWay whether notes that have begun before are attacked
   * @param forgiven whether the press came late and was forgiven
   * @param take which of its takes was chosen for it, late for its tick; 0 where none was
   */
  public record Entry(long pickup, boolean underWay, boolean forgiven, int take) {
    /** On its boundary, without pickup. */
    public static final Entry PLAIN = inStep(true);

    /** At the place where it would be had it sounded before. */
    public static Entry inStep(boolean underWay) {
      return new Entry(0, underWay, false, 0);
    }

    /** The same with a take that was chosen late for it: what it has missed is made up for. */
    public Entry of(int chosen) {
      return new Entry(pickup, underWay, forgiven, chosen);
    }
  }

  /**
   * A window that was on.
   *
   * @param window the window
   * @param phase a tick at which its start fell
   */
  public record Home(LoopWindow window, long phase) {}

  /** A clip that enters on its boundary with nothing recorded in it yet. */
  public static Vamp of(ClipId clip, long phase, long from) {
    return new Vamp(clip, phase, from, Entry.PLAIN, HeardLive.NONE, List.of(), Optional.empty());
  }

  /** A note was heard live; those heard before a tick are forgotten, the loop has sounded them. */
  public Vamp hearing(long noteId, long tick, long forget) {
    return withHeard(heard.with(noteId, tick, forget));
  }

  public Vamp withFrom(long tick, Entry newEntry) {
    return new Vamp(clip, phase, tick, newEntry, heard, homes, breather);
  }

  /** This, with the window that is on now remembered. */
  Vamp with(LoopWindow window) {
    List<Home> next = new ArrayList<>(homes);
    next.removeIf(home -> home.window().equals(window));
    next.add(new Home(window, phase));
    return new Vamp(
        clip,
        phase,
        from,
        entry,
        heard,
        next.subList(Math.max(0, next.size() - MOST_HOMES), next.size()),
        breather);
  }

  /**
   * The phase of a window that was on before, the newest first, or of one from the same start that
   * was a multiple as long.
   */
  OptionalLong phaseOf(LoopWindow window) {
    for (int i = homes.size() - 1; i >= 0; i--) {
      if (homes.get(i).window().equals(window)) {
        return OptionalLong.of(homes.get(i).phase());
      }
    }
    for (int i = homes.size() - 1; i >= 0; i--) {
      LoopWindow home = homes.get(i).window();
      if (home.start() == window.start() && home.length() % window.length() == 0) {
        return OptionalLong.of(homes.get(i).phase());
      }
    }
    return OptionalLong.empty();
  }

  /** This, as a loop of some window. */
  public Loop in(LoopWindow window) {
    return new Loop(this, window);
  }
}
