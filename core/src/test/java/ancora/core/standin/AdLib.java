package ancora.core.standin;

import ancora.core.analysis.Onset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * What hands play without a click: four bars of 4/4, of five kinds, each in two variants. With the
 * first ones the finding of tempi was developed; the others are for figures.
 */
public enum AdLib {
  DRUMS,
  BASS,
  CHORDS,
  MELODY,
  ARPEGGIO;

  private static final int BARS = 4;
  private static final int BEATS = 4;
  private static final int KICK = 36;
  private static final int SIDE_STICK = 37;
  private static final int SNARE = 38;
  private static final int HAT = 42;
  private static final int OPEN_HAT = 46;
  private static final double LOUDNESS_SPREAD = 6;
  private static final int LOUDEST = 127;

  /**
   * How steadily it is played.
   *
   * @param bpm the mean tempo
   * @param spread standard deviation of each onset, in ms
   * @param drift by what part of itself the time of a beat grows from the first to the last; falls
   *     if negative
   * @param wrong how many notes of a hundred are left out, and as many put in anywhere
   */
  public record Hand(double bpm, double spread, double drift, int wrong) {}

  /** A note of a pattern: beats from the beginning. */
  private record Stroke(double place, int pitch, int velocity) {}

  /** The onsets, from one second on, in microseconds. */
  public List<Onset> played(boolean developed, Hand hand, Random random) {
    double beat = 60e6 / hand.bpm();
    double beats = BARS * BEATS;
    List<Onset> onsets = new ArrayList<>();
    for (Stroke stroke : developed ? first() : second()) {
      double at = stroke.place();
      double drifted = at + hand.drift() * (at * at / (2 * beats) - at / 2);
      double micros = beat * drifted + random.nextGaussian() * hand.spread() * 1000;
      double loud = stroke.velocity() + random.nextGaussian() * LOUDNESS_SPREAD;
      int velocity = (int) Math.max(1, Math.min(LOUDEST, loud));
      if (random.nextInt(100) >= hand.wrong()) {
        onsets.add(new Onset(1e6 + micros, stroke.pitch(), velocity));
      }
      if (random.nextInt(100) < hand.wrong()) {
        onsets.add(
            new Onset(1e6 + random.nextDouble() * beats * beat, stroke.pitch() + 1, velocity));
      }
    }
    return onsets;
  }

  private List<Stroke> first() {
    List<Stroke> strokes = new ArrayList<>();
    for (int bar = 0; bar < BARS; bar++) {
      switch (this) {
        case DRUMS -> {
          add(strokes, bar, KICK, 110, 0, 2.5);
          add(strokes, bar, SNARE, 104, 1, 3);
          add(strokes, bar, HAT, 86, 0, 1, 2, 3);
          add(strokes, bar, HAT, 64, 0.5, 1.5, 2.5, 3.5);
        }
        case BASS -> {
          add(strokes, bar, 36, 110, 0);
          add(strokes, bar, 37, 84, 0.75, 3.5);
          add(strokes, bar, 39, 84, 1.5);
          add(strokes, bar, 40, 84, 2);
          add(strokes, bar, 42, 84, 3);
        }
        case CHORDS -> {
          for (int pitch : new int[] {60, 64, 68}) {
            add(strokes, bar, pitch + bar % 2 * 2, 100, 0);
            add(strokes, bar, pitch + bar % 2 * 2, 80, 1, 2, 3);
          }
        }
        case MELODY ->
            melody(
                strokes,
                bar,
                new double[][] {{0, 1.5, 2, 3}, {0, 0.5, 1, 2.5}, {0, 1, 3}, {0, 2, 2.5, 3.5}});
        case ARPEGGIO -> {
          for (int i = 0; i < 16; i++) {
            int velocity = i == 0 ? 112 : i % 4 == 0 ? 96 : 74;
            add(strokes, bar, 48 + i % 4 * 4, velocity, i / 4.0);
          }
        }
      }
    }
    return strokes;
  }

  private List<Stroke> second() {
    List<Stroke> strokes = new ArrayList<>();
    for (int bar = 0; bar < BARS; bar++) {
      switch (this) {
        case DRUMS -> {
          add(strokes, bar, KICK, 112, 0);
          add(strokes, bar, KICK, 98, 1.75, 2);
          add(strokes, bar, SNARE, 106, 1, 3);
          add(strokes, bar, SIDE_STICK, 54, 2.75);
          add(strokes, bar, OPEN_HAT, 78, 0.5, 1.5, 2.5, 3.5);
        }
        case BASS -> {
          add(strokes, bar, 33 + bar % 2 * 5, 106, 0);
          add(strokes, bar, 40, 86, 1);
          add(strokes, bar, 43 - bar % 3, 92, 2);
          add(strokes, bar, 41, 84, 3, 3.5);
        }
        case CHORDS -> {
          for (int pitch : new int[] {57, 60, 65}) {
            add(strokes, bar, pitch - bar % 2, 102, 0);
            add(strokes, bar, pitch - bar % 2, 84, 1.5, 2, 3);
          }
        }
        case MELODY ->
            melody(
                strokes,
                bar,
                new double[][] {{0, 1, 1.5, 2}, {0, 2, 3}, {0.5, 1, 2, 3}, {0, 1, 2, 2.5, 3}});
        case ARPEGGIO -> {
          int[] pitches = {48, 55, 52, 55};
          for (int i = 0; i < 8; i++) {
            add(strokes, bar, pitches[i % 4], i == 0 ? 108 : i % 4 == 0 ? 94 : 76, i / 2.0);
          }
        }
      }
    }
    return strokes;
  }

  private static void melody(List<Stroke> strokes, int bar, double[][] bars) {
    for (double place : bars[bar]) {
      int pitch = 64 + (int) (place * 3) % 8;
      add(strokes, bar, pitch, place == 0 ? 104 : 82, place);
    }
  }

  private static void add(
      List<Stroke> strokes, int bar, int pitch, int velocity, double... places) {
    for (double place : places) {
      strokes.add(new Stroke(bar * BEATS + place, pitch, velocity));
    }
  }
}
