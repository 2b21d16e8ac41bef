package ancora.core.rules.shelf;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.rules.recording.Consequences;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.sound.GeneralMidi;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** Parts and clips split by pitch, and parts joined; what sounds before and after is the same. */
public final class Splitting {

  private Splitting() {}

  /** Each drum that a part plays gets a part of its own, in the part's place. */
  public static Stage splitPart(Stage stage, PartId id) {
    Part part = stage.show().part(id);
    Refusal.unless(
        part.sound().drums(), "%s is no drum part: split its clips by pitch instead.", part.name());
    refuseWhileRecording(stage, id);
    TreeSet<Integer> drums =
        part.shelf().stream()
            .flatMap(Clip::allLayers)
            .flatMap(layer -> layer.notes().stream())
            .map(Note::pitch)
            .collect(Collectors.toCollection(TreeSet::new));
    Refusal.unless(drums.size() > 1, "%s plays one drum only.", part.name());
    Refusal.unless(
        stage.show().parts().size() + drums.size() - 1 <= Show.MOST_PARTS,
        "%s plays %s drums, and a show has %s parts at most: delete some first.",
        part.name(),
        drums.size(),
        Show.MOST_PARTS);
    Stage next = stage;
    int first = drums.first();
    for (int drum : drums.tailSet(first, false).descendingSet()) {
      next = withOwnPart(next, part, drum);
    }
    return withoutPitches(next, id, pitch -> pitch != first, name(part, first));
  }

  /** A part like another, with only one of its drums, and that in step with it. */
  private static Stage withOwnPart(Stage stage, Part from, int drum) {
    Show show = stage.show();
    PartId id = show.nextPartId();
    long nextId = show.nextId() + 1;
    List<Clip> shelf = new ArrayList<>();
    Map<ClipId, ClipId> same = new HashMap<>();
    for (Clip clip : from.shelf()) {
      ClipId copy = new ClipId((int) nextId++);
      same.put(clip.id(), copy);
      shelf.add(with(clip, copy, note -> note.pitch() == drum));
    }
    Part part =
        new Part(
            id,
            name(from, drum),
            Math.floorMod(id.value() - 1, Part.PENNANTS),
            from.sound(),
            from.inputGrid(),
            from.input(),
            from.leaving(),
            from.balance(),
            from.output(),
            shelf);
    List<Part> parts = new ArrayList<>(show.parts());
    int place = parts.stream().map(Part::id).toList().indexOf(from.id());
    parts.add(place + 1, part);
    Show with =
        show.withParts(parts)
            .withNextId(nextId)
            .withForm(show.form().stream().map(s -> alike(s, from.id(), id, same)).toList());
    PartStage on = stage.on(from.id());
    return stage
        .withShow(with)
        .mapOn(
            id,
            fresh ->
                fresh
                    .withReady(on.ready().map(same::get))
                    .withVamp(on.vamp().map(v -> moved(v, same)))
                    .withChange(on.change().map(change -> moved(change, same)))
                    .withHears(on.hears())
                    .withStutter(on.stutter())
                    .withCue(on.cue().map(cue -> moved(cue, same))));
  }

  private static Vamp moved(Vamp vamp, Map<ClipId, ClipId> same) {
    return vamp.withClip(same.get(vamp.clip()));
  }

  private static WindowChange moved(WindowChange change, Map<ClipId, ClipId> same) {
    return new WindowChange(
        change.at(),
        change.reshapings(),
        change.asked(),
        change.beside().stream()
            .map(b -> new WindowChange.Beside(same.get(b.clip()), b.reshaping()))
            .toList());
  }

  private static Cue moved(Cue cue, Map<ClipId, ClipId> same) {
    return cue.clip().map(clip -> cue.withClip(same.get(clip))).orElse(cue);
  }

  private static Section alike(Section section, PartId from, PartId to, Map<ClipId, ClipId> same) {
    Optional<ClipId> clip = section.lineUp().get(from);
    if (clip == null) {
      return section;
    }
    Map<PartId, Optional<ClipId>> lineUp = new TreeMap<>(section.lineUp());
    lineUp.put(to, clip.map(same::get));
    return section.withLineUp(lineUp);
  }

  private static Stage withoutPitches(
      Stage stage, PartId id, Predicate<Integer> gone, String newName) {
    return stage.withShow(
        stage
            .show()
            .mapPart(
                id,
                part ->
                    part.withName(newName)
                        .withShelf(
                            part.shelf().stream()
                                .map(clip -> with(clip, clip.id(), n -> !gone.test(n.pitch())))
                                .toList())));
  }

  private static String name(Part part, int drum) {
    String drumName = GeneralMidi.DRUMS.getOrDefault(drum, "drum " + drum);
    String name = part.name() + ": " + drumName;
    return name.length() <= Names.LONGEST ? name : drumName;
  }

  /** Another part's clips come on this one's shelf, letter by letter onto those that are there. */
  public static Stage joinParts(Stage stage, PartId id, PartId otherId) {
    Show show = stage.show();
    Part part = show.part(id);
    Part other = show.part(otherId);
    Refusal.unless(!id.equals(otherId), "A part is joined with another one: choose which.");
    Refusal.unless(
        part.sound().equals(other.sound()) || other.shelf().isEmpty() || part.shelf().isEmpty(),
        "%s and %s sound differently: give them the same sound first.",
        part.name(),
        other.name());
    refuseWhileRecording(stage, id);
    refuseWhileRecording(stage, otherId);
    Part joined = part;
    for (Clip clip : other.shelf()) {
      Optional<Clip> onto =
          joined.shelf().stream()
              .filter(c -> c.letter().equals(clip.letter()) && c.window().equals(clip.window()))
              .findFirst();
      joined =
          onto.isPresent()
              ? joined.withClip(together(onto.get(), clip))
              : joined.withClip(clip.withLetter(free(joined, clip)));
    }
    Part all = joined;
    Show with =
        show.withParts(show.parts().stream().filter(p -> !p.id().equals(otherId)).toList())
            .withForm(show.form().stream().map(section -> section.without(otherId)).toList())
            .mapPart(id, p -> all);
    Stage next = Consequences.reconciled(stage.withShow(with), Map.of());
    boolean armed = stage.armed().filter(otherId::equals).isPresent();
    return armed ? next.withArmed(Optional.of(id)) : next;
  }

  private static String free(Part part, Clip clip) {
    return part.hasLetter(clip.letter()) ? part.freeLetter() : clip.letter();
  }

  /** The layers of another clip's heard take join those of this one, number by number. */
  private static Clip together(Clip clip, Clip other) {
    Take joined = clip.take();
    for (Layer layer : other.layers()) {
      joined = joined.joined(layer);
    }
    Clip next = clip.with(joined);
    Refusal.unless(
        joined.noteCount() <= Clip.MOST_NOTES,
        "Clip %s would have more than %s notes: thin it first.",
        clip.letter(),
        Clip.MOST_NOTES);
    return next;
  }

  /** Some pitches of a clip make a clip of their own beside it. */
  public static Stage splitClip(Stage stage, PartId id, ClipId clipId, Set<Integer> pitches) {
    Clip clip = stage.clip(id, clipId);
    refuseWhileRecording(stage, id);
    boolean some = clip.notes().anyMatch(note -> pitches.contains(note.pitch()));
    boolean others = clip.notes().anyMatch(note -> !pitches.contains(note.pitch()));
    Refusal.unless(
        some && others, "Choose some of the pitches of clip %s, not all.", clip.letter());
    Show show = stage.show();
    ClipId copy = show.nextClipId();
    Clip split =
        with(clip, copy, note -> pitches.contains(note.pitch()))
            .withLetter(show.part(id).freeLetter());
    return stage
        .withShow(show.withNextId(show.nextId() + 1))
        .withClip(id, with(clip, clipId, note -> !pitches.contains(note.pitch())))
        .withClip(id, split);
  }

  /** A clip under an id, with some of its notes in all of its takes. */
  private static Clip with(Clip clip, ClipId id, Predicate<Note> keep) {
    return clip.withId(id)
        .mapTakes(take -> take.mapLayers(layer -> layer.where(keep)).withoutEmptyLayers());
  }

  private static void refuseWhileRecording(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    String name = stage.show().part(part).name();
    boolean busy = on.first().isPresent() || on.open().isPresent();
    Refusal.unless(!busy, "%s is being recorded: end that first.", name);
    boolean held =
        stage.heldKeys().stream().anyMatch(key -> key.part().equals(part))
            || stage.hands().sustained().stream().anyMatch(s -> s.key().part().equals(part));
    Refusal.unless(!held, "Keys of %s are down: let them go first.", name);
  }
}
