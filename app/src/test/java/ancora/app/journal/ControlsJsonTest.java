package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.control.Assignment;
import ancora.core.control.Control;
import ancora.core.control.ControlMap;
import ancora.core.control.Lamps;
import ancora.core.control.ReadyMap;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Maps of another version, and broken ones, come in as far as they go. */
class ControlsJsonTest {

  private static final Control PEDAL = new Control("board", Control.Kind.CONTROL_CHANGE, 0, 80);

  private final JsonMapper json = JsonMapper.shared();

  private static ObjectNode map(JsonNode... rows) {
    ObjectNode map = JsonNodeFactory.instance.objectNode().put("format", 2).put("name", "Pier");
    ArrayNode assignments = map.putArray("assignments");
    List.of(rows).forEach(assignments::add);
    return map;
  }

  private JsonNode row(int number, String command) throws IOException {
    return json.readTree(
        "{\"control\":{\"device\":\"board\",\"kind\":\"CONTROL_CHANGE\",\"channel\":0,\"number\":"
            + number
            + "},\"gesture\":\"SHORT\",\"command\":"
            + command
            + "}");
  }

  @Test
  void theReadyMapIsReadAsItIsWritten() {
    assertThat(CoreJson.read(CoreJson.write(ReadyMap.ALL), ControlMap.class))
        .isEqualTo(ReadyMap.ALL);
    ControlsJson.Brought brought = ControlsJson.broughtIn(CoreJson.write(ReadyMap.ALL));
    assertThat(brought.map()).isEqualTo(ReadyMap.ALL);
    assertThat(brought.leftOut()).isEmpty();
  }

  /** A map as it was kept before keys of the computer could be taught. */
  @Test
  void aMapOfBeforeStandsForWhatItStoodFor() throws IOException {
    String control =
        "{\"device\":\"board\",\"kind\":\"CONTROL_CHANGE\",\"channel\":0,\"number\":80}";
    JsonNode former =
        json.readTree(
            "{\"format\":1,\"name\":\"Harbour feet\",\"assignments\":["
                + "{\"control\":%s,\"gesture\":\"SHORT\",\"action\":\"MAIN\",\"number\":0},"
                    .formatted(control)
                + "{\"control\":%s,\"gesture\":\"LONG\",\"action\":\"CUE_CLIP\",\"number\":3},"
                    .formatted(control)
                + "{\"control\":{\"device\":\"x\",\"kind\":\"NOTE\",\"channel\":1,\"number\":2},"
                + "\"gesture\":\"SHORT\",\"action\":\"ERASE\",\"number\":0}]}");
    ControlMap map = ControlsJson.kept(former);
    assertThat(map.name()).isEqualTo("Harbour feet");
    assertThat(map.of(PEDAL))
        .extracting(Assignment::words)
        .containsExactly("main press", "cue clip c of the armed part");
    assertThat(map.of(new Control("x", Control.Kind.NOTE, 1, 2)))
        .extracting(Assignment::words)
        .containsExactly("erase while held");
    assertThat(map.of(Control.key("Enter"))).as("keys stood for it before").hasSize(1);
    assertThat(ControlsJson.kept(CoreJson.write(map))).isEqualTo(map);
  }

  @Test
  void whatMakesNoSenseIsLeftOutAndCounted() throws IOException {
    ObjectNode map =
        map(
            row(1, "{\"do\":\"peel\"}"),
            row(1, "{\"do\":\"restore\"}"),
            row(2, "{\"do\":\"fly\"}"),
            row(3, "{\"do\":\"rename\",\"title\":\"x\"}"),
            row(4, "{\"do\":\"sequence\",\"name\":\"\",\"commands\":[]}"),
            JsonNodeFactory.instance.stringNode("nothing"),
            row(
                5,
                "{\"do\":\"sequence\",\"name\":\"\",\"commands\":[{\"do\":\"close\"},"
                    + "{\"do\":\"sequence\",\"name\":\"\",\"commands\":[{\"do\":\"peel\"},{\"do\":\"peel\"}]}]}"),
            row(200, "{\"do\":\"peel\"}"));
    map.put("format", 7).put("lamps", "bright");
    ControlsJson.Brought brought = ControlsJson.broughtIn(map);
    assertThat(brought.map().assignments()).extracting(Assignment::words).containsExactly("peel");
    assertThat(brought.map().lamps()).isEqualTo(Lamps.USUAL);
    assertThat(ControlsJson.words(brought))
        .contains("another format")
        .contains("lamps")
        .contains("does something already: 1.")
        .contains("no sense here: 6.");
  }

  @Test
  void twoThousandRowsComeInAsFarAsThereIsRoom() throws IOException {
    ObjectNode map = map();
    for (int i = 0; i < 2000; i++) {
      JsonNode row = row(i % 128, "{\"do\":\"peel\"}");
      ((ObjectNode) row.get("control")).put("device", "board " + i / 128);
      map.withArray("assignments").add(row);
    }
    ControlsJson.Brought brought = ControlsJson.broughtIn(map);
    assertThat(brought.map().assignments()).hasSize(ControlMap.MOST);
    assertThat(ControlsJson.words(brought)).contains("512 at most: 1488.");
  }

  @Test
  void whatIsNoMapIsRefused() {
    for (String text : List.of("[]", "7", "{}", "{\"assignments\":7}", "\"x\"")) {
      assertThatThrownBy(() -> ControlsJson.broughtIn(json.readTree(text)))
          .isInstanceOf(Refusal.class)
          .hasMessage("That is no map of controls: choose a file that was exported here.");
    }
  }

  /** Anything may stand anywhere in it: it comes in, in part, or is refused in a sentence. */
  @Test
  void noBrokenMapBreaksAnything() {
    String text = CoreJson.write(ReadyMap.STAND_IN).toString();
    Random random = new Random(5);
    for (int i = 0; i < 2000; i++) {
      StringBuilder broken = new StringBuilder(text);
      for (int n = 0; n <= random.nextInt(4); n++) {
        int at = random.nextInt(broken.length());
        broken.setCharAt(at, "{}[],:\"-0a9tn ".charAt(random.nextInt(14)));
      }
      try {
        JsonNode node = json.readTree(broken.toString());
        assertThat(ControlsJson.broughtIn(node).map().assignments()).hasSizeLessThan(20);
      } catch (JacksonException | Refusal none) {
        assertThat(none.getMessage()).isNotBlank();
      }
    }
  }
}
