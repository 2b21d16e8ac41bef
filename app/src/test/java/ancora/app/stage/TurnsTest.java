package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * Whose turn it is: the performer's before all others', each page's in its order, and everyone's
 * some time.
 */
class TurnsTest {

  private static final Page PERFORMER = Told.page("performer", "p", true);

  private final Turns turns = new Turns(PERFORMER::equals);
  private final List<String> done = new ArrayList<>();

  private void asks(Page page, String what) {
    turns.add(page, () -> done.add(page.client() + " " + what));
  }

  private boolean oneIsDone() {
    turns.next().orElseThrow().run();
    return turns.done();
  }

  @Test
  void thePerformerWaitsForOneMessageOfOthersAtMostWhateverTheySend() {
    for (int watcher = 0; watcher < 100; watcher++) {
      Page page = Told.page("watcher " + watcher, "w", false);
      for (int i = 0; i < 64; i++) {
        asks(page, "flood");
      }
    }
    for (int key = 0; key < Turns.OF_PERFORMER; key++) {
      oneIsDone();
      asks(PERFORMER, "key " + key);
      oneIsDone();
      assertThat(done).last().isEqualTo("performer key " + key);
    }
  }

  @Test
  void theOthersAreNotKeptWaitingForEver() {
    Page watcher = Told.page("watcher", "w", false);
    asks(watcher, "hello");
    for (int key = 0; key < 100; key++) {
      asks(PERFORMER, "key " + key);
    }
    for (int turn = 0; turn <= Turns.OF_PERFORMER; turn++) {
      oneIsDone();
    }
    assertThat(done).last().isEqualTo("watcher hello");
  }

  /** Of random askings none is lost, none done twice, and each page's are in its order. */
  @Test
  void allIsDoneOnceInTheOrderOfEachPage() {
    Random random = new Random(1);
    List<Page> pages = new ArrayList<>(List.of(PERFORMER));
    for (int i = 0; i < 5; i++) {
      pages.add(Told.page("page " + i, "i", false));
    }
    Map<Page, Integer> asked = new HashMap<>();
    Map<Page, Integer> answered = new HashMap<>();
    boolean waits = false;
    for (int i = 0; i < 10_000; i++) {
      if (random.nextBoolean() || !waits) {
        Page page = pages.get(random.nextInt(pages.size()));
        int number = asked.merge(page, 1, Integer::sum);
        boolean first =
            turns.add(
                page, () -> assertThat(answered.merge(page, 1, Integer::sum)).isEqualTo(number));
        assertThat(first).isEqualTo(!waits);
        waits = true;
      } else {
        waits = oneIsDone();
      }
    }
    while (waits) {
      waits = oneIsDone();
    }
    assertThat(answered).isEqualTo(asked);
  }

  @Test
  void whatIsAskedForWhileSomethingIsDoneIsBegunOnce() {
    assertThat(turns.add(PERFORMER, () -> {})).isTrue();
    turns.next().orElseThrow();
    assertThat(turns.add(PERFORMER, () -> {})).as("it is seen at the end of the first").isFalse();
    assertThat(turns.done()).isTrue();
    turns.next().orElseThrow();
    assertThat(turns.done()).isFalse();
  }

  @Test
  void atItsEndThosePagesAreGivenThatWaitForSomething() {
    asks(PERFORMER, "key");
    oneIsDone();
    Page watcher = Told.page("watcher", "w", false);
    asks(watcher, "hello");
    assertThat(turns.end()).containsExactly(watcher);
    assertThat(turns.next()).isEmpty();
  }
}
