package ancora.core.oracle;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BooleanSupplier;
import java.util.function.LongToDoubleFunction;
import java.util.stream.Stream;

/**
 * The rules of recording and mending, as plain as can be: things that are changed in place, one
 * step of 48 ticks after the other, and steps of the history that know how to go back. It shares no
 * code with the rules. Each key that is pressed has a pitch of its own, which is its name; notes
 * are one step long, on no grid.
 */
final class Model {

  static final long STEP = 48;
  static final long BEAT = 960;
  static final long BAR = 3840;
  static final long NEVER = Long.MAX_VALUE;

  enum Way {
    ADD,
    REPLACE,
    PUNCH,
    TAKES
  }

  /** A note, in the clip's material. */
  static final class Note {
    final int pitch;
    long place;
    final long played;
    boolean copied;
    long lead;

    /** The line of the pass that it was early for. */
    long forLine = NEVER;

    Note(int pitch, long place, long played) {
      this.pitch = pitch;
      this.place = place;
      this.played = played;
    }
  }

  static final class Layer {
    final int number;
    final List<Note> adds = new ArrayList<>();
    final Set<Note> out = new LinkedHashSet<>();
    boolean on = true;

    Layer(int number) {
      this.number = number;
    }
  }

  static final class Take {
    int number;
    boolean partial;
    final List<Layer> layers = new ArrayList<>();
    final List<Layer> off = new ArrayList<>();

    /** Layers that are none while there is nothing in them. */
    final Set<Layer> emptied = new LinkedHashSet<>();

    int next = 1;

    Take(int number) {
      this.number = number;
    }

    Layer begin() {
      Layer layer = new Layer(next++);
      layers.add(layer);
      return layer;
    }

    /** Those that are off stand as they did; what went off since comes after them. */
    void putOff(List<Layer> as) {
      off.sort(Comparator.comparingInt(l -> as.contains(l) ? as.indexOf(l) : Integer.MAX_VALUE));
    }

    void turnOff(Layer layer) {
      layer.on = false;
      off.remove(layer);
      off.add(layer);
    }

    void turnOn(Layer layer) {
      layer.on = true;
      off.remove(layer);
    }

    void drop(Layer layer) {
      layers.remove(layer);
      off.remove(layer);
    }

    List<Note> sounding() {
      Set<Note> out = new HashSet<>();
      layers.stream().filter(l -> l.on).forEach(l -> out.addAll(l.out));
      List<Note> notes = new ArrayList<>();
      layers.stream().filter(l -> l.on).forEach(l -> notes.addAll(l.adds));
      notes.removeIf(out::contains);
      return notes;
    }
  }

  static final class Clip {
    long start;
    long length;

    /** The longest length that it was halved from; 0 if it was not. */
    long halvedFrom;

    final List<Take> takes = new ArrayList<>();
    final List<Take> heard = new ArrayList<>();
    int nextTake = 1;

    Take newTake() {
      Take take = new Take(nextTake++);
      takes.add(take);
      return take;
    }

    Take take() {
      return heard.get(heard.size() - 1);
    }

    void hear(Take take) {
      heard.remove(take);
      heard.add(take);
    }

    long wrap(long tick) {
      return start + Math.floorMod(tick - start, length);
    }
  }

  static final class Lap {
    final long begin;
    Take take;
    Layer layer;
    boolean ended;
    boolean played;
    final Set<Integer> pitches = new HashSet<>();
    final Map<Note, Long> takenOut = new HashMap<>();

    Lap(long begin) {
      this.begin = begin;
    }
  }

  /** A take that was dropped, and the pass that it was played in. */
  record Dropped(long begin, Take take, Layer layer) {}

  static final class Recording {
    Clip clip;
    Take take;
    Way way;
    int old;
    long from;
    long since;
    long line;
    long until = NEVER;
    long outFrom;
    long rangeFrom;
    long rangeTo;
    long closed = NEVER;
    long asked = NEVER;
    long edge;
    boolean fromNothing;
    final List<Dropped> dropped = new ArrayList<>();
    final List<Lap> laps = new ArrayList<>();
    final Map<Integer, Long> brought = new TreeMap<>();

    boolean isOpen() {
      return until == NEVER;
    }

    /** Asked for in a rest, it begins at the next line. */
    boolean isToCome(long now) {
      return isOpen() && asked != NEVER && since > now;
    }
  }

  /** A hold of erase. */
  static final class Erase {
    Clip clip;
    Take take;
    Layer layer;
    long began;
    long until = NEVER;
    long from;
    final List<Stroke> strokes = new ArrayList<>();
    final Map<Note, Long> erasedAt = new HashMap<>();
  }

  static final class First {
    long start;
    long until = NEVER;
    long asked;
    final Map<Integer, Long> notes = new TreeMap<>();
  }

  static final class Stroke {
    final int pitch;
    final long from;
    long until = NEVER;

    Stroke(int pitch, long from) {
      this.pitch = pitch;
      this.from = from;
    }
  }

  /** Where a clip stands. */
  static final class Standing {
    final Clip clip;
    final long phase;
    final long from;
    final long start;
    final long length;

    /** From this line on it rests so long after each pass, until that one. */
    long restsFrom = NEVER;

    long rest;
    long restsUntil = NEVER;

    /** How it rested before that. */
    Standing rested;

    Standing(Clip clip, long phase, long from) {
      this.clip = clip;
      this.phase = phase;
      this.from = from;
      this.start = clip.start;
      this.length = clip.length;
    }

    /** The same, from a tick on. */
    Standing(Standing before, long from) {
      this(before, before.phase, from);
      restsFrom = before.restsFrom;
      rest = before.rest;
      restsUntil = before.restsUntil;
      rested = before.rested;
    }

    private Standing(Standing before, long phase, long from) {
      this.clip = before.clip;
      this.phase = phase;
      this.from = from;
      this.start = before.start;
      this.length = before.length;
    }

    /** The same, as it stands at a tick, without any rest. */
    Standing restless(long tick) {
      return new Standing(this, lineBy(tick), from);
    }

    long placeAt(long tick) {
      return start + Math.floorMod(tick - lineBy(tick), length);
    }

    long lineBy(long tick) {
      if (tick < restsFrom && rested != null) {
        return rested.lineBy(tick);
      }
      if (tick < restsFrom) {
        return tick - Math.floorMod(tick - phase, length);
      }
      long line = restsFrom;
      while (lineAfter(line) <= tick) {
        line = lineAfter(line);
      }
      return line;
    }

    long lineAfter(long line) {
      if (line < restsFrom && rested != null) {
        return rested.lineAfter(line);
      }
      return line + length + (line >= restsFrom && line < restsUntil ? rest : 0);
    }

    long lineFrom(long tick) {
      return lineBy(tick) == tick ? tick : lineAfter(lineBy(tick));
    }

    boolean restsAt(long tick) {
      return tick - lineBy(tick) >= length;
    }

    boolean isSilentAt(long tick) {
      if (tick < restsFrom && rested != null) {
        return rested.isSilentAt(tick);
      }
      return restsAt(tick) && rest % length != 0;
    }

    boolean isOpen() {
      return restsFrom != NEVER && restsUntil == NEVER;
    }
  }

  static final class Part {
    final String name;
    final List<Clip> shelf = new ArrayList<>();
    final Map<Integer, Long> played = new TreeMap<>();
    final Set<Integer> recorded = new HashSet<>();
    final Map<Integer, Long> heard = new HashMap<>();
    final List<Standing> homes = new ArrayList<>();
    Standing vamp;
    Standing before;
    First first;
    Recording recording;
    long changesAt = NEVER;
    long changeAsked;
    final List<Integer> changes = new ArrayList<>();
    Take hears;
    long hearsAt;
    long hearsAsked;
    Erase erase;

    /** The hold of erase that ended last. */
    Erase erased;

    /** A note that came late for a punch, which may end at the end of its range since. */
    boolean endsByItself;

    boolean entersLate;
    boolean cued;
    Clip cue;
    long cueAt;
    long stutterFrom = NEVER;
    long stutterUntil;
    long stutterStart;
    long stutterLength;

    Part(String name) {
      this.name = name;
    }

    boolean stutters(long tick) {
      return tick >= stutterFrom && tick < stutterUntil;
    }

    boolean isOpen() {
      return recording != null && recording.isOpen();
    }
  }

  /** What undo takes back at once. */
  static final class Step {
    final String words;
    final Runnable back;
    final Runnable again;
    final Set<Layer> layers = new LinkedHashSet<>();

    /** How layers were off when it was undone. */
    final Map<Take, List<Layer>> off = new HashMap<>();

    /** Whether layers go on and off, and nothing else. */
    boolean turns;

    /** The takes that it brought, and of which clip. */
    List<Take> takes;

    /** Whether it does nothing any more, since what it was about was never recorded. */
    BooleanSupplier isNothing = () -> false;

    Clip of;

    Step(String words, Runnable back, Runnable again) {
      this.words = words;
      this.back = back;
      this.again = again;
    }
  }

  final List<Part> parts = new ArrayList<>();
  final List<Step> done = new ArrayList<>();
  final List<Step> undone = new ArrayList<>();
  final Map<Integer, List<Long>> attacks = new TreeMap<>();
  Part armed;
  final Set<Part> alongside = new LinkedHashSet<>();
  long breather;
  boolean overdubAfter;

  /** Where a window that sounds was changed. */
  final List<Long> changed = new ArrayList<>();

  /** When peel only said that nothing is played in this take yet. */
  long peelAsked = NEVER;

  LongToDoubleFunction micros;
  long now;

  // time

  /**
   * One step of time: what ends or begins there, then what is passed before it, then what sounds.
   */
  void to(long tick) {
    while (now < tick) {
      passed(now);
      now += STEP;
      due(now);
    }
  }

  /** What sounds on the present step, once all that is done on it has been done. */
  void sound() {
    for (Part part : parts) {
      endLaps(part, now);
      if (part.hears != null && part.hearsAt == now) {
        hearNow(part, now);
      }
      Standing vamp = part.vamp;
      if (vamp == null || now < vamp.from) {
        continue;
      }
      if (part.entersLate) {
        madeUp(part, vamp);
        part.entersLate = false;
      }
      boolean stutters = part.stutters(now);
      boolean through = isThrough(part, vamp);
      Take take = through ? wouldBeHeard(part) : vamp.clip.take();
      for (Note note : vamp.isSilentAt(now) && !stutters ? List.<Note>of() : take.sounding()) {
        long place = heardPlace(part, vamp, now);
        boolean in = note.place >= vamp.start && note.place < vamp.start + vamp.length;
        if (in
            && note.place == place
            && (through ? isHeardOnly(part, note) : !isSilent(part, note))) {
          attacks.computeIfAbsent(note.pitch, p -> new ArrayList<>()).add(now);
        }
      }
    }
  }

  /** Takes rest, and the loop sounds through it. */
  private boolean isThrough(Part part, Standing vamp) {
    return part.isOpen()
        && part.recording.way == Way.TAKES
        && part.recording.clip == vamp.clip
        && vamp.restsAt(now)
        && !vamp.isSilentAt(now)
        && !part.stutters(now);
  }

  private boolean isHeardOnly(Part part, Note note) {
    return now > part.heard.getOrDefault(note.pitch, Long.MIN_VALUE);
  }

  private Take wouldBeHeard(Part part) {
    Recording on = part.recording;
    Take best = null;
    Take fullest = null;
    List<Take> all = new ArrayList<>();
    if (on.clip.takes.contains(on.take)) {
      all.add(on.take);
    }
    all.addAll(played(on));
    for (Take take : all) {
      boolean whole =
          on.laps.stream()
              .filter(l -> l.take == take)
              .map(l -> isWhole(part, on, l, NEVER))
              .findFirst()
              .orElse(!take.partial);
      best = whole ? take : best;
      fullest = fullest == null || size(take) > size(fullest) ? take : fullest;
    }
    return best != null ? best : fullest != null ? fullest : on.clip.take();
  }

  private static long heardPlace(Part part, Standing vamp, long tick) {
    boolean stutters = tick >= part.stutterFrom && tick < part.stutterUntil;
    return stutters
        ? vamp.placeAt(
            part.stutterStart + Math.floorMod(tick - part.stutterStart, part.stutterLength))
        : vamp.placeAt(tick);
  }

  /** Where an entry was missed, a note that was due no more than 30 ms ago still sounds. */
  private void madeUp(Part part, Standing vamp) {
    for (long t = Math.max(vamp.from, now - 400); t < now; t++) {
      double late = micros.applyAsDouble(now) - micros.applyAsDouble(t);
      boolean sounds = late <= 30_000 && (part.stutters(t) || !vamp.isSilentAt(t));
      for (Note note : sounds ? vamp.clip.take().sounding() : List.<Note>of()) {
        boolean in = note.place >= vamp.start && note.place < vamp.start + vamp.length;
        if (in
            && note.place == heardPlace(part, vamp, t)
            && t > part.heard.getOrDefault(note.pitch, t - 1)) {
          attacks.computeIfAbsent(note.pitch, p -> new ArrayList<>()).add(now);
        }
      }
    }
  }

  private boolean isSilent(Part part, Note note) {
    if (now <= part.heard.getOrDefault(note.pitch, Long.MIN_VALUE)) {
      return true;
    }
    Recording on = part.recording;
    if (on != null && on.isOpen() && now >= on.since && on.clip == part.vamp.clip) {
      int layer = layerOf(part.vamp.clip.take(), note);
      if (on.way == Way.TAKES) {
        return true;
      }
      if (on.way == Way.REPLACE && layer < on.old) {
        return now < Math.min(on.line + part.vamp.length, endsOtherwise(part)) - edgeOf(on, note);
      }
      if (on.way == Way.PUNCH && isInRange(on, note, part.vamp)) {
        int own = NEVER_LAYER;
        for (Lap lap : on.laps) {
          own = lap.layer != null && !lap.ended ? lap.layer.number : own;
        }
        return layer < own
            && now < endsOtherwise(part) - edgeOf(on, note)
            && !endsSoon(part, on, note);
      }
    }
    return part.erase != null
        && part.erase.clip == part.vamp.clip
        && part.erase.take == part.vamp.clip.take()
        && part.erase.strokes.stream()
            .anyMatch(s -> s.until == NEVER && s.pitch == note.pitch && now >= s.from);
  }

  /** Where a recording ends because another take is heard. */
  private static long endsOtherwise(Part part) {
    return part.hears == null ? NEVER : part.hearsAt;
  }

  /** Whether a punch ends so soon that a note counts for what comes after it. */
  private boolean endsSoon(Part part, Recording on, Note note) {
    for (long tick = now + 1; !goesOn && tick <= now + edgeOf(on, note); tick++) {
      if (isRangeEnd(part, on, tick) && hasBrought(part, on, tick)) {
        long end = tick - edgeOf(on, note);
        // what goes by before that is taken out there, however often a stretch is heard again
        for (long t = on.outFrom; t < end; t++) {
          if (part.vamp.placeAt(t) == note.place) {
            return false;
          }
        }
        return true;
      }
    }
    return false;
  }

  private static final int NEVER_LAYER = Integer.MAX_VALUE;

  private static int layerOf(Take take, Note note) {
    return take.layers.stream().filter(l -> l.adds.contains(note)).findFirst().orElseThrow().number;
  }

  /** What is taken out where its place goes by, at a tick. */
  private void passed(long tick) {
    for (Part part : parts) {
      Recording on = part.recording;
      if (on != null && on.isOpen() && part.vamp != null && part.vamp.clip == on.clip) {
        takeOut(part, on, tick);
      }
      erase(part, tick);
    }
  }

  private void takeOut(Part part, Recording on, long tick) {
    boolean begins =
        on.outFrom == on.since && on.edge > 0 && (on.since - part.vamp.lineBy(on.since)) % BAR == 0;
    begins &= on.way == Way.REPLACE || isLine(part, on.since);
    long from = begins ? on.outFrom - on.edge : on.outFrom;
    boolean sounded = tick >= part.vamp.from - (begins ? on.edge : 0);
    boolean closing = on.closed != NEVER && tick >= on.closed && tick < on.since;
    if (tick < from || !sounded || closing || part.vamp.restsAt(tick)) {
      return;
    }
    long place = part.vamp.placeAt(tick);
    for (Note note : on.take.sounding()) {
      if (note.place != place) {
        continue;
      }
      long edge = edgeOf(on, note);
      if (tick + edge < on.outFrom) {
        continue;
      }
      if (on.way == Way.REPLACE && layerOf(on.take, note) < on.old) {
        if (tick < on.line + part.vamp.length - edge) {
          Lap lap = layered(part, on, lapAt(part, on, tick));
          lap.layer.out.add(note);
          lap.takenOut.put(note, tick);
        }
      }
      if (on.way == Way.PUNCH && isInRange(on, note, part.vamp)) {
        Lap lap = lapAt(part, on, overLine(part, on, tick, edge));
        boolean passed = tick >= lap.begin || tick + edge >= lap.begin && isLine(part, lap.begin);
        if (lap.played && !lap.ended && passed && layerOf(on.take, note) < lap.layer.number) {
          lap.layer.out.add(note);
          lap.takenOut.put(note, tick);
        }
      }
    }
  }

  /** Something early for a line by no more than this counts for it, if it lies as it was played. */
  private static long edgeOf(Recording on, Note note) {
    return note.lead == 0 ? on.edge : 0;
  }

  private static boolean isInRange(Recording on, Note note, Standing at) {
    long place = at.start + Math.floorMod(note.place + edgeOf(on, note) - at.start, at.length);
    return place >= on.rangeFrom && place < on.rangeTo;
  }

  /** A tick, or the line that follows it soon enough. */
  private long overLine(Part part, Recording on, long tick, long edge) {
    Standing at = standingAt(part, on.clip, tick);
    long line = at.lineAfter(at.lineBy(tick));
    return tick + edge >= line ? line : tick;
  }

  private static boolean isLine(Part part, long tick) {
    return part.vamp.lineBy(tick) == tick;
  }

  private static boolean isBarLine(Part part, Recording on, long tick) {
    Standing at = standingAt(part, on.clip, tick - 1);
    return at != null
        && ((tick - at.lineBy(tick)) % BAR == 0 || tick - at.lineBy(tick - 1) == at.length);
  }

  private long edgeAt(long line) {
    long edge = 0;
    while (edge < 120
        && micros.applyAsDouble(line) - micros.applyAsDouble(line - edge - 1) <= 40_260) {
      edge++;
    }
    return edge;
  }

  private void erase(Part part, long tick) {
    Erase hold = part.erase;
    if (hold == null
        || part.vamp == null
        || part.vamp.clip != hold.clip
        || part.vamp.isSilentAt(tick)) {
      return;
    }
    long place = part.vamp.placeAt(tick);
    for (Note note : hold.take.sounding()) {
      boolean below = hold.layer == null || layerOf(hold.take, note) < hold.layer.number;
      boolean held =
          hold.strokes.stream()
              .anyMatch(s -> s.pitch == note.pitch && tick >= s.from && tick < s.until);
      if (note.place == place && below && held && tick >= hold.from && tick >= part.vamp.from) {
        if (hold.layer == null) {
          hold.layer = hold.take.begin();
        }
        hold.layer.out.add(note);
        hold.erasedAt.put(note, tick);
      }
    }
  }

  /** What takes effect by itself on a tick, in the order of its rank. */
  private void due(long tick) {
    for (Part part : List.copyOf(parts)) {
      if (part.first != null && part.first.until == tick) {
        close(part);
      }
      endLaps(part, tick);
    }
    for (Part part : List.copyOf(parts)) {
      if (part.isOpen()) {
        ownEnd(part, tick);
      }
    }
    for (Part part : parts) {
      if (part.changesAt == tick) {
        reshape(part, tick);
      }
      if (part.hears != null && part.hearsAt == tick) {
        hearNow(part, tick);
      }
    }
    for (Part part : parts) {
      if (part.first != null && part.vamp != null && part.first.start == tick) {
        leave(part, tick);
        takeIn(part, tick);
      }
      if (part.cued && part.cueAt == tick) {
        Clip clip = part.cue;
        leave(part, tick);
        part.cued = false;
        if (clip != null) {
          enter(part, clip, tick);
        }
      }
    }
  }

  private void endLaps(Part part, long tick) {
    if (!part.isOpen() || part.vamp == null || part.vamp.clip != part.recording.clip) {
      return;
    }
    for (Lap lap : List.copyOf(part.recording.laps)) {
      if (lap.layer != null && !lap.ended && lapEnd(part, part.recording, lap) <= tick) {
        endLap(part, part.recording, lap);
      }
    }
  }

  private void ownEnd(Part part, long tick) {
    Recording on = part.recording;
    if (part.vamp == null || part.vamp.clip != on.clip) {
      return;
    }
    if (on.way == Way.REPLACE && tick == on.line + part.vamp.length) {
      end(part, tick);
    } else if (on.way == Way.PUNCH && !goesOn && isRangeEnd(part, on, tick)) {
      if (hasBrought(part, on, tick)) {
        end(part, tick);
      }
    }
  }

  /** Whether a punch's range has just gone by: what sounds in a rest is none of it. */
  private static boolean isRangeEnd(Part part, Recording on, long tick) {
    Standing at = part.vamp;
    return on.rangeTo == at.start + at.length
        ? tick - at.lineBy(tick - 1) == at.length
        : !at.restsAt(tick) && at.placeAt(tick) == on.clip.wrap(on.rangeTo);
  }

  /** Whether something was played in the pass that is over at a tick. */
  private static boolean hasBrought(Part part, Recording on, long tick) {
    return on.laps.stream()
        .anyMatch(
            l ->
                l.played
                    && l.layer != null
                    && (l.layer.on || !l.take.layers.contains(l.layer))
                    && on.brought.entrySet().stream()
                        .anyMatch(
                            b ->
                                b.getValue() + on.edge < tick
                                    && b.getValue() + on.edge >= tick - part.vamp.length
                                    && l.pitches.contains(b.getKey())));
  }

  /** After a command: a take that is gone is not waited for, a punch whose note is back is over. */
  void afterwards() {
    for (Part part : parts) {
      if (part.vamp != null && part.vamp.isOpen() && !part.isOpen()) {
        restsNoMore(part, now);
      }
    }
    for (Part part : parts) {
      if (part.hears != null && (part.vamp == null || !part.vamp.clip.takes.contains(part.hears))) {
        part.hears = null;
      }
      Recording on = part.recording;
      if (part.isOpen() && on.way == Way.PUNCH) {
        long first = on.since - Math.floorMod(on.since, STEP) + STEP;
        for (long t = first; t <= now && on.isOpen(); t += STEP) {
          ownEnd(part, t);
        }
      }
    }
  }

  // recordings

  private void close(Part part) {
    First first = part.first;
    part.first = null;
    Clip clip = new Clip();
    clip.start = Math.floorMod(first.start, BAR);
    clip.length = first.until - first.start;
    Take take = clip.newTake();
    clip.hear(take);
    Layer layer = take.begin();
    Set<Integer> left = new TreeSet<>();
    first.notes.forEach(
        (pitch, tick) -> {
          if (tick >= first.until) {
            left.add(pitch);
          } else if (tick < first.start) {
            long early = first.start - tick;
            boolean tolerated = tolerates(early, first.start);
            Note note = new Note(pitch, tolerated ? clip.start : clip.start - early, tick);
            note.lead = tolerated ? early : 0;
            layer.adds.add(note);
          } else {
            layer.adds.add(new Note(pitch, clip.start + tick - first.start, tick));
          }
        });
    part.recorded.removeAll(left);
    boolean sounds =
        layer.adds.stream()
            .anyMatch(n -> n.place >= clip.start && n.place < clip.start + clip.length);
    if (!sounds) {
      layer.adds.forEach(n -> part.recorded.remove(n.pitch));
      return;
    }
    part.shelf.add(clip);
    part.vamp = new Standing(clip, first.start, first.until);
    part.entersLate = first.until < now;
    part.homes.clear();
    part.heard.clear();
    layer.adds.forEach(n -> part.heard.put(n.pitch, Math.max(n.played, first.start)));
    Recording on = new Recording();
    on.clip = clip;
    on.take = take;
    on.way = Way.ADD;
    on.old = 2;
    on.from = first.start;
    long rest = overdubAfter ? restOf(part, clip.length) : 0;
    if (rest > 0) {
      part.vamp.restsFrom = first.start;
      part.vamp.rest = rest;
    }
    on.since = first.until + restOf(part, clip.length);
    on.line = on.since;
    on.outFrom = on.since;
    on.closed = first.until;
    on.until = overdubAfter ? NEVER : first.until;
    Lap lap = new Lap(first.start);
    lap.take = take;
    lap.layer = layer;
    lap.ended = true;
    on.laps.add(lap);
    part.recording = on;
    noted(comingAndGoing(part, clip), true);
    takeIn(part, first.until);
  }

  private boolean tolerates(long early, long boundary) {
    return micros.applyAsDouble(boundary) - micros.applyAsDouble(boundary - early) <= 80_000 + 300;
  }

  private Step comingAndGoing(Part part, Clip clip) {
    Standing[] was = new Standing[1];
    Map<Integer, Long> heard = new HashMap<>();
    return new Step(
        "recording",
        () -> {
          part.shelf.remove(clip);
          if (part.vamp != null && part.vamp.clip == clip) {
            was[0] = part.vamp;
            heard.clear();
            heard.putAll(part.heard);
            part.vamp = null;
          }
          settleGone(part, clip);
        },
        () -> {
          part.shelf.add(clip);
          if (was[0] != null && part.vamp == null && part.first == null) {
            part.vamp = was[0];
            part.entersLate = true;
            part.heard.clear();
            part.heard.putAll(heard);
          }
          was[0] = null;
        });
  }

  private void settleGone(Part part, Clip clip) {
    if (part.recording != null && part.recording.clip == clip) {
      part.recording = null;
    }
    if (part.erased != null && part.erased.clip == clip) {
      part.erased = null;
    }
    if (part.erase != null && part.erase.clip == clip) {
      part.erase = null;
    }
    if (part.cued && part.cue == clip) {
      part.cued = false;
    }
    if (part.vamp == null) {
      part.changesAt = NEVER;
      part.changes.clear();
      part.hears = null;
      part.stutterFrom = NEVER;
    }
  }

  private boolean rests(Part part, Recording on, long tick) {
    if (on.closed != NEVER && tick >= on.closed && tick < on.since) {
      return true;
    }
    Standing at = standingAt(part, on.clip, tick);
    return at != null && at.restsAt(tick);
  }

  /** How long a loop rests: so that it is in phase with the others at each of its lines. */
  private long restOf(Part part, long length) {
    if (breather == 0) {
      return 0;
    }
    List<Long> others = new ArrayList<>();
    for (Part other : parts) {
      if (other != part && other.vamp != null && !together().contains(other)) {
        others.add(other.vamp.clip.length);
      }
    }
    for (long rest = breather; rest <= length; rest += BAR) {
      long round = length + rest;
      if (others.stream().allMatch(o -> round % o == 0)) {
        return rest;
      }
    }
    return others.isEmpty() ? breather : (breather + length - 1) / length * length;
  }

  private void restsFrom(Part part, Standing vamp, long line) {
    if (vamp.restsFrom != NEVER && line >= vamp.restsFrom && line <= vamp.restsUntil) {
      vamp.restsUntil = NEVER;
      return;
    }
    long rest = restOf(part, vamp.length);
    if (rest > 0) {
      vamp.rested = vamp.restsFrom == NEVER ? null : new Standing(vamp, vamp.from);
      vamp.restsFrom = line;
      vamp.rest = rest;
      vamp.restsUntil = NEVER;
    }
  }

  private static void restsNoMore(Part part, long tick) {
    if (part.vamp != null) {
      restsNoMore(part.vamp, tick);
    }
  }

  private static void restsNoMore(Standing vamp, long tick) {
    if (vamp.isOpen()) {
      long line = vamp.lineFrom(tick);
      if (line <= vamp.restsFrom) {
        Standing before = vamp.rested;
        vamp.restsFrom = before == null ? NEVER : before.restsFrom;
        vamp.rest = before == null ? 0 : before.rest;
        vamp.restsUntil = before == null ? NEVER : before.restsUntil;
        vamp.rested = before == null ? null : before.rested;
      } else {
        vamp.restsUntil = line;
      }
    }
  }

  private long passBegin(Part part, Recording on, long tick) {
    return passBegin(on, tick, standingAt(part, on.clip, tick));
  }

  private static long passBegin(Recording on, long tick, Standing at) {
    if (on.closed != NEVER && tick < on.closed) {
      return on.from;
    }
    long first = on.closed != NEVER ? on.since : on.from;
    return Math.max(first, at.lineBy(tick));
  }

  private long lapEnd(Part part, Recording on, Lap lap) {
    return lapEnd(on, lap, standingAt(part, on.clip, lap.begin));
  }

  private static long lapEnd(Recording on, Lap lap, Standing at) {
    long end;
    if (on.closed != NEVER && lap.begin < on.closed) {
      end = on.closed;
    } else {
      end = at.lineBy(lap.begin) + at.length;
    }
    for (Lap other : on.laps) {
      end = other.begin > lap.begin ? Math.min(end, other.begin) : end;
    }
    return end;
  }

  private static Standing standingAt(Part part, Clip clip, long tick) {
    boolean now = part.vamp != null && part.vamp.clip == clip;
    boolean before = part.before != null && part.before.clip == clip;
    if (now && (part.vamp.from <= tick || !before)) {
      return part.vamp;
    }
    return before ? part.before : null;
  }

  private Lap lapAt(Part part, Recording on, long tick) {
    long begin = passBegin(part, on, tick);
    Lap best = null;
    for (Lap lap : on.laps) {
      if (lap.begin <= Math.max(tick, begin)
          && lap.begin >= begin
          && (best == null || lap.begin > best.begin)) {
        best = lap;
      }
    }
    if (best == null) {
      best = new Lap(begin);
      on.laps.add(best);
      on.laps.sort(Comparator.comparingLong(l -> l.begin));
    }
    return best;
  }

  private Lap layered(Part part, Recording on, Lap lap) {
    if (lap.layer != null && on.clip.takes.contains(lap.take)) {
      int number = lap.layer.number;
      Layer own = lap.take.layers.stream().filter(l -> l.number == number).findFirst().orElse(null);
      if (own == null) {
        lap.ended = false;
        lap.takenOut.clear();
        lap.played = false;
      }
      lap.layer = own;
    }
    if (lap.layer == null) {
      lap.ended = false;
      lap.take = on.way == Way.TAKES ? on.clip.newTake() : on.take;
      lap.layer = lap.take.begin();
    }
    return lap;
  }

  private void endLap(Part part, Recording on, Lap lap) {
    lap.ended = true;
    boolean emptied =
        lap.layer != null
            && lap.layer.adds.isEmpty()
            && lap.layer.out.isEmpty()
            && lap.layer.number > 1;
    if (emptied && on.way != Way.TAKES && lap.take.layers.contains(lap.layer)) {
      // what it had was deleted, and comes back by undo
      lap.take.drop(lap.layer);
      lap.layer = null;
      return;
    }
    if (lap.layer != null && on.way != Way.TAKES) {
      noted(layerStep(lap.take, lap.layer), false);
    }
  }

  private Step layerStep(Take take, Layer layer) {
    Step step =
        new Step("layer " + layer.number, () -> take.turnOff(layer), () -> take.turnOn(layer));
    step.layers.add(layer);
    step.turns = true;
    return step;
  }

  private void noted(Step step, boolean endsRedo) {
    done.add(step);
    if (endsRedo) {
      undone.clear();
    }
  }

  private void cut(Part part, long tick) {
    if (!part.isOpen()) {
      return;
    }
    Recording on = part.recording;
    long at = tick;
    for (Lap lap : List.copyOf(on.laps)) {
      if (lap.layer != null && !lap.ended) {
        endLap(part, on, lap);
        if (lap.begin >= tick && lap.layer != null) {
          at = Math.max(at, lap.begin + 1);
          for (Note note : lap.layer.adds) {
            at = Math.max(at, on.brought.getOrDefault(note.pitch, at - 1) + 1);
          }
          for (Note note : lap.layer.out) {
            at = Math.max(at, lap.takenOut.getOrDefault(note, at - 1) + 1);
          }
        }
      }
    }
    begins(part, at);
  }

  /** What comes from a tick on makes another layer. */
  private void begins(Part part, long tick) {
    Recording on = part.recording;
    if (!part.isOpen()) {
      return;
    }
    long at = Math.max(tick, on.from);
    if (on.laps.stream().noneMatch(l -> l.begin == at)) {
      on.laps.add(new Lap(at));
      on.laps.sort(Comparator.comparingLong(l -> l.begin));
    } else {
      on.laps.stream()
          .filter(l -> l.begin == at && l.layer != null)
          .toList()
          .forEach(
              l -> {
                on.laps.remove(l);
                on.laps.add(new Lap(at));
              });
    }
    on.outFrom = Math.max(tick, on.since);
  }

  /** A note is played in the parts that record: into their recordings, or hindsight alone. */
  void play(List<Part> recording, int pitch, long tick) {
    for (Part part : recording) {
      part.played.put(pitch, tick);
      takeOne(part, pitch, tick);
      eraseAgain(part);
    }
    ends(recording, tick);
  }

  /** What is on by a note that came late, and was passed while its key is held, goes too. */
  private void eraseAgain(Part part) {
    for (long t = part.erase == null ? now : part.erase.from; t < now; t += STEP) {
      erase(part, t);
    }
  }

  /**
   * A note that came late for a punch ends it where its range ends, once all parts have the note.
   */
  private void ends(List<Part> recording, long from) {
    for (long t = from + STEP; t <= now; t += STEP) {
      for (Part part : recording) {
        if (part.endsByItself && part.isOpen() && isRangeEnd(part, part.recording, t)) {
          end(part, t);
        }
      }
    }
    recording.forEach(part -> part.endsByItself = false);
  }

  private void takeIn(Part part, long since) {
    part.played.forEach(
        (pitch, tick) -> {
          if (tick >= since && !part.recorded.contains(pitch)) {
            takeOne(part, pitch, tick);
            ends(List.of(part), tick);
          }
        });
  }

  private void takeOne(Part part, int pitch, long tick) {
    First first = part.first;
    boolean early =
        first != null && (tick >= first.start || tolerates(first.start - tick, first.start));
    if (!early && takeOnto(part, pitch, tick)) {
      return;
    }
    if (first != null && tick >= first.start - BAR && tick < first.until) {
      first.notes.put(pitch, tick);
      part.recorded.add(pitch);
    }
  }

  private boolean takeOnto(Part part, int pitch, long tick) {
    Recording on = part.recording;
    boolean early = on != null && isEarlyForBegin(part, on, tick);
    boolean never = on != null && on.until <= on.from;
    if (on == null || never || tick < on.from && !early || tick >= on.until) {
      return false;
    }
    if (rests(part, on, tick) && ownLine(part, on, tick) == NEVER) {
      return false;
    }
    Standing stood = standingAt(part, on.clip, tick);
    if (stood == null || !part.shelf.contains(on.clip)) {
      return false;
    }
    boolean begins = early && (on.way == Way.TAKES || rests(part, on, tick));
    long own = begins ? on.from : ownLine(part, on, tick);
    long closing = own == NEVER ? closingLine(part, on, stood, tick) : NEVER;
    if (closing != NEVER && startHas(part, on, pitch, closing, tick)) {
      return false;
    }
    long place = own == NEVER ? stood.placeAt(tick) : standingAt(part, on.clip, own).placeAt(own);
    Note played = new Note(pitch, place, tick);
    played.lead = own != NEVER ? own - tick : 0;
    if (on.way == Way.PUNCH && !isInRange(on, played, stood)) {
      return false;
    }
    long counts = own != NEVER ? own : Math.max(on.from, tick);
    counts = own != NEVER ? counts : overLine(part, on, counts, on.edge);
    Lap at = lapAt(part, on, Math.max(on.from, counts));
    long line = stood.lineAfter(stood.lineBy(Math.max(on.from, tick)));
    boolean first = on.closed != NEVER && tick < on.closed;
    boolean forPass = on.way == Way.ADD && own == NEVER && !first && line < on.until;
    if (forPass && line - tick <= edgeAt(line)) {
      Lap next = lapAt(part, on, line);
      at = next.played || at.layer == null ? next : at;
      played.forLine = line;
    }
    // a take that was undone takes nothing any more
    if (on.way == Way.TAKES && at.layer != null && !on.clip.takes.contains(at.take)) {
      return false;
    }
    Lap lap = layered(part, on, at);
    lap.layer.adds.add(played);
    lap.pitches.add(pitch);
    if (played.forLine == NEVER && own == NEVER) {
      drawnOver(part, on, lap);
    }
    lap.played = true;
    on.brought.put(pitch, tick);
    part.recorded.add(pitch);
    if (part.vamp != null && part.vamp.clip == on.clip) {
      part.heard.put(pitch, own != NEVER ? own : tick);
    }
    if (on.isOpen() && on.way == Way.PUNCH) {
      for (long t = lap.begin + Math.floorMod(-lap.begin, STEP); t < now; t += STEP) {
        takeOut(part, on, t);
      }
    }
    if (!lap.ended && (!on.isOpen() || lapEnd(part, on, lap) <= now)) {
      endLap(part, on, lap);
    }
    if (!on.isOpen() && on.way == Way.TAKES && !ending) {
      lateTake(part, on, lap);
    }
    part.endsByItself =
        on.isOpen() && on.way == Way.PUNCH && !goesOn && lap.layer.on && part.vamp != null;
    return true;
  }

  /** What was early for a pass joins it once something else is played in it. */
  private void drawnOver(Part part, Recording on, Lap lap) {
    for (Lap other : List.copyOf(on.laps)) {
      boolean there = other.layer != null && other.take.layers.contains(other.layer);
      if (on.way == Way.ADD && other.begin < lap.begin && there) {
        List<Note> early = other.layer.adds.stream().filter(n -> n.forLine == lap.begin).toList();
        other.layer.adds.removeAll(early);
        lap.layer.adds.addAll(early);
        early.forEach(n -> other.pitches.remove(n.pitch));
        early.forEach(n -> lap.pitches.add(n.pitch));
        if (!early.isEmpty() && other.layer.adds.isEmpty() && other.layer.out.isEmpty()) {
          dropLayer(on, other);
        }
      }
    }
  }

  /** The line of the next take, where a note is early for it. */
  private long ownLine(Part part, Recording on, long tick) {
    Standing at = standingAt(part, on.clip, tick);
    if (at != null && on.way != Way.TAKES && rests(part, on, tick)) {
      long line = on.closed != NEVER && tick < on.since ? on.since : at.lineAfter(at.lineBy(tick));
      double micro = micros.applyAsDouble(line) - micros.applyAsDouble(tick);
      return line < on.until && micro <= 40_000 + 300 && line - tick <= 120 ? line : NEVER;
    }
    if (on.way != Way.TAKES || at == null) {
      return NEVER;
    }
    long line = at.lineAfter(at.lineBy(tick));
    return line < on.until && tolerates(line - tick, line) ? line : NEVER;
  }

  /** The line at which takes were switched off, where a note is early for it. */
  private long closingLine(Part part, Recording on, Standing at, long tick) {
    boolean ended = on.way == Way.TAKES && !on.isOpen();
    boolean line = ended && on.until - at.lineBy(on.until - 1) == at.length;
    return line && tolerates(on.until - tick, on.until) ? on.until : NEVER;
  }

  private boolean startHas(Part part, Recording on, int pitch, long line, long tick) {
    Lap lap = lapAt(part, on, tick);
    return lap.take != null && lap.take.sounding().stream().anyMatch(n -> n.pitch == pitch);
  }

  private long forgiven(Standing vamp, long tick) {
    long bar = Math.min(BAR, vamp.length);
    long own = vamp.lineBy(tick);
    long line = own + (tick - own) / bar * bar;
    double late = micros.applyAsDouble(tick) - micros.applyAsDouble(line);
    double all = micros.applyAsDouble(line + bar) - micros.applyAsDouble(line);
    return line >= vamp.from && late <= Math.min(120_000, all / 4) ? line : NEVER;
  }

  /** Whether a note is early for the bar line at which a recording onto a loop begins. */
  private boolean isEarlyForBegin(Part part, Recording on, long tick) {
    Standing at = standingAt(part, on.clip, on.from);
    boolean line =
        Math.floorMod(on.from, BAR) == 0 || at != null && (on.from - at.lineBy(on.from)) % BAR == 0;
    double micro = micros.applyAsDouble(on.from) - micros.applyAsDouble(tick);
    boolean soon =
        on.way == Way.TAKES
            ? tolerates(on.from - tick, on.from)
            : micro <= 40_000 + 300 && on.from - tick <= 120;
    return tick < on.from && on.from == on.since && on.closed == NEVER && line && soon;
  }

  private long back(long tick) {
    double since = micros.applyAsDouble(tick) - 120_000;
    long back = tick;
    while (micros.applyAsDouble(back - 1) >= since - 1e-6) {
      back--;
    }
    // the nearest tick, halfway to the later one
    return micros.applyAsDouble(back) - since < since - micros.applyAsDouble(back - 1)
            || micros.applyAsDouble(back) - since <= since - micros.applyAsDouble(back - 1)
        ? back
        : back - 1;
  }

  /** Whether a way of recording could be switched on. */
  boolean begin(Part part, Way way, long rangeFrom, long rangeTo, long tick) {
    if (part.first != null || part.vamp == null || part.vamp.length < BAR) {
      return false;
    }
    if (part.isOpen()
        && part.recording.way == way
        && part.recording.rangeFrom == rangeFrom
        && part.recording.rangeTo == rangeTo) {
      return true;
    }
    if (part.erase != null && way != Way.ADD || part.isOpen() && part.recording.way != Way.ADD) {
      return false;
    }
    if (part.isOpen()) {
      end(part, offTick(part, tick));
    }
    Standing vamp = part.vamp;
    long pressed = Math.max(tick, vamp.from);
    long line = forgiven(vamp, pressed);
    Recording on = new Recording();
    on.clip = vamp.clip;
    on.take = vamp.clip.take();
    on.way = way;
    on.old = on.take.next;
    on.since = line == NEVER ? pressed : line;
    if (vamp.restsAt(on.since)) {
      on.since = vamp.lineFrom(on.since);
      on.asked = tick;
    }
    on.from = on.since;
    if (way == Way.ADD && on.since == pressed) {
      long bound = Math.max(vamp.from, vamp.lineBy(pressed));
      on.from = Math.max(back(pressed), Math.min(bound, pressed));
    }
    on.line = vamp.lineFrom(on.since);
    if (way != Way.REPLACE) {
      restsFrom(part, vamp, on.line);
    }
    on.rangeFrom = rangeFrom;
    on.rangeTo = rangeTo;
    on.edge = way == Way.PUNCH || way == Way.REPLACE ? edgeAt(on.since) : 0;
    on.outFrom = on.since;
    part.recording = on;
    return true;
  }

  /**
   * What has begun late has what was played, and goes on to this instant: all parts together, as
   * they would have on time.
   */
  private void catchUp(List<Part> begun) {
    Map<Part, Long> from = new HashMap<>();
    begun.forEach(part -> from.put(part, part.recording.from - BAR));
    Set<Integer> pitches = new TreeSet<>();
    begun.forEach(part -> pitches.addAll(part.played.keySet()));
    for (int pitch : pitches) {
      List<Part> with =
          begun.stream()
              .filter(part -> part.played.getOrDefault(pitch, Long.MIN_VALUE) >= from.get(part))
              .filter(part -> !part.recorded.contains(pitch))
              .toList();
      with.forEach(part -> takeOne(part, pitch, part.played.get(pitch)));
      with.stream().findFirst().ifPresent(part -> ends(with, part.played.get(pitch)));
    }
    long since =
        begun.stream().mapToLong(part -> part.recording.since).min().orElse(now) - 3 * STEP;
    for (long t = since - Math.floorMod(since, STEP); t < now; t += STEP) {
      for (Part part : begun) {
        if (isUnderWay(part, t)) {
          takeOut(part, part.recording, t);
          endLaps(part, t + STEP);
        }
      }
      for (Part part : begun) {
        if (isUnderWay(part, t) && t + STEP <= now) {
          ownEnd(part, t + STEP);
        }
      }
    }
  }

  private static boolean isUnderWay(Part part, long tick) {
    Recording on = part.recording;
    return part.isOpen()
        && tick + on.edge >= on.since
        && tick >= on.since - Math.floorMod(on.since, STEP) - 3 * STEP;
  }

  private long offTick(Part part, long tick) {
    Standing at = standingAt(part, part.recording.clip, tick);
    if (at == null) {
      return tick;
    }
    long line = forgiven(at, tick);
    Recording on = part.recording;
    if (line == NEVER || line <= on.since) {
      return tick;
    }
    boolean untouched =
        (on.way == Way.REPLACE || on.way == Way.PUNCH)
            && on.brought.values().stream().noneMatch(t -> t >= line);
    return line == at.lineBy(tick) || untouched ? line : tick;
  }

  void end(Part part, long tick) {
    Recording on = part.recording;
    for (Lap lap : List.copyOf(on.laps)) {
      // what an edit has given to another owner stays there
      if (lap.layer == null || !lap.take.layers.contains(lap.layer)) {
        continue;
      }
      boolean less = false;
      for (Note note : List.copyOf(lap.layer.adds)) {
        boolean own = !note.copied && lap.pitches.contains(note.pitch);
        if (own && on.brought.getOrDefault(note.pitch, Long.MIN_VALUE) >= tick) {
          lap.layer.adds.remove(note);
          part.recorded.remove(note.pitch);
          takenBack.add(note);
          less = true;
        }
      }
      for (Note note : List.copyOf(lap.layer.out)) {
        long edge = isBarLine(part, on, tick) ? edgeOf(on, note) : 0;
        if (lap.takenOut.getOrDefault(note, Long.MIN_VALUE) >= tick - edge) {
          lap.layer.out.remove(note);
          less = true;
        }
      }
      // the loop itself stays, empty as it may be
      boolean isLoop = on.closed != NEVER && lap.begin == on.from;
      if (less && !isLoop && lap.layer.adds.isEmpty() && lap.layer.out.isEmpty()) {
        dropLayer(on, lap);
      }
    }
    done.removeIf(step -> step.isNothing.getAsBoolean());
    undone.removeIf(step -> step.isNothing.getAsBoolean());
    on.brought.values().removeIf(t -> t >= tick);
    on.laps.forEach(lap -> lap.takenOut.values().removeIf(t -> t >= tick));
    on.until = tick;
    restsNoMore(part, tick);
    if (on.way == Way.TAKES) {
      // what was early for a take that does not begin is of the one that ends
      Map<Integer, Long> early = new TreeMap<>();
      for (Lap lap : List.copyOf(on.laps)) {
        if (lap.begin >= tick && lap.layer != null) {
          lap.layer.adds.forEach(n -> early.put(n.pitch, n.played));
          part.recorded.removeAll(early.keySet());
          dropLayer(on, lap);
        }
      }
      ending = true;
      early.forEach(
          (pitch, played) -> {
            takeOne(part, pitch, played);
            ends(List.of(part), played);
          });
      ending = false;
      endTakes(part, on, tick);
      return;
    }
    for (Lap lap : List.copyOf(on.laps)) {
      if (lap.layer != null && !lap.ended) {
        endLap(part, on, lap);
      }
    }
  }

  private void dropLayer(Recording on, Lap lap) {
    if (on.way == Way.TAKES) {
      Take gone = lap.take;
      if (!on.clip.takes.remove(gone)) {
        // one that was undone takes nothing any more
        return;
      }
      done.removeIf(s -> s.takes != null && s.takes.remove(gone) && s.takes.isEmpty());
    } else {
      Layer gone = lap.layer;
      lap.take.drop(gone);
      done.removeIf(s -> s.layers.remove(gone) && s.layers.isEmpty());
      undone.removeIf(s -> s.layers.remove(gone) && s.layers.isEmpty());
    }
    lap.take = null;
    lap.layer = null;
    lap.ended = false;
    lap.played = false;
  }

  private void endTakes(Part part, Recording on, long tick) {
    for (Lap lap : on.laps) {
      if (lap.take != null) {
        lap.take.partial = !isWhole(part, on, lap, tick);
      }
    }
    List<Take> played = played(on);
    if (played.isEmpty()) {
      return;
    }
    List<Take> came = new ArrayList<>(played);
    done.stream().filter(s -> s.takes != null).forEach(s -> came.removeAll(s.takes));
    if (!came.isEmpty()) {
      noted(takesStep(part, on.clip, came), true);
    }
    hearBest(part, on, tick);
  }

  private static List<Take> played(Recording on) {
    return new ArrayList<>(
        on.laps.stream()
            .map(lap -> lap.take)
            .filter(take -> take != null && on.clip.takes.contains(take))
            .toList());
  }

  private boolean isWhole(Part part, Recording on, Lap lap, long end) {
    // in the window in which it was played, or in one that it covers
    boolean sounds = part.vamp != null && part.vamp.clip == on.clip;
    return isWhole(on, lap, end, standingAt(part, on.clip, lap.begin))
        || sounds && isWhole(on, lap, end, part.vamp);
  }

  private static boolean isWhole(Recording on, Lap lap, long end, Standing at) {
    return at != null
        && lap.begin == at.lineBy(lap.begin)
        && lap.begin == passBegin(on, lap.begin, at)
        && Math.min(lapEnd(on, lap, at), end) - lap.begin >= at.length;
  }

  private Step takesStep(Part part, Clip clip, List<Take> played) {
    Step step =
        new Step(
            "takes",
            () -> {
              Take was = clip.take();
              clip.takes.removeAll(played);
              clip.heard.removeAll(played);
              again.put(clip, was);
              gone(part, clip);
            },
            () -> {
              clip.takes.addAll(played);
              clip.takes.sort(Comparator.comparingInt(t -> t.number));
              Take was = again.get(clip);
              if (played.contains(was)) {
                clip.hear(was);
              }
            });
    step.takes = played;
    step.of = clip;
    return step;
  }

  /** A key arrives when takes are over already. */
  private void lateTake(Part part, Recording on, Lap lap) {
    lap.take.partial = !isWhole(part, on, lap, on.until);
    boolean known =
        done.stream()
            .anyMatch(s -> s.of == on.clip && s.takes != null && s.takes.contains(lap.take));
    Step last = done.isEmpty() ? null : done.get(done.size() - 1);
    if (known) {
      hearBest(part, on, now);
      return;
    }
    if (last == null || last.takes == null || last.of != on.clip) {
      last = takesStep(part, on.clip, new ArrayList<>());
      noted(last, false);
    }
    if (!last.takes.contains(lap.take)) {
      last.takes.add(lap.take);
    }
    hearBest(part, on, now);
  }

  private void hearBest(Part part, Recording on, long tick) {
    Clip clip = on.clip;
    Take was = clip.take();
    List<Take> all = played(on);
    if (clip.takes.contains(on.take)) {
      all.add(0, on.take);
    }
    Take best =
        all.stream()
            .filter(t -> !t.partial)
            .reduce((a, b) -> b)
            .orElseGet(
                () -> {
                  Take most = all.get(0);
                  for (Take t : all) {
                    most = size(t) > size(most) ? t : most;
                  }
                  return most;
                });
    clip.hear(best);
    if (best != was && part.vamp != null && part.vamp.clip == clip) {
      // where it had rested up to there it has sounded through, or is silent, unless it stutters
      boolean rested = tick == part.vamp.restsFrom + part.vamp.length && !part.stutters(now);
      stand(part, new Standing(part.vamp, Math.max(tick, part.vamp.from)));
      part.entersLate = tick < now && !rested;
    }
  }

  private static int size(Take take) {
    return take.layers.stream().filter(l -> l.on).mapToInt(layer -> layer.adds.size()).sum();
  }

  private final Map<Clip, Take> again = new HashMap<>();

  private void gone(Part part, Clip clip) {
    if (part.recording != null
        && part.recording.clip == clip
        && !clip.takes.contains(part.recording.take)) {
      part.recording = null;
    }
    if (part.erased != null && part.erased.clip == clip && !clip.takes.contains(part.erased.take)) {
      part.erased = null;
    }
    if (part.erase != null && part.erase.clip == clip && !clip.takes.contains(part.erase.take)) {
      part.erase = null;
    }
    if (part.hears != null && !clip.takes.contains(part.hears)) {
      part.hears = null;
    }
  }

  /** Another standing of the clip that sounds; the one before is remembered. */
  private void stand(Part part, Standing next) {
    if (part.vamp.from < next.from) {
      part.before = part.vamp;
    }
    part.vamp = next;
  }

  private void leave(Part part, long tick) {
    if (part.vamp == null) {
      return;
    }
    endAll(part, tick);
    if (part.vamp.from < tick) {
      part.before = part.vamp;
    }
    part.vamp = null;
    part.changesAt = NEVER;
    part.changes.clear();
    part.hears = null;
    part.stutterFrom = NEVER;
  }

  private void enter(Part part, Clip clip, long tick) {
    part.vamp = new Standing(clip, tick, tick);
    part.homes.clear();
    part.heard.clear();
  }

  private void endAll(Part part, long tick) {
    if (part.erase != null) {
      eraseOff(part, tick);
    }
    if (part.isOpen()) {
      end(part, tick);
    }
  }

  // erase

  boolean isErasing() {
    return parts.stream().anyMatch(p -> p.erase != null);
  }

  boolean eraseOn(long tick) {
    if (isErasing()) {
      return true;
    }
    boolean can = eraseOn(armed, tick);
    if (can) {
      alongside.forEach(p -> eraseOn(p, tick));
    }
    return can;
  }

  private boolean eraseOn(Part part, long tick) {
    if (part.first != null || part.vamp == null || part.isOpen() && part.recording.way != Way.ADD) {
      return false;
    }
    cut(part, tick);
    part.erase = new Erase();
    part.erase.clip = part.vamp.clip;
    part.erase.take = part.erase.clip.take();
    part.erase.from = tick;
    part.erase.began = tick;
    return true;
  }

  void eraseDown(int pitch, long tick) {
    for (Part part : parts) {
      if (part.erase != null) {
        part.erase.strokes.add(new Stroke(pitch, tick));
        for (long t = tick; t < now; t += STEP) {
          erase(part, t);
        }
      }
    }
  }

  void eraseUp(int pitch, long tick) {
    for (Part part : parts) {
      for (Erase hold : new Erase[] {part.erase, part.erased}) {
        if (hold != null) {
          hold.strokes.stream()
              .filter(s -> s.pitch == pitch && s.until > tick)
              .forEach(s -> s.until = Math.max(tick, s.from));
          backed(hold);
        }
      }
    }
  }

  void eraseOff(long tick) {
    for (Part part : parts) {
      if (part.erase != null) {
        eraseOff(part, tick);
      }
    }
  }

  private void eraseOff(Part part, long tick) {
    Erase hold = part.erase;
    hold.strokes.stream()
        .filter(s -> s.until > tick)
        .forEach(s -> s.until = Math.max(tick, s.from));
    backed(hold);
    if (hold.layer != null) {
      notedErase(hold);
    }
    hold.until = Math.max(tick, hold.began);
    part.erased = hold;
    part.erase = null;
    cut(part, tick);
  }

  /** Whether a key that goes down at a tick erases, however late that is known. */
  boolean erases(Part part, long tick) {
    return Stream.of(part.erase, part.erased)
        .filter(Objects::nonNull)
        .anyMatch(hold -> tick >= hold.began && tick < hold.until);
  }

  private void backed(Erase hold) {
    for (Note note : List.copyOf(hold.erasedAt.keySet())) {
      long at = hold.erasedAt.get(note);
      boolean held =
          hold.strokes.stream()
              .anyMatch(s -> s.pitch == note.pitch && at >= s.from && at < s.until);
      if (!held) {
        hold.erasedAt.remove(note);
        hold.layer.out.remove(note);
      }
    }
    if (hold.layer != null && hold.erasedAt.isEmpty()) {
      Layer gone = hold.layer;
      hold.take.drop(gone);
      hold.layer = null;
      done.removeIf(s -> s.layers.remove(gone) && s.layers.isEmpty());
      undone.removeIf(s -> s.layers.remove(gone) && s.layers.isEmpty());
    }
  }

  /**
   * What it took out may have been deleted since: then it is no step, and all comes back together.
   */
  private void notedErase(Erase hold) {
    if (hold.take.layers.contains(hold.layer)) {
      noted(layerStep(hold.take, hold.layer), false);
    }
  }

  private void eraseCut(Part part, long tick) {
    Erase hold = part.erase;
    if (hold.layer != null) {
      notedErase(hold);
      hold.layer = null;
    }
    hold.erasedAt.clear();
    hold.from = tick;
  }

  // windows, takes, cues

  boolean reshapeLater(Part part, int kind, long stamp) {
    if (part.vamp == null) {
      return false;
    }
    List<Integer> all = new ArrayList<>(part.changes);
    all.add(kind);
    long length = part.vamp.clip.length;
    for (int each : all) {
      length = each == 0 ? length / 2 : each == 1 ? length * 2 : length;
    }
    boolean fits = length % BEAT == 0 || length == BEAT / 2 || length == BEAT / 4;
    if (!fits || length > 64 * BAR) {
      return false;
    }
    if (part.changesAt == NEVER) {
      long beat = (now + BEAT - 1) / BEAT * BEAT;
      part.changesAt = Math.max(beat, (part.vamp.from + BEAT - 1) / BEAT * BEAT);
    }
    part.changes.add(kind);
    part.changeAsked = stamp;
    if (part.changesAt == now) {
      reshape(part, now);
    }
    return true;
  }

  private void reshape(Part part, long tick) {
    Clip clip = part.vamp.clip;
    List<Integer> kinds = List.copyOf(part.changes);
    part.changes.clear();
    part.changesAt = NEVER;
    long before = clip.length;
    long after = before;
    for (int kind : kinds) {
      after = kind == 0 ? after / 2 : kind == 1 ? after * 2 : after;
    }
    if (after < BAR) {
      if (part.isOpen()) {
        end(part, tick);
      }
    } else {
      cut(part, tick);
    }
    Map<Layer, List<Note>> copies = new java.util.LinkedHashMap<>();
    Map<Layer, List<Note>> copiesOut = new java.util.LinkedHashMap<>();
    Map<Layer, List<Note>> gone = new java.util.LinkedHashMap<>();
    Map<Layer, List<Note>> stray = new java.util.LinkedHashMap<>();
    long length = before;
    long halved = clip.halvedFrom;
    for (int kind : kinds) {
      if (kind == 0) {
        clip.halvedFrom = clip.halvedFrom == 0 ? clip.length : clip.halvedFrom;
        clip.length /= 2;
      } else if (clip.halvedFrom >= 2 * clip.length) {
        clip.length *= 2;
        clip.halvedFrom = clip.halvedFrom == clip.length ? 0 : clip.halvedFrom;
      } else {
        clip.takes.forEach(
            take -> doubled(clip, take, clip.length, copies, copiesOut, gone, stray));
        clip.length *= 2;
        clip.halvedFrom = 0;
      }
    }
    long halvedNow = clip.halvedFrom;
    restand(part, tick);
    long set = after;
    if (set == length && halved == halvedNow && copies.isEmpty()) {
      return;
    }
    noted(
        new Step(
            "window",
            () -> {
              clip.length = length;
              clip.halvedFrom = halved;
              gone.forEach((layer, notes) -> layer.adds.addAll(notes));
              copies.forEach((layer, notes) -> layer.adds.removeAll(notes));
              copiesOut.forEach((layer, notes) -> layer.out.removeAll(notes));
              stray.forEach((layer, notes) -> layer.out.addAll(notes));
            },
            () -> {
              clip.length = set;
              clip.halvedFrom = halvedNow;
              gone.forEach((layer, notes) -> layer.adds.removeAll(notes));
              copies.forEach((layer, notes) -> layer.adds.addAll(notes));
              copiesOut.forEach((layer, notes) -> layer.out.addAll(notes));
              stray.forEach((layer, notes) -> layer.out.removeAll(notes));
            }),
        true);
  }

  /** In each take the second half is a copy of the first, whatever was there. */
  private static void doubled(
      Clip clip,
      Take take,
      long once,
      Map<Layer, List<Note>> copies,
      Map<Layer, List<Note>> copiesOut,
      Map<Layer, List<Note>> gone,
      Map<Layer, List<Note>> stray) {
    long second = clip.start + once;
    for (Layer layer : take.layers) {
      for (Note note : List.copyOf(layer.adds)) {
        if (note.place >= second && note.place < second + once) {
          layer.adds.remove(note);
          gone.computeIfAbsent(layer, l -> new ArrayList<>()).add(note);
        }
      }
    }
    // one that is off, and had nothing but what lay behind, or took out what is no more, is none
    for (Layer layer : List.copyOf(take.off)) {
      boolean nowhere =
          layer.out.stream().allMatch(n -> take.layers.stream().noneMatch(l -> l.adds.contains(n)));
      if (layer.adds.isEmpty() && nowhere) {
        stray.put(layer, List.copyOf(layer.out));
        layer.out.clear();
        take.drop(layer);
        take.emptied.add(layer);
      }
    }
    Map<Note, Note> copyOf = new HashMap<>();
    for (Layer layer : take.layers) {
      for (Note note : List.copyOf(layer.adds)) {
        if (note.place >= clip.start && note.place < second) {
          Note copy = new Note(note.pitch, note.place + once, note.played);
          copy.copied = true;
          copy.lead = note.lead;
          copyOf.put(note, copy);
          layer.adds.add(copy);
          copies.computeIfAbsent(layer, l -> new ArrayList<>()).add(copy);
        }
      }
    }
    for (Layer layer : take.layers) {
      for (Note note : List.copyOf(layer.out)) {
        if (copyOf.containsKey(note)) {
          layer.out.add(copyOf.get(note));
          copiesOut.computeIfAbsent(layer, l -> new ArrayList<>()).add(copyOf.get(note));
        }
      }
    }
  }

  /** Where the clip stands whose window is another now. */
  private void restand(Part part, long tick) {
    changed.add(tick);
    Standing old = part.vamp.restless(tick);
    Clip clip = old.clip;
    long before = old.length;
    long after = clip.length;
    part.homes.removeIf(h -> h.start == old.start && h.length == old.length);
    part.homes.add(old);
    long phase = -1;
    for (Standing home : part.homes) {
      phase = home.length == after && home.start == clip.start ? home.phase : phase;
    }
    if (phase == -1) {
      for (Standing home : part.homes) {
        phase = home.start == clip.start && home.length % after == 0 ? home.phase : phase;
      }
    }
    if (phase == -1) {
      phase = tick - (clip.wrap(old.placeAt(tick)) - clip.start);
    }
    if (after == before) {
      phase = old.phase;
    }
    Standing next = new Standing(clip, phase, tick);
    stand(part, next);
    if (part.isOpen()) {
      part.recording.line = next.lineFrom(tick);
      // what is early for the line at which both begin goes with it
      for (long t = tick - 3 * STEP; t < tick; t += STEP) {
        takeOut(part, part.recording, t);
      }
      if (part.recording.way != Way.REPLACE) {
        restsFrom(part, next, part.recording.line);
      }
    }
  }

  private void otherWindows() {
    for (Part part : parts) {
      if (part.vamp != null && part.vamp.clip.length != part.vamp.length) {
        long tick = Math.max(now, part.vamp.from);
        if (part.vamp.clip.length < BAR && part.isOpen()) {
          end(part, tick);
        }
        restand(part, tick);
        begins(part, tick);
      }
    }
  }

  void hear(Part part, Clip clip, int number, boolean atOnce, long stamp) {
    Take take = clip.takes.stream().filter(t -> t.number == number).findFirst().orElseThrow();
    if (part.vamp == null || part.vamp.clip != clip) {
      clip.hear(take);
      return;
    }
    part.hears = take;
    part.hearsAt = atOnce ? now : boundary(stamp);
    part.hearsAsked = stamp;
    if (part.hearsAt < now) {
      hearNow(part, part.hearsAt);
    }
  }

  private void hearNow(Part part, long tick) {
    endAll(part, tick);
    Take take = part.hears;
    part.hears = null;
    if (part.vamp == null || !part.vamp.clip.takes.contains(take)) {
      return;
    }
    Take was = part.vamp.clip.take();
    if (take == was) {
      return;
    }
    part.vamp.clip.hear(take);
    stand(part, new Standing(part.vamp, tick));
    part.entersLate = tick < now;
  }

  private long boundary(long stamp) {
    long bar = Math.floorDiv(stamp, BAR) * BAR;
    double late = micros.applyAsDouble(stamp) - micros.applyAsDouble(bar);
    return bar == stamp || late <= 60_000 ? bar : bar + BAR;
  }

  // undo

  /** Takes back what is newest; tells whether there was anything. */
  boolean undo(long stamp) {
    Runnable pending = pending(stamp);
    if (pending != null) {
      pending.run();
      return true;
    }
    List<List<Part>> groups = new ArrayList<>();
    List<Part> together = new ArrayList<>(List.of(armed));
    together.addAll(alongside);
    groups.add(together);
    parts.forEach(p -> groups.add(List.of(p)));
    for (List<Part> group : groups) {
      if (undoUnderWay(group, stamp)) {
        return true;
      }
    }
    return undoStep();
  }

  private Runnable pending(long stamp) {
    Runnable newest = null;
    long asked = Long.MIN_VALUE;
    for (Part part : parts) {
      if (part.changesAt != NEVER && part.changeAsked >= asked) {
        asked = part.changeAsked;
        newest =
            () -> {
              part.changesAt = NEVER;
              part.changes.clear();
            };
      }
      if (part.hears != null && part.hearsAsked >= asked) {
        asked = part.hearsAsked;
        newest = () -> part.hears = null;
      }
      if (part.isOpen() && part.recording.isToCome(now) && part.recording.asked >= asked) {
        asked = part.recording.asked;
        newest = () -> end(part, part.recording.since);
      }
      First first = part.first;
      if (first != null
          && first.asked >= asked
          && (first.until != NEVER || first.notes.isEmpty())) {
        asked = first.asked;
        newest =
            first.until != NEVER
                ? () -> {
                  first.until = NEVER;
                  first.asked = stamp;
                }
                : () -> part.first = null;
      }
    }
    return newest;
  }

  private boolean undoUnderWay(List<Part> group, long stamp) {
    List<Part> firsts =
        group.stream().filter(p -> p.first != null && !p.first.notes.isEmpty()).toList();
    if (!firsts.isEmpty()) {
      firsts.forEach(p -> afresh(p, stamp));
      return true;
    }
    List<Part> taking = group.stream().filter(p -> newestTake(p) != null).toList();
    if (!taking.isEmpty()) {
      long newest = taking.stream().mapToLong(p -> newestTake(p).begin).max().orElseThrow();
      taking.stream().filter(p -> newestTake(p).begin == newest).forEach(p -> dropTake(p, stamp));
      return true;
    }
    List<Part> open =
        group.stream()
            .filter(
                p ->
                    p.erase != null && p.erase.layer != null
                        || p.isOpen()
                            && p.recording.way != Way.TAKES
                            && p.recording.laps.stream().anyMatch(l -> l.layer != null && !l.ended))
            .toList();
    if (open.isEmpty()) {
      return false;
    }
    int size = done.size();
    for (Part part : open) {
      if (part.erase != null && part.erase.layer != null) {
        eraseCut(part, stamp);
      }
      cut(part, stamp);
    }
    if (open.size() > 1 && done.size() > size + 1) {
      List<Step> steps = List.copyOf(done.subList(size, done.size()));
      done.subList(size, done.size()).clear();
      Step joined =
          new Step(
              "together",
              () -> {
                for (int i = steps.size() - 1; i >= 0; i--) {
                  steps.get(i).back.run();
                }
              },
              () -> steps.forEach(s -> s.again.run()));
      steps.forEach(s -> joined.layers.addAll(s.layers));
      done.add(joined);
    }
    return undoStep();
  }

  private void afresh(Part part, long stamp) {
    part.first.notes.keySet().forEach(part.recorded::remove);
    record(part, entry(stamp), stamp, stamp);
    if (part.vamp != null && part.first.start <= now) {
      leave(part, part.first.start);
      takeIn(part, part.first.start);
    }
  }

  Lap newestTake(Part part) {
    if (!part.isOpen() || part.recording.way != Way.TAKES) {
      return null;
    }
    return part.recording.laps.stream()
        .filter(l -> l.take != null)
        .reduce((a, b) -> b)
        .orElse(null);
  }

  void dropTake(Part part, long stamp) {
    Lap lap = newestTake(part);
    Recording on = part.recording;
    lap.layer.adds.forEach(
        n -> {
          part.recorded.remove(n.pitch);
          on.brought.remove(n.pitch);
        });
    on.clip.takes.remove(lap.take);
    on.dropped.add(new Dropped(lap.begin, lap.take, lap.layer));
    boolean goesOn = stamp < lapEnd(part, on, lap);
    lap.take = null;
    lap.layer = null;
    lap.ended = false;
    lap.played = false;
    if (stamp > lap.begin && goesOn && on.laps.stream().noneMatch(l -> l.begin == stamp)) {
      on.laps.add(new Lap(stamp));
      on.laps.sort(Comparator.comparingLong(l -> l.begin));
    }
  }

  private boolean undoStep() {
    if (done.isEmpty()) {
      return false;
    }
    Step step = done.remove(done.size() - 1);
    Map<Part, Take> heard = heardTakes();
    Map<Part, Recording> open = new HashMap<>();
    Map<Part, Standing> vamps = new HashMap<>();
    parts.forEach(p -> open.put(p, p.recording));
    parts.forEach(p -> vamps.put(p, p.vamp));
    parts.forEach(
        part ->
            part.shelf.forEach(
                clip -> clip.takes.forEach(take -> step.off.put(take, new ArrayList<>(take.off)))));
    step.back.run();
    undone.add(step);
    settleEmptied();
    otherWindows();
    otherHeard(heard);
    settle();
    for (Part part : parts) {
      Recording was = open.get(part);
      Standing stood = vamps.get(part);
      if (was != null
          && was.isOpen()
          && (was.way == Way.ADD || was.way == Way.TAKES)
          && stood != null
          && !part.shelf.contains(was.clip)) {
        first(part, was, stood);
      }
    }
    return true;
  }

  /** A layer that undo or redo has left with nothing is none, until something is in it again. */
  private void settleEmptied() {
    for (Part part : parts) {
      for (Clip clip : part.shelf) {
        for (Take take : clip.takes) {
          for (Layer layer : List.copyOf(take.layers)) {
            boolean empty = layer.adds.isEmpty() && layer.out.isEmpty();
            if (empty && layer.number > 1 && !isOfLap(part, take, layer)) {
              take.drop(layer);
              take.emptied.add(layer);
              done.removeIf(s -> s.turns && s.layers.remove(layer) && s.layers.isEmpty());
              undone.removeIf(s -> s.turns && s.layers.remove(layer) && s.layers.isEmpty());
            }
          }
          for (Layer layer : List.copyOf(take.emptied)) {
            if (!layer.adds.isEmpty() || !layer.out.isEmpty()) {
              take.emptied.remove(layer);
              take.layers.add(layer);
              take.layers.sort(Comparator.comparingInt(l -> l.number));
              if (!layer.on) {
                take.off.add(layer);
              }
            }
          }
        }
      }
    }
  }

  /** Where a loop has gone that was added to, an empty one goes round: not modelled further. */
  private void first(Part part, Recording was, Standing stood) {
    goesRound = true;
  }

  /**
   * Notes of a recording that was over before them, as was known only later: no step brings them
   * back.
   */
  private final Set<Note> takenBack = new HashSet<>();

  boolean goesRound;
  boolean goesOn;

  /** Whether takes are just being ended. */
  private boolean ending;

  private Map<Part, Take> heardTakes() {
    Map<Part, Take> heard = new HashMap<>();
    parts.stream().filter(p -> p.vamp != null).forEach(p -> heard.put(p, p.vamp.clip.take()));
    return heard;
  }

  private void otherHeard(Map<Part, Take> before) {
    for (Part part : parts) {
      Take was = before.get(part);
      if (was != null && part.vamp != null && part.vamp.clip.take() != was) {
        Take back = part.vamp.clip.take();
        endAll(part, now);
        // the one that came back is heard, whatever was recorded meanwhile
        part.vamp.clip.hear(back);
        stand(part, new Standing(part.vamp, now));
      }
    }
  }

  private void settle() {
    for (Part part : parts) {
      if (part.isOpen()) {
        part.recording.outFrom = Math.max(part.recording.outFrom, now);
      }
      if (part.erase != null) {
        part.erase.from = Math.max(part.erase.from, now);
      }
    }
  }

  boolean redo(long stamp) {
    if (undone.isEmpty()) {
      return false;
    }
    Set<Part> silent = new HashSet<>(parts);
    silent.removeIf(part -> part.vamp != null);
    Step step = undone.remove(undone.size() - 1);
    Map<Part, Take> heard = heardTakes();
    step.again.run();
    for (Part part : silent) {
      if (part.vamp != null && !part.isOpen()) {
        // what was recorded with rests does not go on
        restsNoMore(part.vamp, counts(stamp));
      }
    }
    settleEmptied();
    step.off.forEach(Take::putOff);
    done.add(step);
    otherWindows();
    otherHeard(heard);
    // what ended because of it is a step before it
    done.remove(step);
    done.add(step);
    settle();
    return true;
  }

  /** What is bound to no moment counts by its stamp, or a second ago at most. */
  private long counts(long stamp) {
    long tick = Math.min(stamp, now);
    while (micros.applyAsDouble(now) - micros.applyAsDouble(tick) > 1e6) {
      tick++;
    }
    return tick;
  }

  // peel and restore

  boolean peel(long stamp) {
    if (armed.first != null) {
      if (stamp < armed.first.start) {
        return false;
      }
      for (Part part : together()) {
        if (part.first != null) {
          afresh(part, stamp);
        }
      }
      return true;
    }
    if (newestTake(armed) != null) {
      long begin = newestTake(armed).begin;
      boolean isOpen = begin >= passBegin(armed, armed.recording, stamp);
      double since =
          peelAsked == NEVER ? 3e6 : micros.applyAsDouble(stamp) - micros.applyAsDouble(peelAsked);
      if (!isOpen && (since > 2e6 || since < 0)) {
        peelAsked = stamp;
        return true;
      }
      peelAsked = NEVER;
      for (Part part : together()) {
        if (newestTake(part) != null && newestTake(part).begin >= begin) {
          dropTake(part, stamp);
        }
      }
      return true;
    }
    if (armed.vamp == null || armed.isOpen() && armed.recording.way == Way.TAKES) {
      return false;
    }
    boolean any = newestLayer(armed) != null;
    if (!any) {
      return false;
    }
    cutTogether(stamp);
    Layer layer = newestLayer(armed);
    Map<Layer, Take> peeled = new java.util.LinkedHashMap<>();
    peeled.put(layer, armed.vamp.clip.take());
    Lap lap = lapOf(armed, layer);
    for (Part other : alongside) {
      Layer same = other.vamp == null ? null : newestLayer(other);
      Lap theirs = same == null ? null : lapOf(other, same);
      if (lap != null
          && theirs != null
          && theirs.begin >= lap.begin
          && theirs.begin < lap.begin + armed.vamp.length) {
        peeled.put(same, other.vamp.clip.take());
      }
    }
    Runnable off = () -> peeled.forEach((l, take) -> take.turnOff(l));
    Runnable on = () -> peeled.forEach((l, take) -> take.turnOn(l));
    return turned("peel", peeled.keySet(), on, off);
  }

  /** Layers go off or on as one step. */
  private boolean turned(String words, Set<Layer> layers, Runnable back, Runnable again) {
    again.run();
    Step step = new Step(words, back, again);
    step.layers.addAll(layers);
    step.turns = true;
    noted(step, true);
    settle();
    return true;
  }

  private List<Part> together() {
    List<Part> all = new ArrayList<>(List.of(armed));
    all.addAll(alongside);
    return all;
  }

  private void cutTogether(long stamp) {
    for (Part part : together()) {
      if (part.erase != null && part.erase.layer != null) {
        eraseCut(part, stamp);
      }
      cut(part, stamp);
    }
  }

  private Layer newestLayer(Part part) {
    Layer newest = null;
    for (Layer layer : part.vamp.clip.take().layers) {
      newest = layer.on && (!layer.adds.isEmpty() || !layer.out.isEmpty()) ? layer : newest;
    }
    return newest == null || newest.number == 1 ? null : newest;
  }

  private static Lap lapOf(Part part, Layer layer) {
    return part.recording == null
        ? null
        : part.recording.laps.stream().filter(l -> l.layer == layer).findFirst().orElse(null);
  }

  // first recordings

  private long entry(long stamp) {
    long bar = Math.floorDiv(stamp, BAR) * BAR;
    double late = micros.applyAsDouble(stamp) - micros.applyAsDouble(bar);
    double quarter = (micros.applyAsDouble(bar + BAR) - micros.applyAsDouble(bar)) / 4;
    return Math.max(0, bar == stamp || late <= Math.min(120_000, quarter) ? bar : bar + BAR);
  }

  void record(Part part, long start, long since, long stamp) {
    First first = new First();
    first.start = start;
    first.asked = stamp;
    part.first = first;
    part.cued = false;
    takeIn(part, since);
  }

  /** The main press. */
  boolean main(long stamp) {
    String kind = kind(armed, stamp);
    if (!main(armed, stamp)) {
      return false;
    }
    for (Part other : alongside) {
      if (kind(other, stamp).equals(kind)) {
        main(other, stamp);
      }
    }
    return true;
  }

  private static String kind(Part part, long stamp) {
    First first = part.first;
    if (first != null) {
      return stamp < first.start ? "call off" : first.until == NEVER ? "close" : "record on";
    }
    if (part.vamp == null) {
      return "record";
    }
    long tick = Math.max(stamp, part.vamp.from);
    Recording on = part.recording;
    boolean ends =
        on != null
            && on.clip == part.vamp.clip
            && (on.isOpen() || tick >= on.since && tick < on.until);
    return ends ? "stop" : "add";
  }

  /** Switches a way on for all parts that are armed; those that cannot are left alone. */
  boolean begin(Way way, long rangeFrom, long rangeTo, long stamp) {
    Map<Part, Recording> before = new HashMap<>();
    together().forEach(part -> before.put(part, part.recording));
    if (!begin(armed, way, rangeFrom, rangeTo, stamp)) {
      return false;
    }
    for (Part other : alongside) {
      boolean in =
          way != Way.PUNCH
              || other.vamp != null
                  && rangeFrom >= other.vamp.start
                  && rangeTo <= other.vamp.start + other.vamp.length;
      if (in) {
        begin(other, way, rangeFrom, rangeTo, stamp);
      }
    }
    catchUp(together().stream().filter(part -> part.recording != before.get(part)).toList());
    return true;
  }

  private boolean main(Part part, long stamp) {
    First first = part.first;
    if (first != null) {
      if (stamp < first.start) {
        first.notes.keySet().forEach(part.recorded::remove);
        part.first = null;
      } else if (first.until != NEVER) {
        first.until = NEVER;
        first.asked = stamp;
      } else {
        long past = stamp - first.start;
        long bars = past / BAR;
        double late = micros.applyAsDouble(stamp) - micros.applyAsDouble(first.start + bars * BAR);
        boolean counts = bars >= 1 && late <= 120_000;
        first.until = first.start + (counts ? bars : bars + 1) * BAR;
        first.asked = stamp;
        if (first.until <= now) {
          close(part);
        }
      }
      return true;
    }
    if (part.vamp == null) {
      long start = entry(stamp);
      record(part, start, start - BAR, stamp);
      return true;
    }
    long tick = Math.max(stamp, part.vamp.from);
    Recording on = part.recording;
    boolean ends =
        on != null
            && on.clip == part.vamp.clip
            && (on.isOpen() || tick >= on.since && tick < on.until);
    if (ends) {
      end(part, offTick(part, stamp));
      return true;
    }
    boolean can = begin(part, Way.ADD, 0, 0, stamp);
    catchUp(can ? List.of(part) : List.of());
    return can;
  }

  boolean recordAnew(long stamp) {
    if (armed.first != null) {
      return main(stamp);
    }
    long start = entry(stamp);
    record(armed, start, start - BAR, stamp);
    if (armed.vamp != null && start <= now) {
      leave(armed, start);
      takeIn(armed, start);
    }
    return true;
  }

  void off(Way way, long stamp) {
    for (Part part : together()) {
      Recording on = part.recording;
      boolean ended = on != null && !on.isOpen() && way == Way.TAKES;
      if (on != null
          && on.way == way
          && on.until > stamp
          && (on.since <= stamp || on.isToCome(now))
          && !ended) {
        end(part, offTick(part, stamp));
      }
    }
  }

  private static boolean hasDropped(Part part) {
    return part.isOpen()
        && part.recording.way == Way.TAKES
        && !part.recording.dropped.isEmpty()
        && part.shelf.contains(part.recording.clip);
  }

  /** The take that was dropped last is back, in its pass if that is free. */
  private void restoreDropped(Part part) {
    Recording on = part.recording;
    Dropped last = on.dropped.remove(on.dropped.size() - 1);
    on.clip.takes.add(last.take);
    on.clip.takes.sort(Comparator.comparingInt(t -> t.number));
    last.layer.adds.forEach(
        n -> {
          part.recorded.add(n.pitch);
          on.brought.put(n.pitch, n.played);
        });
    Lap lap = on.laps.stream().filter(l -> l.begin == last.begin).findFirst().orElseThrow();
    if (lap.layer == null) {
      on.laps.removeIf(l -> l.layer == null && l.begin > last.begin);
      lap.take = last.take;
      lap.layer = last.layer;
      lap.played = true;
    }
  }

  boolean restore(long stamp) {
    if (hasDropped(armed)) {
      for (Part part : together()) {
        if (hasDropped(part)) {
          restoreDropped(part);
        }
      }
      return true;
    }
    if (armed.vamp == null || armed.vamp.clip.take().off.isEmpty()) {
      return false;
    }
    cutTogether(stamp);
    Take take = armed.vamp.clip.take();
    Layer layer = take.off.get(take.off.size() - 1);
    Map<Layer, Take> back = new java.util.LinkedHashMap<>();
    back.put(layer, take);
    Runnable off = () -> back.forEach((l, t) -> t.turnOff(l));
    Runnable on = () -> back.forEach((l, t) -> t.turnOn(l));
    return turned("restore", back.keySet(), off, on);
  }

  boolean peelAll(long stamp) {
    if (armed.first != null || newestTake(armed) != null || armed.vamp == null) {
      return false;
    }
    Take take = armed.vamp.clip.take();
    Recording on = armed.recording;
    int old = 2;
    if (on != null && on.clip == armed.vamp.clip) {
      old = on.take == take ? on.old : NEVER_LAYER;
    }
    int from = old;
    List<Layer> since =
        new ArrayList<>(
            take.layers.stream()
                .filter(l -> l.on && l.number >= from)
                .filter(l -> !l.adds.isEmpty() || !l.out.isEmpty())
                .toList());
    if (since.isEmpty()) {
      return false;
    }
    cutTogether(stamp);
    java.util.Collections.reverse(since);
    Runnable again =
        () -> {
          for (int i = since.size() - 1; i >= 0; i--) {
            take.turnOn(since.get(i));
          }
        };
    return turned(
        "peel all", new LinkedHashSet<>(since), again, () -> since.forEach(take::turnOff));
  }

  // edits

  /** What is under way on the clip that sounds is a layer: its notes go to another owner. */
  private void apart(Part part, long tick) {
    if (part.erase != null && part.erase.clip == part.vamp.clip) {
      eraseCut(part, tick);
    }
    if (part.isOpen() && part.recording.clip == part.vamp.clip) {
      cut(part, tick);
    }
  }

  /** All layers that are on become one, of what sounds. */
  boolean flatten() {
    if (armed.vamp == null) {
      return false;
    }
    Take take = armed.vamp.clip.take();
    List<Layer> on = take.layers.stream().filter(l -> l.on).toList();
    // what is under way with nothing left in it is no layer
    long many =
        on.stream()
            .filter(l -> !l.adds.isEmpty() || !l.out.isEmpty() || !isOfLap(armed, take, l))
            .count();
    if (many < 2 && on.stream().allMatch(l -> l.out.isEmpty())) {
      return false;
    }
    apart(armed, now);
    List<Note> sounding = take.sounding();
    Layer first = on.get(0).number == 1 ? on.get(0) : new Layer(1);
    Map<Layer, List<Note>> adds = new HashMap<>();
    Map<Layer, List<Note>> outs = new HashMap<>();
    on.forEach(layer -> adds.put(layer, List.copyOf(layer.adds)));
    on.forEach(layer -> outs.put(layer, List.copyOf(layer.out)));
    List<Layer> offBefore = List.copyOf(take.off);
    Map<Layer, List<Note>> stray = new HashMap<>();
    Runnable again =
        () -> {
          // what has come to one of them since stays in it
          for (Layer layer : on) {
            layer.adds.removeAll(adds.get(layer));
            layer.out.removeAll(outs.get(layer));
            if (layer != first && layer.adds.isEmpty() && layer.out.isEmpty()) {
              take.layers.remove(layer);
            }
          }
          sounding.stream().filter(n -> !takenBack.contains(n)).forEach(first.adds::add);
          // what was early for a pass is of no pass any more
          sounding.forEach(note -> note.forLine = NEVER);
          if (!take.layers.contains(first)) {
            take.layers.add(0, first);
          }
          // one that is off takes out no more what is in none by now
          Set<Note> left = new HashSet<>();
          take.layers.forEach(layer -> left.addAll(layer.adds));
          stray.clear();
          for (Layer layer : List.copyOf(take.off)) {
            stray.put(layer, layer.out.stream().filter(n -> !left.contains(n)).toList());
            layer.out.retainAll(left);
            if (layer.adds.isEmpty() && layer.out.isEmpty()) {
              take.drop(layer);
            }
          }
        };
    again.run();
    Step step =
        new Step(
            "flatten",
            () -> {
              stray.forEach(
                  (layer, out) -> {
                    layer.out.addAll(out);
                    if (!take.layers.contains(layer)) {
                      take.layers.add(layer);
                      take.off.add(layer);
                    }
                  });
              take.putOff(offBefore);
              first.adds.removeAll(sounding);
              if (!on.contains(first) && first.adds.isEmpty()) {
                take.layers.remove(first);
              }
              for (Layer layer : on) {
                if (!take.layers.contains(layer)) {
                  take.layers.add(layer);
                }
                adds.get(layer).stream()
                    .filter(n -> !takenBack.contains(n))
                    .forEach(layer.adds::add);
                layer.out.addAll(outs.get(layer));
              }
              take.layers.sort(Comparator.comparingInt(l -> l.number));
            },
            again);
    step.isNothing =
        () ->
            takenBack.containsAll(movedTo(first, adds))
                && Stream.concat(outs.values().stream(), stray.values().stream())
                    .allMatch(takenBack::containsAll);
    noted(step, true);
    return true;
  }

  /** What comes to a layer where others become one with it. */
  private static Set<Note> movedTo(Layer first, Map<Layer, List<Note>> adds) {
    Set<Note> moved = new HashSet<>();
    adds.forEach((layer, notes) -> moved.addAll(layer == first ? List.of() : notes));
    return moved;
  }

  /** The notes of a pitch that sound are gone; a layer left with nothing goes, but the last. */
  boolean delete(int pitch) {
    if (armed.vamp == null) {
      return false;
    }
    Take take = armed.vamp.clip.take();
    List<Note> gone = take.sounding().stream().filter(n -> n.pitch == pitch).toList();
    if (gone.isEmpty()) {
      return false;
    }
    Map<Layer, List<Note>> adds = new HashMap<>();
    Map<Layer, List<Note>> outs = new HashMap<>();
    List<Layer> dropped = new ArrayList<>();
    List<Layer> offBefore = List.copyOf(take.off);
    Part part = armed;
    boolean[] first = {true};
    Set<Layer> wentAtFirst = new HashSet<>();
    Runnable again =
        () -> {
          adds.clear();
          outs.clear();
          dropped.clear();
          for (Layer layer : List.copyOf(take.layers)) {
            adds.put(layer, layer.adds.stream().filter(gone::contains).toList());
            layer.adds.removeAll(gone);
          }
          Set<Note> left = new HashSet<>();
          take.layers.forEach(layer -> left.addAll(layer.adds));
          for (Layer layer : List.copyOf(take.layers)) {
            outs.put(layer, layer.out.stream().filter(n -> !left.contains(n)).toList());
            layer.out.retainAll(left);
            boolean empty = layer.adds.isEmpty() && layer.out.isEmpty();
            boolean was = adds.get(layer).isEmpty() && outs.get(layer).isEmpty();
            boolean last = layer.on && take.layers.stream().filter(l -> l.on).count() == 1;
            boolean goes = !last && !isOfLap(part, take, layer);
            if (empty
                && !was
                && goes
                && (first[0] || layer.number > 1 || wentAtFirst.contains(layer))) {
              take.drop(layer);
              dropped.add(layer);
              wentAtFirst.add(layer);
            }
          }
          first[0] = false;
        };
    again.run();
    Step step =
        new Step(
            "delete",
            () -> {
              for (Layer layer : adds.keySet()) {
                boolean back = dropped.contains(layer) || !adds.get(layer).isEmpty();
                if (back && !take.layers.contains(layer)) {
                  take.layers.add(layer);
                }
              }
              for (Layer layer : take.layers) {
                layer.adds.addAll(adds.getOrDefault(layer, List.of()));
                layer.out.addAll(outs.getOrDefault(layer, List.of()));
              }
              take.layers.sort(Comparator.comparingInt(l -> l.number));
              take.layers.stream()
                  .filter(l -> !l.on && !take.off.contains(l))
                  .forEach(take.off::add);
              take.putOff(offBefore);
            },
            again);
    adds.forEach((layer, notes) -> step.layers.addAll(notes.isEmpty() ? Set.of() : Set.of(layer)));
    step.isNothing = () -> takenBack.containsAll(gone);
    noted(step, true);
    return true;
  }

  private static boolean isOfLap(Part part, Take take, Layer layer) {
    return part.recording != null
        && part.recording.laps.stream()
            .anyMatch(l -> !l.ended && l.take == take && l.layer == layer);
  }

  void cue(Part part, Clip clip, long stamp) {
    if (part.cued && part.cue == clip) {
      part.cued = false;
      return;
    }
    long at = boundary(stamp);
    at += clip == null ? 0 : Math.floorMod(clip.start - at, BAR);
    if (clip != null && part.vamp != null && part.vamp.clip == clip) {
      boolean pending = part.cued;
      part.cued = false;
      if (pending || part.vamp.lineBy(at) == at) {
        return;
      }
    }
    part.cued = true;
    part.cue = clip;
    part.cueAt = at;
  }

  void stutter(boolean on, int divide, long stamp) {
    Part part = armed;
    if (on && part.vamp != null && part.vamp.from <= now && part.stutterFrom == NEVER) {
      part.stutterFrom = now;
      part.stutterUntil = NEVER;
      part.stutterLength = BEAT / divide;
      part.stutterStart = Math.floorDiv(stamp, part.stutterLength) * part.stutterLength;
    } else if (!on) {
      for (Part each : parts) {
        if (each.stutterFrom != NEVER && each.stutterUntil == NEVER) {
          each.stutterFrom = NEVER;
        }
      }
    }
  }
}
