package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Take;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.record.Overdub;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.EntryUnit;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** Playing several takes of a clip, one each pass, and choosing among them. */
final class TakesMode {

  private TakesMode() {}

  static Stage set(Stage stage, boolean on, Moment moment) {
    PartId part = stage.armedPart();
    long tick = Mends.tick(stage, moment);
    if (on) {
      return Mends.begin(stage, part, new Overdub.Taking(), tick);
    }
    boolean taking =
        stage
            .on(part)
            .overdub()
            .filter(o -> o.isOpen() && o.mode() instanceof Overdub.Taking)
            .isPresent();
    Refusal.unless(taking, "No takes are being played.");
    return Mends.end(stage, part, tick);
  }

  /**
   * Makes takes of the passes played: the last complete one is heard; if none is complete, the
   * fullest. A pass without notes makes none.
   */
  static Stage end(Stage stage, PartId part, Overdub overdub, long tick) {
    Clip now = stage.clip(part, overdub.clip());
    Clip before = overdub.before().orElseThrow().calledAs(now);
    PartStage on = stage.on(part);
    Vamp vamp = on.vamp().orElseThrow();
    Set<Integer> old = before.layers().stream().map(Layer::number).collect(Collectors.toSet());
    Map<Integer, Long> passOfLayer = new HashMap<>();
    vamp.passes().layerOfPass().forEach((pass, layer) -> passOfLayer.put(layer, pass));
    int number = before.takes().stream().mapToInt(t -> t.head().number()).max().orElse(0);
    List<Take> played = new ArrayList<>();
    for (Layer layer : now.layers()) {
      if (!old.contains(layer.number()) && layer.notes().stream().anyMatch(n -> !n.isPedal())) {
        boolean partial =
            isPartial(
                passOfLayer.getOrDefault(layer.number(), 0L), vamp, now.window(), overdub, tick);
        Take.Head head = new Take.Head(++number, "", partial);
        played.add(new Take(head, List.of(new Layer(1, layer.notes(), layer.moves())), List.of()));
      }
    }
    Stage over = stage.mapOn(part, p -> p.withOverdub(overdub.withUntil(tick)));
    if (played.isEmpty()) {
      return over.withClip(part, restored(stage, part, before));
    }
    Take active =
        played.stream()
            .filter(take -> !take.head().partial())
            .reduce((a, b) -> b)
            .orElseGet(
                () -> played.stream().max(Comparator.comparingInt(Take::noteCount)).orElseThrow());
    List<Take> others = new ArrayList<>(restored(stage, part, before).takes());
    played.stream().filter(take -> take != active).forEach(others::add);
    Clip taken =
        now.withTakes(active.head(), others).withLayers(active.layers()).withPeeled(List.of());
    Vamp entered =
        new Vamp(
            vamp.clip(),
            vamp.phase(),
            tick,
            new Vamp.Entry(0, before.manner().underWay(), false),
            vamp.passes().afterWindowChange());
    return Edits.notedClip(
        over.withClip(part, taken)
            .mapOn(
                part,
                p ->
                    p.withVamp(entered)
                        .withLeft(
                            vamp.from() < tick
                                ? Optional.of(new Left(vamp, before, tick, false))
                                : p.left())),
        part,
        before,
        "takes of " + Edits.name(stage, part, before));
  }

  private static Clip restored(Stage stage, PartId part, Clip clip) {
    return clip.mapNotes(note -> Undoing.released(stage, part, note));
  }

  private static boolean isPartial(
      long pass, Vamp vamp, LoopWindow window, Overdub overdub, long tick) {
    long begins = vamp.phase() + pass * window.length();
    return overdub.pressed() > begins || tick < begins + window.length();
  }

  /** Hears another take: at the next entry point, or at once. */
  static Stage hear(
      Stage stage, PartId part, ClipId id, int number, boolean atOnce, Moment moment) {
    Clip clip = stage.clip(part, id);
    Clip heard = clip.withActive(number);
    refuseWhileTaking(stage, part);
    boolean sounds =
        stage.on(part).vamp().map(vamp -> vamp.clip().equals(id)).orElse(false)
            && stage.map().isPresent();
    if (!sounds) {
      return stage.withClip(part, heard);
    }
    TempoMap map = stage.map().orElseThrow();
    EntryUnit unit = clip.manner().entersOn().orElse(stage.show().recording().entersOn());
    long at = atOnce ? map.firstTickFrom(moment.audible()) : Cues.boundary(stage, unit, moment);
    return stage.mapOn(
        part, on -> on.withChange(Optional.of(new ClipChange(at, new Reshaping.ToTake(number)))));
  }

  static Stage rename(Stage stage, PartId part, ClipId id, int number, String name) {
    return mapHead(stage, part, id, number, head -> head.withName(name));
  }

  private static Stage mapHead(
      Stage stage, PartId part, ClipId id, int number, UnaryOperator<Take.Head> change) {
    Clip clip = stage.clip(part, id);
    if (clip.take().number() == number) {
      return stage.withClip(part, clip.withTakes(change.apply(clip.take()), clip.others()));
    }
    clip.withActive(number);
    List<Take> others =
        clip.others().stream()
            .map(
                take ->
                    take.head().number() == number
                        ? new Take(change.apply(take.head()), take.layers(), take.peeled())
                        : take)
            .toList();
    return stage.withClip(part, clip.withTakes(clip.take(), others));
  }

  static Stage delete(Stage stage, PartId part, ClipId id, int number) {
    Clip clip = stage.clip(part, id);
    clip.withActive(number);
    Refusal.unless(
        clip.take().number() != number, "Take %s is heard: choose another one first.", number);
    refuseWhileTaking(stage, part);
    List<Take> others =
        clip.others().stream().filter(take -> take.head().number() != number).toList();
    return stage.withClip(part, clip.withTakes(clip.take(), others));
  }

  /** Keeps the take that is heard, and lets the others go. */
  static Stage crop(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(!clip.others().isEmpty(), "Clip %s has one take only.", clip.letter());
    refuseWhileTaking(stage, part);
    return stage.withClip(part, clip.withTakes(clip.take(), List.of()));
  }

  /** Each other take becomes a clip of its own; the one that is heard stays. */
  static Stage spread(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Refusal.unless(!clip.others().isEmpty(), "Clip %s has one take only.", clip.letter());
    refuseWhileTaking(stage, part);
    Stage next = stage.withClip(part, clip.withTakes(clip.take(), List.of()));
    for (Take take : clip.others()) {
      Show show = next.show();
      Clip own =
          new Clip(
              new ClipId((int) show.nextId()),
              show.part(part).freeLetter(),
              take.head().name(),
              clip.window(),
              clip.unit(),
              clip.recordedAt(),
              clip.manner(),
              Take.Head.FIRST,
              List.of(),
              take.layers(),
              take.peeled());
      next = next.withShow(show.withNextId(show.nextId() + 1)).withClip(part, own);
    }
    return next;
  }

  /**
   * Puts a take together from stretches of others, and hears it. A note goes with the stretch that
   * holds its onset, and ends at the latest where its pitch is attacked next.
   *
   * @param stretches must cover the window once
   */
  static Stage comp(Stage stage, PartId part, ClipId id, List<Command.Stretch> stretches) {
    Clip clip = stage.clip(part, id);
    refuseWhileTaking(stage, part);
    checkCovers(stretches, clip.window());
    long nextId = stage.show().nextId();
    List<Note> notes = new ArrayList<>();
    List<Move> moves = new ArrayList<>();
    for (Command.Stretch stretch : stretches) {
      Clip from = clip.withActive(stretch.take());
      from.moves()
          .filter(move -> move.place() >= stretch.from() && move.place() < stretch.to())
          .forEach(moves::add);
      for (Note note : from.notes().toList()) {
        if (note.meant() >= stretch.from() && note.meant() < stretch.to()) {
          notes.add(note.withId(nextId++));
        }
      }
    }
    int number = clip.takes().stream().mapToInt(t -> t.head().number()).max().orElse(0) + 1;
    Take.Head head = new Take.Head(number, "comp", false);
    notes.sort(Comparator.comparingLong(Note::id));
    Clip put =
        clip.withTakes(head, clip.takes())
            .withLayers(List.of(new Layer(1, cut(notes), moves)))
            .withPeeled(List.of());
    Refusal.unless(!notes.isEmpty(), "There are no notes in these stretches.");
    return stage.withShow(stage.show().withNextId(nextId)).withClip(part, put);
  }

  private static void checkCovers(List<Command.Stretch> stretches, LoopWindow window) {
    long place = window.start();
    for (Command.Stretch stretch :
        stretches.stream().sorted(Comparator.comparingLong(Command.Stretch::from)).toList()) {
      Refusal.unless(
          stretch.from() == place && stretch.to() > stretch.from(),
          "The stretches cover the loop once, from its start to its end, without gap or overlap.");
      place = stretch.to();
    }
    Refusal.unless(
        place == window.end(),
        "The stretches cover the loop once, from its start to its end, without gap or overlap.");
  }

  private static List<Note> cut(List<Note> notes) {
    return notes.stream()
        .map(
            note ->
                notes.stream()
                    .filter(n -> n.pitch() == note.pitch() && n.meant() > note.meant())
                    .mapToLong(Note::meant)
                    .min()
                    .stream()
                    .mapToObj(next -> note.withLength(Math.min(note.length(), next - note.meant())))
                    .findFirst()
                    .orElse(note))
        .toList();
  }

  private static void refuseWhileTaking(Stage stage, PartId part) {
    Refusal.unless(
        stage
            .on(part)
            .overdub()
            .map(o -> !o.isOpen() || !(o.mode() instanceof Overdub.Taking))
            .orElse(true),
        "Takes are being played: end that first.");
  }
}
