package ancora.core.planner;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silencing;
import ancora.core.plan.Span;
import ancora.core.plan.Turning;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.Way;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.recording.TakesOver;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import ancora.core.vamp.Breather;
import ancora.core.vamp.Cue;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.ShortLoop;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** The stretches of time in which one part sounds its clips, as things stand. */
final class Spans {

  private final Stage stage;
  private final Part part;
  private final PartStage on;
  private final Map<String, PassPlan> before;
  private final Map<String, PassPlan> passes = new HashMap<>();
  private final List<Span> spans = new ArrayList<>();

  private Spans(Stage stage, Part part, Map<String, PassPlan> before) {
    this.stage = stage;
    this.part = part;
    this.on = stage.on(part.id());
    this.before = before;
  }

  /**
   * The spans of a part.
   *
   * @param before passes that were planned before, by span: what has not changed is kept
   */
  static Spans of(Stage stage, Part part, Map<String, PassPlan> before) {
    Spans spans = new Spans(stage, part, before);
    if (stage.map().isPresent()) {
      spans.on.past().ifPresent(spans::addPast);
      spans.on.vamp().ifPresent(spans::addVamp);
      spans.on.first().ifPresent(spans::addClosing);
      spans.on.cue().ifPresent(spans::addCue);
    }
    return spans;
  }

  PartPlan plan() {
    return Turning.plan(part, spans);
  }

  /** The passes that were planned, by span. */
  Map<String, PassPlan> passes() {
    return passes;
  }

  private void addPast(PastVamp left) {
    Vamp vamp = left.vamp();
    Ending ending = new Ending(left.until(), left.letRing());
    add(vamp, left.clip(), ending, Silences.heardIn(vamp), left.stutter());
  }

  /**
   * How a span ends.
   *
   * @param until the first tick after it
   * @param rings whether its notes sound on to their natural end
   */
  private record Ending(long until, boolean rings) {}

  /** What sounds, up to what comes next; and what becomes of it meanwhile. */
  private void addVamp(Vamp entered) {
    Vamp vamp = entered;
    Clip clip = part.clipOf(vamp.clip());
    long leaves =
        Math.min(
            on.cue().map(Cue::at).orElse(Ticks.OPEN),
            on.first().map(FirstRecording::start).orElse(Ticks.OPEN));
    boolean letRing = part.leaving() == Leaving.LET_RING;
    addPickup(vamp, clip);
    for (ChangeAhead next : becoming(leaves)) {
      if (next.at > vamp.from()) {
        addNow(vamp, clip, new Ending(next.at, next.rings || letRing));
      }
      Clip changed = next.clip.apply(clip);
      vamp = next.vamp.apply(vamp, clip, changed);
      clip = changed;
    }
    addNow(vamp, clip, new Ending(leaves, letRing));
  }

  /**
   * What becomes of a clip that sounds.
   *
   * @param at from which tick on
   * @param rings whether what sounds goes on to its natural end
   * @param clip the clip after it
   * @param vamp where it stands then
   */
  private record ChangeAhead(long at, boolean rings, UnaryOperator<Clip> clip, VampAt vamp) {}

  @FunctionalInterface
  private interface VampAt {
    Vamp apply(Vamp vamp, Clip before, Clip after);
  }

  private List<ChangeAhead> becoming(long leaves) {
    List<ChangeAhead> all = new ArrayList<>();
    on.change()
        .filter(change -> change.at() < leaves)
        .ifPresent(
            change ->
                all.add(
                    new ChangeAhead(change.at(), true, clip -> changed(clip, change), change::of)));
    on.hears()
        .filter(hears -> hears.at() < leaves)
        .ifPresent(
            hears ->
                all.add(
                    new ChangeAhead(
                        hears.at(),
                        false,
                        clip -> clip.withHeard(hears.take()),
                        (vamp, before, after) -> hears.of(vamp, before))));
    all.sort(Comparator.comparingLong(ChangeAhead::at));
    return all;
  }

  /** Takes end where the window becomes too short for them, and one of them is heard. */
  private Clip changed(Clip clip, WindowChange change) {
    PartId id = part.id();
    long nextId = stage.show().nextId();
    Clip changed = change.of(clip, nextId);
    boolean ends =
        takesGoOn(clip) && Sounding.isShort(stage, changed) && !Sounding.isShort(stage, clip);
    return ends ? change.of(onceTakesEnd(clip, change.at()), nextId) : changed;
  }

  /** A clip as it sounds now. */
  private void addNow(Vamp vamp, Clip clip, Ending ending) {
    add(vamp, clip, ending, Silences.of(stage, part.id(), vamp, clip), on.stutter());
  }

  /** A clip as it sounds; while it stutters, in pieces. */
  private void add(
      Vamp entered, Clip clip, Ending ending, Silencing silencing, Optional<ShortLoop> stuttered) {
    long until = ending.until;
    Optional<ShortLoop> stutter =
        stuttered.filter(s -> s.from() < until && s.until() > entered.from());
    Vamp vamp =
        stutter
            .filter(s -> s.inStep() > entered.from())
            .map(s -> inStep(entered, clip, s.inStep()))
            .orElse(entered);
    if (stutter.isEmpty()) {
      addRound(vamp, clip, ending, silencing);
      return;
    }
    long from = Math.max(vamp.from(), stutter.get().from());
    long end = Math.min(until, stutter.get().until());
    if (from > vamp.from()) {
      addRound(vamp, clip, new Ending(from, true), silencing);
    }
    if (end > from) {
      spans.add(stuttering(vamp, clip, stutter.get(), from, end, silencing));
    }
    if (until > end) {
      addRound(inStep(vamp, clip, end), clip, ending, silencing);
    }
  }

  /**
   * A clip that goes round, and what it rests meanwhile. Where it begins to rest, and where it
   * rests no more, a whole pass is as it would be otherwise: what is planned anew begins after it,
   * so that a press that counts for a line just gone by changes nothing that has sounded.
   */
  private void addRound(Vamp vamp, Clip clip, Ending ending, Silencing silencing) {
    long loop = clip.window().length();
    long from = vamp.from();
    boolean takes =
        takesGoOn(clip) && on.hears().filter(hears -> hears.at() <= vamp.from()).isEmpty();
    for (Breather breather : breathers(vamp)) {
      long begins = breather.from() + loop;
      long ends = breather.isOpen() ? Ticks.OPEN : breather.until() + loop;
      if (ends <= from || begins >= ending.until) {
        continue;
      }
      if (begins > from) {
        spans.add(span(goingOn(vamp, from), clip, new Ending(begins, true), silencing));
        from = begins;
      }
      Ending rested = ends < ending.until ? new Ending(ends, true) : ending;
      boolean rests = breather.isOpen() && takes || !breather.soundsThrough(loop);
      spans.add(
          rests
              ? resting(goingOn(vamp, from), clip, breather, rested, silencing, takes)
              : span(goingOn(vamp, from), clip, rested, silencing));
      from = rested.until;
    }
    if (from < ending.until) {
      spans.add(span(goingOn(vamp, from), clip, ending, silencing));
    }
  }

  /** How a clip rests, the first first. */
  private static List<Breather> breathers(Vamp vamp) {
    List<Breather> all = new ArrayList<>();
    for (Optional<Breather> b = vamp.breather(); b.isPresent(); b = b.get().before()) {
      all.add(0, b.get());
    }
    return all;
  }

  /** A clip that has sounded before, from a tick on. */
  private static Vamp goingOn(Vamp vamp, long tick) {
    return vamp.from() == tick ? vamp : vamp.withFrom(tick, Vamp.Entry.inStep(false));
  }

  /** A loop that rests after each pass: it goes round in its length and the rest. */
  private Span resting(
      Vamp vamp, Clip clip, Breather breather, Ending ending, Silencing silencing, boolean takes) {
    LoopWindow window = clip.window();
    String id = id(vamp);
    PassPlan pass = pass(id, clip, silencing);
    List<PlannedNote> notes = new ArrayList<>();
    for (PlannedNote note : pass.notes()) {
      boolean holds = note.length() == PlannedNote.DRONE || note.length() >= window.length();
      notes.add(holds ? note.within(window.end() - note.place()) : note);
    }
    if (takes && breather.soundsThrough(window.length())) {
      Clip heard = TakesOver.wouldBeHeard(stage, part.id(), clip);
      List<PlannedNote> through = pass(id + "/through", heard, Silences.heardIn(vamp)).notes();
      for (long later = window.length(); later <= breather.ticks(); later += window.length()) {
        for (PlannedNote note : through) {
          notes.add(note.within(window.length()).again(later));
        }
      }
    }
    return new Span(
        id,
        vamp.clip(),
        new LoopWindow(window.start(), window.length() + breather.ticks()),
        breather.from(),
        vamp.from(),
        ending.until,
        vamp.entry().underWay(),
        ending.rings,
        notes,
        Silences.moves(stage, part.id(), vamp, clip, pass.moves()));
  }

  /** A clip that sounds in step from a tick on, where it stood all the time. */
  private static Vamp inStep(Vamp vamp, Clip clip, long tick) {
    return vamp.withFrom(tick, Vamp.Entry.inStep(clip.manner().underWay()));
  }

  private Span stuttering(
      Vamp vamp, Clip clip, ShortLoop stutter, long from, long until, Silencing silencing) {
    LoopWindow window = clip.window();
    LoopWindow piece = new LoopWindow(vamp.in(window).placeAt(stutter.start()), stutter.length());
    String id = id(vamp) + "/stutter" + from;
    PassPlan pass = pass(id, clip, silencing);
    List<PlannedNote> notes = new ArrayList<>();
    List<ControllerMove> moves = new ArrayList<>();
    // a beat of the transport may reach over the loop's line
    for (long later = 0; window.start() + later < piece.end(); later += window.length()) {
      for (PlannedNote note : pass.notes()) {
        if (piece.contains(note.place() + later)) {
          notes.add((later == 0 ? note : note.again(later)).within(piece.length()));
        }
      }
      for (ControllerMove move : Silences.moves(stage, part.id(), vamp, clip, pass.moves())) {
        if (piece.contains(move.place() + later)) {
          moves.add(move.withPlace(move.place() + later));
        }
      }
    }
    return new Span(
        id, vamp.clip(), piece, stutter.start(), from, until, false, true, notes, moves);
  }

  /** A recording that is closing sounds from its line on, unless something else enters there. */
  private void addClosing(FirstRecording first) {
    long leaves = on.cue().map(Cue::at).orElse(Ticks.OPEN);
    if (!first.isClosing() || leaves <= first.until()) {
      return;
    }
    FirstRecording.Closed closed = FirstRecordings.closed(stage, part.id(), false, false);
    closed
        .clip()
        .ifPresent(
            clip -> {
              Vamp vamp = FirstRecordings.vamp(stage, part.id(), first, closed);
              boolean rings = part.leaving() == Leaving.LET_RING;
              if (first.then() != AfterClosing.TAKES) {
                addRound(vamp, clip, new Ending(leaves, rings), Silences.heardIn(vamp));
              } else if (vamp.breather()
                  .filter(b -> b.soundsThrough(clip.window().length()))
                  .isPresent()) {
                long rested = vamp.in(clip.window()).lineFrom(first.until());
                Ending ending = new Ending(Math.min(leaves, rested), true);
                spans.add(span(vamp, clip, ending, Silences.heardIn(vamp)));
              }
            });
  }

  private void addCue(Cue cue) {
    cue.clip()
        .flatMap(part::clip)
        .map(clip -> isVamping(clip) ? become(clip, cue.at()) : clip)
        .ifPresent(
            clip -> {
              Vamp vamp = Vamp.of(clip.id(), cue.phase(), cue.at()).withEntry(cue.entry());
              addPickup(vamp, clip);
              spans.add(span(vamp, clip, new Ending(Ticks.OPEN, false), Silencing.NONE));
            });
  }

  private boolean isVamping(Clip clip) {
    return on.vamp().filter(vamp -> vamp.clip().equals(clip.id())).isPresent();
  }

  /** What has become by a tick of a clip that vamps, and enters once more there. */
  private Clip become(Clip clip, long at) {
    Clip changed =
        on.change().filter(c -> c.at() <= at).map(change -> changed(clip, change)).orElse(clip);
    Clip ended = onceTakesEnd(changed, at);
    return on.hears()
        .filter(hears -> hears.at() <= at)
        .map(hears -> ended.withHeard(hears.take()))
        .orElse(ended);
  }

  /** A clip that enters once more ends the takes of it that go on: one of them is heard. */
  private Clip onceTakesEnd(Clip clip, long at) {
    return takesGoOn(clip) ? Endings.end(stage, part.id(), at).clip(part.id(), clip.id()) : clip;
  }

  private boolean takesGoOn(Clip clip) {
    return on.open().filter(r -> r.way() == Way.TAKES && r.clip().equals(clip.id())).isPresent();
  }

  /** The material before the window sounds once, and rings into the loop. */
  private void addPickup(Vamp vamp, Clip clip) {
    long pickup = vamp.entry().pickup();
    if (pickup == 0) {
      return;
    }
    spans.add(
        new Span(
            id(vamp) + "/pickup",
            vamp.clip(),
            new LoopWindow(clip.window().start() - pickup, pickup),
            vamp.from() - pickup,
            vamp.from() - pickup,
            vamp.from(),
            false,
            true,
            PassPlan.pickup(clip, pickup),
            List.of()));
  }

  private Span span(Vamp vamp, Clip clip, Ending ending, Silencing silencing) {
    String id = id(vamp);
    PassPlan pass = pass(id, clip, silencing);
    return new Span(
        id,
        vamp.clip(),
        clip.window(),
        breathers(vamp).stream().anyMatch(b -> vamp.from() >= b.from())
            ? vamp.in(clip.window()).lineBy(vamp.from())
            : vamp.phase(),
        vamp.from(),
        ending.until,
        vamp.entry().underWay(),
        ending.rings,
        pass.notes(),
        Silences.moves(stage, part.id(), vamp, clip, pass.moves()));
  }

  private PassPlan pass(String span, Clip clip, Silencing silencing) {
    long beat = stage.show().meter().beatTicks();
    PassPlan known = before.get(span);
    PassPlan pass =
        known == null ? PassPlan.of(clip, beat, silencing) : known.next(clip, beat, silencing);
    passes.put(span, pass);
    return pass;
  }

  private String id(Vamp vamp) {
    String stands = part.id().value() + "/" + vamp.clip().value() + "/" + vamp.from();
    // a take that is chosen late enters anew where another one stood, be it at the same tick
    return vamp.entry().take() == 0 ? stands : stands + "/" + vamp.entry().take();
  }
}
