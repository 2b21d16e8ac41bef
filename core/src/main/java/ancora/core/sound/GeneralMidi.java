package ancora.core.sound;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The sound set of General MIDI System Level 1: 128 programs in 16 families of eight, and the
 * percussion key map, keys 35 to 81. Kits other than the standard one are numbered as in General
 * MIDI Level 2.
 */
public final class GeneralMidi {

  /** Family name under which drum kits are found. */
  public static final String DRUM_KITS = "Drum kits";

  /** The 16 families, of eight programs each. */
  public static final List<String> FAMILIES =
      List.of(
          "Piano",
          "Chromatic percussion",
          "Organ",
          "Guitar",
          "Bass",
          "Strings",
          "Ensemble",
          "Brass",
          "Reed",
          "Pipe",
          "Synth lead",
          "Synth pad",
          "Synth effects",
          "Ethnic",
          "Percussive",
          "Sound effects");

  /** The names of programs 0 to 127. */
  public static final List<String> PROGRAMS =
      List.of(
          """
          Acoustic Grand Piano
          Bright Acoustic Piano
          Electric Grand Piano
          Honky-tonk Piano
          Electric Piano 1
          Electric Piano 2
          Harpsichord
          Clavi
          Celesta
          Glockenspiel
          Music Box
          Vibraphone
          Marimba
          Xylophone
          Tubular Bells
          Dulcimer
          Drawbar Organ
          Percussive Organ
          Rock Organ
          Church Organ
          Reed Organ
          Accordion
          Harmonica
          Tango Accordion
          Acoustic Guitar (nylon)
          Acoustic Guitar (steel)
          Electric Guitar (jazz)
          Electric Guitar (clean)
          Electric Guitar (muted)
          Overdriven Guitar
          Distortion Guitar
          Guitar Harmonics
          Acoustic Bass
          Electric Bass (finger)
          Electric Bass (pick)
          Fretless Bass
          Slap Bass 1
          Slap Bass 2
          Synth Bass 1
          Synth Bass 2
          Violin
          Viola
          Cello
          Contrabass
          Tremolo Strings
          Pizzicato Strings
          Orchestral Harp
          Timpani
          String Ensemble 1
          String Ensemble 2
          Synth Strings 1
          Synth Strings 2
          Choir Aahs
          Voice Oohs
          Synth Voice
          Orchestra Hit
          Trumpet
          Trombone
          Tuba
          Muted Trumpet
          French Horn
          Brass Section
          Synth Brass 1
          Synth Brass 2
          Soprano Sax
          Alto Sax
          Tenor Sax
          Baritone Sax
          Oboe
          English Horn
          Bassoon
          Clarinet
          Piccolo
          Flute
          Recorder
          Pan Flute
          Blown Bottle
          Shakuhachi
          Whistle
          Ocarina
          Lead 1 (square)
          Lead 2 (sawtooth)
          Lead 3 (calliope)
          Lead 4 (chiff)
          Lead 5 (charang)
          Lead 6 (voice)
          Lead 7 (fifths)
          Lead 8 (bass + lead)
          Pad 1 (new age)
          Pad 2 (warm)
          Pad 3 (polysynth)
          Pad 4 (choir)
          Pad 5 (bowed)
          Pad 6 (metallic)
          Pad 7 (halo)
          Pad 8 (sweep)
          FX 1 (rain)
          FX 2 (soundtrack)
          FX 3 (crystal)
          FX 4 (atmosphere)
          FX 5 (brightness)
          FX 6 (goblins)
          FX 7 (echoes)
          FX 8 (sci-fi)
          Sitar
          Banjo
          Shamisen
          Koto
          Kalimba
          Bagpipe
          Fiddle
          Shanai
          Tinkle Bell
          Agogo
          Steel Drums
          Woodblock
          Taiko Drum
          Melodic Tom
          Synth Drum
          Reverse Cymbal
          Guitar Fret Noise
          Breath Noise
          Seashore
          Bird Tweet
          Telephone Ring
          Helicopter
          Applause
          Gunshot
          """
              .strip()
              .split("\n"));

  private static final int FIRST_DRUM_KEY = 35;

  /** The percussion key map: names of keys 35 to 81. */
  public static final Map<Integer, String> DRUMS = drumKeys();

  /** Drum kits in the order of their programs. */
  public static final List<Kit> KITS =
      List.of(
          new Kit(0, "Standard kit"),
          new Kit(8, "Room kit"),
          new Kit(16, "Power kit"),
          new Kit(24, "Electronic kit"),
          new Kit(25, "Analog kit"),
          new Kit(32, "Jazz kit"),
          new Kit(40, "Brush kit"),
          new Kit(48, "Orchestra kit"));

  /**
   * A drum kit.
   *
   * @param program as sent in a program change
   * @param name its name
   */
  public record Kit(int program, String name) {}

  private GeneralMidi() {}

  /** The kit with a program number. */
  public static Optional<Kit> kit(int program) {
    return KITS.stream().filter(kit -> kit.program() == program).findFirst();
  }

  private static Map<Integer, String> drumKeys() {
    String[] names =
        """
        Acoustic Bass Drum
        Bass Drum 1
        Side Stick
        Acoustic Snare
        Hand Clap
        Electric Snare
        Low Floor Tom
        Closed Hi-hat
        High Floor Tom
        Pedal Hi-hat
        Low Tom
        Open Hi-hat
        Low-Mid Tom
        Hi-Mid Tom
        Crash Cymbal 1
        High Tom
        Ride Cymbal 1
        Chinese Cymbal
        Ride Bell
        Tambourine
        Splash Cymbal
        Cowbell
        Crash Cymbal 2
        Vibraslap
        Ride Cymbal 2
        Hi Bongo
        Low Bongo
        Mute Hi Conga
        Open Hi Conga
        Low Conga
        High Timbale
        Low Timbale
        High Agogo
        Low Agogo
        Cabasa
        Maracas
        Short Whistle
        Long Whistle
        Short Guiro
        Long Guiro
        Claves
        Hi Wood Block
        Low Wood Block
        Mute Cuica
        Open Cuica
        Mute Triangle
        Open Triangle
        """
            .strip()
            .split("\n");
    Map<Integer, String> keys = new TreeMap<>();
    for (int i = 0; i < names.length; i++) {
      keys.put(FIRST_DRUM_KEY + i, names[i]);
    }
    return Map.copyOf(keys);
  }
}
