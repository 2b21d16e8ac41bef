package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.run.Replay;
import ancora.core.run.Sounded;
import ancora.core.show.LengthRule;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.Tuple;

/** Rule 16: what always holds, over random performances, senseless commands among them. */
class AlwaysHoldsTest {

  /**
   * Something done in a performance.
   *
   * @param pause microseconds since what was done before
   * @param late how much later than its stamp it arrives, in microseconds
   */
  record Act(long pause, long late, Command command) {}

  /** What came out of a performance. */
  record Performed(Stage stage, List<Outcome> outcomes, int noteOns) {}

  @Provide
  Arbitrary<List<Act>> performances() {
    InputKey[] keys = {
      new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60)
    };
    Arbitrary<Command> command =
        Arbitraries.frequencyOf(
            Tuple.of(
                14,
                Combinators.combine(Arbitraries.of(keys), Arbitraries.integers().between(0, 127))
                    .as(Command.KeyDown::new)),
            Tuple.of(12, Arbitraries.of(keys).map(Command.KeyUp::new)),
            Tuple.of(8, Arbitraries.just(new Command.MainPress())),
            Tuple.of(
                4,
                Arbitraries.of(
                    new Command.Peel(),
                    new Command.Restore(),
                    new Command.PeelAll(),
                    new Command.Clear(),
                    new Command.Undo(),
                    new Command.Redo(),
                    new Command.TapTempo(),
                    new Command.Start(),
                    new Command.Panic(),
                    new Command.DeviceGone("keys"),
                    new Command.Arm(new PartId(1)),
                    new Command.Arm(new PartId(2)),
                    new Command.Arm(new PartId(99)))),
            Tuple.of(1, Arbitraries.just(new Command.Stop())),
            Tuple.of(
                2,
                Arbitraries.integers()
                    .between(40_000, 300_000)
                    .map(milli -> new Command.SetTempo(new Tempo(milli)))),
            Tuple.of(
                1,
                Arbitraries.of(Grid.values())
                    .map(g -> new Command.SetInputGrid(new PartId(1), InputGrid.of(g)))),
            Tuple.of(
                1,
                Combinators.combine(
                        Arbitraries.of(EntryUnit.values()),
                        Arbitraries.of(LengthRule.values()),
                        Arbitraries.integers().between(0, 2),
                        Arbitraries.of(true, false))
                    .as(
                        (unit, rule, bars, flag) ->
                            new Command.SetRecording(
                                RecordingSettings.DEFAULT
                                    .withEntersOn(unit)
                                    .withLengthRule(rule)
                                    .withCountInBars(bars)
                                    .withOverdubAfter(flag)
                                    .withFromFirstNote(flag)))));
    return Combinators.combine(
            Arbitraries.longs().between(0, 900_000),
            Arbitraries.longs().between(0, 60_000),
            command)
        .as(Act::new)
        .list()
        .ofMinSize(5)
        .ofMaxSize(160);
  }

  private static Performed perform(List<Act> acts, boolean tickOver) {
    Engine engine =
        Engine.of(
            Show.named("random")
                .withNewPart("Kit", Sound.STANDARD_KIT)
                .withNewPart("Bass", Sound.of(33)));
    List<Outcome> outcomes = new ArrayList<>();
    long now = 5_000_000;
    int noteOns = 0;
    for (Act act : acts) {
      if (tickOver) {
        for (long t = now; t < now + act.pause(); t += 50_000) {
          engine.advance(t);
        }
      }
      now += act.pause();
      Stage before = engine.stage();
      Outcome outcome = engine.apply(act.command(), now - act.late(), now);
      outcomes.add(outcome);
      if (outcome instanceof Outcome.Refused && !tickOver) {
        assertThat(engine.stage().show().parts()).hasSize(before.show().parts().size());
      }
      if (act.command() instanceof Command.KeyDown down
          && down.velocity() > 0
          && outcome instanceof Outcome.Done) {
        noteOns++;
      }
      checkAlways(engine);
    }
    return new Performed(engine.stage(), outcomes, noteOns);
  }

  private static void checkAlways(Engine engine) {
    Stage stage = engine.stage();
    Meter meter = stage.show().meter();
    Set<Long> ids = new HashSet<>();
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        // 16.5: a clip's length is a positive multiple of its unit
        assertThat(clip.window().length()).isPositive();
        assertThat(clip.window().length() % meter.beatTicks()).isZero();
        assertThat(clip.layers()).isNotEmpty();
        // a note-on is recorded in one clip only
        clip.layers().forEach(l -> l.notes().forEach(n -> assertThat(ids.add(n.id())).isTrue()));
      }
    }
    for (var part : engine.plan().parts()) {
      for (Span span : part.spans()) {
        long place = Long.MIN_VALUE;
        for (PlannedNote note : span.notes()) {
          assertThat(note.place()).isGreaterThanOrEqualTo(place);
          assertThat(span.window().contains(note.place())).isTrue();
          assertThat(note.length() == PlannedNote.DRONE || note.length() >= 1).isTrue();
          assertThat(note.length()).isLessThanOrEqualTo(span.window().length());
          place = note.place();
        }
      }
    }
  }

  /** 16.7: the same journal gives the same state, however often time is told in between. */
  @Property(tries = 150)
  void theSamePerformanceGivesTheSameStage(@ForAll("performances") List<Act> acts) {
    Performed once = perform(acts, false);
    Performed again = perform(acts, true);
    assertThat(again.outcomes()).isEqualTo(once.outcomes());
    assertThat(again.stage()).isEqualTo(once.stage());
  }

  /**
   * 16.1: every note-on that is sent has exactly one note-off; after stop and panic none is left.
   */
  @Property(tries = 150)
  void everyNoteOnHasOneNoteOff(@ForAll("performances") List<Act> acts) {
    Replay replay = replay(acts);
    long end = 500_000_000;
    replay.apply(new Command.Stop(), end, end);
    replay.apply(new Command.Panic(), end + 1, end + 1);
    Map<List<Integer>, Integer> open = new HashMap<>();
    for (Sounded s : replay.sounded()) {
      if (!s.isClick()) {
        int change = s.kind() == Sounded.Kind.ON ? 1 : -1;
        int now = open.merge(List.of(s.part().value(), s.pitch()), change, Integer::sum);
        assertThat(now).as("%s", s).isBetween(0, 1);
      }
    }
    assertThat(open.values()).allMatch(count -> count == 0);
  }

  /** 16.3: in a steady loop each loop note sounds once a pass; a drone never again. */
  @Property(tries = 100)
  void inASteadyLoopEachNoteSoundsOnceAPass(@ForAll("performances") List<Act> acts) {
    Replay replay = replay(acts);
    long now = 300_000_000;
    replay.apply(new Command.Panic(), now, now);
    if (replay.stage().map().isEmpty()) {
      return;
    }
    // far beyond what was played last, so that nothing waits for its pass any more
    replay.advance(now + 400_000_000);
    int before = replay.sounded().size();
    var plan = Engine.of(replay.stage()).plan();
    var map = replay.stage().map().orElseThrow();
    long from = map.tickAt(now + 400_000_000);
    long longest = 64 * 3840 * 2;
    replay.advance(Math.round(map.microsOf(from + longest)));
    List<Sounded> steady = replay.sounded().subList(before, replay.sounded().size());
    for (var part : plan.parts()) {
      for (Span span : part.spans()) {
        for (PlannedNote note : span.notes()) {
          long passes = longest / span.window().length();
          long heard =
              steady.stream()
                  .filter(
                      s ->
                          s.part().equals(part.part())
                              && s.kind() == Sounded.Kind.ON
                              && s.pitch() == note.pitch()
                              && Math.floorMod(s.tick() - span.phase(), span.window().length())
                                  == note.place() - span.window().start())
                  .count();
          if (note.length() == PlannedNote.DRONE) {
            assertThat(heard).isZero();
          } else {
            // one that is tied need not be attacked
            assertThat(heard).isBetween(note.tied() ? 0 : passes - 1, passes + 1);
          }
        }
      }
    }
  }

  private static Replay replay(List<Act> acts) {
    Replay replay =
        Replay.of(
            Stage.of(
                Show.named("random")
                    .withNewPart("Kit", Sound.STANDARD_KIT)
                    .withNewPart("Bass", Sound.of(33))));
    long now = 5_000_000;
    for (Act act : acts) {
      now += act.pause();
      replay.apply(act.command(), now - act.late(), now);
    }
    return replay;
  }

  /** 16.8: each note-on received is in hindsight, and marked if a clip has it. */
  @Property(tries = 150)
  void nothingPlayedIsLost(@ForAll("performances") List<Act> acts) {
    Performed performed = perform(acts, false);
    Set<Long> remembered = new HashSet<>();
    for (Part part : performed.stage().show().parts()) {
      performed
          .stage()
          .on(part.id())
          .hindsight()
          .notes()
          .forEach(played -> assertThat(remembered.add(played.noteId())).isTrue());
    }
    // a bounce is counted as a note-on here, and is one note there
    assertThat(remembered.size()).isLessThanOrEqualTo(performed.noteOns());
    performed.stage().show().parts().stream()
        .flatMap(part -> part.shelf().stream())
        .flatMap(Clip::notes)
        .map(Note::id)
        .forEach(id -> assertThat(remembered).contains(id));
  }

  /** 16.4: the transport's tick never runs backwards or skips while it runs. */
  @Property(tries = 100)
  void timeNeverRunsBackwards(@ForAll("performances") List<Act> acts) {
    Engine engine = Engine.of(Show.named("random").withNewPart("Kit", Sound.STANDARD_KIT));
    engine.apply(new Command.Start(), 0, 0);
    long now = 0;
    double tick = engine.stage().map().orElseThrow().exactTickAt(0);
    for (Act act : acts) {
      now += act.pause();
      if (!(act.command() instanceof Command.Stop)) {
        engine.apply(act.command(), now - act.late(), now);
      }
      if (engine.stage().map().isEmpty()) {
        return;
      }
      double next = engine.stage().map().get().exactTickAt(now);
      assertThat(next).isGreaterThanOrEqualTo(tick - 1e-6);
      tick = next;
    }
  }

  /** 16.6: peel and restore are exact inverses. */
  @Property(tries = 150)
  void peelAndRestoreAreInverses(@ForAll("performances") List<Act> acts) {
    Stage stage = perform(acts, false).stage();
    for (Part part : stage.show().parts()) {
      for (Clip clip : part.shelf()) {
        if (clip.layers().size() > 1) {
          assertThat(clip.peel().restore()).isEqualTo(clip);
        }
        if (!clip.peeled().isEmpty()) {
          assertThat(clip.restore().peel()).isEqualTo(clip);
        }
      }
    }
  }

  /** Rule 6: what a main press is forecast to do is what it does. */
  @Property(tries = 100)
  void theForecastIsWhatThePressDoes(@ForAll("performances") List<Act> acts) {
    Stage stage = perform(acts, false).stage();
    long now = 400_000_000;
    Engine engine = Engine.of(stage);
    engine.advance(now);
    MainPress.Decision forecast = engine.forecastMainPress(now).orElseThrow();
    engine.apply(new Command.MainPress(), now, now);
    PartStage after = engine.stage().on(forecast.part());
    switch (forecast.kind()) {
      case RECORD -> assertThat(after.first().orElseThrow().start()).isEqualTo(forecast.tick());
      case COUNT_IN -> assertThat(after.first().orElseThrow().start()).isZero();
      case CLOSE ->
          assertThat(after.first().map(f -> f.until() == forecast.tick()).orElse(true)).isTrue();
      case CALL_OFF_RECORDING -> {
        assertThat(after.first()).isEmpty();
        assertThat(after.overdub()).isEmpty();
      }
      case CALL_OFF_CLOSING -> assertThat(after.first().orElseThrow().isClosing()).isFalse();
      case OVERDUB, START_OVERDUB -> assertThat(after.overdubs(forecast.tick())).isTrue();
      case STOP_OVERDUB ->
          assertThat(after.overdub().orElseThrow().until()).isEqualTo(forecast.tick());
      case AWAIT_FIRST_NOTE ->
          assertThat(engine.stage().transport()).isInstanceOf(Transport.AwaitingFirstNote.class);
    }
  }
}
