package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.record.LoopRecording.Range;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.show.RunUp;
import ancora.core.time.Forgiveness;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/**
 * Recording onto loops that sound (rules 6 to 8): switched on, passing, switched off. All of it
 * makes layers: each lap of a recording one, of what it adds and what it takes out.
 */
final class Recordings {

  private Recordings() {}

  /**
   * Switches a way of recording on. What was played since it counts is taken in.
   *
   * @param range of a punch: its places
   */
  static Stage begin(Stage stage, PartId part, Way way, Optional<Range> range, Moment moment) {
    Clip clip = soundingClip(stage, part);
    refuseShort(stage, clip);
    Optional<LoopRecording> open = stage.on(part).open();
    if (open.filter(r -> r.way() == way && r.range().equals(range)).isPresent()) {
      return stage;
    }
    boolean erasing = way != Way.ADD && stage.hands().eraseOn(part).isPresent();
    Refusal.unless(
        !erasing && open.map(r -> r.way() == Way.ADD).orElse(true),
        "One way of recording at a time: switch the other off first.");
    Stage free = open.isPresent() ? end(stage, part, offTick(stage, part, moment)) : stage;
    Vamp vamp = free.on(part).vamp().orElseThrow();
    LoopWindow window = clip.window();
    TempoMap map = free.map().orElseThrow();
    long tick = Math.max(moment.tick(map), vamp.from());
    OptionalLong runUp = runUp(free, clip, vamp, tick);
    long since = runUp.orElse(forgivenLine(free, vamp, window, tick, moment.stamp()).orElse(tick));
    long from = since;
    if (way == Way.ADD && since == tick && runUp.isEmpty()) {
      long back = map.ticksBefore(tick, forgiveness(free).micros());
      long bound = Math.max(vamp.from(), vamp.lineBy(tick, window));
      from = Math.max(tick - back, Math.min(bound, tick));
    }
    LoopRecording recording =
        new LoopRecording(
            clip.id(),
            way,
            clip.take().number(),
            clip.take().nextLayer(),
            from,
            since,
            vamp.lineFrom(since, window),
            rest(free, way, window),
            Ticks.OPEN,
            range,
            OptionalLong.empty(),
            false,
            since,
            List.of(),
            OptionalLong.empty());
    Stage on =
        free.mapOn(
            part,
            p -> p.withRecording(since > tick ? recording.toCome(moment.stamp()) : recording));
    double early = map.microsOf(from) - EARLIEST;
    return passTo(NoteTaking.takeFromHindsight(on, part, early, moment), moment.over(map));
  }

  /** Notes that are moved to a line come no earlier than this before it, in microseconds. */
  private static final double EARLIEST = 1e6;

  /** A first recording that was closed: what belongs to it still finds its place in it. */
  static LoopRecording after(Stage stage, FirstRecording first, Clip clip, boolean closesForGood) {
    LoopWindow window = clip.window();
    AfterClosing then = closesForGood ? AfterClosing.VAMP : first.then();
    Way way = then == AfterClosing.TAKES ? Way.TAKES : Way.ADD;
    long rest = rest(stage, way, window);
    long since = first.until() + rest;
    Lap lap = new Lap(first.start(), clip.take().number(), 1, true, List.of());
    return new LoopRecording(
        clip.id(),
        way,
        clip.take().number(),
        clip.take().nextLayer(),
        first.start(),
        since,
        since,
        rest,
        then == AfterClosing.VAMP ? first.until() : Ticks.OPEN,
        Optional.empty(),
        OptionalLong.of(first.until()),
        then == AfterClosing.TAKES,
        since,
        List.of(lap),
        OptionalLong.empty());
  }

  /** The tick at which a recording begins that has a run-up; one gone by no longer counts. */
  private static OptionalLong runUp(Stage stage, Clip clip, Vamp vamp, long tick) {
    Optional<RunUp> runUp = stage.show().recording().runUp();
    if (runUp.isEmpty()) {
      return OptionalLong.empty();
    }
    long ticks = runUp.get().ticks(stage.show().meter());
    TempoMap map = stage.map().orElseThrow();
    long forgiven =
        Math.max(vamp.from(), tick - map.ticksBefore(tick, forgiveness(stage).micros()));
    if (runUp.get().of() == RunUp.Of.TRANSPORT) {
      return ticks >= forgiven ? OptionalLong.of(ticks) : OptionalLong.empty();
    }
    LoopWindow window = clip.window();
    Refusal.unless(
        ticks < window.length(),
        "Clip %s has no bar %s: let recording begin at another.",
        clip.letter(),
        runUp.get().bar());
    return OptionalLong.of(vamp.tickOf(window.start() + ticks, forgiven, window));
  }

  private static long rest(Stage stage, Way way, LoopWindow window) {
    long ticks = stage.show().recording().breatherBars() * stage.show().meter().barTicks();
    return way == Way.TAKES ? Ticks.ceil(ticks, window.length()) : ticks;
  }

  private static Forgiveness forgiveness(Stage stage) {
    return stage.show().recording().forgiveness();
  }

  /** The line just gone by, if a press counts for it. */
  private static OptionalLong forgivenLine(
      Stage stage, Vamp vamp, LoopWindow window, long tick, long stamp) {
    long line = vamp.lineBy(tick, window);
    boolean counts =
        line >= vamp.from()
            && (line == tick
                || forgiveness(stage)
                    .covers(line, stamp, window.length(), stage.map().orElseThrow()));
    return counts ? OptionalLong.of(line) : OptionalLong.empty();
  }

  /** The tick at which a recording ends that is switched off now: the line, if it is forgiven. */
  static long offTick(Stage stage, PartId part, Moment moment) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long tick = tick(stage, moment);
    Optional<Vamp> vamp = vampAt(stage, part, recording.clip(), tick);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (vamp.isEmpty() || clip.isEmpty()) {
      return tick;
    }
    LoopWindow window = windowAt(stage, part, vamp.get(), clip.get());
    OptionalLong line = forgivenLine(stage, vamp.get(), window, tick, moment.stamp());
    return line.isPresent() && line.getAsLong() > recording.since() ? line.getAsLong() : tick;
  }

  /** Switches a way of recording off, wherever it is on; one that is off already stays so. */
  static Stage off(Stage stage, Way way, Moment moment) {
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      long tick = stage.map().map(moment::tick).orElse(0L);
      boolean on =
          next.on(part)
              .recording()
              .filter(r -> r.wasOn(way, tick) && (r.isOpen() || way.takesOut()))
              .isPresent();
      next = on ? end(next, part, offTick(next, part, moment)) : next;
    }
    return next;
  }

  // what is added

  /**
   * Adds a note to the clip that sounds, or that sounded when it was played.
   *
   * @param note with its onsets as ticks of the transport
   * @param over the last tick that is over
   * @return empty if it has no place there: it stays in hindsight
   */
  static Optional<Stage> add(Stage stage, PartId part, Note note, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Optional<Vamp> sounding = vampAt(stage, part, recording.clip(), note.meant());
    Optional<Clip> shelved = stage.show().part(part).clip(recording.clip());
    if (sounding.isEmpty() || shelved.isEmpty()) {
      return Optional.empty();
    }
    Vamp vamp = sounding.get();
    LoopWindow window = windowAt(stage, part, vamp, shelved.get());
    boolean covered =
        recording.covers(note.played())
            || note.played() < recording.until()
                && note.played() < recording.from()
                && note.meant() >= recording.from()
                && Math.floorMod(recording.from() - vamp.phase(), window.length()) == 0;
    long place = vamp.placeAt(note.meant(), window);
    if (!covered
        || !recording.takesAt(place)
        || recording.rests(note.meant(), window.length())
        || isFull(shelved.get(), recording, note)) {
      return Optional.empty();
    }
    long loop = window.length();
    long played = Math.max(note.played(), recording.from());
    long meantPass = recording.passBegin(note.meant(), vamp.phase(), loop);
    boolean movedOver = meantPass > recording.passBegin(played, vamp.phase(), loop);
    Lap target = recording.lapAt(movedOver ? note.meant() : played, vamp.phase(), loop);
    if (movedOver && !hasOwn(target)) {
      target = recording.lapAt(played, vamp.phase(), loop);
    }
    if (isUndone(shelved.get(), target)) {
      return Optional.empty();
    }
    Note placed =
        new Note(
            note.id(),
            note.pitch(),
            note.velocity(),
            place + note.played() - note.meant(),
            place,
            note.length(),
            note.held());
    Layered layered = layered(stage, part, target);
    Lap lap = layered.lap.with(new Brought(Kind.NOTE, note.id(), note.played(), note.meant()));
    Stage added = mapLayer(layered.stage, part, recording.clip(), lap, layer -> layer.with(placed));
    added = withLap(added, part, lap);
    if (!movedOver) {
      added = drawnOver(added, part, lap, vamp, loop);
    }
    Optional<Vamp> now = added.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    if (now.isPresent()) {
      Vamp heard = now.get().hearing(note.id(), note.meant(), note.played() - 2 * loop);
      added = added.mapOn(part, p -> p.withVamp(heard));
    }
    return Optional.of(settledLap(takeOut(added, part, over), part, lap.begin(), over));
  }

  private static boolean isFull(Clip clip, LoopRecording recording, Note note) {
    return clip.findTake(recording.take()).map(Take::noteCount).orElse(0) >= Clip.MOST_NOTES;
  }

  /** Whether a pass has brought a take that is gone: it takes nothing any more. */
  private static boolean isUndone(Clip clip, Lap lap) {
    return lap.hasLayer() && clip.findTake(lap.take()).isEmpty();
  }

  private static boolean hasOwn(Lap lap) {
    return lap.isPlayed();
  }

  /**
   * Notes that were moved over the line stay with their own pass until the pass that they were
   * moved to has another note; then they join that.
   */
  private static Stage drawnOver(Stage stage, PartId part, Lap lap, Vamp vamp, long loop) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long begin = recording.passBegin(lap.begin(), vamp.phase(), loop);
    Stage next = stage;
    if (recording.closed().isPresent() && begin < recording.closed().getAsLong()) {
      return stage;
    }
    if (lap.begin() != begin) {
      return stage;
    }
    for (Lap other : recording.lapsNear(begin, stage.show().meter().barTicks())) {
      for (Brought one : other.brought()) {
        boolean over =
            one.kind() == Kind.NOTE
                && other.begin() < begin
                && one.tick() < begin
                && one.meant() >= begin
                && one.meant() < begin + loop
                && other.layer() != 0;
        if (over) {
          next = moved(next, part, one, other.begin(), lap.begin());
        }
      }
    }
    return next;
  }

  private static Stage moved(Stage stage, PartId part, Brought one, long from, long to) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap source = lap(recording, from);
    Lap target = lap(recording, to);
    Optional<Note> note =
        stage.clip(part, recording.clip()).take(source.take()).layer(source.layer()).stream()
            .flatMap(layer -> layer.notes().stream())
            .filter(n -> n.id() == one.id())
            .findFirst();
    if (note.isEmpty()) {
      return stage;
    }
    Stage next =
        mapLayer(
            stage, part, recording.clip(), source, layer -> layer.where(n -> n.id() != one.id()));
    next = mapLayer(next, part, recording.clip(), target, layer -> layer.with(note.get()));
    List<Brought> rest = new ArrayList<>(source.brought());
    rest.remove(one);
    next = withLap(next, part, source.withBrought(rest));
    next = withLap(next, part, target.with(one));
    return withoutEmpty(next, part, source.begin());
  }

  /**
   * Adds a move of a controller. One that follows the one before within a moment takes its place.
   *
   * @param move with its tick of the transport as its place
   * @param within ticks; moves of a controller are at least this far apart
   * @param over the last tick that is over
   */
  static Optional<Stage> add(Stage stage, PartId part, Move move, long within, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long tick = move.place();
    Optional<Vamp> vamp = vampAt(stage, part, recording.clip(), tick);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (!recording.covers(tick) || vamp.isEmpty() || clip.isEmpty()) {
      return Optional.empty();
    }
    LoopWindow window = windowAt(stage, part, vamp.get(), clip.get());
    long place = vamp.get().placeAt(tick, window);
    boolean full =
        clip.get().findTake(recording.take()).map(Take::moveCount).orElse(0) >= Clip.MOST_MOVES;
    boolean before = vamp.get().from() > tick && recording.closed().isEmpty();
    if (!recording.takesAt(place) || recording.rests(tick, window.length()) || full || before) {
      return Optional.empty();
    }
    Lap lap = recording.lapAt(tick, vamp.get().phase(), window.length());
    if (isUndone(clip.get(), lap)) {
      return Optional.empty();
    }
    Layered layered = layered(stage, part, lap);
    Move placed = move.withPlace(place);
    Optional<Move> sooner = sooner(layered, part, recording.clip(), placed, within);
    Stage added;
    if (sooner.isPresent()) {
      long id = sooner.get().id();
      added =
          mapLayer(
              layered.stage,
              part,
              recording.clip(),
              layered.lap,
              layer -> layer.mapMoves(m -> m.id() == id ? m.withValue(placed.value()) : m));
      added = withLap(added, part, layered.lap);
    } else {
      added = withMove(layered, part, recording.clip(), placed, tick);
    }
    return Optional.of(settledLap(takeOut(added, part, over), part, lap.begin(), over));
  }

  private static Stage withMove(Layered layered, PartId part, ClipId clip, Move move, long tick) {
    Lap lap = layered.lap;
    long id = layered.stage.clip(part, clip).take(lap.take()).nextMove();
    Stage added =
        mapTake(layered.stage, part, clip, lap.take(), take -> take.withMove(lap.layer(), move));
    return withLap(added, part, lap.with(new Brought(Kind.MOVE, id, tick, tick)));
  }

  /** The latest move of a controller in a lap's layer, if another one follows it too soon. */
  private static Optional<Move> sooner(
      Layered layered, PartId part, ClipId clip, Move move, long within) {
    List<Move> moves =
        layered.stage.clip(part, clip).take(layered.lap.take()).layer(layered.lap.layer()).stream()
            .flatMap(layer -> layer.moves().stream())
            .filter(m -> m.controller().equals(move.controller()))
            .toList();
    return moves.isEmpty()
        ? Optional.empty()
        : Optional.of(moves.get(moves.size() - 1))
            .filter(m -> move.place() >= m.place() && move.place() - m.place() < within);
  }

  // what is taken out

  /** What has been passed by a tick is taken out, wherever something is replaced or erased. */
  static Stage passTo(Stage stage, long tick) {
    Stage next = stage;
    for (PartId part : stage.partStages().keySet()) {
      next = takeOut(next, part, tick);
    }
    return Erasing.passTo(next, tick);
  }

  private static Stage takeOut(Stage stage, PartId part, long tick) {
    Optional<LoopRecording> open = stage.on(part).open().filter(r -> r.way().takesOut());
    Optional<Vamp> vamp =
        stage.on(part).vamp().filter(v -> open.filter(r -> r.clip().equals(v.clip())).isPresent());
    if (vamp.isEmpty()) {
      return stage;
    }
    return open.get().way() == Way.REPLACE
        ? replaced(stage, part, open.get(), vamp.get(), tick)
        : punched(stage, part, open.get(), vamp.get(), tick);
  }

  private static Stage replaced(
      Stage stage, PartId part, LoopRecording recording, Vamp vamp, long tick) {
    Clip clip = stage.clip(part, recording.clip());
    long from = Math.max(recording.outFrom(), vamp.from());
    List<Brought> passed =
        passed(clip, recording, recording.old(), vamp, from, tick, place -> true);
    Stage next = stage;
    for (Brought out : passed) {
      LoopRecording now = next.on(part).recording().orElseThrow();
      Lap lap = now.lapAt(out.tick(), vamp.phase(), clip.window().length());
      next = takenOut(next, part, lap, List.of(out));
    }
    return next;
  }

  /** In a pass in which nothing is played, a punch takes out nothing. */
  private static Stage punched(
      Stage stage, PartId part, LoopRecording recording, Vamp vamp, long tick) {
    Clip clip = stage.clip(part, recording.clip());
    Stage next = stage;
    for (Lap lap : recording.laps()) {
      if (lap.isPlayed() && !lap.ended()) {
        long from = Math.max(lap.begin(), Math.max(recording.outFrom(), vamp.from()));
        long end = recording.lapEnd(lap, vamp.phase(), clip.window().length());
        List<Brought> passed =
            passed(
                clip,
                recording,
                lap.layer(),
                vamp,
                from,
                Math.min(tick, end - 1),
                recording::takesAt);
        Lap present = lap(next.on(part).recording().orElseThrow(), lap.begin());
        next = passed.isEmpty() ? next : takenOut(next, part, present, passed);
      }
    }
    return next;
  }

  /**
   * The old notes and moves that are passed from a tick to another, in the order in which they are.
   * A pedal that is down at the first goes there.
   *
   * @param below layers with a lower number are old
   */
  private static List<Brought> passed(
      Clip clip,
      LoopRecording recording,
      int below,
      Vamp vamp,
      long from,
      long tick,
      Predicate<Long> where) {
    if (tick < from) {
      return List.of();
    }
    LoopWindow window = clip.window();
    Take take = clip.take(recording.take());
    List<Note> old = old(take, below);
    List<Brought> passed = new ArrayList<>();
    for (Note note : old) {
      if (!window.contains(note.meant())) {
        continue;
      }
      long at = vamp.tickOf(note.meant(), from, window);
      boolean meant = where.test(note.meant()) && at <= tick;
      if (!meant && note.isPedal()) {
        long begin = beginOf(recording, from, vamp, window);
        at = begin;
        meant = begin <= tick && isUnderWay(note, begin, vamp, window);
      }
      if (meant) {
        passed.add(new Brought(Kind.NOTE_OUT, note.id(), at, at));
      }
    }
    for (Move move : oldMoves(take, below)) {
      long at = window.contains(move.place()) ? vamp.tickOf(move.place(), from, window) : tick + 1;
      if (at <= tick && where.test(move.place())) {
        passed.add(new Brought(Kind.MOVE_OUT, move.id(), at, at));
      }
    }
    passed.sort(
        Comparator.comparingLong(Brought::tick)
            .thenComparing(Brought::kind)
            .thenComparingLong(Brought::id));
    return passed;
  }

  /** The tick from one on at which the stretch begins in which old things go. */
  private static long beginOf(LoopRecording recording, long from, Vamp vamp, LoopWindow window) {
    if (recording.range().isEmpty()) {
      return from;
    }
    long place = vamp.placeAt(from, window);
    return recording.takesAt(place)
        ? from
        : vamp.tickOf(recording.range().get().from(), from, window);
  }

  private static boolean isUnderWay(Note note, long tick, Vamp vamp, LoopWindow window) {
    long begin = vamp.tickOf(note.meant(), tick - window.length() + 1, window);
    return begin < tick && begin + Math.min(note.length(), window.length()) > tick;
  }

  private static List<Note> old(Take take, int below) {
    Set<Long> out = take.notesOut();
    return take.layers().stream()
        .filter(layer -> layer.number() < below)
        .flatMap(layer -> layer.notes().stream())
        .filter(note -> !out.contains(note.id()))
        .toList();
  }

  private static List<Move> oldMoves(Take take, int below) {
    Set<Long> there =
        take.layers().stream()
            .filter(layer -> layer.number() < below)
            .flatMap(layer -> layer.moves().stream())
            .map(Move::id)
            .collect(Collectors.toSet());
    return take.soundingMoves().filter(move -> there.contains(move.id())).toList();
  }

  private static Stage takenOut(Stage stage, PartId part, Lap lap, List<Brought> out) {
    Layered layered = layered(stage, part, lap);
    ClipId clip = stage.on(part).recording().orElseThrow().clip();
    Stage next =
        mapLayer(
            layered.stage,
            part,
            clip,
            layered.lap,
            layer -> layer.takingOut(ids(out, Kind.NOTE_OUT), ids(out, Kind.MOVE_OUT)));
    Lap brought = layered.lap;
    for (Brought one : out) {
      brought = brought.with(one);
    }
    return withLap(next, part, brought);
  }

  static List<Long> ids(List<Brought> brought, Kind kind) {
    return brought.stream().filter(b -> b.kind() == kind).map(Brought::id).toList();
  }

  // laps and their layers

  private record Layered(Stage stage, Lap lap) {}

  /** A lap with a layer of its own; in takes that is the first layer of a new take. */
  private static Layered layered(Stage stage, PartId part, Lap lap) {
    if (lap.hasLayer()) {
      return new Layered(stage, lap);
    }
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Clip clip = stage.clip(part, recording.clip());
    if (recording.way() == Way.TAKES) {
      int number = clip.nextTake();
      Stage with = stage.withClip(part, clip.with(Take.empty(number).begun()));
      return new Layered(with, lap.withLayer(number, 1));
    }
    int layer = clip.take(recording.take()).nextLayer();
    Stage with = mapTake(stage, part, clip.id(), recording.take(), Take::begun);
    return new Layered(with, lap.withLayer(recording.take(), layer));
  }

  /** A lap that is over by now becomes a step. */
  private static Stage settledLap(Stage stage, PartId part, long begin, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = lap(recording, begin);
    Optional<Vamp> vamp = vampAt(stage, part, recording.clip(), begin);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (lap.ended() || vamp.isEmpty() || clip.isEmpty()) {
      return stage;
    }
    long loop = windowAt(stage, part, vamp.get(), clip.get()).length();
    boolean isOver =
        !recording.isOpen() || recording.lapEnd(lap, vamp.get().phase(), loop) <= over + 1;
    Stage next = isOver ? endLap(stage, part, begin) : stage;
    return next;
  }

  /** The laps that are under way on a part: those with a layer that is no step yet. */
  static List<Lap> underWay(Stage stage, PartId part) {
    Optional<LoopRecording> open = stage.on(part).open();
    return open.isPresent() ? open.get().underWay() : List.of();
  }

  /** The first lap that is under way. */
  static Optional<Lap> nextToEnd(Stage stage, PartId part) {
    List<Lap> laps = underWay(stage, part);
    return laps.isEmpty() ? Optional.empty() : Optional.of(laps.get(0));
  }

  static long endOf(Stage stage, PartId part, Lap lap) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Vamp vamp = vampAt(stage, part, recording.clip(), lap.begin()).orElseThrow();
    long loop = windowAt(stage, part, vamp, stage.clip(part, recording.clip())).length();
    return recording.lapEnd(lap, vamp.phase(), loop);
  }

  /** A lap ends: its layer is a step of the history. In takes all of them together will be one. */
  static Stage endLap(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Stage edged = recording.way() == Way.PUNCH ? edgesOfPunch(stage, part, begin) : stage;
    Lap lap = lap(edged.on(part).recording().orElseThrow(), begin);
    Stage next = withLap(edged, part, lap.withEnded());
    if (!lap.hasLayer() || recording.way() == Way.TAKES) {
      return next;
    }
    long old = begin - next.map().orElseThrow().ticksBefore(begin, Hindsight.SPAN);
    return Steps.notedLayers(
            next, List.of(change(part, recording, lap)), words(next, part, recording, lap))
        .mapOn(part, on -> on.withRecording(on.recording().map(r -> r.withoutLapsBefore(old))));
  }

  static Change change(PartId part, LoopRecording recording, Lap lap) {
    return Change.OfLayer.on(part, recording.clip(), lap.take(), lap.layer());
  }

  static String words(Stage stage, PartId part, LoopRecording recording, Lap lap) {
    String clip = Steps.name(stage, part, stage.clip(part, recording.clip()));
    return recording.way() == Way.ADD
        ? "layer " + lap.layer() + " of " + clip
        : recording.way().words() + " in " + clip;
  }

  /** What comes from a tick on makes another layer; what is under way until there is a step. */
  static Stage cut(Stage stage, PartId part, long tick) {
    if (stage.on(part).open().isEmpty()) {
      return stage;
    }
    Stage next = stage;
    long from = tick;
    for (Lap lap : underWay(stage, part)) {
      next = endLap(next, part, lap.begin());
      if (lap.begin() >= tick) {
        // it was begun after the hand acted, but before that was known
        from = Math.max(from, lap.last() + 1);
      }
    }
    long at = from;
    return next.mapOn(
        part,
        on ->
            on.withRecording(
                on.recording().map(r -> r.cut(Math.max(at, r.from())).withOutFrom(at))));
  }

  /** A replacing comes to the line from which its pass is counted: what was before it is a step. */
  static Stage reachLine(Stage stage, PartId part, long line) {
    Stage next = stage;
    for (Lap lap : underWay(stage, part)) {
      next = lap.begin() < line ? endLap(next, part, lap.begin()) : next;
    }
    return next.mapOn(
        part, on -> on.withRecording(on.recording().map(r -> r.hasLapAt(line) ? r : r.cut(line))));
  }

  /** What has come back by now is taken out only where it is passed from now on. */
  static Stage settled(Stage stage, Moment moment) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    long next = moment.over(stage.map().get()) + 1;
    Stage settled = stage;
    for (PartId part : stage.partStages().keySet()) {
      if (stage.on(part).open().filter(r -> r.way().takesOut()).isPresent()) {
        settled =
            settled.mapOn(
                part,
                on ->
                    on.withRecording(
                        on.recording().map(r -> r.withOutFrom(Math.max(next, r.outFrom())))));
      }
    }
    return settled.withHands(
        settled
            .hands()
            .withErases(
                settled.hands().erases().stream()
                    .map(e -> e.withOutFrom(Math.max(next, e.outFrom())))
                    .toList()));
  }

  /** A layer of a lap that neither adds nor takes out is none; its number is spent. */
  private static Stage withoutEmpty(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = lap(recording, begin);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Take> take = clip.flatMap(c -> c.findTake(lap.take()));
    boolean empty = take.flatMap(t -> t.layer(lap.layer())).map(Layer::isEmpty).orElse(false);
    if (!empty || isFirst(recording, lap)) {
      return stage;
    }
    Stage without =
        recording.way() == Way.TAKES
            ? stage.withClip(part, clip.get().without(lap.take()))
            : mapTake(stage, part, recording.clip(), lap.take(), t -> t.without(lap.layer()));
    Lap bare = new Lap(lap.begin(), 0, 0, false, lap.brought());
    return Steps.withoutLayer(
        withLap(without, part, bare), part, recording.clip(), lap.take(), lap.layer());
  }

  private static boolean isFirst(LoopRecording recording, Lap lap) {
    return recording.closed().isPresent() && lap.begin() == recording.from();
  }

  static Lap lap(LoopRecording recording, long begin) {
    return recording
        .lapOf(begin)
        .orElseThrow(() -> new IllegalStateException("no lap at " + begin));
  }

  private static Stage withLap(Stage stage, PartId part, Lap lap) {
    return stage.mapOn(part, on -> on.withRecording(on.recording().map(r -> r.with(lap))));
  }

  private static Stage mapTake(
      Stage stage, PartId part, ClipId clip, int take, UnaryOperator<Take> change) {
    return stage.withClip(part, stage.clip(part, clip).mapTake(take, change));
  }

  private static Stage mapLayer(
      Stage stage, PartId part, ClipId clip, Lap lap, UnaryOperator<Layer> change) {
    return mapTake(stage, part, clip, lap.take(), take -> take.mapLayer(lap.layer(), change));
  }

  // switching off

  /** The tick at which a recording ends by itself, if it does. */
  static OptionalLong ownEnd(Stage stage, PartId part) {
    LoopRecording recording = stage.on(part).open().orElseThrow();
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    if (vamp.isEmpty()) {
      return OptionalLong.empty();
    }
    Clip clip = stage.clip(part, recording.clip());
    if (recording.way() == Way.REPLACE) {
      return OptionalLong.of(recording.line() + clip.window().length());
    }
    if (recording.way() == Way.PUNCH && !stage.show().recording().punchGoesOn()) {
      return recording.laps().stream()
          .filter(lap -> lap.isPlayed() && clip.take(recording.take()).isOn(lap.layer()))
          .flatMap(lap -> lap.brought().stream())
          .filter(b -> b.kind() == Kind.NOTE || b.kind() == Kind.MOVE)
          .mapToLong(b -> rangeEnd(recording, vamp.get(), clip.window(), b.meant()))
          .min();
    }
    return OptionalLong.empty();
  }

  private static long rangeEnd(LoopRecording recording, Vamp vamp, LoopWindow window, long in) {
    return vamp.tickOf(window.wrap(recording.range().orElseThrow().to()), in + 1, window);
  }

  /** Ends whatever is recorded or erased on a part, at a tick; nothing if there is nothing. */
  static Stage endAll(Stage stage, PartId part, long tick) {
    Stage erased = stage.hands().eraseOn(part).isPresent() ? Erasing.end(stage, part, tick) : stage;
    return erased.on(part).open().isPresent() ? end(erased, part, tick) : erased;
  }

  /**
   * Ends a recording at a tick, however late that is known: what was taken out since is back, what
   * was played since is in hindsight.
   */
  static Stage end(Stage stage, PartId part, long tick) {
    Stage next = stage;
    for (Lap lap : stage.on(part).recording().orElseThrow().laps()) {
      next = truncated(next, part, lap.begin(), tick);
    }
    next = next.mapOn(part, on -> on.withRecording(on.recording().map(r -> r.withUntil(tick))));
    LoopRecording recording = next.on(part).recording().orElseThrow();
    if (recording.way() == Way.TAKES) {
      return Taking.end(next, part, recording, tick);
    }
    if (recording.way() == Way.REPLACE) {
      next = edges(next, part, recording.since(), tick, recording.since());
    }
    for (Lap lap : next.on(part).recording().orElseThrow().laps()) {
      if (lap.hasLayer() && !lap.ended()) {
        next = endLap(next, part, lap.begin());
      }
    }
    return next;
  }

  private static Stage truncated(Stage stage, PartId part, long begin, long tick) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = lap(recording, begin);
    List<Long> notes = lap.ids(Kind.NOTE, tick);
    List<Long> moves = lap.ids(Kind.MOVE, tick);
    List<Long> notesBack = lap.ids(Kind.NOTE_OUT, tick);
    List<Long> movesBack = lap.ids(Kind.MOVE_OUT, tick);
    boolean gone = stage.show().part(part).clip(recording.clip()).isEmpty();
    if (gone || notes.size() + moves.size() + notesBack.size() + movesBack.size() == 0) {
      return stage;
    }
    Stage next =
        mapLayer(
            stage,
            part,
            recording.clip(),
            lap,
            layer ->
                layer
                    .where(note -> !notes.contains(note.id()))
                    .whereMoves(move -> !moves.contains(move.id()))
                    .puttingBack(notesBack, movesBack));
    List<Brought> rest = lap.brought().stream().filter(b -> b.tick() < tick).toList();
    next = withLap(next, part, lap.withBrought(rest));
    return withoutEmpty(NoteTaking.left(next, part, notes), part, begin);
  }

  /** Takes notes out that a recording has brought. */
  static Stage without(Stage stage, PartId part, Collection<Long> noteIds) {
    Stage next = stage;
    List<Lap> laps = stage.on(part).recording().map(LoopRecording::laps).orElse(List.of());
    for (Lap lap : laps) {
      if (lap.brought().stream().anyMatch(b -> isOne(b, noteIds))) {
        ClipId clip = stage.on(part).recording().orElseThrow().clip();
        next = mapLayer(next, part, clip, lap, l -> l.where(note -> !noteIds.contains(note.id())));
        List<Brought> rest = lap.brought().stream().filter(b -> !isOne(b, noteIds)).toList();
        next = withoutEmpty(withLap(next, part, lap.withBrought(rest)), part, lap.begin());
      }
    }
    return next;
  }

  private static boolean isOne(Brought brought, Collection<Long> noteIds) {
    return brought.kind() == Kind.NOTE && noteIds.contains(brought.id());
  }

  // the edges of what is replaced

  private static Stage edgesOfPunch(Stage stage, PartId part, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    if (vamp.isEmpty() || !lap(recording, begin).isPlayed()) {
      return stage;
    }
    LoopWindow window = stage.clip(part, recording.clip()).window();
    long from = beginOf(recording, begin, vamp.get(), window);
    long end = rangeEnd(recording, vamp.get(), window, from);
    return edges(stage, part, from, Math.min(end, recording.until()), begin);
  }

  /**
   * At the edges of a stretch that was replaced, what of the old pedal lies outside of it goes on,
   * and controllers are again where they would be.
   *
   * @param begin a tick of the lap that has what is before the stretch
   */
  private static Stage edges(Stage stage, PartId part, long from, long to, long begin) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (vamp.isEmpty() || clip.isEmpty() || to - from >= clip.get().window().length()) {
      return stage;
    }
    LoopWindow window = clip.get().window();
    Stage next = stage;
    for (Lap lap : recording.laps()) {
      Take take = clip.get().take(recording.take());
      for (long id : lap.ids(Kind.NOTE_OUT, from)) {
        Optional<Note> span =
            take.allLayers()
                .flatMap(l -> l.notes().stream())
                .filter(n -> n.id() == id && n.isPedal())
                .findFirst();
        if (span.isPresent() && take.isOn(lap.layer())) {
          next = edges(next, part, span.get(), from, to, vamp.get(), window);
        }
      }
    }
    return movesAtEdge(next, part, from, to, vamp.get(), window);
  }

  private static Stage edges(
      Stage stage, PartId part, Note span, long from, long to, Vamp vamp, LoopWindow window) {
    long length = Math.min(span.length(), window.length());
    Stage next = stage;
    long before = vamp.tickOf(span.meant(), from - window.length() + 1, window);
    if (before < from && before + length > from && from - before >= Note.SHORTEST) {
      next = withPiece(next, part, span.withLength(from - before), from, to);
    }
    long under = vamp.tickOf(span.meant(), to - window.length() + 1, window);
    if (under < to && under + length > to && under + length - to >= Note.SHORTEST) {
      Note piece = span.meantAt(vamp.placeAt(to, window)).withLength(under + length - to);
      next = withPiece(next, part, piece, to - 1, to);
    }
    return next;
  }

  private static Stage withPiece(Stage stage, PartId part, Note piece, long in, long edge) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Vamp vamp = stage.on(part).vamp().orElseThrow();
    long loop = stage.clip(part, recording.clip()).window().length();
    long id = stage.show().nextId();
    Layered layered =
        layered(
            stage.withShow(stage.show().withNextId(id + 1)),
            part,
            recording.lapAt(in, vamp.phase(), loop));
    Note note = piece.withId(id).released(piece.length());
    Stage next =
        mapLayer(layered.stage, part, recording.clip(), layered.lap, layer -> layer.with(note));
    return withLap(next, part, layered.lap.with(new Brought(Kind.NOTE, id, edge, edge)));
  }

  /**
   * Each controller whose moves were taken out is, from the stretch's end on, where it would be.
   */
  private static Stage movesAtEdge(
      Stage stage, PartId part, long from, long to, Vamp vamp, LoopWindow window) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Take take = stage.clip(part, recording.clip()).take(recording.take());
    List<Long> out = new ArrayList<>();
    recording.laps().forEach(lap -> out.addAll(lap.ids(Kind.MOVE_OUT, from)));
    List<Move> old =
        take.layers().stream()
            .filter(layer -> layer.number() < recording.old())
            .flatMap(layer -> layer.moves().stream())
            .filter(move -> window.contains(move.place()))
            .toList();
    Stage next = stage;
    for (var controller : old.stream().map(Move::controller).distinct().toList()) {
      Optional<Move> last =
          old.stream()
              .filter(move -> move.controller().equals(controller))
              .max(
                  Comparator.comparingLong(
                      (Move move) -> vamp.tickOf(move.place(), to - window.length() + 1, window)));
      if (last.isPresent() && out.contains(last.get().id())) {
        LoopRecording now = next.on(part).recording().orElseThrow();
        Layered layered = layered(next, part, now.lapAt(to - 1, vamp.phase(), window.length()));
        Move move = last.get().withPlace(vamp.placeAt(to, window));
        next = withMove(layered, part, recording.clip(), move, to);
      }
    }
    return next;
  }

  // which clip

  /** The clip that sounds on a part; refuses if there is none. */
  static Clip soundingClip(Stage stage, PartId part) {
    String name = stage.show().part(part).name();
    Refusal.unless(
        stage.on(part).first().isEmpty(), "%s has no loop yet: close this recording first.", name);
    ClipId id =
        stage
            .on(part)
            .vamp()
            .map(Vamp::clip)
            .orElseThrow(() -> new Refusal(name + " sounds nothing now: bring a clip in first."));
    return stage.clip(part, id);
  }

  /** Nothing is recorded into a window that is shorter than the clip's unit. */
  static void refuseShort(Stage stage, Clip clip) {
    Refusal.unless(
        !isShort(stage, clip),
        "Clip %s goes round in less than a %s: set its window back to record.",
        clip.letter(),
        clip.unit().words());
  }

  static boolean isShort(Stage stage, Clip clip) {
    return clip.window().length() < clip.unit().ticks(stage.show().meter());
  }

  /** What sounded of a clip at a tick: before its window was changed, what it was then. */
  static Optional<Vamp> vampAt(Stage stage, PartId part, ClipId clip, long tick) {
    PartStage on = stage.on(part);
    Optional<Vamp> now = on.vamp().filter(v -> v.clip().equals(clip));
    Optional<Vamp> before = on.left().map(Left::vamp).filter(v -> v.clip().equals(clip));
    boolean isOver = now.map(v -> v.from() > tick).orElse(true);
    return isOver ? before.or(() -> now) : now;
  }

  private static LoopWindow windowAt(Stage stage, PartId part, Vamp vamp, Clip clip) {
    return stage
        .on(part)
        .left()
        .filter(left -> left.vamp() == vamp)
        .map(Left::clip)
        .orElse(clip)
        .window();
  }

  static long tick(Stage stage, Moment moment) {
    TempoMap map =
        stage.map().orElseThrow(() -> new Refusal("The transport stands still: start it first."));
    return moment.tick(map);
  }
}
