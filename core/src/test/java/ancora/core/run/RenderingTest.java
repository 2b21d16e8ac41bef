package ancora.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import ancora.core.note.Grid;
import ancora.core.plan.Plan;
import ancora.core.show.Balance;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 20: what a page is told so that it can make sound files of a run. */
class RenderingTest {

  private static final long BAR = 3840;
  private static final PartId KEYS = new PartId(1);
  private static final PartId SILENT = new PartId(2);
  private static final Master MASTER = Master.DEFAULT;
  private static final Balance SOFT = Balance.DEFAULT.withLevel(-6);

  /** Four bars after one that is counted in, at 120 and then 60; the keys change sound in bar 3. */
  private static Run run() {
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120)).withTempoFrom(Tempo.of(60), 4_000_000);
    RunPart keys =
        new RunPart(
            KEYS,
            "Keys",
            0,
            List.of(new From.OfSound(-BAR, Sound.of(4)), new From.OfSound(2 * BAR, Sound.of(16))),
            List.of(
                new From.OfBalance(-BAR, Balance.DEFAULT, true),
                new From.OfBalance(BAR, SOFT, true),
                new From.OfBalance(2 * BAR, SOFT, false)),
            List.of(),
            List.of(new RunNote(0, 60, 90, 480)),
            List.of());
    RunPart silent =
        new RunPart(
            SILENT,
            "Bass",
            1,
            List.of(new From.OfSound(-BAR, Sound.of(33))),
            List.of(new From.OfBalance(-BAR, SOFT, true)),
            List.of(),
            List.of(),
            List.of());
    return new Run(map, Meter.COMMON, -BAR, 4 * BAR, List.of(keys, silent), List.of());
  }

  /** Counted in for 2 s, two bars of 2 s, two of 4 s: 14 s. */
  @Test
  void allInstantsAreCountedFromItsBeginning() {
    Rendering rendering = Rendering.of(run(), MASTER);
    assertThat(rendering.micros()).isEqualTo(14_000_000);
    TempoMap map = rendering.plan().map().orElseThrow();
    assertThat(map.microsOf(-BAR)).isCloseTo(0, within(0.001));
    assertThat(map.microsOf(4 * BAR)).isCloseTo(14e6, within(0.001));
    assertThat(rendering.stood().stream().map(stood -> Math.round(stood.micros())))
        .containsExactly(0L, 4_000_000L, 6_000_000L);
  }

  /** −6 dB is a factor of 0.5012 (10^(−6/20)); what is muted is not heard. */
  @Test
  void aPartIsAsLoudAsItWasThen() {
    List<Stood> keys = Rendering.of(run(), MASTER).stood();
    assertThat(keys).allMatch(stood -> stood.part().equals(KEYS));
    assertThat(keys.get(0).from().gain()).isEqualTo(1);
    assertThat(keys.get(1).from().gain()).isCloseTo(0.5012, within(0.0001));
    assertThat(keys.get(2).from().gain()).isZero();
  }

  @Test
  void aSoundThatItTurnedToIsInThePlan() {
    Plan plan = Rendering.of(run(), MASTER).plan();
    assertThat(plan.parts().get(0).sound()).isEqualTo(Sound.of(4));
    assertThat(plan.parts().get(0).changes())
        .containsExactly(new Plan.SoundChange(2 * BAR, Sound.of(16)));
  }

  @Test
  void whatIsSilentHasNoFileOfItsOwn() {
    assertThat(Rendering.of(run(), MASTER).parts().stream().map(RunPart::name))
        .containsExactly("Keys");
  }

  /**
   * A room's time is that in which it dies away by 60 dB (ISO 3382), so that it takes half as much
   * again for 90. An echo that comes again by 35 % does so in 10 rounds, 0.35^10 being 0.000028, of
   * two steps each; then there is the first.
   */
  @ParameterizedTest
  @CsvSource({
    "EIGHTH, 35, 1.8, 120, 5.5",
    "EIGHTH, 35, 6.0, 120, 9.0",
    "EIGHTH, 0, 1.8, 120, 2.7",
    "EIGHTH, 35, 1.8, 60, 11.0",
    "QUARTER, 90, 1.8, 60, 60.0",
  })
  void itRingsOnUntilEchoAndRoomHaveDiedAway(
      Grid echo, int repeats, double room, double bpm, double seconds) {
    Master master = new Master(0, echo, repeats, 4000, room, true);
    assertThat(master.ringsOn(Tempo.of(bpm), List.of())).isCloseTo(seconds, within(1e-9));
  }

  @Test
  void theTailFollowsTheTempoAtTheEnd() {
    Rendering rendering = Rendering.of(run(), MASTER);
    double ringsOn = MASTER.ringsOn(Tempo.of(60), List.of());
    assertThat(rendering.tail()).isEqualTo(3_000_000 + Math.round(ringsOn * 1e6));
  }

  /** More parts than a show has may have sounded in turn. */
  @Test
  void sixteenPartsCanSound() {
    List<RunPart> many = new ArrayList<>();
    for (int id = 1; id <= 16; id++) {
      many.add(run().parts().get(0).withId(new PartId(id)));
    }
    assertThat(Rendering.of(run().withParts(many), MASTER).plan().parts()).hasSize(16);
    many.add(run().parts().get(0).withId(new PartId(17)));
    Run more = run().withParts(many);
    assertThatThrownBy(() -> Rendering.of(more, MASTER)).hasMessageContaining("More than 16 parts");
  }

  @Test
  void whatLastsTooLongIsRefused() {
    Run run = run().withMap(TempoMap.of(-BAR, 0, Tempo.of(60))).withUntil(1801 * BAR);
    assertThatThrownBy(() -> Rendering.of(run, MASTER))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("more than two hours");
  }
}
