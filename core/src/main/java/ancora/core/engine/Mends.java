package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.plan.Silence;
import ancora.core.record.Overdub;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * Mending a loop while it goes round: replace and punch, and what is silent meanwhile. What was
 * there is silent from the moment on at which the mending begins, and is taken out as it is passed;
 * what is not reached is back in the next pass.
 */
final class Mends {

  private Mends() {}

  static Stage replace(Stage stage, boolean on, Moment moment) {
    return on
        ? begin(stage, new Overdub.Replacing(), moment)
        : end(stage, openPart(stage, Overdub.Replacing.class, "Replace"), tick(stage, moment));
  }

  /**
   * Replaces in a range only.
   *
   * @param from its first place, on the material's axis
   * @param to the first place after it
   */
  static Stage punch(Stage stage, long from, long to, Moment moment) {
    LoopWindow window = soundingClip(stage, stage.armedPart()).window();
    Refusal.unless(
        from < to && window.contains(from) && to <= window.end(),
        "The range to punch lies within the loop, from an earlier place to a later one.");
    return begin(stage, new Overdub.Punching(from, to), moment);
  }

  /** Replaces in the bar of the loop that sounds now. */
  static Stage punchHere(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    LoopWindow window = soundingClip(stage, part).window();
    long place = stage.on(part).vamp().orElseThrow().placeAt(tick(stage, moment), window);
    long bar = stage.show().meter().barTicks();
    long from = Math.max(window.start(), Ticks.floor(place, bar));
    return begin(stage, new Overdub.Punching(from, Math.min(window.end(), from + bar)), moment);
  }

  static Stage punchOff(Stage stage, Moment moment) {
    return end(stage, openPart(stage, Overdub.Punching.class, "Punch"), tick(stage, moment));
  }

  private static Stage begin(Stage stage, Overdub.Mode mode, Moment moment) {
    return begin(stage, stage.armedPart(), mode, tick(stage, moment));
  }

  /**
   * Begins to record onto what sounds in another way than by adding; what is recorded makes layers
   * of its own.
   */
  static Stage begin(Stage stage, PartId part, Overdub.Mode mode, long tick) {
    Clip clip = soundingClip(stage, part);
    PartStage on = stage.on(part);
    Refusal.unless(
        on.overdub().map(o -> !o.isOpen() || o.isAdding()).orElse(true),
        "One way of recording at a time: switch the other off first.");
    Overdub overdub =
        new Overdub(
            clip.id(), tick, Ticks.OPEN, tick, clip.layers().size(), mode, Optional.of(clip), 0);
    Vamp vamp = on.vamp().orElseThrow();
    return stage.mapOn(
        part,
        p ->
            p.withOverdub(breathing(stage, overdub, clip))
                .withVamp(vamp.withPasses(vamp.passes().afterWindowChange())));
  }

  /** A stretch of recording with the show's breather after each pass. */
  static Overdub breathing(Stage stage, Overdub overdub, Clip clip) {
    long bars = stage.show().recording().breatherBars();
    return overdub.withBreather(bars * stage.show().meter().barTicks(), clip.window().length());
  }

  /** What has been passed by a tick is taken out, wherever something is being mended. */
  static Stage passTo(Stage stage, long tick) {
    Stage next = stage;
    for (var entry : stage.partStages().entrySet()) {
      PartStage on = entry.getValue();
      if (on.vamp().isPresent() && on.overdub().filter(Mends::takesOut).isPresent()) {
        next = passOverdub(next, entry.getKey(), on, on.overdub().get(), tick);
      }
    }
    return next.hands().erase().isPresent() ? Erasing.passTo(next, tick) : next;
  }

  private static boolean takesOut(Overdub overdub) {
    return overdub.isOpen()
        && (overdub.mode() instanceof Overdub.Replacing
            || overdub.mode() instanceof Overdub.Punching);
  }

  private static Stage passOverdub(
      Stage stage, PartId part, PartStage on, Overdub overdub, long tick) {
    Set<Long> out = takenOut(overdub, on.vamp().orElseThrow(), tick);
    Clip clip = stage.clip(part, overdub.clip());
    List<Move> moves = movesTakenOut(overdub, on.vamp().orElseThrow(), tick);
    boolean anything =
        clip.notes().anyMatch(note -> out.contains(note.id()))
            || clip.moves().anyMatch(moves::contains);
    return anything ? stage.withClip(part, without(clip, out, moves)) : stage;
  }

  /** The old notes whose meant onset has been passed, from the switching on to a tick. */
  private static Set<Long> takenOut(Overdub overdub, Vamp vamp, long tick) {
    Clip before = overdub.before().orElseThrow();
    return before
        .notes()
        .filter(note -> before.window().contains(note.meant()))
        .filter(note -> overdub.takesAt(note.meant()))
        .filter(note -> passed(note.meant(), before.window(), vamp, overdub.from(), tick))
        .map(Note::id)
        .collect(Collectors.toSet());
  }

  /** The old moves of controllers that have been passed. */
  private static List<Move> movesTakenOut(Overdub overdub, Vamp vamp, long tick) {
    Clip before = overdub.before().orElseThrow();
    return before
        .moves()
        .filter(move -> before.window().contains(move.place()))
        .filter(move -> overdub.takesAt(move.place()))
        .filter(move -> passed(move.place(), before.window(), vamp, overdub.from(), tick))
        .toList();
  }

  /** Whether a place of the window sounds at a tick from one on to another, not included. */
  static boolean passed(long place, LoopWindow window, Vamp vamp, long from, long until) {
    long offset = vamp.phase() + place - window.start() - from;
    return Math.floorMod(offset, window.length()) < until - from;
  }

  /**
   * Ends what is being mended or taken on a part, at a tick; nothing if there is nothing. Notes
   * played since are left to hindsight.
   */
  static Stage end(Stage stage, PartId part, long tick) {
    Stage erased =
        stage.hands().erase().filter(erase -> erase.part().equals(part)).isPresent()
            ? Erasing.end(stage, tick)
            : stage;
    Optional<Overdub> overdub = erased.on(part).overdub().filter(o -> o.isOpen() && !o.isAdding());
    if (overdub.isEmpty()) {
      return erased;
    }
    Stage left = NoteTaking.leaveSince(erased, part, overdub.get(), tick);
    if (overdub.get().mode() instanceof Overdub.Taking) {
      return TakesMode.end(left, part, overdub.get(), tick);
    }
    Vamp vamp = left.on(part).vamp().orElseThrow();
    Clip before = overdub.get().before().orElseThrow();
    Clip now = left.clip(part, before.id());
    Set<Long> out = takenOut(overdub.get(), vamp, tick);
    List<Move> moves = movesTakenOut(overdub.get(), vamp, tick);
    Clip mended = withBack(left, part, now, before, out, moves);
    String what = overdub.get().mode() instanceof Overdub.Replacing ? "replace" : "punch";
    return Edits.notedClip(
        left.withClip(part, mended)
            .mapOn(part, on -> on.withOverdub(overdub.get().withUntil(tick))),
        part,
        before,
        what + " in " + Edits.name(stage, part, before));
  }

  /**
   * When which notes of a sounding clip are silent, so that they are not heard once mending begins,
   * however late the next plan comes.
   */
  static Map<Long, Silence> silences(Stage stage, PartId part, Vamp vamp, Clip clip) {
    Map<Long, Silence> silences = new HashMap<>();
    vamp.passes().heardLive().forEach((id, tick) -> silences.put(id, Silence.through(tick)));
    Optional<Overdub> overdub =
        stage.on(part).overdub().filter(o -> !o.isAdding() && o.clip().equals(clip.id()));
    overdub.ifPresent(o -> addSilences(silences, o, vamp, clip));
    stage
        .hands()
        .erase()
        .filter(erase -> erase.part().equals(part) && erase.before().id().equals(clip.id()))
        .ifPresent(
            erase ->
                erase
                    .open()
                    .forEach(
                        stroke ->
                            clip.notes()
                                .filter(note -> note.pitch() == stroke.pitch())
                                .forEach(
                                    note ->
                                        silences.merge(
                                            note.id(),
                                            Silence.from(stroke.from()),
                                            Silence::orLater))));
    return silences;
  }

  private static void addSilences(
      Map<Long, Silence> silences, Overdub overdub, Vamp vamp, Clip clip) {
    Clip before = overdub.before().orElseThrow();
    boolean taking = overdub.mode() instanceof Overdub.Taking;
    if (taking && overdub.isOpen()) {
      clip.notes().forEach(note -> silences.put(note.id(), Silence.ALWAYS));
    }
    before
        .notes()
        .filter(note -> overdub.takesAt(note.meant()))
        .forEach(
            note -> {
              if (overdub.isOpen()) {
                silences.put(note.id(), Silence.from(overdub.from()));
              } else if (!taking) {
                early(note, overdub, vamp, clip.window())
                    .ifPresent(tick -> silences.put(note.id(), new Silence(overdub.from(), tick)));
              }
            });
  }

  /**
   * The tick of an onset meant after the end of a replacing, but played before it: it is silent.
   */
  private static Optional<Long> early(Note note, Overdub overdub, Vamp vamp, LoopWindow window) {
    long place = vamp.phase() + note.meant() - window.start();
    long meant = overdub.until() + Math.floorMod(place - overdub.until(), window.length());
    long played = meant + note.played() - note.meant();
    return played >= overdub.from() && played < overdub.until()
        ? Optional.of(meant)
        : Optional.empty();
  }

  static Clip without(Clip clip, Set<Long> ids, List<Move> moves) {
    return clip.withLayers(
            clip.layers().stream()
                .map(layer -> layer.where(note -> !ids.contains(note.id())))
                .map(layer -> layer.whereMoves(move -> !moves.contains(move)))
                .toList())
        .withoutEmptyLayers();
  }

  /** A clip without some of the notes that it had before, and with all the others of them. */
  static Clip withBack(
      Stage stage, PartId part, Clip now, Clip before, Set<Long> out, List<Move> movesOut) {
    Map<Integer, Layer> layers = new HashMap<>();
    now.layers().forEach(layer -> layers.put(layer.number(), layer));
    Set<Long> there = now.notes().map(Note::id).collect(Collectors.toSet());
    Predicate<Note> missing = note -> !there.contains(note.id());
    for (Layer old : before.layers()) {
      Layer present = layers.getOrDefault(old.number(), Layer.empty(old.number()));
      List<Note> notes = new ArrayList<>(present.notes());
      old.notes().stream()
          .filter(missing)
          .map(note -> Undoing.released(stage, part, note))
          .forEach(notes::add);
      notes.removeIf(note -> out.contains(note.id()));
      notes.sort(Comparator.comparingLong(Note::id));
      List<Move> moves = new ArrayList<>(present.moves());
      old.moves().stream().filter(move -> !moves.contains(move)).forEach(moves::add);
      moves.removeIf(movesOut::contains);
      layers.put(old.number(), new Layer(old.number(), notes, moves));
    }
    return now.withLayers(
        layers.values().stream()
            .filter(layer -> !layer.isEmpty())
            .sorted(Comparator.comparingInt(Layer::number))
            .toList());
  }

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

  private static PartId openPart(Stage stage, Class<? extends Overdub.Mode> mode, String name) {
    return stage.partStages().entrySet().stream()
        .filter(
            e ->
                e.getValue()
                    .overdub()
                    .filter(o -> o.isOpen() && mode.isInstance(o.mode()))
                    .isPresent())
        .map(Map.Entry::getKey)
        .findFirst()
        .orElseThrow(() -> new Refusal(name + " is not on."));
  }

  static long tick(Stage stage, Moment moment) {
    TempoMap map =
        stage.map().orElseThrow(() -> new Refusal("The transport stands still: start it first."));
    return moment.tick(map);
  }
}
