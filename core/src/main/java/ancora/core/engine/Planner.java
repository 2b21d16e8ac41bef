package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.ClickSpan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silence;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Way;
import ancora.core.show.Click;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * Makes the plan of what is to sound from the stage. A part of which nothing has changed is planned
 * as it was: a plan costs what has become of the stage since the one before.
 */
final class Planner {

  private final Map<PartId, Planned> planned = new HashMap<>();

  Plan plan(Stage stage) {
    long firstTick =
        stage.transport() instanceof Transport.Rolling rolling ? rolling.firstTick() : 0;
    planned.keySet().retainAll(stage.show().parts().stream().map(Part::id).toList());
    return new Plan(
        stage.map(),
        firstTick,
        stage.show().meter(),
        stage.show().click(),
        stage.map().isPresent() ? clickSpans(stage, firstTick) : List.of(),
        stage.hands().repeat(),
        Tolerances.RULES,
        stage.show().parts().stream().map(part -> partPlan(stage, part)).toList());
  }

  private PartPlan partPlan(Stage stage, Part part) {
    Planned before = planned.get(part.id());
    if (before != null && before.isOf(stage, part)) {
      return before.plan;
    }
    Planned now = new Planned(stage, part, planned(stage, part));
    planned.put(part.id(), now);
    return now.plan;
  }

  /**
   * What was planned for a part.
   *
   * @param stage the stage as it was
   * @param part the part as it was
   */
  private record Planned(Stage stage, Part part, PartPlan plan) {

    /** Whether all that a part's plan depends on is as it was; all of it is unchanging. */
    boolean isOf(Stage now, Part owner) {
      PartId id = part.id();
      return owner == part
          && now.on(id) == stage.on(id)
          && now.map().orElse(null) == stage.map().orElse(null)
          && now.show().meter().equals(stage.show().meter())
          && now.show().recording().equals(stage.show().recording())
          && now.hands().eraseOn(id).equals(stage.hands().eraseOn(id))
          && (now.on(id).change().isEmpty() || now.show().nextId() == stage.show().nextId());
    }
  }

  private static PartPlan planned(Stage stage, Part part) {
    List<Span> spans = new ArrayList<>();
    if (stage.map().isPresent()) {
      PartStage on = stage.on(part.id());
      on.left().ifPresent(left -> addLeft(spans, stage, part, left));
      on.vamp().ifPresent(vamp -> addVamp(spans, stage, part, on, vamp));
      on.first().ifPresent(first -> addClosing(spans, stage, part, on, first));
      on.cue().ifPresent(cue -> addCue(spans, stage, part, on, cue));
    }
    return new PartPlan(part.id(), part.sound(), spans);
  }

  private static void addLeft(List<Span> spans, Stage stage, Part part, Left left) {
    addSpans(
        spans,
        stage,
        part,
        left.vamp(),
        left.clip(),
        left.until(),
        left.letRing(),
        heardLive(left.vamp()),
        left.stutter());
  }

  /** What sounds, up to what comes next; and what becomes of it meanwhile. */
  private static void addVamp(
      List<Span> spans, Stage stage, Part part, PartStage on, Vamp entered) {
    Vamp vamp = entered;
    Clip clip = part.clipOf(vamp.clip());
    long leaves =
        Math.min(
            on.cue().map(Cue::at).orElse(Ticks.OPEN),
            on.first().map(FirstRecording::start).orElse(Ticks.OPEN));
    boolean letRing = part.leaving() == Leaving.LET_RING;
    addPickup(spans, part, vamp, clip);
    List<Becoming> becoming = becoming(stage, part.id(), leaves);
    for (Becoming next : becoming) {
      if (next.at > vamp.from()) {
        addNow(spans, stage, part, vamp, clip, next.at, next.rings || letRing);
      }
      Clip changed = next.clip.apply(clip);
      vamp = next.vamp.apply(vamp, clip, changed);
      clip = changed;
    }
    addNow(spans, stage, part, vamp, clip, leaves, letRing);
  }

  /**
   * What becomes of a clip that sounds.
   *
   * @param at from which tick on
   * @param rings whether what sounds goes on to its natural end
   * @param clip the clip after it
   * @param vamp where it stands then
   */
  private record Becoming(long at, boolean rings, UnaryOperator<Clip> clip, Standing vamp) {}

  @FunctionalInterface
  private interface Standing {
    Vamp apply(Vamp vamp, Clip before, Clip after);
  }

  private static List<Becoming> becoming(Stage stage, PartId part, long leaves) {
    PartStage on = stage.on(part);
    List<Becoming> all = new ArrayList<>();
    on.change()
        .filter(change -> change.at() < leaves)
        .ifPresent(
            change ->
                all.add(
                    new Becoming(
                        change.at(),
                        true,
                        clip -> changed(stage, part, clip, change),
                        change::of)));
    on.hears()
        .filter(hears -> hears.at() < leaves)
        .ifPresent(
            hears ->
                all.add(
                    new Becoming(
                        hears.at(),
                        false,
                        clip -> clip.withHeard(hears.take()),
                        (vamp, before, after) -> hears.of(vamp, before))));
    all.sort(Comparator.comparingLong(Becoming::at));
    return all;
  }

  /** Takes end where the window becomes too short for them, and one of them is heard. */
  private static Clip changed(Stage stage, PartId part, Clip clip, WindowChange change) {
    Clip changed = change.of(clip, stage.show().nextId());
    boolean ends =
        stage
                .on(part)
                .open()
                .filter(r -> r.way() == Way.TAKES && r.clip().equals(clip.id()))
                .isPresent()
            && Recordings.isShort(stage, changed)
            && !Recordings.isShort(stage, clip);
    return ends
        ? change.of(
            Recordings.end(stage, part, change.at()).clip(part, clip.id()), stage.show().nextId())
        : changed;
  }

  /** A clip as it sounds now, up to a tick. */
  private static void addNow(
      List<Span> spans, Stage stage, Part part, Vamp vamp, Clip clip, long until, boolean letRing) {
    Map<Long, Silence> silences = Silences.of(stage, part.id(), vamp, clip);
    Optional<Stutter> stutter = stage.on(part.id()).stutter();
    addSpans(spans, stage, part, vamp, clip, until, letRing, silences, stutter);
  }

  /** A clip as it sounds up to a tick; while it stutters, in pieces. */
  private static void addSpans(
      List<Span> spans,
      Stage stage,
      Part part,
      Vamp entered,
      Clip clip,
      long until,
      boolean letRing,
      Map<Long, Silence> silences,
      Optional<Stutter> stuttered) {
    Optional<Stutter> stutter =
        stuttered.filter(s -> s.from() < until && s.until() > entered.from());
    Vamp vamp =
        stutter
            .filter(s -> s.inStep() > entered.from())
            .map(s -> inStep(entered, clip, s.inStep()))
            .orElse(entered);
    if (stutter.isEmpty()) {
      spans.add(span(stage, part, vamp, clip, until, letRing, silences));
      return;
    }
    long from = Math.max(vamp.from(), stutter.get().from());
    long end = Math.min(until, stutter.get().until());
    if (from > vamp.from()) {
      spans.add(span(stage, part, vamp, clip, from, true, silences));
    }
    if (end > from) {
      spans.add(stuttering(stage, part, vamp, clip, stutter.get(), from, end, silences));
    }
    if (until > end) {
      spans.add(span(stage, part, inStep(vamp, clip, end), clip, until, letRing, silences));
    }
  }

  /** A clip that sounds in step from a tick on, where it stood all the time. */
  private static Vamp inStep(Vamp vamp, Clip clip, long tick) {
    return vamp.withFrom(tick, new Vamp.Entry(0, clip.manner().underWay(), false));
  }

  private static Span stuttering(
      Stage stage,
      Part part,
      Vamp vamp,
      Clip clip,
      Stutter stutter,
      long from,
      long until,
      Map<Long, Silence> silences) {
    long place = vamp.placeAt(stutter.start(), clip.window());
    long length = Math.min(stutter.length(), clip.window().end() - place);
    LoopWindow piece = new LoopWindow(place, length);
    List<PlannedNote> notes =
        PassPlan.of(clip, stage.show().meter().beatTicks(), silences).stream()
            .filter(note -> piece.contains(note.place()))
            .map(note -> note.within(length))
            .toList();
    return new Span(
        id(part, vamp) + "/stutter" + from,
        piece,
        stutter.start(),
        from,
        until,
        false,
        true,
        notes,
        Silences.moves(stage, part.id(), vamp, clip).stream()
            .filter(move -> piece.contains(move.place()))
            .toList());
  }

  /** A recording that is closing sounds from its line on, unless something else enters there. */
  private static void addClosing(
      List<Span> spans, Stage stage, Part part, PartStage on, FirstRecording first) {
    long leaves = on.cue().map(Cue::at).orElse(Ticks.OPEN);
    boolean silent = first.then() == AfterClosing.TAKES;
    if (!first.isClosing() || leaves <= first.until() || silent) {
      return;
    }
    FirstRecording.Closed closed = FirstRecordings.closed(stage, part.id(), false);
    closed
        .clip()
        .ifPresent(
            clip -> {
              Vamp vamp =
                  Vamp.of(first.clip(), first.start(), first.until()).withHeard(closed.heard());
              boolean rings = part.leaving() == Leaving.LET_RING;
              spans.add(span(stage, part, vamp, clip, leaves, rings, heardLive(vamp)));
            });
  }

  private static void addCue(List<Span> spans, Stage stage, Part part, PartStage on, Cue cue) {
    cue.clip()
        .flatMap(part::clip)
        .ifPresent(
            clip -> {
              Vamp vamp = Vamp.of(clip.id(), cue.phase(), cue.at()).withEntry(cue.entry());
              addPickup(spans, part, vamp, clip);
              spans.add(span(stage, part, vamp, clip, Ticks.OPEN, false, Map.of()));
            });
  }

  /** The material before the window sounds once, and rings into the loop. */
  private static void addPickup(List<Span> spans, Part part, Vamp vamp, Clip clip) {
    long pickup = vamp.entry().pickup();
    if (pickup == 0) {
      return;
    }
    spans.add(
        new Span(
            id(part, vamp) + "/pickup",
            new LoopWindow(clip.window().start() - pickup, pickup),
            vamp.from() - pickup,
            vamp.from() - pickup,
            vamp.from(),
            false,
            true,
            PassPlan.pickup(clip, pickup),
            List.of()));
  }

  private static Span span(
      Stage stage,
      Part part,
      Vamp vamp,
      Clip clip,
      long until,
      boolean letRing,
      Map<Long, Silence> silences) {
    return new Span(
        id(part, vamp),
        clip.window(),
        vamp.phase(),
        vamp.from(),
        until,
        vamp.entry().underWay(),
        letRing,
        PassPlan.of(clip, stage.show().meter().beatTicks(), silences),
        Silences.moves(stage, part.id(), vamp, clip));
  }

  private static Map<Long, Silence> heardLive(Vamp vamp) {
    Map<Long, Silence> silences = new TreeMap<>();
    vamp.heard().forEach((id, tick) -> silences.put(id, Silence.through(tick)));
    return silences;
  }

  private static String id(Part part, Vamp vamp) {
    return part.id().value() + "/" + vamp.clip().value() + "/" + vamp.from();
  }

  /** The count-in always clicks, even where the click is off: it is what one plays to. */
  private static List<ClickSpan> clickSpans(Stage stage, long firstTick) {
    Click click = stage.show().click();
    List<ClickSpan> spans = new ArrayList<>();
    if (firstTick < 0) {
      spans.add(new ClickSpan(firstTick, 0));
    }
    if (click.on() && click.when() == Click.When.ALWAYS) {
      spans.add(new ClickSpan(0, Ticks.OPEN));
    }
    if (click.on() && click.when() == Click.When.RECORDING) {
      spans.addAll(recordingSpans(stage));
    }
    return spans;
  }

  private static List<ClickSpan> recordingSpans(Stage stage) {
    List<ClickSpan> spans = new ArrayList<>();
    stage
        .partStages()
        .values()
        .forEach(
            on -> {
              on.first().ifPresent(f -> spans.add(new ClickSpan(f.start(), f.until())));
              on.recording().ifPresent(r -> spans.add(new ClickSpan(r.since(), r.until())));
            });
    return together(spans);
  }

  /** Where several record at once the click sounds once. */
  private static List<ClickSpan> together(List<ClickSpan> spans) {
    List<ClickSpan> sorted = new ArrayList<>(spans);
    sorted.sort(Comparator.comparingLong(ClickSpan::from).thenComparingLong(ClickSpan::until));
    List<ClickSpan> joined = new ArrayList<>();
    for (ClickSpan span : sorted) {
      ClickSpan last = joined.isEmpty() ? null : joined.get(joined.size() - 1);
      if (last != null && span.from() <= last.until()) {
        joined.set(
            joined.size() - 1, new ClickSpan(last.from(), Math.max(last.until(), span.until())));
      } else if (span.until() > span.from()) {
        joined.add(span);
      }
    }
    return joined;
  }
}
