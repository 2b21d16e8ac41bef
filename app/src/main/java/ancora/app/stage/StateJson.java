package ancora.app.stage;

import ancora.app.journal.CoreJson;
import ancora.core.analysis.FoundTempo;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.engine.Engine;
import ancora.core.engine.Heard;
import ancora.core.history.Step;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Phrasing;
import ancora.core.record.Played;
import ancora.core.record.Way;
import ancora.core.show.Balance;
import ancora.core.show.Master;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartOutput;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Kept;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Cue;
import ancora.core.vamp.ShortLoop;
import ancora.core.vamp.Vamp;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What screens show of a stage, as JSON. Screens hold the whole; what is sent is what has changed:
 * the fields of a part or clip, and of its notes those that came and went. Since a stage is made of
 * values, what is the same object has not changed.
 */
final class StateJson {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  /** Of what was played so many pages are told, of 64 notes at most. */
  private static final int PAGES_SHOWN = 2;

  private StateJson() {}

  /** The whole state. */
  static ObjectNode whole(Stage stage) {
    return changes(Optional.empty(), stage);
  }

  /**
   * A show as it was saved, without its notes, and at rest: for a page that is still connecting.
   */
  static ObjectNode outline(Stage stage) {
    ObjectNode outline = whole(Stage.of(stage.show()).withArmed(stage.armed()));
    outline
        .path("clips")
        .forEach(
            clip -> {
              ((ObjectNode) clip).putArray("others");
              clip.path("layers").forEach(layer -> ((ObjectNode) layer).putArray("notes"));
            });
    return outline;
  }

  /** What has changed from one stage to the next; empty if nothing has that screens show. */
  static ObjectNode changes(Stage before, Stage after) {
    return changes(Optional.of(before), after);
  }

  private static ObjectNode changes(Optional<Stage> before, Stage after) {
    ObjectNode changes = JSON.objectNode();
    Show show = after.show();
    if (before.map(b -> !settings(b.show()).equals(settings(show))).orElse(true)) {
      changes.set("show", settings(show));
    }
    if (before.map(b -> !b.transport().equals(after.transport())).orElse(true)) {
      changes.set("transport", transport(after));
    }
    if (before.map(b -> !b.armed().equals(after.armed())).orElse(true)) {
      changes.put("armed", after.armed().map(PartId::value).orElse(0));
    }
    if (before.map(b -> !b.alongside().equals(after.alongside())).orElse(true)) {
      ArrayNode alongside = changes.putArray("alongside");
      after.alongside().forEach(part -> alongside.add(part.value()));
    }
    if (before.map(b -> !order(b.show()).equals(order(show))).orElse(true)) {
      changes.set("order", order(show));
    }
    addForm(changes, before, after);
    if (before.map(b -> !hands(b).equals(hands(after))).orElse(true)) {
      changes.set("hands", hands(after));
    }
    if (before.map(b -> !history(b).equals(history(after))).orElse(true)) {
      changes.set("history", history(after));
    }
    if (before.map(b -> !Heard.on(b).equals(Heard.on(after))).orElse(true)) {
      changes.set("hears", hears(after));
    }
    if (before.map(b -> !kept(b).equals(kept(after))).orElse(true)) {
      changes.set("kept", kept(after));
    }
    ArrayNode notes = JSON.arrayNode();
    addParts(changes, notes, before, after);
    addClips(changes, notes, before, after);
    if (!notes.isEmpty()) {
      changes.set("notes", notes);
    }
    return changes;
  }

  private static void addForm(ObjectNode changes, Optional<Stage> before, Stage after) {
    boolean sameForm =
        before
            .map(b -> b.show().form().equals(after.show().form()) && b.form().equals(after.form()))
            .orElse(false);
    if (sameForm) {
      return;
    }
    ObjectNode form = changes.putObject("form");
    form.set("sections", CoreJson.write(after.show().form()));
    after
        .form()
        .now()
        .ifPresent(id -> form.put("now", id.value()).put("since", after.form().since()));
    after
        .form()
        .next()
        .ifPresent(
            next ->
                form.putObject("next").put("section", next.section().value()).put("at", next.at()));
  }

  /** What hands are made to do: erase on which part, repeat on which grid. */
  private static ObjectNode hands(Stage stage) {
    ObjectNode hands = JSON.objectNode();
    stage.hands().erases().stream()
        .findFirst()
        .ifPresent(erase -> hands.put("erase", erase.part().value()));
    stage.hands().repeat().ifPresent(repeat -> hands.set("repeat", CoreJson.write(repeat)));
    return hands;
  }

  /** On which parts hands are heard, and as what. */
  private static ArrayNode hears(Stage stage) {
    ArrayNode hears = JSON.arrayNode();
    for (Heard heard : Heard.on(stage)) {
      ObjectNode input = (ObjectNode) CoreJson.write(heard.input());
      hears.add(input.put("part", heard.part().value()).put("keys", heard.keys()));
    }
    return hears;
  }

  /** What was kept last, while it can be taken otherwise; null if nothing was. */
  private static JsonNode kept(Stage stage) {
    Optional<Kept> kept = Engine.kept(stage);
    if (kept.isEmpty()) {
      return JSON.nullNode();
    }
    ObjectNode node = JSON.objectNode();
    node.put("part", kept.get().part().value()).put("clip", kept.get().clip().value());
    kept.get().tempo().ifPresent(tempo -> node.put("bpm", tempo.bpm()));
    node.put("sure", FoundTempo.inAWord(kept.get().sureness()));
    node.set("reading", CoreJson.write(kept.get().reading()));
    return node;
  }

  /** What would be undone, and done again, in words. */
  private static ObjectNode history(Stage stage) {
    return JSON.objectNode()
        .put("undo", Engine.undoWords(stage))
        .put("redo", latest(stage.history().undone()));
  }

  private static String latest(List<Step> steps) {
    return steps.isEmpty() ? "" : steps.get(steps.size() - 1).words();
  }

  private static void addParts(
      ObjectNode changes, ArrayNode notes, Optional<Stage> before, Stage after) {
    ObjectNode parts = JSON.objectNode();
    for (Part part : after.show().parts()) {
      Optional<Part> was = before.flatMap(b -> partOf(b, part.id()));
      if (was.isPresent() && isSame(before.get(), after, part)) {
        continue;
      }
      ObjectNode now = part(part, after.on(part.id()), after);
      ObjectNode fields =
          Fields.changed(was.map(p -> part(p, before.get().on(p.id()), before.get())), now);
      List<Note> recorded = recorded(after, part.id());
      List<Played> remembered = remembered(after, part.id());
      if (was.isEmpty()) {
        fields.set("recorded", ListEdits.rows(recorded, StateJson::note));
        fields.set("played", ListEdits.rows(remembered, StateJson::played));
      } else {
        ListEdits.of(remembered(before.get(), part.id()), remembered, StateJson::played)
            .ifPresent(
                edits ->
                    notes.addObject().put("part", part.id().value()).set("playedEdits", edits));
        ListEdits.of(recorded(before.get(), part.id()), recorded, StateJson::note)
            .ifPresent(
                edits -> notes.addObject().put("part", part.id().value()).set("edits", edits));
      }
      if (!fields.isEmpty()) {
        parts.set(String.valueOf(part.id().value()), fields);
      }
    }
    before.map(Stage::show).map(Show::parts).orElse(List.of()).stream()
        .filter(part -> partOf(after, part.id()).isEmpty())
        .forEach(gone -> parts.putNull(String.valueOf(gone.id().value())));
    if (!parts.isEmpty()) {
      changes.set("parts", parts);
    }
  }

  private static Optional<Part> partOf(Stage stage, PartId id) {
    return stage.show().parts().stream().filter(part -> part.id().equals(id)).findFirst();
  }

  /** What has been played so far into a first recording, or into a take that is not heard yet. */
  private static List<Note> recorded(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    return on.first()
        .map(FirstRecording::notes)
        .or(() -> beingPlayed(stage, part).map(take -> take.sounding().toList()))
        .orElse(List.of());
  }

  /** The take that is being played, while another is heard. */
  private static Optional<Take> beingPlayed(Stage stage, PartId part) {
    Optional<LoopRecording> takes =
        stage.on(part).open().filter(recording -> recording.way() == Way.TAKES);
    if (takes.isEmpty()) {
      return Optional.empty();
    }
    Clip clip = stage.clip(part, takes.get().clip());
    return newest(takes.get())
        .filter(lap -> lap.take() != clip.take().number())
        .flatMap(lap -> clip.findTake(lap.take()));
  }

  private static Optional<Lap> newest(LoopRecording recording) {
    List<Lap> laps = recording.laps();
    return laps.isEmpty() ? Optional.empty() : Optional.of(laps.get(laps.size() - 1));
  }

  /** What was played last and is in no clip that stands ready, where nothing sounds. */
  private static List<Played> remembered(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    boolean still = stage.map().isEmpty();
    boolean silent = on.first().isEmpty() && (still || on.vamp().isEmpty() && on.ready().isEmpty());
    if (!silent || on.hindsight().size() == 0) {
      return List.of();
    }
    List<List<Played>> pages = on.hindsight().played().pages();
    List<Played> newest =
        pages.subList(Math.max(0, pages.size() - PAGES_SHOWN), pages.size()).stream()
            .flatMap(List::stream)
            .filter(note -> note.plain() && !note.isPedal())
            .toList();
    if (newest.isEmpty()) {
      return List.of();
    }
    List<Played> last = phrasing(stage, newest).newest(newest, 0);
    boolean known = last.stream().allMatch(Played::recorded) || isKept(stage, part, last);
    return on.ready().isPresent() && known ? List.of() : last;
  }

  private static Phrasing phrasing(Stage stage, List<Played> keys) {
    Show show = stage.show();
    long bar = show.meter().barTicks();
    Played last = keys.get(keys.size() - 1);
    return stage
        .map()
        .map(map -> Phrasing.ofRun(map, bar, map.tickAt(last.onMicros())))
        .orElseGet(() -> Phrasing.atStandstill(bar * show.tempo().microsPerTick()));
  }

  private static boolean isKept(Stage stage, PartId part, List<Played> played) {
    long latest = played.get(played.size() - 1).onMicros();
    return stage
        .kept()
        .filter(kept -> kept.played().equals(part) && latest < kept.until())
        .filter(kept -> clips(stage).containsKey(kept.clip().value()))
        .isPresent();
  }

  private static void played(ArrayNode row, Played note) {
    row.add(note.noteId()).add(note.pitch()).add(note.velocity()).add(note.onMicros());
    row.add(note.isHeld() ? 0 : note.offMicros() - note.onMicros());
  }

  /** Whether nothing at all has changed about a part: then it need not be looked at. */
  private static boolean isSame(Stage before, Stage after, Part part) {
    return before.on(part.id()) == after.on(part.id())
        && before.kept().equals(after.kept())
        && before.show().meter().equals(after.show().meter())
        && before.show().hasSolo() == after.show().hasSolo()
        && before.show().parts().stream().anyMatch(p -> p == part);
  }

  private static void addClips(
      ObjectNode changes, ArrayNode notes, Optional<Stage> before, Stage after) {
    Map<Integer, Shown> old = new HashMap<>(before.map(StateJson::clips).orElse(Map.of()));
    ObjectNode clips = JSON.objectNode();
    clips(after)
        .forEach(
            (id, clip) -> {
              Shown was = old.remove(id);
              if (was == null) {
                clips.set(String.valueOf(id), clip(clip));
              } else if (was.clip() != clip.clip() || was.played() != clip.played()) {
                addClip(clips, notes, was, clip);
              }
            });
    old.keySet().forEach(id -> clips.putNull(String.valueOf(id)));
    if (!clips.isEmpty()) {
      changes.set("clips", clips);
    }
  }

  private static void addClip(ObjectNode clips, ArrayNode notes, Shown was, Shown is) {
    Clip before = was.clip();
    Clip after = is.clip();
    ObjectNode fields = Fields.changed(Optional.of(head(before)), head(after));
    if (!areSame(was.others(), is.others())) {
      fields.set("others", othersOf(is));
    }
    List<Layer> old = before.layers();
    List<Layer> now = after.layers();
    boolean onlyAbove =
        old.size() <= now.size()
            && numbers(old).equals(numbers(now.subList(0, old.size())))
            && before.take().number() == after.take().number();
    if (!onlyAbove) {
      fields.set("layers", layers(after));
    } else {
      for (int i = 0; i < now.size(); i++) {
        addLayer(notes, before, i < old.size() ? old.get(i) : Layer.empty(0), after, now.get(i));
      }
    }
    if (!fields.isEmpty()) {
      clips.set(String.valueOf(after.id().value()), fields);
    }
  }

  private static void addLayer(ArrayNode notes, Clip before, Layer old, Clip after, Layer layer) {
    ObjectNode change = JSON.objectNode();
    if (old.number() != layer.number() || old.notesOut().size() != layer.notesOut().size()) {
      change.put("out", layer.notesOut().size());
    }
    ListEdits.of(sounding(before, old), sounding(after, layer), StateJson::note)
        .ifPresent(edits -> change.set("edits", edits));
    ListEdits.of(takenOut(before, old), takenOut(after, layer), StateJson::note)
        .ifPresent(edits -> change.set("hollowEdits", edits));
    ListEdits.of(soundingMoves(before, old), soundingMoves(after, layer), StateJson::move)
        .ifPresent(edits -> change.set("moveEdits", edits));
    if (!change.isEmpty()) {
      notes.add(change.put("clip", after.id().value()).put("layer", layer.number()));
    }
  }

  private static List<Integer> numbers(List<Layer> layers) {
    return layers.stream().map(Layer::number).toList();
  }

  /**
   * A clip as it is shown.
   *
   * @param played the number of the take that is being played, whose notes are told as they come; 0
   *     if none is
   */
  private record Shown(Clip clip, int played) {

    /** The takes that are not heard, without the one that is being played. */
    List<Take> others() {
      return clip.takes().stream()
          .filter(take -> take.number() != clip.take().number() && take.number() != played)
          .toList();
    }
  }

  private static Map<Integer, Shown> clips(Stage stage) {
    Map<Integer, Shown> clips = new HashMap<>();
    for (Part part : stage.show().parts()) {
      Optional<ClipId> onto = stage.on(part.id()).open().map(LoopRecording::clip);
      int played = beingPlayed(stage, part.id()).map(Take::number).orElse(0);
      for (Clip clip : part.shelf()) {
        boolean here = onto.filter(clip.id()::equals).isPresent();
        clips.put(clip.id().value(), new Shown(clip, here ? played : 0));
      }
    }
    return clips;
  }

  private static ObjectNode settings(Show show) {
    ObjectNode node = JSON.objectNode();
    node.put("title", show.title()).put("bpm", show.tempo().bpm());
    node.putObject("meter")
        .put("beats", show.meter().beats())
        .put("unit", show.meter().unit())
        .put("beatTicks", show.meter().beatTicks())
        .put("barTicks", show.meter().barTicks());
    ObjectNode click = (ObjectNode) CoreJson.write(show.click());
    node.set("click", click.put("ticks", show.click().ticks(show.meter())));
    node.set("recording", CoreJson.write(show.recording()));
    node.set("master", master(show.master()));
    return node;
  }

  /** What all parts go through, with what the page would have to work out. */
  static ObjectNode master(Master master) {
    ObjectNode node = (ObjectNode) CoreJson.write(master);
    return node.put("gain", master.gain()).put("echoTicks", master.echo().step());
  }

  /** A sound, and what it and its second one are called. */
  private static ObjectNode sound(Sound sound) {
    ObjectNode node = played(sound);
    node.put("name", sound.name()).put("family", sound.family());
    sound
        .second()
        .ifPresent(second -> ((ObjectNode) node.get("second")).set("sound", sound(second.sound())));
    return node;
  }

  /** A sound, with what the page would have to work out. */
  static ObjectNode played(Sound sound) {
    ObjectNode node = (ObjectNode) CoreJson.write(sound);
    sound
        .second()
        .ifPresent(second -> ((ObjectNode) node.get("second")).put("gain", second.gain()));
    return node;
  }

  /** How a part stands in the whole, with what the page would have to work out. */
  static ObjectNode balance(Balance balance, double gain) {
    ObjectNode node = (ObjectNode) CoreJson.write(balance);
    balance.echoTime().ifPresent(own -> node.put("echoTicks", own.step()));
    return node.put("gain", gain);
  }

  private static ObjectNode transport(Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("rolling", stage.map().isPresent());
    node.put("awaiting", stage.transport() instanceof Transport.AwaitingFirstNote);
    if (stage.transport() instanceof Transport.Rolling rolling) {
      node.put("firstTick", rolling.firstTick());
      node.set("anchors", anchors(rolling.map()));
    }
    return node;
  }

  /** [tick, microseconds, microseconds per tick] for each anchor. */
  static ArrayNode anchors(TempoMap map) {
    ArrayNode anchors = JSON.arrayNode();
    for (TempoMap.Anchor anchor : map.anchors()) {
      anchors
          .addArray()
          .add(anchor.tick())
          .add(anchor.micros())
          .add(anchor.tempo().microsPerTick());
    }
    return anchors;
  }

  private static ArrayNode order(Show show) {
    ArrayNode order = JSON.arrayNode();
    show.parts().forEach(part -> order.add(part.id().value()));
    return order;
  }

  private static ObjectNode part(Part part, PartStage on, Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("id", part.id().value())
        .put("name", part.name())
        .put("pennant", part.pennant())
        .put("leaving", part.leaving().name());
    node.set("sound", sound(part.sound()));
    node.set("inputGrid", CoreJson.write(part.inputGrid()));
    node.set("input", CoreJson.write(part.input()));
    node.set("balance", balance(part.balance(), stage.show().gainOf(part)));
    part.output().ifPresent(output -> node.set("output", output(output, part, stage.show())));
    ArrayNode shelf = node.putArray("shelf");
    part.shelf().forEach(clip -> shelf.add(clip.id().value()));
    on.ready().ifPresent(clip -> node.put("ready", clip.value()));
    on.vamp().ifPresent(vamp -> node.set("vamp", vamp(vamp)));
    on.first().ifPresent(first -> node.set("first", first(first, stage)));
    on.cue().ifPresent(cue -> node.set("cue", cue(cue)));
    on.change().ifPresent(change -> node.put("changesAt", change.at()));
    on.hears().ifPresent(hears -> node.put("hears", hears.take()).put("changesAt", hears.at()));
    on.open()
        .ifPresent(
            recording ->
                node.set("onto", recording(recording, stage.clip(part.id(), recording.clip()))));
    on.stutter().filter(ShortLoop::isHeld).ifPresent(s -> node.put("stutters", true));
    return node;
  }

  /** Where a part sounds outside, and how it stands in the whole as MIDI has it. */
  private static ObjectNode output(PartOutput output, Part part, Show show) {
    ObjectNode node = (ObjectNode) CoreJson.write(output);
    return node.put("volume", PartOutput.volume(show.gainOf(part)))
        .put("pan", PartOutput.pan(part.balance().pan()));
  }

  private static ObjectNode vamp(Vamp vamp) {
    ObjectNode node = JSON.objectNode().put("clip", vamp.clip().value());
    node.put("phase", vamp.phase()).put("from", vamp.from());
    vamp.breather()
        .ifPresent(
            breather -> {
              ObjectNode rests = node.putObject("breather").put("from", breather.from());
              rests.put("ticks", breather.ticks());
              if (!breather.isOpen()) {
                rests.put("until", breather.until());
              }
            });
    return node;
  }

  private static ObjectNode cue(Cue cue) {
    ObjectNode node = JSON.objectNode().put("at", cue.at()).put("phase", cue.phase());
    cue.clip().ifPresent(clip -> node.put("clip", clip.value()));
    return node;
  }

  private static ObjectNode recording(LoopRecording recording, Clip clip) {
    ObjectNode node = JSON.objectNode();
    node.put("from", recording.since())
        .put("line", recording.line())
        .put("clip", recording.clip().value())
        .put("mode", mode(recording.way()))
        .put("toCome", recording.asked().isPresent());
    recording
        .range()
        .ifPresent(range -> node.put("punchFrom", range.from()).put("punchTo", range.to()));
    if (recording.way() == Way.TAKES) {
      node.put("nextTake", clip.nextTake());
      newest(recording)
          .filter(lap -> lap.take() != clip.take().number())
          .ifPresent(lap -> node.put("take", lap.take()).put("takeFrom", lap.begin()));
    }
    return node;
  }

  private static String mode(Way way) {
    return switch (way) {
      case ADD -> "add";
      case REPLACE -> "replace";
      case PUNCH -> "punch";
      case TAKES -> "takes";
    };
  }

  private static ObjectNode first(FirstRecording first, Stage stage) {
    ObjectNode node = JSON.objectNode();
    node.put("letter", first.letter())
        .put("start", first.start())
        .put("then", first.then().name())
        .put("origin", first.origin(stage.show().meter()));
    if (first.isClosing()) {
      node.put("until", first.until());
    }
    if (first.round()) {
      node.put("round", true);
    }
    return node;
  }

  private static ObjectNode clip(Shown shown) {
    ObjectNode node = head(shown.clip());
    node.set("others", othersOf(shown));
    return node.set("layers", layers(shown.clip()));
  }

  /** A clip without its notes. */
  private static ObjectNode head(Clip clip) {
    ObjectNode node = JSON.objectNode();
    node.put("id", clip.id().value())
        .put("letter", clip.letter())
        .put("name", clip.name())
        .put("unit", clip.unit().name())
        .put("recordedAt", clip.recordedAt())
        .put("start", clip.window().start())
        .put("length", clip.window().length())
        .put("peeled", clip.take().off().size());
    node.set("manner", CoreJson.write(clip.manner()));
    clip.sound().ifPresent(sound -> node.set("sound", sound(sound)));
    node.put("take", clip.take().number());
    ArrayNode takes = node.putArray("takes");
    for (Take take : clip.takes()) {
      ObjectNode one =
          takes
              .addObject()
              .put("number", take.number())
              .put("name", take.name())
              .put("partial", take.partial());
      if (!take.stretches().isEmpty()) {
        one.set("stretches", CoreJson.write(take.stretches()));
      }
    }
    return node;
  }

  private static boolean areSame(List<Take> some, List<Take> others) {
    boolean same = some.size() == others.size();
    for (int i = 0; same && i < some.size(); i++) {
      same = some.get(i) == others.get(i);
    }
    return same;
  }

  /** What would sound of each take that is not heard. */
  private static ArrayNode othersOf(Shown clip) {
    ArrayNode all = JSON.arrayNode();
    for (Take take : clip.others()) {
      all.addObject()
          .put("number", take.number())
          .set("notes", ListEdits.rows(take.sounding().toList(), StateJson::note));
    }
    return all;
  }

  private static ArrayNode layers(Clip clip) {
    ArrayNode layers = JSON.arrayNode();
    for (Layer layer : clip.layers()) {
      layers
          .addObject()
          .put("number", layer.number())
          .put("out", layer.notesOut().size())
          .set("notes", ListEdits.rows(sounding(clip, layer), StateJson::note));
      ((ObjectNode) layers.get(layers.size() - 1))
          .set("hollow", ListEdits.rows(takenOut(clip, layer), StateJson::note));
      ((ObjectNode) layers.get(layers.size() - 1))
          .set("moves", ListEdits.rows(soundingMoves(clip, layer), StateJson::move));
    }
    return layers;
  }

  /** The notes of a layer that no layer takes out. */
  private static List<Note> sounding(Clip clip, Layer layer) {
    Set<Long> out = clip.take().notesOut();
    return out.isEmpty()
        ? layer.notes()
        : layer.notes().stream().filter(note -> !out.contains(note.id())).toList();
  }

  /** The notes of a layer that others take out: they are shown, hollow. */
  private static List<Note> takenOut(Clip clip, Layer layer) {
    Set<Long> out = clip.take().notesOut();
    return out.isEmpty()
        ? List.of()
        : layer.notes().stream().filter(note -> out.contains(note.id())).toList();
  }

  /** What controllers do in a layer, but for what others take out. */
  private static List<ControllerMove> soundingMoves(Clip clip, Layer layer) {
    if (layer.moves().isEmpty()) {
      return List.of();
    }
    Set<Long> out =
        clip.layers().stream()
            .map(Layer::movesOut)
            .flatMap(List::stream)
            .collect(Collectors.toSet());
    return out.isEmpty()
        ? layer.moves()
        : layer.moves().stream().filter(move -> !out.contains(move.id())).toList();
  }

  /** [kind, number, place, value], as the plan has them. */
  private static void move(ArrayNode row, ControllerMove move) {
    row.add(move.controller().kind().ordinal())
        .add(move.controller().number())
        .add(move.place())
        .add(move.value());
  }

  /** [id, pitch, velocity, meant onset, length, 1 if held], in material ticks. */
  private static void note(ArrayNode row, Note note) {
    row.add(note.id())
        .add(note.pitch())
        .add(note.velocity())
        .add(note.meant())
        .add(note.length())
        .add(note.held() ? 1 : 0);
  }
}
