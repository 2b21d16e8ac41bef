package ancora.app.sound;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.sound.GeneralMidi;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/**
 * The names of General MIDI Level 1, compared with a copy of the standard's tables that was typed
 * by others: the instrument maps of the npm package {@code @tonejs/midi} 2.0.28 (MIT), which is
 * fetched for the tests alone.
 */
class GeneralMidiNamesTest {

  private static final Path COPY =
      Path.of("frontend/node_modules/@tonejs/midi/src/InstrumentMaps.ts");

  private static List<String> list(String name) throws IOException {
    String text = Files.readString(COPY);
    Matcher list =
        Pattern.compile(name + "[^=]*= *[\\[{](.*?)[\\]}];", Pattern.DOTALL).matcher(text);
    assertThat(list.find()).as(name).isTrue();
    Matcher item = Pattern.compile("\"([^\"]+)\"").matcher(list.group(1));
    List<String> items = new ArrayList<>();
    while (item.find()) {
      items.add(item.group(1));
    }
    return items;
  }

  /** Letters and digits, with the few words that the two spell otherwise. */
  private static String plain(String name) {
    return name.toLowerCase(Locale.ROOT)
        .replace("(", "")
        .replace(")", "")
        .replace("synth bass", "synthbass")
        .replace("synth brass", "synthbrass")
        .replace("synth strings", "synthstrings")
        .replace("synth voice", "synth voice")
        .replace("tango accordion", "accordion tango")
        .replace("clavinet", "clavi")
        .replaceAll("[^a-z0-9]", "");
  }

  @Test
  void programs() throws IOException {
    List<String> copy = list("instrumentByPatchID");
    assertThat(copy).hasSize(128);
    assertThat(GeneralMidi.PROGRAMS).hasSize(128);
    List<String> different = new ArrayList<>();
    for (int i = 0; i < 128; i++) {
      if (!plain(copy.get(i)).equals(plain(GeneralMidi.PROGRAMS.get(i)))) {
        different.add(i + ": " + copy.get(i) + " / " + GeneralMidi.PROGRAMS.get(i));
      }
    }
    assertThat(different).isEmpty();
  }

  @Test
  void families() throws IOException {
    List<String> copy = list("InstrumentFamilyByID");
    assertThat(copy).hasSize(16);
    for (int i = 0; i < 16; i++) {
      // the standard's “Ethnic” is the copy's “world”
      String family = copy.get(i).replace("world", "ethnic");
      assertThat(GeneralMidi.FAMILIES.get(i).toLowerCase(Locale.ROOT)).isEqualTo(family);
    }
  }

  /**
   * Keys of the percussion map that every handbook has: from memory of the General MIDI Level 1
   * percussion key map; no copy of it was found in the registries.
   */
  @Test
  void drums() {
    assertThat(GeneralMidi.DRUMS).hasSize(47);
    assertThat(GeneralMidi.DRUMS)
        .containsEntry(35, "Acoustic Bass Drum")
        .containsEntry(36, "Bass Drum 1")
        .containsEntry(38, "Acoustic Snare")
        .containsEntry(42, "Closed Hi-hat")
        .containsEntry(46, "Open Hi-hat")
        .containsEntry(49, "Crash Cymbal 1")
        .containsEntry(56, "Cowbell")
        .containsEntry(75, "Claves")
        .containsEntry(76, "Hi Wood Block")
        .containsEntry(81, "Open Triangle");
  }
}
