package ancora.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** When a note is silent, tick by tick: what is silent in two ways is so in either. */
class SilenceTest {

  private static final List<Silence> SOME =
      List.of(
          Silence.NONE,
          Silence.ALWAYS,
          Silence.through(3),
          Silence.through(8),
          Silence.from(5),
          Silence.from(9),
          new Silence(2, 6),
          new Silence(4, 4),
          new Silence(7, 2));

  @Test
  void silentInEitherWayIsSilent() {
    for (Silence one : SOME) {
      for (Silence other : SOME) {
        for (long tick = -5; tick <= 20 && canBeSaid(one, other); tick++) {
          assertThat(one.orLater(other).isAt(tick))
              .as("%s or %s at %s", one, other, tick)
              .isEqualTo(one.isAt(tick) || other.isAt(tick));
        }
      }
    }
  }

  /** One stretch of silence can be said, or one of sound with silence around it. */
  private static boolean canBeSaid(Silence one, Silence other) {
    long begins =
        LongStream.range(-4, 20)
            .filter(t -> (one.isAt(t) || other.isAt(t)) && !(one.isAt(t - 1) || other.isAt(t - 1)))
            .count();
    boolean fromTheFirst = one.isAt(-5) || other.isAt(-5);
    boolean toTheLast = one.isAt(20) || other.isAt(20);
    return begins + (fromTheFirst ? 1 : 0) <= (fromTheFirst && toTheLast ? 2 : 1);
  }

  @Test
  void ofTwoStretchesApartTheLaterCounts() {
    assertThat(new Silence(2, 3).orLater(new Silence(6, 7))).isEqualTo(new Silence(6, 7));
    assertThat(Silence.through(3).orLater(new Silence(6, 7))).isEqualTo(new Silence(6, 7));
  }

  @Test
  void whatIsOneNoteIsSilentWhereBothAre() {
    assertThat(Silence.through(8).and(Silence.from(5))).isEqualTo(new Silence(5, 8));
    assertThat(Silence.through(3).and(Silence.from(5))).isEqualTo(Silence.NONE);
    assertThat(new Silence(7, 2).and(Silence.ALWAYS)).isEqualTo(new Silence(7, 2));
    assertThat(new Silence(7, 2).and(Silence.through(8))).isEqualTo(new Silence(7, 8));
    assertThat(new Silence(7, 2).and(new Silence(9, 1))).isEqualTo(new Silence(9, 1));
  }
}
