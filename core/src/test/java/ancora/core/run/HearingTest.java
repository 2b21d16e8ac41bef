package ancora.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.plan.Plan;
import ancora.core.player.Sounded;
import ancora.core.player.VirtualPlayer;
import ancora.core.run.Hearing.Excerpt;
import ancora.core.show.Balance;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Rule 19: a run is heard from any bar, or round between two that are moved while it goes. */
class HearingTest {

  private static final long BAR = 3840;
  private static final long START = 50_000_000;
  private static final PartId KEYS = new PartId(1);

  /** Eight bars at 120: in bar n the pitch 60 + n on its first beat; a pedal note under all. */
  private static Run run() {
    List<RunNote> hands = new ArrayList<>();
    IntStream.rangeClosed(1, 8)
        .forEach(bar -> hands.add(new RunNote((bar - 1) * BAR, 60 + bar, 90, 480)));
    hands.add(new RunNote(0, 40, 90, 8 * BAR));
    RunPart keys =
        new RunPart(
            KEYS,
            "Keys",
            0,
            List.of(new From.OfSound(0, Sound.of(4))),
            List.of(new From.OfBalance(0, Balance.DEFAULT, true)),
            List.of(),
            hands,
            List.of());
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120));
    return new Run(map, Meter.COMMON, 0, 8 * BAR, List.of(keys), List.of());
  }

  private static Excerpt bars(int from, int until) {
    return new Excerpt((from - 1) * BAR, until * BAR);
  }

  private static List<String> sounds(Hearing hearing, int bars) {
    Show show = Show.named("Quay").withNewPart("Keys", Sound.of(4));
    List<String> heard = new ArrayList<>();
    Plan plan = hearing.plan(show);
    VirtualPlayer player =
        new VirtualPlayer(
            (s, by) -> {
              if (s.kind() == Sounded.Kind.ON) {
                heard.add(s.pitch() + "@" + (s.micros() - START) / 1000);
              }
            });
    player.take(plan, START - 1);
    player.advance(START + bars * 2_000_000L - 1000);
    return heard;
  }

  @Test
  void fromABarOnWithWhatIsUnderWayThere() {
    Hearing hearing = Hearing.of(run(), 5 * BAR, Optional.empty(), START);
    assertThat(sounds(hearing, 4)).containsExactly("40@0", "66@0", "67@2000", "68@4000");
    assertThat(hearing.until()).isEqualTo(8 * BAR);
    assertThatThrownBy(() -> Hearing.of(run(), 8 * BAR, Optional.empty(), START))
        .isInstanceOf(Refusal.class);
  }

  @Test
  void roundBetweenTwoBars() {
    Hearing hearing = Hearing.of(run(), BAR, Optional.of(bars(2, 3)), START);
    assertThat(sounds(hearing, 5))
        .as("the note under all goes on over each seam")
        .containsExactly("40@0", "62@0", "63@2000", "62@4000", "63@6000", "62@8000");
    assertThat(hearing.placeAt(BAR)).isEqualTo(BAR);
    assertThat(hearing.placeAt(3 * BAR + 100)).isEqualTo(BAR + 100);
  }

  @Test
  void theBarsAreMovedWhileItGoes() {
    Hearing hearing = Hearing.of(run(), BAR, Optional.of(bars(2, 3)), START);
    // in the second bar that is heard, which is bar 3, the end is moved to bar 4
    Hearing longer = hearing.round(Optional.of(bars(3, 4)), 2 * BAR + 500);
    assertThat(sounds(longer, 6))
        .containsExactly("40@0", "62@0", "63@2000", "64@4000", "63@6000", "64@8000", "63@10000");
    // what was heard stays as it was
    assertThat(longer.placeAt(2 * BAR + 500)).isEqualTo(hearing.placeAt(2 * BAR + 500));
    // and round no more: it goes on to the end
    Hearing on = longer.round(Optional.empty(), 4 * BAR + 10);
    assertThat(sounds(on, 8))
        .containsExactly(
            "40@0",
            "62@0",
            "63@2000",
            "64@4000",
            "63@6000",
            "64@8000",
            "65@10000",
            "66@12000",
            "67@14000");
  }

  /** One press: the bar that is heard, whichever it is; and another: on from there. */
  @Test
  void theBarThatIsHeardGoesRoundAndOn() {
    Hearing hearing = Hearing.of(run(), BAR, Optional.empty(), START);
    Hearing here = hearing.roundHere(2 * BAR + 500);
    assertThat(here.round()).contains(bars(3, 3));
    assertThat(sounds(here, 4)).containsExactly("40@0", "62@0", "63@2000", "63@4000", "63@6000");
    Hearing on = here.roundHere(4 * BAR + 10);
    assertThat(on.round()).isEmpty();
    assertThat(sounds(on, 5))
        .containsExactly("40@0", "62@0", "63@2000", "63@4000", "63@6000", "64@8000");
  }

  /** An end that lies behind is reached no more: it goes on to where it would have gone. */
  @Test
  void anEndThatIsMovedBehindCountsFromTheNextTime() {
    Hearing hearing = Hearing.of(run(), 0, Optional.of(bars(1, 4)), START);
    Hearing shorter = hearing.round(Optional.of(bars(1, 1)), 2 * BAR + 5);
    assertThat(sounds(shorter, 6))
        .as("what begins in bar 1 begins there each time")
        .containsExactly(
            "40@0",
            "61@0",
            "62@2000",
            "63@4000",
            "64@6000",
            "40@8000",
            "61@8000",
            "40@10000",
            "61@10000");
  }
}
