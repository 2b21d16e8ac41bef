package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.time.Meter;

/**
 * The metronome.
 *
 * @param on whether it sounds at all
 * @param when at which times it sounds
 * @param sound what it sounds like
 * @param level dB, −40 to +6
 * @param dotted whether it falls on dotted quarters in 6/8, 9/8 and 12/8
 */
public record Click(boolean on, When when, Sound sound, int level, boolean dotted) {

  /** Always, wood block. */
  public static final Click DEFAULT = new Click(true, When.ALWAYS, Sound.WOOD_BLOCK, -6, false);

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
  }

  public Click withOn(boolean sounds) {
    return new Click(sounds, when, sound, level, dotted);
  }

  /** Ticks from one click to the next. */
  public long ticks(Meter meter) {
    return dotted && meter.isCompound() ? 3 * meter.beatTicks() : meter.beatTicks();
  }

  /** Whether a click falls on a tick in itself, that is apart from {@link #when}. */
  public boolean fallsOn(long tick, Meter meter) {
    return Math.floorMod(Math.floorMod(tick, meter.barTicks()), ticks(meter)) == 0;
  }

  /** The level as a factor of amplitude. */
  public double gain() {
    return Math.pow(10, level / 20.0);
  }
}
