package ancora.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.DoubleStream;
import org.junit.jupiter.api.Test;

/** Rule 15: the latency measure. */
class OffsetMeasureTest {

  private static List<Double> taps(int count, double late, double spread) {
    Random random = new Random(4);
    return DoubleStream.generate(() -> (late + spread * random.nextGaussian()) * 1000)
        .limit(count)
        .boxed()
        .toList();
  }

  @Test
  void theMedianOfTheLastTwelveOfSixteenIsProposed() {
    assertThat(OffsetMeasure.of(taps(15, 20, 5))).isEmpty();
    OffsetMeasure measure = OffsetMeasure.of(taps(16, 23, 0)).orElseThrow();
    assertThat(measure).isEqualTo(new OffsetMeasure(16, 23, 0));
    List<Double> wildAtFirst = new java.util.ArrayList<>(taps(4, 300, 0));
    wildAtFirst.addAll(taps(12, -11, 0));
    assertThat(OffsetMeasure.of(wildAtFirst).orElseThrow().offset()).isEqualTo(-11);
  }

  @Test
  void aWideSpreadAsksToTryAgain() {
    assertThat(OffsetMeasure.of(taps(16, 10, 12)).orElseThrow().isClear()).isTrue();
    assertThat(OffsetMeasure.of(taps(16, 10, 90)).orElseThrow().isClear()).isFalse();
  }
}
