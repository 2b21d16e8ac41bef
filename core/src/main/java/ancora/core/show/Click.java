package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.sound.BankSound;
import ancora.core.time.Meter;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * The metronome.
 *
 * @param on whether it sounds at all
 * @param when at which times it sounds
 * @param sound what it sounds like
 * @param level dB, −40 to +6
 * @param dotted whether it falls on dotted quarters in 6/8, 9/8 and 12/8
 * @param divided how many clicks there are to a beat, 1 to 4
 * @param accent dB by which the downbeat is louder than a beat, and a beat than what lies between
 *     beats, 0 to 12
 * @param own a kit of a bank of one's own with the sounds of beat and downbeat, on the keys of the
 *     wood block; empty if it is one of these
 */
@RecordBuilder
public record Click(
    boolean on,
    When when,
    Sound sound,
    int level,
    boolean dotted,
    int divided,
    double accent,
    Optional<BankSound> own)
    implements ClickBuilder.With {

  /** Always, wood block. */
  public static final Click DEFAULT = of(true, When.ALWAYS, Sound.WOOD_BLOCK, -6);

  private static final int MOST_DIVIDED = 4;
  private static final double MOST_ACCENT = 12;
  private static final int DOWNBEAT_VELOCITY = 120;

  /** A click on each beat, its accents as usual. */
  public static Click of(boolean on, When when, Sound sound, int level) {
    return new Click(on, when, sound, level, false, 1, 4.6, Optional.empty());
  }

  /** At which times the click sounds; the count-in has it in any case. */
  public enum When {
    ALWAYS("always"),
    RECORDING("while recording"),
    COUNT_IN("in the count-in");

    private final String words;

    When(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /** Percussion of General MIDI 1 that serves as click: the key on the beat and on the downbeat. */
  public enum Sound {
    WOOD_BLOCK("wood block", 77, 76),
    CLAVES("claves", 75, 75),
    COWBELL("cowbell", 56, 56),
    SIDE_STICK("side stick", 37, 37),
    CLOSED_HAT("closed hat", 42, 46),
    TRIANGLE("triangle", 80, 81);

    private final String words;
    private final int beatKey;
    private final int downbeatKey;

    Sound(String words, int beatKey, int downbeatKey) {
      this.words = words;
      this.beatKey = beatKey;
      this.downbeatKey = downbeatKey;
    }

    public String words() {
      return words;
    }

    public int beatKey() {
      return beatKey;
    }

    public int downbeatKey() {
      return downbeatKey;
    }
  }

  public Click {
    Refusal.unless(
        level >= -40 && level <= 6, "A click at %s dB is out of reach: use -40 to 6 dB.", level);
    Refusal.unless(
        divided >= 1 && divided <= MOST_DIVIDED, "A beat is divided into 1 to 4 clicks.");
    Refusal.unless(
        accent >= 0 && accent <= MOST_ACCENT, "The accents of the click are 0 to 12 dB apart.");
  }

  /** Ticks from one click to the next. */
  public long ticks(Meter meter) {
    return dotted && meter.isCompound() ? 3 * meter.beatTicks() : meter.beatTicks();
  }

  /** The key of the beat; in a kit of one's own it is the wood block's. */
  public int beatKey() {
    return (own.isPresent() ? Sound.WOOD_BLOCK : sound).beatKey();
  }

  /** The key of the downbeat. */
  public int downbeatKey() {
    return (own.isPresent() ? Sound.WOOD_BLOCK : sound).downbeatKey();
  }

  /** Ticks from one click to the next, those between beats among them. */
  public long step(Meter meter) {
    return ticks(meter) / divided;
  }

  /**
   * The velocities of downbeat, beat, and what lies between beats. A sound's level goes with 40
   * log(velocity), as General MIDI 2 recommends (from memory).
   */
  public List<Integer> velocities() {
    return Stream.of(0, 1, 2)
        .map(softer -> Math.pow(10, -softer * accent / 40) * DOWNBEAT_VELOCITY)
        .map(velocity -> (int) Math.round(velocity))
        .toList();
  }

  /** The level as a factor of amplitude. */
  public double gain() {
    return Math.pow(10, level / 20.0);
  }
}
