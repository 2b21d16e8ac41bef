package ancora.bench;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.engine.Stage;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.plan.PassPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
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

/** What the engine takes for one note, and for one plan. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 4, time = 1)
public class EngineBench {

  private static final int PARTS = 16;
  private static final int CLIPS = 16;
  private static final int NOTES = 200;
  private static final int BIG_CLIP = 500;

  private Stage full;
  private Engine engine;
  private Clip clip;
  private long now;
  private int played;

  @Setup(Level.Trial)
  public void fill() {
    Show show = Show.named("full").withRecording(RecordingSettings.DEFAULT.withCountInBars(0));
    long id = 1000;
    Random random = new Random(1);
    for (int p = 0; p < PARTS; p++) {
      show = show.withNewPart("Part " + p, Sound.of(p));
      PartId part = show.parts().get(p).id();
      for (int c = 0; c < CLIPS; c++) {
        Clip made = clip(random, (int) id++, String.valueOf((char) ('a' + c)), NOTES, id);
        id += NOTES;
        show = show.mapPart(part, owner -> owner.withClip(made));
      }
    }
    full = Stage.of(show.withNextId(id));
    Part first = show.parts().get(0);
    Engine starting = Engine.of(full.withArmed(first.id()));
    starting.apply(new Command.MainPress(), 0, 0);
    full = starting.stage();
    clip = clip(random, 1, "a", BIG_CLIP, 1);
  }

  /** Every iteration begins with the same clips, so that they do not fill up. */
  @Setup(Level.Iteration)
  public void begin() {
    engine = Engine.of(full);
    now = 1_000_000;
    played = 0;
  }

  /** A key down and up, recorded in overdub, in a show of 16 parts of 16 clips of 200 notes. */
  @Benchmark
  public Outcome noteEvent() {
    now += 50_000;
    if (++played % 400 == 0) {
      engine = Engine.of(full);
    }
    InputKey key = new InputKey("bench", 0, 40 + played % 40);
    engine.apply(new Command.KeyDown(key, 90), now, now);
    return engine.apply(new Command.KeyUp(key), now + 20_000, now + 20_000);
  }

  /** One pass of a clip of 500 notes. */
  @Benchmark
  public List<PlannedNote> planOf500Notes() {
    return PassPlan.of(clip, 960, Map.of());
  }

  private static Clip clip(Random random, int id, String letter, int notes, long firstNote) {
    List<Note> list = new ArrayList<>();
    for (int i = 0; i < notes; i++) {
      long onset = random.nextInt(15360);
      list.add(
          Note.of(
              firstNote + i, 36 + random.nextInt(48), 90, onset, onset, 60 + random.nextInt(900)));
    }
    return Clip.of(new ClipId(id), letter, new LoopWindow(0, 15360), list);
  }
}
