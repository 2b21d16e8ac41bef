package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.store.Saving;
import ancora.app.store.ShowStore;
import ancora.app.time.HeldClock;
import ancora.core.rules.cues.CueCommand;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Which shows are open. */
class StageHouseTest {

  private static final long FIVE_MINUTES = 300_001;

  @TempDir Path data;

  @Test
  void aShowThatNobodyHasOpenIsClosedOnceAllOfItIsSavedAndOpensAsItWas() {
    try (House house = House.held(data)) {
      long id =
          house
              .bean(ShowStore.class)
              .add(Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT), false);
      HeldClock clock = house.bean(HeldClock.class);
      StageHouse stages = house.bean(StageHouse.class);
      try (PageStandIn page = new PageStandIn(house.port(), id, "tab")) {
        page.next("welcome");
        page.done("{\"do\":\"setTempo\",\"bpm\":141.5}");
        page.done("{\"do\":\"start\"}");
        clock.pass(FIVE_MINUTES);
        stages.closeIdle();
        assertThat(stages.open()).as("a page is here").isEqualTo(1);
      }
      clock.pass(FIVE_MINUTES);
      stages.closeIdle();
      assertThat(stages.open()).as("it rolls").isEqualTo(1);
      stages.apply(id, new CueCommand.Stop());
      Stage before = stages.stage(id);
      clock.pass(FIVE_MINUTES);
      // saved a moment after the stop, by the machine's own clock; that the page left may be heard
      // late
      while (stages.open() > 0) {
        house.bean(Saving.class).isDone(20);
        clock.pass(FIVE_MINUTES);
        stages.closeIdle();
      }
      Stage again = stages.stage(id);
      assertThat(again.show()).isEqualTo(before.show());
      assertThat(again.history()).isEqualTo(before.history());
      assertThat(stages.open()).isEqualTo(1);
      try (PageStandIn page = new PageStandIn(house.port(), id, "tab")) {
        page.next("welcome");
        page.goOnFrom(2);
        page.done("{\"do\":\"setTempo\",\"bpm\":99}");
        clock.pass(FIVE_MINUTES);
      }
      // a page that left just now may be about to come back: it was the last to want it
      stages.stage(id);
      house.bean(Saving.class).isDone(60_000);
      stages.closeIdle();
      assertThat(stages.open()).as("left just now").isEqualTo(1);
    }
  }
}
