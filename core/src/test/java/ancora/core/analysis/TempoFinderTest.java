package ancora.core.analysis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.core.search.Search;
import ancora.core.standin.AdLib;
import ancora.core.standin.TempoTrials;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TempoFinderTest {

  private static final int TRIALS = 40;
  private static final int SENSELESS = Search.samples(300);

  /** Of each hundred trials of the five kinds together, at least so many. */
  @ParameterizedTest
  @CsvSource({"15, 0, 0, 98, 90", "30, 0, 0, 88, 80", "15, 0.03, 0, 96, 90", "15, 0, 3, 95, 85"})
  void isFoundInWhatHandsPlay(
      double spread, double drift, int wrong, double tempo, double downbeats) {
    double found = 0;
    double bars = 0;
    StringBuilder said = new StringBuilder();
    for (AdLib kind : AdLib.values()) {
      TempoTrials.Hits hits =
          TempoTrials.of(kind, false, new AdLib.Hand(0, spread, drift, wrong), TRIALS, 14);
      said.append(kind).append(' ').append(hits).append('\n');
      found += hits.tempo() / AdLib.values().length;
      bars += hits.bars() / AdLib.values().length;
    }
    assertThat(found).as("tempo within 1 %%:%n%s", said).isGreaterThanOrEqualTo(tempo);
    assertThat(bars).as("downbeat within 40 ms:%n%s", said).isGreaterThanOrEqualTo(downbeats);
  }

  /**
   * Rhythms that handbooks give as note values, in sixteenths of a 4/4 bar (from memory; the claves
   * and the bossa nova as in Toussaint, "The Geometry of Musical Rhythm", 2013; the ride pattern
   * and the habanera are common practice). A foot beats quarters with them, as a performer's does.
   */
  @ParameterizedTest
  @CsvSource({
    "son clave,      x..x..x...x.x...",
    "rumba clave,    x..x...x..x.x...",
    "bossa nova,     x..x..x...x..x..",
    "habanera,       x..xx.x.x..xx.x.",
    "ride pattern,   x...x..xx...x..x",
    "Charleston,     x.....x.x.....x."
  })
  void isFoundInRhythmsOfHandbooks(String name, String bar) {
    for (double bpm : new double[] {72, 96, 120, 144, 168}) {
      List<Onset> onsets = rhythm(bar, bpm, 4);
      FoundTempo found = TempoFinder.find(onsets, OptionalInt.empty()).orElseThrow();
      double octaves = Math.log(found.bpm() / bpm) / Math.log(2);
      assertThat(octaves - Math.rint(octaves))
          .as("%s at %s is heard as %s", name, bpm, found.bpm())
          .isCloseTo(0, within(0.01));
    }
  }

  private static List<Onset> rhythm(String bar, double bpm, int bars) {
    List<Onset> onsets = new ArrayList<>();
    double sixteenth = 15e6 / bpm;
    for (int i = 0; i < bars * bar.length(); i++) {
      if (bar.charAt(i % bar.length()) == 'x') {
        onsets.add(new Onset(i * sixteenth, 75, i % bar.length() == 0 ? 110 : 90));
      }
      if (i % 4 == 0) {
        onsets.add(new Onset(i * sixteenth, 44, 70));
      }
    }
    return onsets;
  }

  @Test
  void tooFewTellNothing() {
    List<Onset> four = onsets(0, 500, 1000, 1500);
    assertThat(TempoFinder.find(four, OptionalInt.empty())).isEmpty();
    assertThat(TempoFinder.find(List.of(), OptionalInt.empty())).isEmpty();
    assertThat(TempoFinder.find(onsets(0, 0, 0, 0, 0, 0), OptionalInt.empty())).isEmpty();
  }

  private static List<Onset> onsets(double... millis) {
    return Arrays.stream(millis).mapToObj(at -> new Onset(at * 1000, 60, 90)).toList();
  }

  /** Where nothing is regular it is said not to be sure of it. */
  @Test
  void ofWhatHasNoBeatItIsNotSure() {
    Random random = new Random(3);
    int sure = 0;
    for (int i = 0; i < 50; i++) {
      List<Onset> scattered =
          random.doubles(30, 0, 12e6).mapToObj(at -> new Onset(at, 60, 90)).toList();
      FoundTempo found = TempoFinder.find(scattered, OptionalInt.empty()).orElseThrow();
      sure += found.sureness() > 0.6 ? 1 : 0;
    }
    assertThat(sure).as("scattered onsets that are taken for a beat").isLessThan(5);
    FoundTempo steady =
        TempoFinder.find(rhythm("x...x...x...x...", 100, 4), OptionalInt.empty()).orElseThrow();
    assertThat(steady.sureness()).isGreaterThan(0.6);
  }

  /** Its bar lines follow what was played slower and slower. */
  @Test
  void itsBarLinesDriftAsTheHandDoes() {
    Random random = new Random(8);
    List<Onset> onsets = AdLib.DRUMS.played(false, new AdLib.Hand(100, 3, 0.03, 0), random);
    FoundTempo found = TempoFinder.find(onsets, OptionalInt.of(4)).orElseThrow();
    assertThat(found.lines()).hasSize(5);
    double beat = 600_000;
    for (int bar = 0; bar <= 4; bar++) {
      double at = bar * 4;
      double expected = 1e6 + beat * (at + 0.03 * (at * at / 32 - at / 2));
      assertThat(found.lines().get(bar)).as("bar %s", bar).isCloseTo(expected, within(20_000.0));
    }
    assertThat(found.drift()).isNegative();
  }

  /** Where one tempo follows another the tempo is not one between them. */
  @Test
  void ofTwoTempiItIsTheOneThatLastsLongest() {
    List<Onset> onsets = new ArrayList<>(rhythm("x...x.x.x...x...", 120, 24));
    double end = 24 * 2e6;
    rhythm("x...x.x.x...x...", 150, 12)
        .forEach(on -> onsets.add(new Onset(end + on.micros(), on.pitch(), on.velocity())));
    FoundTempo found = TempoFinder.find(onsets, OptionalInt.empty()).orElseThrow();
    assertThat(found.bpm()).isCloseTo(120, within(0.6));
  }

  @Test
  void threeBeatsAreHeardAsThree() {
    List<Onset> waltz = new ArrayList<>();
    for (int beat = 0; beat < 24; beat++) {
      waltz.add(new Onset(beat * 400_000, beat % 3 == 0 ? 40 : 64, beat % 3 == 0 ? 105 : 75));
    }
    assertThat(TempoFinder.find(waltz, OptionalInt.empty()).orElseThrow().beatsInBar())
        .isEqualTo(3);
    assertThat(TempoFinder.find(waltz, OptionalInt.of(6)).orElseThrow().beatsInBar()).isEqualTo(6);
  }

  /** A long phrase is followed back from its end. */
  @Test
  void aLongPhraseIsFollowed() {
    List<Onset> onsets = new ArrayList<>();
    Random random = new Random(5);
    for (int i = 0; i < 2000; i++) {
      double jitter = random.nextGaussian() * 8_000;
      onsets.add(new Onset(i * 250_000 + jitter, i % 8 == 0 ? 36 : 42, i % 2 == 0 ? 100 : 60));
    }
    FoundTempo found = TempoFinder.find(onsets, OptionalInt.of(4)).orElseThrow();
    assertThat(found.bpm()).isCloseTo(120, within(0.1));
    assertThat(found.downbeat()).isCloseTo(0, within(30_000.0));
  }

  /**
   * Whatever is played, however senseless, there is no tempo, or one with bars that go on: bursts
   * within a beat, pauses of minutes, all of it at once. What a tempo is the record itself checks.
   */
  @Test
  void whateverIsPlayedBarsGoOn() {
    double[] gaps = {0, 1, 1_000, 20_000, 90_000, 240_000, 500_000, 3e6, 60e6, 540e6};
    Random random = new Random(19 + Search.SEED);
    int found = 0;
    for (int i = 0; i < SENSELESS; i++) {
      int kinds = 1 + random.nextInt(gaps.length);
      double often = random.nextDouble();
      List<Onset> onsets = new ArrayList<>();
      double at = 0;
      for (int n = random.nextInt(300); n >= 0; n--) {
        boolean usual = random.nextDouble() < often;
        at += usual ? gaps[kinds - 1] : gaps[random.nextInt(kinds)] * random.nextDouble();
        onsets.add(new Onset(at, random.nextInt(128), 1 + random.nextInt(127)));
      }
      OptionalInt beats =
          random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(1 + random.nextInt(12));
      found += TempoFinder.find(onsets, beats).isPresent() ? 1 : 0;
    }
    assertThat(found).isGreaterThan(SENSELESS / 2);
  }
}
