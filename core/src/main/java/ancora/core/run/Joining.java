package ancora.core.run;

import ancora.core.note.ControllerMove;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Two runs as one that was broken off and went on: what sounded where it was broken off goes on
 * where it sounds at the beginning of the other.
 *
 * @param before as far as it had come
 * @param after in the same ticks
 */
record Joining(Run before, Run after) {

  Run joined() {
    Map<PartId, RunPart> parts = new LinkedHashMap<>();
    before.parts().forEach(part -> parts.put(part.id(), part));
    int number =
        before.parts().stream()
            .flatMap(part -> part.passages().stream())
            .mapToInt(Passage::number)
            .max()
            .orElse(0);
    for (RunPart part : after.parts()) {
      RunPart apart = numberedAfter(part, number);
      parts.merge(part.id(), apart, this::joined);
    }
    List<From.OfSection> sections = new ArrayList<>(before.sections());
    after.sections().stream()
        .filter(s -> sections.stream().noneMatch(other -> other.tick() == s.tick()))
        .forEach(sections::add);
    sections.sort(Comparator.comparingLong(From.OfSection::tick));
    return new Run(
        map(),
        after.meter(),
        before.from(),
        Math.max(before.until(), after.until()),
        List.copyOf(parts.values()),
        sections);
  }

  private static RunPart numberedAfter(RunPart part, int number) {
    return part.withPassages(
        part.passages().stream().map(p -> p.withNumber(p.number() + number)).toList());
  }

  private RunPart joined(RunPart one, RunPart next) {
    Seam seam = new Seam(before.until(), next);
    List<Passage> passages = new ArrayList<>();
    for (Passage passage : one.passages()) {
      passages.add(passage.withNotes(seam.longer(passage.notes(), passage.from())));
    }
    List<RunNote> hands = new ArrayList<>(seam.longer(one.hands(), 0));
    for (Passage passage : since(before.until(), next.passages())) {
      Passage rest = passage.withNotes(seam.after(passage.notes(), passage.from()));
      int ended = rest.from() == before.until() ? endedIn(passages, rest) : -1;
      if (ended < 0) {
        passages.add(rest);
      } else {
        passages.set(ended, passages.get(ended).together(rest));
      }
    }
    hands.addAll(seam.without(next.hands(), 0));
    List<ControllerMove> moves = new ArrayList<>(one.moves());
    moves.addAll(next.moves());
    List<From.OfSound> sounds = new ArrayList<>(one.sounds());
    next.sounds().stream()
        .filter(s -> !s.sound().equals(sounds.get(sounds.size() - 1).sound()))
        .forEach(sounds::add);
    List<From.OfBalance> balances = new ArrayList<>(one.balances());
    for (From.OfBalance b : next.balances()) {
      From.OfBalance last = balances.get(balances.size() - 1);
      if (!b.balance().equals(last.balance()) || b.heard() != last.heard()) {
        balances.add(b);
      }
    }
    return new RunPart(
        next.id(), next.name(), next.pennant(), sounds, balances, passages, hands, moves);
  }

  /** Which of some passages one goes on from; −1 if none. */
  private static int endedIn(List<Passage> passages, Passage rest) {
    return IntStream.range(0, passages.size())
        .filter(i -> rest.goesOnFrom(passages.get(i)))
        .findFirst()
        .orElse(-1);
  }

  /**
   * Passages as they are from a tick on: one that was under way there began before, and one that
   * had ended is known.
   */
  private static List<Passage> since(long tick, List<Passage> passages) {
    return passages.stream().filter(p -> p.until() > tick).map(p -> p.since(tick)).toList();
  }

  /** Which notes go on over the seam, by pitch, and for how long. */
  private static final class Seam {
    private final long tick;
    private final Map<Integer, Long> goesOn = new LinkedHashMap<>();
    private final Map<Integer, Long> taken = new LinkedHashMap<>();

    Seam(long tick, RunPart next) {
      this.tick = tick;
      next.allNotes().stream()
          .filter(note -> note.place() == tick)
          .forEach(note -> goesOn.put(note.pitch(), note.length()));
    }

    List<RunNote> longer(List<RunNote> notes, long from) {
      return notes.stream()
          .map(
              note -> {
                boolean reaches = from + note.end() == tick && goesOn.containsKey(note.pitch());
                if (reaches) {
                  taken.put(note.pitch(), tick);
                }
                return reaches ? note.withLength(note.length() + goesOn.get(note.pitch())) : note;
              })
          .toList();
    }

    /**
     * What a clip goes on with, but for what stands at the seam: that is known, or did not sound.
     */
    List<RunNote> after(List<RunNote> notes, long from) {
      return notes.stream().filter(note -> from + note.place() != tick).toList();
    }

    List<RunNote> without(List<RunNote> notes, long from) {
      return notes.stream()
          .filter(note -> from + note.place() != tick || !taken.containsKey(note.pitch()))
          .toList();
    }
  }

  private TempoMap map() {
    double later = before.map().microsOf(before.until()) - after.map().microsOf(before.until());
    List<TempoMap.Anchor> anchors = new ArrayList<>(before.map().anchors());
    for (TempoMap.Anchor anchor : after.map().anchors()) {
      if (anchor.tick() > anchors.get(anchors.size() - 1).tick()) {
        anchors.add(new TempoMap.Anchor(anchor.tick(), anchor.micros() + later, anchor.tempo()));
      }
    }
    return new TempoMap(anchors);
  }
}
