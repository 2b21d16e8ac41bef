package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.RandomHands;
import ancora.core.engine.Engine;
import ancora.core.rules.Command;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A stage that is saved in the middle of anything is found again as it was, and goes on as if it
 * had not been: over random performances.
 */
class SnapshotTest {

  private static final int STEPS = 500;
  private static final int SAVED_EVERY = 11;

  @TempDir static Path data;
  private static House house;
  private static ShowStore store;

  @BeforeAll
  static void open() {
    house = House.open(data);
    store = house.bean(ShowStore.class);
  }

  @AfterAll
  static void close() {
    house.close();
  }

  /** A stage without what says nothing: that a part does nothing need not be said. */
  private static Stage told(Stage stage) {
    Map<PartId, PartStage> doing = new TreeMap<>(stage.partStages());
    doing.values().removeIf(PartStage.TACET::equals);
    return stage.withPartStages(doing);
  }

  private record Done(Command command, long at) {}

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7})
  void inTheMiddleOfAnything(long seed) {
    Random random = new Random(seed);
    RandomHands hands = new RandomHands(random);
    long id = store.add(RandomHands.show(seed), false);
    Engine engine = Engine.of(store.find(id).orElseThrow().stage());
    Engine other = engine;
    Optional<Stage> saved = Optional.of(engine.stage());
    List<Done> since = new ArrayList<>();
    long now = 1_000_000;
    int rolling = 0;
    for (int i = 0; i < STEPS; i++) {
      now += random.nextInt(300_000);
      Command command =
          random.nextInt(3) == 0 ? hands.moving(engine.stage()) : hands.next(engine.stage());
      engine.apply(command, now, now);
      since.add(new Done(command, now));
      if (i % SAVED_EVERY == 0) {
        for (Done done : since) {
          other.apply(done.command(), done.at(), done.at());
        }
        since.clear();
        assertThat(told(other.stage())).as("step %s", i).isEqualTo(told(engine.stage()));
        store.save(id, engine.stage(), saved, i, Map.of());
        saved = Optional.of(engine.stage());
        ShowStore.Saved found = store.find(id).orElseThrow();
        assertThat(found.seq()).isEqualTo(i);
        assertThat(told(found.stage())).as("step %s", i).isEqualTo(told(engine.stage()));
        assertThat(Engine.of(found.stage()).plan()).isEqualTo(engine.plan());
        other = Engine.of(found.stage());
        rolling += engine.stage().map().isPresent() ? 1 : 0;
      }
    }
    assertThat(rolling).as("saved while it rolls").isGreaterThan(3);
  }
}
