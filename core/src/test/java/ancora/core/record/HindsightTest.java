package ancora.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.show.LengthRule;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 15: what hindsight remembers; and rule 4's allowed lengths by themselves. */
class HindsightTest {

  private static Hindsight played(int notes, long apartMicros) {
    Hindsight memory = Hindsight.EMPTY;
    for (int i = 0; i < notes; i++) {
      memory = memory.with(Played.down(i, 60, 90, i * apartMicros));
    }
    return memory;
  }

  @Test
  void atLeastTenThousandNotesAreRememberedHoweverOld() {
    Hindsight memory = played(9_000, 1_000_000);
    assertThat(memory.size()).isEqualTo(9_000);
    assertThat(memory.notes().findFirst().orElseThrow().noteId()).isZero();
  }

  @Test
  void beyondThatWhatIsOlderThanTenMinutesIsForgotten() {
    Hindsight memory = played(13_000, 1_000_000);
    assertThat(memory.size()).isBetween(Hindsight.LEAST_NOTES, Hindsight.LEAST_NOTES + 400);
    assertThat(memory.notes().reduce((a, b) -> b).orElseThrow().noteId()).isEqualTo(12_999);
  }

  @Test
  void whatWasPlayedInTheLastTenMinutesIsAllThere() {
    assertThat(played(13_000, 40_000).size()).isEqualTo(13_000);
  }

  @Test
  void sinceAnInstantInTheOrderOfArrival() {
    assertThat(played(500, 1_000).since(200_000))
        .hasSize(300)
        .isSortedAccordingTo((a, b) -> Long.compare(a.noteId(), b.noteId()));
  }

  @Test
  void aNoteIsChangedWhereverItIs() {
    Hindsight memory = played(500, 1_000).map(3, p -> p.withOff(9)).map(9_999, p -> p.withOff(1));
    assertThat(memory.notes().filter(p -> !p.isHeld())).hasSize(1);
    assertThat(memory.size()).isEqualTo(500);
  }

  @ParameterizedTest
  @CsvSource({
    "ANY, 0, 1, 3840",
    "ANY, 0, 3841, 7680",
    "DOUBLING, 0, 7681, 15360",
    "DOUBLING, 0, 30721, 61440",
    "OF_THE_SHOWS_FIRST, 11520, 3840, 11520",
    "OF_THE_SHOWS_FIRST, 11520, 11521, 23040",
    "OF_THE_PARTS_FIRST, 0, 7680, 7680",
    "ANY, 0, 999999, 245760"
  })
  void theNextAllowedLength(LengthRule rule, long first, long ticks, long length) {
    assertThat(new LoopLength(3840, rule, first, 64 * 3840).allowedFrom(ticks)).isEqualTo(length);
  }
}
