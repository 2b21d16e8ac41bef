package ancora.bench;

import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.Onset;
import ancora.core.analysis.TempoFinder;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.engine.Engine;
import ancora.core.engine.Instead;
import ancora.core.engine.Outcome;
import ancora.core.history.History;
import ancora.core.note.Grid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silencing;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Level;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** What the engine takes for one note with its plan, and for what is large. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Fork(1)
@Warmup(iterations = 6, time = 1)
@Measurement(iterations = 4, time = 1)
public class EngineBench {

  private static final int CONTROLS = 40;
  private static final int PARTS = 16;
  private static final int CLIPS = 16;
  private static final int NOTES = 200;
  private static final int BIG_CLIP = 500;
  private static final int COMPED = 3600;
  private static final long LOOP = 15_360;
  private static final long LOOP_MICROS = 8_000_000;
  private static final int PASSES = 1000;

  private final Random random = new Random(1);
  private Stage full;
  private Stage afterPasses;
  private Stage asManyNotes;
  private Stage repeated;
  private Stage manySteps;
  private Stage takes;
  private Stage fewOfOnePitch;
  private Stage manyOfOnePitch;
  private Stage mostOfOnePitch;
  private Stage renamed;
  private Clip clip;
  private Engine engine;
  private long now;
  private int played;

  @Setup(Level.Trial)
  public void fill() {
    full = overdubbing(show(NOTES));
    afterPasses = after(full, PASSES);
    asManyNotes = overdubbing(show(NOTES + PASSES));
    repeated = repeating(full);
    manySteps = stepped(full);
    takes = overdubbing(twoTakes());
    clip = clip(1, "a", BIG_CLIP, 1);
    fewOfOnePitch = overdubbing(ofOnePitch(100));
    manyOfOnePitch = overdubbing(ofOnePitch(1500));
    mostOfOnePitch = overdubbing(ofOnePitch(3500));
    Engine naming = Engine.of(show(NOTES));
    PartId first = naming.stage().show().parts().get(0).id();
    naming.apply(new ShelfCommand.RenamePart(first, "Other"), 0, 0);
    renamed = naming.stage();
  }

  /** A part with a clip of 64 bars, whose notes have one pitch. */
  private static Show ofOnePitch(int many) {
    Show show =
        Show.named("kick")
            .withRecording(RecordingSettings.DEFAULT.withCountInBars(0))
            .withNewPart("Kit", Sound.STANDARD_KIT);
    long length = 16 * LOOP;
    List<Note> notes = new ArrayList<>();
    for (int i = 0; i < many; i++) {
      long onset = i * (length / many);
      notes.add(Note.of(1000 + i, 36, 90, onset, onset, 40));
    }
    Clip kick = Clip.of(new ClipId(900), "a", new LoopWindow(0, length), notes);
    return show.mapPart(show.parts().get(0).id(), part -> part.withClip(kick))
        .withNextId(1000 + many);
  }

  /** Sixteen parts of sixteen clips; the first part's first clip has as many notes as are asked. */
  private Show show(int notesOfFirst) {
    Show show = Show.named("full").withRecording(RecordingSettings.DEFAULT.withCountInBars(0));
    long id = 1000;
    for (int p = 0; p < PARTS; p++) {
      show = show.withNewPart("Part " + p, Sound.of(p));
      PartId part = show.parts().get(p).id();
      for (int c = 0; c < CLIPS; c++) {
        int notes = p + c == 0 ? notesOfFirst : NOTES;
        Clip made = clip((int) id++, String.valueOf((char) ('a' + c)), notes, id);
        id += notes;
        show = show.mapPart(part, owner -> owner.withClip(made));
      }
    }
    return show.withNextId(id);
  }

  private Show twoTakes() {
    Show show = show(COMPED);
    Part first = show.parts().get(0);
    Clip one = first.shelf().get(0);
    Clip other = clip(1, "z", COMPED, show.nextId());
    Take second = Take.of(2, other.take().layers());
    return show.withNextId(show.nextId() + COMPED)
        .mapPart(first.id(), part -> part.withClip(one.with(second)));
  }

  /** All parts sound, and overdub is on. */
  private static Stage overdubbing(Show show) {
    Engine starting = Engine.of(show);
    starting.apply(new PressCommand.Arm(show.parts().get(0).id()), 0, 0);
    for (Part part : show.parts()) {
      starting.apply(new CueCommand.CueClip(part.id(), part.shelf().get(0).id()), 0, 0);
    }
    starting.apply(new PressCommand.MainPress(), 0, 0);
    return starting.stage();
  }

  /** As many passes have gone by, in each of which a note was played. */
  private static Stage after(Stage stage, int passes) {
    Engine going = Engine.of(stage);
    for (int i = 0; i < passes; i++) {
      note(going, 40 + i % 40, i * LOOP_MICROS + 1_000_000);
    }
    return going.stage();
  }

  /** A key has been held for six seconds on a grid of thirty-seconds. */
  private static Stage repeating(Stage stage) {
    Engine going = Engine.of(stage);
    going.apply(new HandCommand.RepeatNotes(new NoteRepeat(Grid.THIRTY_SECOND, 50)), 0, 0);
    going.apply(new HandCommand.KeyDown(key(60), 90), 1_000_000, 1_000_000);
    going.advance(6_999_000);
    return going.stage();
  }

  /** A thousand steps of the performer can be undone. */
  private static Stage stepped(Stage stage) {
    Engine going = Engine.of(stage);
    PartId part = stage.show().parts().get(1).id();
    for (int i = 0; i < History.MOST; i++) {
      going.apply(new ShelfCommand.RenamePart(part, "Part " + i), 1000 + i, 1000 + i);
    }
    return going.stage();
  }

  /** Every iteration begins with the same clips, so that they do not fill up. */
  @Setup(Level.Iteration)
  public void begin() {
    engine = null;
    played = 0;
  }

  /** A key down and up, recorded in overdub, in a show of 16 parts of 16 clips of 200 notes. */
  @Benchmark
  public Outcome noteEvent() {
    next(full, 1_000_000);
    engine.apply(new HandCommand.KeyDown(key(40 + played % 40), 90), now, now);
    return engine.apply(new HandCommand.KeyUp(key(40 + played % 40)), now + 20_000, now + 20_000);
  }

  /** The tempo of 500 onsets that hands played. */
  @Benchmark
  public Optional<FoundTempo> tempoOf500() {
    return TempoFinder.find(steady(500), OptionalInt.empty());
  }

  /** And of 5000. */
  @Benchmark
  public Optional<FoundTempo> tempoOf5000() {
    return TempoFinder.find(steady(5000), OptionalInt.empty());
  }

  private static List<Onset> steady(int many) {
    Random random = new Random(many);
    return IntStream.range(0, many)
        .mapToObj(
            i ->
                new Onset(
                    i * 150_000.0 + random.nextGaussian() * 15_000,
                    i % 8 == 0 ? 36 : i % 4 == 0 ? 38 : 42,
                    i % 2 == 0 ? 100 : 70))
        .toList();
  }

  /** The same with the plan that the player gets after each; sixteen parts sound. */
  @Benchmark
  public Plan noteAndPlan() {
    next(full, 1_000_000);
    return note(engine, 40 + played % 40, now);
  }

  /** The same after 1000 passes with a note in each. */
  @Benchmark
  public Plan noteAndPlanAfterPasses() {
    next(afterPasses, PASSES * LOOP_MICROS + 1_000_000);
    return note(engine, 40 + played % 40, now);
  }

  /** The same in a clip that has as many notes in its first layer. */
  @Benchmark
  public Plan noteAndPlanOfAsMany() {
    next(asManyNotes, 1_000_000);
    return note(engine, 40 + played % 40, now);
  }

  /** One more note onto 100 of its pitch. */
  @Benchmark
  public Plan noteOntoFewOfItsPitch() {
    next(fewOfOnePitch, 1_000_000);
    return note(engine, 36, now);
  }

  /** The same onto 1500. */
  @Benchmark
  public Plan noteOntoManyOfItsPitch() {
    next(manyOfOnePitch, 1_000_000);
    return note(engine, 36, now);
  }

  /** The same onto 3500: with what is played meanwhile as many as a take may have. */
  @Benchmark
  public Plan noteOntoMostOfItsPitch() {
    next(mostOfOnePitch, 1_000_000);
    return note(engine, 36, now);
  }

  /** All of 3500 notes of one pitch out to the next, the edit that asks the most. */
  @Benchmark
  public Outcome lengthsOfOnePitch() {
    Part part = mostOfOnePitch.show().parts().get(0);
    Edit toNext =
        new Edit.Length(new Chosen.All(), OptionalLong.empty(), OptionalDouble.empty(), true);
    return done(
        mostOfOnePitch,
        new EditCommand.EditNotes(
            part.id(),
            new Clips(List.of(part.shelf().get(0).id())),
            WhichTakes.HEARD,
            List.of(toNext)),
        1_000_000);
  }

  /** A rename is undone, in a show of 16 parts of 16 clips of 200 notes. */
  @Benchmark
  public Outcome undoOfARename() {
    return done(renamed, new UndoCommand.Undo(), 1_000_000);
  }

  /** A main press, two notes since, and then it was a long one: all of it, and the plan. */
  @Benchmark
  public Plan pressTakenBack() {
    Engine pressed = Engine.of(full);
    pressed.apply(new PressCommand.MainPress(), 1_000_000, 1_000_000);
    note(pressed, 40, 1_100_000);
    note(pressed, 41, 1_200_000);
    pressed.apply(new Instead(5, new MendCommand.Takes(true)), 1_000_000, 1_500_000);
    return pressed.plan();
  }

  /** What 40 controls of the catalogue would do, and how they light, while much is in the show. */
  @Benchmark
  public int forecastOf40Controls() {
    Engine here = Engine.of(full);
    int done = 0;
    for (Entry entry : Catalogue.ALL.subList(0, CONTROLS)) {
      boolean pressed = Entry.holdOf(entry.usual()) == Entry.Hold.PRESSED;
      done += pressed && here.forecast(entry.usual(), 1_000_000).isDone() ? 1 : 0;
      done += here.lit(entry.usual(), 1_000_000).ordinal();
    }
    return done;
  }

  private void next(Stage from, long begins) {
    if (engine == null || ++played % 400 == 0) {
      engine = Engine.of(from);
      engine.plan();
      now = begins;
    }
    now += 19_000;
  }

  private static Plan note(Engine engine, int pitch, long micros) {
    engine.apply(new HandCommand.KeyDown(key(pitch), 90), micros, micros);
    engine.plan();
    engine.apply(new HandCommand.KeyUp(key(pitch)), micros + 9_000, micros + 9_000);
    return engine.plan();
  }

  private static InputKey key(int pitch) {
    return new InputKey("bench", 0, pitch);
  }

  /** One pass of a clip of 500 notes. */
  @Benchmark
  public List<PlannedNote> planOf500Notes() {
    return PassPlan.of(clip, 960, Silencing.NONE).notes();
  }

  /** A comp of two takes of 3600 notes each. */
  @Benchmark
  public Outcome comp() {
    Part part = takes.show().parts().get(0);
    List<Stretch> stretches = List.of(new Stretch(0, LOOP / 2, 1), new Stretch(LOOP / 2, LOOP, 2));
    return done(
        takes, new MendCommand.Comp(part.id(), part.shelf().get(0).id(), stretches), 1_000_000);
  }

  /** A key comes up that was repeated 96 times. */
  @Benchmark
  public Outcome releaseOfRepeated() {
    return done(repeated, new HandCommand.KeyUp(key(60)), 7_000_000);
  }

  /** The transport stops; there are a thousand steps. */
  @Benchmark
  public Outcome stop() {
    return done(manySteps, new CueCommand.Stop(), 3_000_000);
  }

  private static Outcome done(Stage stage, Command command, long micros) {
    Outcome outcome = Engine.of(stage).apply(command, micros, micros);
    if (outcome instanceof Outcome.Refused refused) {
      throw new IllegalStateException(refused.why());
    }
    return outcome;
  }

  private Clip clip(int id, String letter, int notes, long firstNote) {
    List<Note> list = new ArrayList<>();
    for (int i = 0; i < notes; i++) {
      long onset = random.nextInt((int) LOOP);
      list.add(
          Note.of(
              firstNote + i, 36 + random.nextInt(48), 90, onset, onset, 60 + random.nextInt(900)));
    }
    return Clip.of(new ClipId(id), letter, new LoopWindow(0, LOOP), list);
  }
}
