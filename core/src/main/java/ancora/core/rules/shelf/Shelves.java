package ancora.core.rules.shelf;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.note.Note;
import ancora.core.rules.Moment;
import ancora.core.rules.Steps;
import ancora.core.rules.cues.Cues;
import ancora.core.rules.recording.ClosingSooner;
import ancora.core.rules.recording.Consequences;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.shelf.ShelfCommand.WindowBars.Bars;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** What can be done to parts and to the clips on their shelves. */
public final class Shelves {

  private Shelves() {}

  /** Takes a clip off; if it sounds, it ends. Sections that have it go tacet there. */
  public static Stage delete(Stage stage, PartId part, ClipId id) {
    stage.clip(part, id);
    Show show = stage.show().mapPart(part, p -> p.withoutClip(id));
    Stage without =
        stage.withShow(
            show.withForm(show.form().stream().map(section -> section.without(part, id)).toList()));
    return Consequences.reconciled(without, Map.of());
  }

  /** As {@link #delete}; what is recorded onto it ends first. */
  public static Stage deleted(Stage stage, PartId part, ClipId id, Moment moment) {
    boolean sounds = stage.on(part).vamp().filter(v -> v.clip().equals(id)).isPresent();
    Stage ended = sounds ? Endings.endAll(stage, part, Sounding.tick(stage, moment)) : stage;
    return Steps.noted(ended, delete(ended, part, id), "delete a clip");
  }

  /** Copies a clip with all that is in it; notes get ids of their own. */
  public static Stage duplicate(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    Show show = stage.show();
    Ids ids = new Ids(show.nextId() + 1);
    Clip copy =
        clip.withId(show.nextClipId()).withLetter(show.part(part).freeLetter()).mapTakes(ids::copy);
    return stage.withShow(show.withNextId(ids.next())).withClip(part, copy);
  }

  /** Copies a clip without the softer half of its notes; those as soft as the middle one stay. */
  public static Stage thin(Stage stage, PartId part, ClipId id) {
    int[] velocities =
        stage.clip(part, id).notes().filter(n -> !n.isPedal()).mapToInt(Note::velocity).toArray();
    Arrays.sort(velocities);
    int middle = velocities.length == 0 ? 0 : velocities[velocities.length / 2];
    Refusal.unless(
        velocities.length > 1 && velocities[0] < middle,
        "All notes of clip %s are as loud: there is nothing to thin.",
        stage.clip(part, id).letter());
    Stage copied = duplicate(stage, part, id);
    ClipId copy = stage.show().nextClipId();
    Clip clip = copied.clip(part, copy);
    return copied.withClip(
        part,
        clip.mapHeard(
            take ->
                take.mapLayers(layer -> layer.where(n -> n.isPedal() || n.velocity() >= middle))
                    .withoutEmptyLayers()));
  }

  public static Stage rename(Stage stage, PartId part, ClipId id, String name) {
    return stage.withClip(part, stage.clip(part, id).withName(name));
  }

  public static Stage withSound(Stage stage, PartId part, ClipId id, Optional<Sound> sound) {
    return stage.withClip(part, stage.clip(part, id).withSound(sound));
  }

  /** Clips are lettered by their place: moving one gives letters anew. */
  public static Stage move(Stage stage, PartId part, ClipId id, int place) {
    Clip clip = stage.clip(part, id);
    List<Clip> shelf = new ArrayList<>(stage.show().part(part).shelf());
    List<String> letters = shelf.stream().map(Clip::letter).toList();
    shelf.remove(clip);
    shelf.add(Math.max(0, Math.min(place, shelf.size())), clip);
    for (int i = 0; i < shelf.size(); i++) {
      shelf.set(i, shelf.get(i).withLetter(letters.get(i)));
    }
    return stage.withShow(stage.show().mapPart(part, p -> p.withShelf(shelf)));
  }

  public static Stage manner(Stage stage, PartId part, ClipId id, Manner manner) {
    long bar = stage.show().meter().barTicks();
    long beat = stage.show().meter().beatTicks();
    Refusal.unless(
        manner.pickup() <= bar && manner.pickup() % beat == 0,
        "A pickup is whole beats long, up to a bar.");
    return stage.withClip(part, stage.clip(part, id).withManner(manner));
  }

  /** Rule 13: at the next beat if the clip sounds, else at once; several before it add up. */
  public static Stage reshape(Stage stage, ShelfCommand.Reshape command, Moment moment) {
    PartId part = command.part();
    Clip clip = stage.clip(part, command.clip());
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.clip().equals(clip.id()));
    if (stage.map().isEmpty() || vamp.isEmpty()) {
      Clip reshaped = command.reshaping().apply(clip, stage.show().nextId());
      checkWindow(stage, reshaped);
      Stage next = Steps.counted(stage.withClip(part, reshaped));
      return Steps.notedWindow(
          stage,
          Cues.recued(next, part, clip.id(), moment),
          List.of(command.reshaping()),
          Steps.name(stage, part, clip),
          moment.stamp());
    }
    long nextId = stage.show().nextId();
    TempoMap map = stage.map().get();
    long beat = stage.show().meter().beatTicks();
    long at =
        Math.max(
            Ticks.ceil(map.firstTickFrom(moment.audible()), beat),
            Ticks.ceil(vamp.get().from(), beat));
    Clip before = stage.on(part).change().map(c -> c.of(clip, nextId)).orElse(clip);
    checkWindow(stage, command.reshaping().apply(before, Ids.after(before, nextId)));
    WindowChange change =
        stage
            .on(part)
            .change()
            .map(pending -> pending.and(command.reshaping(), moment.stamp()))
            .orElseGet(() -> new WindowChange(at, List.of(command.reshaping()), moment.stamp()));
    return stage.mapOn(part, on -> on.withChange(Optional.of(change)));
  }

  /** The same of several clips, as one step: what sounds takes the others along. */
  public static Stage reshape(
      Stage stage, PartId part, Collection<ClipId> clips, Reshaping reshaping, Moment moment) {
    Optional<ClipId> sounding =
        stage
            .on(part)
            .vamp()
            .map(Vamp::clip)
            .filter(clip -> stage.map().isPresent() && clips.contains(clip));
    List<ClipId> others =
        clips.stream().filter(id -> sounding.filter(id::equals).isEmpty()).distinct().toList();
    Stage next = stage;
    for (ClipId id : others) {
      Clip reshaped = reshaping.apply(stage.clip(part, id), next.show().nextId());
      checkWindow(stage, reshaped);
      next = Cues.recued(Steps.counted(next.withClip(part, reshaped)), part, id, moment);
    }
    if (sounding.isEmpty()) {
      String names =
          others.stream()
              .map(id -> Steps.name(stage, part, stage.clip(part, id)))
              .collect(Collectors.joining(", "));
      return Steps.notedWindow(stage, next, List.of(reshaping), names, moment.stamp());
    }
    return reshape(stage, new ShelfCommand.Reshape(part, sounding.get(), reshaping), moment)
        .mapOn(part, on -> on.withChange(on.change().map(c -> c.with(others, reshaping))));
  }

  /** Windows are changed by bars; what cannot be so is left as it is where several are meant. */
  public static Stage windowBars(Stage stage, ShelfCommand.WindowBars command, Moment moment) {
    if (!command.all()) {
      PartId part = stage.armedPart();
      Optional<Stage> sooner = sooner(stage, part, command, moment);
      if (sooner.isPresent()) {
        return sooner.get();
      }
      Clip clip =
          stage.on(part).inHand().map(id -> stage.clip(part, id)).orElseThrow(Shelves::none);
      return windowBars(stage, part, clip, command.bars(), moment);
    }
    List<PartId> vamping =
        stage.show().parts().stream()
            .map(Part::id)
            .filter(part -> stage.on(part).vamp().isPresent())
            .toList();
    Refusal.unless(!vamping.isEmpty(), none().getMessage());
    Stage next = stage;
    for (PartId part : vamping) {
      Clip clip = stage.clip(part, stage.on(part).vamp().orElseThrow().clip());
      if (command.bars() != Bars.SHORTER || windowToCome(stage, part, clip).length() > bar(stage)) {
        next = windowBars(next, part, clip, command.bars(), moment);
      }
    }
    return next;
  }

  /** A knob that does not hold what it turns moves nothing. */
  static Stage moveEdge(Stage stage, ShelfCommand.MoveEdge command, Moment moment) {
    Clip clip = stage.clip(command.part(), command.clip());
    LoopWindow window = windowToCome(stage, command.part(), clip);
    long unit = command.unit().ticks(stage.show().meter());
    boolean start = command.edge() == ShelfCommand.MoveEdge.Edge.START;
    long was = Math.floorDiv(start ? window.start() : window.length(), unit);
    long is = (Long) command.by().of(was);
    if (is == was) {
      return stage;
    }
    Reshaping reshaping =
        start
            ? new Reshaping.ToWindow(is * unit, window.length())
            : new Reshaping.ToWindow(window.start(), is * unit);
    return reshape(stage, new ShelfCommand.Reshape(command.part(), clip.id(), reshaping), moment);
  }

  /** In the first pass after a closing a bar shorter is as if the loop had closed there. */
  private static Optional<Stage> sooner(
      Stage stage, PartId part, ShelfCommand.WindowBars command, Moment moment) {
    return command.bars() == Bars.SHORTER && stage.map().isPresent()
        ? ClosingSooner.by(stage, part, bar(stage), moment)
        : Optional.empty();
  }

  private static Refusal none() {
    return new Refusal("Nothing sounds there: bring a clip in first.");
  }

  private static long bar(Stage stage) {
    return stage.show().meter().barTicks();
  }

  /** The window that a clip has once what is pending is done. */
  private static LoopWindow windowToCome(Stage stage, PartId part, Clip clip) {
    return stage
        .on(part)
        .change()
        .filter(change -> stage.on(part).vamp().filter(v -> v.clip().equals(clip.id())).isPresent())
        .map(change -> change.of(clip, stage.show().nextId()).window())
        .orElse(clip.window());
  }

  private static Stage windowBars(Stage stage, PartId part, Clip clip, Bars bars, Moment moment) {
    LoopWindow window = windowToCome(stage, part, clip);
    long bar = bar(stage);
    Refusal.unless(
        bars != Bars.SHORTER || window.length() > bar,
        "Clip %s is one bar long: halve it instead.",
        clip.letter());
    Reshaping reshaping =
        switch (bars) {
          case ALONE ->
              new Reshaping.ToWindow(Ticks.floor(place(stage, part, clip, moment), bar), bar);
          case LONGER -> new Reshaping.ToWindow(window.start(), window.length() + bar);
          case SHORTER -> new Reshaping.ToWindow(window.start(), window.length() - bar);
        };
    return reshape(stage, new ShelfCommand.Reshape(part, clip.id(), reshaping), moment);
  }

  /** The place that sounds at a press; at standstill the start. */
  private static long place(Stage stage, PartId part, Clip clip, Moment moment) {
    return stage
        .on(part)
        .vamp()
        .filter(vamp -> vamp.clip().equals(clip.id()) && stage.map().isPresent())
        .map(vamp -> vamp.in(clip.window()).placeAt(moment.tick(stage.map().get())))
        .orElse(clip.window().start());
  }

  private static void checkWindow(Stage stage, Clip clip) {
    LoopWindow window = clip.window();
    long beat = stage.show().meter().beatTicks();
    long longest = RecordingSettings.MOST_BARS * stage.show().meter().barTicks();
    boolean part = 2 * window.length() == beat || 4 * window.length() == beat;
    Refusal.unless(
        window.length() % beat == 0 || part,
        "A loop is a whole number of beats long, or half or a quarter of one.");
    Refusal.unless(
        window.length() <= longest, "A loop has %s bars at most.", RecordingSettings.MOST_BARS);
    Refusal.unless(
        Ticks.isWithin(window.start(), longest),
        "The start of a loop lies no more than %s bars from the first bar line.",
        RecordingSettings.MOST_BARS);
  }

  public static Stage deletePart(Stage stage, PartId part) {
    Show show = stage.show();
    show.part(part);
    Show without =
        show.withParts(show.parts().stream().filter(p -> !p.id().equals(part)).toList())
            .withForm(show.form().stream().map(section -> section.without(part)).toList());
    return Consequences.reconciled(stage.withShow(without), Map.of());
  }

  public static Stage movePart(Stage stage, PartId id, int place) {
    Part part = stage.show().part(id);
    List<Part> parts = new ArrayList<>(stage.show().parts());
    parts.remove(part);
    parts.add(Math.max(0, Math.min(place, parts.size())), part);
    return stage.withShow(stage.show().withParts(parts));
  }
}
