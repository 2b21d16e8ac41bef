package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** What a page has sent is answered once, by what is on the disk, and never over a gap. */
class NumbersTest {

  @Test
  void afterAGapWhatLacksIsAskedFor() {
    Numbers numbers = new Numbers(4);
    assertThat(numbers.isNext(5)).isTrue();
    assertThat(numbers.isNext(7)).isFalse();
    assertThat(numbers.again(7).orElseThrow().toString()).isEqualTo("{\"lacks\":5}");
    assertThat(numbers.next()).as("nothing was counted done").isEqualTo(5);
  }

  @Test
  void whatIsSentAgainIsAcknowledgedByTheDiskAlone() {
    Numbers numbers = new Numbers(0);
    Told before = Told.of("tab", "one", 1);
    numbers.comes(before.page(), 1);
    numbers.accepted(1);
    assertThat(numbers.again(1)).as("not on the disk yet: no answer").isEmpty();
    Told back = Told.of("tab", "one", 1);
    numbers.comes(back.page(), 1);
    numbers.written(1);
    assertThat(back.told()).as("told where the page is now").containsExactly("{\"ack\":1}");
    assertThat(before.told()).isEmpty();
    assertThat(numbers.again(1).orElseThrow().toString()).isEqualTo("{\"ack\":1}");
  }

  @Test
  void whatWasRefusedIsRefusedAgain() {
    Numbers numbers = new Numbers(0);
    numbers.accepted(1);
    numbers.refused(2, "There is no loop yet.");
    numbers.accepted(3);
    numbers.written(3);
    assertThat(numbers.again(2).orElseThrow().toString())
        .isEqualTo("{\"refused\":2,\"why\":\"There is no loop yet.\"}");
    assertThat(numbers.isNext(4)).isTrue();
  }

  /**
   * What was refused before a restart is no gap after it: the page says what it has no answer to.
   */
  @Test
  void aPageSaysWhatHasBeenAnswered() {
    Numbers numbers = new Numbers(10);
    numbers.comes(Told.of("tab", "one", 13).page(), 13);
    assertThat(numbers.next()).isEqualTo(13);
    numbers.comes(Told.of("tab", "one", 2).page(), 2);
    assertThat(numbers.next()).as("never back").isEqualTo(13);
  }
}
