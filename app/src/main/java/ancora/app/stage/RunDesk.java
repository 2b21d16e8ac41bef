package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.app.store.RunStore;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.file.Arranging;
import ancora.core.plan.Plan;
import ancora.core.rules.Command;
import ancora.core.run.From;
import ancora.core.run.Hearing;
import ancora.core.run.LaidOut;
import ancora.core.run.Passage;
import ancora.core.run.Round;
import ancora.core.run.Run;
import ancora.core.run.RunEdit;
import ancora.core.run.RunHistory;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.run.Stood;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What pages ask of the runs of a show: to hear, cut and name them. It is answered on a thread of
 * its own, since runs may be long, and the database slow; what is heard the stage reads as it
 * stands.
 */
final class RunDesk {

  /**
   * So long after it is asked for it is heard: pages take in its plan meanwhile, in microseconds.
   */
  private static final long SOON = 400_000;

  /** A run is drawn with no more notes of hands than these, in each part. */
  private static final int MOST_DRAWN = 4_000;

  private final long showId;
  private final RunStore runs;
  private final Consumer<ObjectNode> tellAll;

  /** The run that was asked for last: it is not read again for each edit. */
  private Optional<RunStore.Kept> open = Optional.empty();

  private volatile Optional<Heard> heard = Optional.empty();
  private volatile Optional<Planned> planned = Optional.empty();

  /**
   * A run that is heard.
   *
   * @param run its number
   * @param words what pages are told of it
   * @param over the instant at which it is over
   */
  private record Heard(int run, Hearing hearing, ObjectNode words, long over) {}

  RunDesk(long showId, RunStore runs, Consumer<ObjectNode> tellAll) {
    this.showId = showId;
    this.runs = runs;
    this.tellAll = tellAll;
  }

  /** What is heard of a run, if one is; nothing while the stage rolls. */
  Optional<Plan> plan(Stage stage) {
    Optional<Hearing> now = heard.map(Heard::hearing);
    if (now.isEmpty() || stage.map().isPresent()) {
      return Optional.empty();
    }
    return Optional.of(planned(now.get(), stage.show()).plan());
  }

  private Planned planned(Hearing hearing, Show show) {
    Optional<Planned> known = planned.filter(p -> p.hearing == hearing && p.show == show);
    Planned now = known.orElseGet(() -> new Planned(hearing, show, hearing.plan(show)));
    planned = Optional.of(now);
    return now;
  }

  /** A run is planned anew only where it, or the show, is another. */
  private record Planned(Hearing hearing, Show show, Plan plan) {}

  /**
   * A message of a page.
   *
   * @param apply does a command in the show
   * @return what the page alone is told
   */
  Optional<ObjectNode> answer(JsonNode ask, Stage stage, long now, Consumer<Command> apply) {
    if (ask.has("list")) {
      return Optional.of(Messages.of("runs", runs.cards(showId)));
    }
    if (ask.has("open")) {
      return Optional.of(view(kept(CommandJson.integer(ask, "open"))));
    }
    if (ask.has("silence")) {
      silence();
    } else if (ask.has("hear")) {
      hear(ask, stage, now);
    } else if (ask.has("round")) {
      round(ask.get("round"), stage.show(), now);
    } else if (ask.has("edit")) {
      edit(CommandJson.integer(ask, "edit"), ask.get("by"), stage.show());
    } else if (ask.has("undo")) {
      int id = CommandJson.integer(ask, "undo");
      saved(id, kept(id).history().undo());
    } else if (ask.has("redo")) {
      int id = CommandJson.integer(ask, "redo");
      saved(id, kept(id).history().redo());
    } else if (ask.has("rename")) {
      int id = CommandJson.integer(ask, "rename");
      runs.rename(showId, id, CommandJson.text(ask, "name"));
      open = Optional.empty();
      tellList();
    } else if (ask.has("delete")) {
      delete(CommandJson.integer(ask, "delete"));
    } else if (ask.has("form")) {
      layOut(stage.show(), now);
    } else if (ask.has("toShelf")) {
      toShelf(ask, stage.show(), apply);
    } else {
      throw new Refusal("That message is not understood: reload the page.");
    }
    return Optional.empty();
  }

  /** The stage rolls: the run is heard no more. */
  void rolls() {
    if (heard.isPresent()) {
      silence();
    }
  }

  /** The instant at which what is heard is over. */
  Optional<Long> over() {
    return heard.map(Heard::over);
  }

  /** What a page that comes in is told of what is heard. */
  Optional<ObjectNode> heard() {
    return heard.map(Heard::words);
  }

  void silence() {
    heard = Optional.empty();
    tellAll.accept(Messages.of("hearing", JsonNodeFactory.instance.nullNode()));
  }

  private void hear(JsonNode ask, Stage stage, long now) {
    Refusal.unless(stage.isStill(), "Stop first: a run is heard while the stage stands still.");
    int id = CommandJson.integer(ask, "hear");
    Run run = kept(id).history().run();
    long bar = run.meter().barTicks();
    long from = (CommandJson.integer(ask, "bar") - 1L) * bar;
    hear(id, Hearing.of(run, from, stretch(ask.path("round"), run), now + SOON), stage.show());
  }

  private void hear(int id, Hearing hearing, Show show) {
    planned(hearing, show);
    long over = (long) Math.ceil(hearing.map(hearing.heard()).microsOf(hearing.until()));
    ObjectNode words = words(id, hearing);
    heard = Optional.of(new Heard(id, hearing, words, over));
    tellAll.accept(words);
  }

  private void round(JsonNode round, Show show, long now) {
    Heard is =
        heard.orElseThrow(() -> new Refusal("No run is heard: hear one, then it goes round."));
    Hearing hearing = is.hearing();
    long soon = hearing.map(hearing.heard()).tickAt(now + SOON / 2.0);
    long tick = Math.max(hearing.from(), soon);
    boolean here = HERE.equals(round.stringValue());
    hear(
        is.run(),
        here ? hearing.roundHere(tick) : hearing.round(stretch(round, hearing.run()), tick),
        show);
  }

  /** The bar that is heard goes round, or no more. */
  private static final String HERE = "here";

  /** [first bar, bar after the last], or nothing. */
  private static Optional<Hearing.Excerpt> stretch(JsonNode round, Run run) {
    if (!round.isArray()) {
      return Optional.empty();
    }
    Refusal.unless(
        round.size() == 2 && round.get(0).isInt() && round.get(1).isInt(),
        "A run goes round between two bars.");
    long bar = run.meter().barTicks();
    long from = Math.max(run.from(), (round.get(0).intValue() - 1L) * bar);
    long until = Math.min(run.until(), (round.get(1).intValue() - 1L) * bar);
    return Optional.of(new Hearing.Excerpt(from, until));
  }

  private void edit(int id, JsonNode by, Show show) {
    Refusal.unless(by != null && by.isObject(), "That says nothing of what is to be done.");
    RunEdit edit =
        by.path("by").asString("").equals("giveClip")
            ? new RunEdit.GiveClip(
                CommandJson.integer(by, "passage"), clip(show, CommandJson.integer(by, "clip")))
            : CoreJson.read(by, RunEdit.class);
    saved(id, kept(id).history().with(edit));
  }

  private static Clip clip(Show show, int id) {
    return show.parts().stream()
        .flatMap(part -> part.clip(new ClipId(id)).stream())
        .findFirst()
        .orElseThrow(() -> new Refusal("There is no such clip in this show."));
  }

  private void saved(int id, RunHistory history) {
    runs.save(showId, kept(id).card(), history);
    open = Optional.empty();
    tellAll.accept(view(kept(id)));
    tellList();
    silence(id);
  }

  /** If it is this run that is heard. */
  private void silence(int id) {
    if (heard.filter(h -> h.run() == id).isPresent()) {
      silence();
    }
  }

  private void delete(int id) {
    runs.delete(showId, id);
    open = Optional.empty();
    silence(id);
    tellList();
  }

  private void layOut(Show show, long now) {
    Run run = LaidOut.form(show);
    runs.add(showId, runs.nextId(showId), now, "The form", RunHistory.of(run));
    tellList();
  }

  private void toShelf(JsonNode ask, Show show, Consumer<Command> apply) {
    Run run = kept(CommandJson.integer(ask, "toShelf")).history().run();
    PartId part = new PartId(CommandJson.integer(ask, "part"));
    Arranging arranging =
        Arranging.stretch(
            run, part, CommandJson.integer(ask, "bar"), CommandJson.integer(ask, "bars"), show);
    apply.accept(arranging.bringIn());
  }

  private void tellList() {
    tellAll.accept(Messages.of("runs", runs.cards(showId)));
  }

  private RunStore.Kept kept(int id) {
    if (open.filter(k -> k.card().id() == id).isEmpty()) {
      open = Optional.of(runs.find(showId, id));
    }
    return open.get();
  }

  /** What is heard, with the times of its ticks, and which place of the run each is. */
  private static ObjectNode words(int id, Hearing heard) {
    ObjectNode node = JsonNodeFactory.instance.objectNode().put("run", id);
    Run run = heard.heard();
    TempoMap map = heard.map(run);
    node.set("anchors", StateJson.anchors(map));
    node.set("stood", RenderingJson.stood(Stood.of(run, map)));
    node.put("from", heard.from()).put("until", heard.until());
    ArrayNode stretches = node.putArray("stretches");
    heard.stretches().forEach(s -> stretches.addArray().add(s.from()).add(s.until()));
    long bar = run.meter().barTicks();
    heard
        .round()
        .ifPresent(
            lap ->
                node.putArray("round")
                    .add(Math.floorDiv(lap.from(), bar) + 1)
                    .add(1 - Math.floorDiv(-lap.until(), bar)));
    return Messages.of("hearing", node);
  }

  /** A run as it is drawn: passages as stretches, what hands played as notes. */
  private static ObjectNode view(RunStore.Kept kept) {
    Run run = kept.history().run();
    ObjectNode node = JsonNodeFactory.instance.objectNode().put("id", kept.card().id());
    node.put("name", kept.card().name());
    node.put("from", run.from()).put("until", run.until()).put("bars", run.bars());
    node.put("barTicks", run.meter().barTicks()).put("meter", run.meter().toString());
    List<RunEdit> done = kept.history().done();
    List<RunEdit> undone = kept.history().undone();
    node.put("undo", done.isEmpty() ? "" : done.get(done.size() - 1).words());
    node.put("redo", undone.isEmpty() ? "" : undone.get(undone.size() - 1).words());
    ArrayNode sections = node.putArray("sections");
    for (From.OfSection section : run.sections()) {
      sections
          .addObject()
          .put("tick", section.tick())
          .put("letter", section.letter())
          .put("name", section.name());
    }
    ArrayNode parts = node.putArray("parts");
    run.parts().forEach(part -> parts.add(part(part)));
    return Messages.of("run", node);
  }

  private static ObjectNode part(RunPart part) {
    ObjectNode node = JsonNodeFactory.instance.objectNode().put("id", part.id().value());
    node.put("name", part.name()).put("pennant", part.pennant());
    node.put("drums", part.sounds().get(0).sound().drums());
    ArrayNode passages = node.putArray("passages");
    for (Passage passage : part.passages()) {
      passages
          .addObject()
          .put("number", passage.number())
          .put("letter", passage.letter())
          .put("name", passage.name())
          .put("from", passage.from())
          .put("until", passage.until())
          .put("phase", passage.phase())
          .put("loop", passage.window().length())
          .put("passes", passage.passes())
          .set("rounds", rounds(passage));
    }
    ArrayNode hands = node.putArray("hands");
    List<RunNote> notes = new ArrayList<>(part.hands());
    notes.stream()
        .limit(MOST_DRAWN)
        .forEach(n -> hands.addArray().add(n.place()).add(n.pitch()).add(n.length()));
    return node;
  }

  /** What it sounded, passes that were alike once: at most so many notes are drawn. */
  private static ArrayNode rounds(Passage passage) {
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    int drawn = 0;
    for (Round round : Round.fold(passage)) {
      ArrayNode notes = JsonNodeFactory.instance.arrayNode();
      round.notes().stream()
          .limit(MOST_DRAWN - drawn)
          .forEach(n -> notes.addArray().add(n.place()).add(n.pitch()).add(n.length()));
      drawn += notes.size();
      rows.addObject().put("from", round.from()).put("times", round.times()).set("notes", notes);
      if (drawn == MOST_DRAWN) {
        break;
      }
    }
    return rows;
  }
}
