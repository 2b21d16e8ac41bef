package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.Saving;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.engine.Engine;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.run.Passage;
import ancora.core.run.Run;
import ancora.core.run.RunHistory;
import ancora.core.run.RunPart;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.AbstractExecutorService;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** A run is the same whenever the house was killed meanwhile, and whenever it had saved before. */
class RunTakerTest {

  private static final long SECOND = 1_000_000;
  private static final InputKey KEY = new InputKey("keys", 0, 72);

  /** What the database has, by number. */
  private final TreeMap<Integer, RunStore.Kept> kept = new TreeMap<>();

  private final RunStore store = store();
  private final Saving saving = mock(Saving.class);

  private Engine engine = Engine.of(loop());
  private RunTaker taker = taker();
  private Stage saved = engine.stage();
  private final List<Keeper.Line> since = new ArrayList<>();

  /** In 4/4 at 120 a bar lasts two seconds. */
  private static Stage loop() {
    Show show = Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT);
    PartId part = show.parts().get(0).id();
    List<Note> notes =
        List.of(Note.of(101, 36, 90, 0, 0, 240), Note.of(102, 38, 90, 1920, 1920, 240));
    Clip clip = Clip.of(new ClipId(100), "a", new LoopWindow(0, 3840), notes);
    Engine ready = Engine.of(show.mapPart(part, owner -> owner.withClip(clip)).withNextId(1000));
    ready.apply(new CueCommand.CueClip(part, clip.id()), 0, 0);
    return ready.stage();
  }

  private RunStore store() {
    RunStore runs = mock(RunStore.class);
    when(runs.nextId(1)).thenAnswer(call -> kept.isEmpty() ? 1 : kept.lastKey() + 1);
    when(runs.underway(1))
        .thenAnswer(
            call ->
                kept.descendingMap().values().stream()
                    .filter(run -> run.card().underway())
                    .findFirst());
    when(runs.all(1)).thenAnswer(call -> kept.values().stream().map(RunStore.Kept::card).toList());
    doAnswer(call -> kept.remove(call.<Integer>getArgument(1)))
        .when(runs)
        .letGo(anyLong(), anyInt());
    doAnswer(
            call -> {
              int id = call.getArgument(1);
              Run run = call.getArgument(3);
              RunCard card =
                  new RunCard(id, call.getArgument(2), "", run.bars(), 0, "", call.getArgument(4));
              return kept.put(id, new RunStore.Kept(card, RunHistory.of(run)));
            })
        .when(runs)
        .keep(anyLong(), anyInt(), anyLong(), any(), anyBoolean());
    return runs;
  }

  private RunTaker taker() {
    doAnswer(
            call -> {
              call.<Runnable>getArgument(1).run();
              return null;
            })
        .when(saving)
        .then(any(), any(), any());
    return new RunTaker(1, store, saving, () -> {}, new AtOnce());
  }

  private void does(double second, Command command) {
    long at = Math.round(second * SECOND);
    Stage before = engine.stage();
    engine.apply(command, at, at);
    taker.follow(before, command, at, at, engine.stage());
    since.add(new Keeper.Line(command, at, at));
  }

  private void saves(double second) {
    long at = Math.round(second * SECOND);
    engine.advance(at);
    taker.save(
        at,
        () -> {
          saved = engine.stage();
          since.clear();
        });
  }

  /** It saves, and is killed when the run is kept, and the stage is not. */
  private void savesTheRunAlone(double second) {
    long at = Math.round(second * SECOND);
    engine.advance(at);
    taker.save(at, () -> {});
  }

  /** It is killed, and opened again at a second. */
  private void isOpenedAgain(double second) {
    long at = Math.round(second * SECOND);
    engine.advance(at);
    taker = taker();
    taker.goOn(saved, List.copyOf(since), at);
    taker.passed(engine.stage(), at);
  }

  private Run run() {
    assertThat(kept.values()).allMatch(run -> !run.card().underway());
    return kept.lastEntry().getValue().history().performed();
  }

  /** What was heard and when, of loops and hands, in ticks. */
  private static List<String> heard(Run run) {
    List<String> heard = new ArrayList<>();
    for (RunPart part : run.parts()) {
      for (Passage passage : part.passages()) {
        heard.add(passage.letter() + " from " + passage.from() + " to " + passage.until());
        passage.notes().forEach(n -> heard.add(n.pitch() + " at " + (passage.from() + n.place())));
      }
      part.hands().forEach(n -> heard.add("by hand " + n.pitch() + " at " + n.place()));
    }
    return heard;
  }

  /**
   * @param saves when it is saved; −1 if it is not
   * @param runAlone when the run alone is saved
   * @param opened when it is opened again after a kill; −1 if it is not killed
   */
  private Run performed(double saves, double runAlone, double opened) {
    TreeMap<Double, Runnable> all = new TreeMap<>();
    all.put(1.0, () -> does(1, new CueCommand.Start()));
    all.put(4.3, () -> does(4.3, new HandCommand.KeyDown(KEY, 80)));
    all.put(4.5, () -> does(4.5, new HandCommand.KeyUp(KEY)));
    all.put(9.7, () -> does(9.7, new HandCommand.KeyDown(KEY, 80)));
    all.put(9.9, () -> does(9.9, new HandCommand.KeyUp(KEY)));
    all.put(18.5, () -> does(18.5, new CueCommand.Stop()));
    Optional.of(saves).filter(s -> s > 0).ifPresent(s -> all.put(s, () -> saves(s)));
    Optional.of(runAlone).filter(s -> s > 0).ifPresent(s -> all.put(s, () -> savesTheRunAlone(s)));
    Optional.of(opened).filter(s -> s > 0).ifPresent(s -> all.put(s, () -> isOpenedAgain(s)));
    all.values().forEach(Runnable::run);
    return run();
  }

  @ParameterizedTest(name = "saved at {0} s, the run alone at {1} s, opened again at {2} s")
  @CsvSource({
    "-1, -1, 3",
    "-1, -1, 15",
    "1.01, -1, 3",
    "1.01, -1, 15",
    "2.5, -1, 11",
    "8.2, -1, 9",
    "8.2, -1, 15.3",
    "-1, 1.1, 6",
    "-1, 9.8, 15",
    "1.01, 4.4, 6",
    "1.01, 9.8, 15",
    "2.5, 10.1, 11"
  })
  void isAsIfNobodyHadKilledIt(double saves, double runAlone, double opened) {
    Run broken = performed(saves, runAlone, opened);
    long began = kept.lastEntry().getValue().card().beganUs();
    assertThat(kept).hasSize(1);
    kept.clear();
    engine = Engine.of(loop());
    taker = taker();
    Run whole = performed(-1, -1, -1);
    assertThat(heard(broken)).isEqualTo(heard(whole)).hasSize(21);
    assertThat(broken.until()).isEqualTo(whole.until());
    assertThat(began).isEqualTo(SECOND);
  }

  @Test
  void oneThatCameToNothingIsForgottenThoughItWasKeptWhileItWentOn() {
    does(1, new CueCommand.Start());
    saves(1.1);
    assertThat(kept).hasSize(1);
    does(2, new CueCommand.Stop());
    assertThat(kept).isEmpty();
  }

  @ParameterizedTest(name = "saved at {0} s")
  @ValueSource(doubles = {0.5, 1.1})
  void oneThatHadEndedIsNotTakenDownTwice(double saves) {
    TreeMap<Double, Runnable> begin = new TreeMap<>();
    begin.put(1.0, () -> does(1, new CueCommand.Start()));
    begin.put(saves, () -> saves(saves));
    begin.values().forEach(Runnable::run);
    does(9, new CueCommand.Stop());
    does(10, new CueCommand.Start());
    isOpenedAgain(15);
    does(20, new CueCommand.Stop());
    assertThat(kept.values())
        .extracting(run -> run.card().beganUs(), run -> run.history().performed().until())
        .containsExactly(tuple(SECOND, 15_360L), tuple(10 * SECOND, 19_200L));
  }

  @Test
  void whatIsDoneAgainAfterAKillMayHaveBeenTwoRuns() {
    does(1, new CueCommand.Start());
    saves(1.1);
    List<RunStore.Kept> written = List.copyOf(kept.values());
    does(9, new CueCommand.Stop());
    does(10, new CueCommand.Start());
    kept.clear();
    written.forEach(run -> kept.put(run.card().id(), run));
    isOpenedAgain(15);
    does(20, new CueCommand.Stop());
    assertThat(kept.values())
        .extracting(run -> run.card().beganUs(), run -> run.history().performed().until())
        .containsExactly(tuple(SECOND, 15_360L), tuple(10 * SECOND, 19_200L));
  }

  /** Does what is asked for before it returns. */
  private static final class AtOnce extends AbstractExecutorService {

    @Override
    public void execute(Runnable task) {
      task.run();
    }

    @Override
    public void shutdown() {}

    @Override
    public List<Runnable> shutdownNow() {
      return List.of();
    }

    @Override
    public boolean isShutdown() {
      return false;
    }

    @Override
    public boolean isTerminated() {
      return false;
    }

    @Override
    public boolean awaitTermination(long timeout, TimeUnit unit) {
      return true;
    }
  }
}
