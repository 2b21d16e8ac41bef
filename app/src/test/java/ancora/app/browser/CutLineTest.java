package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.journal.CommandJson;
import ancora.app.store.JournalRow;
import ancora.app.store.Journals;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Page;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The line is cut, again and again, while keys, pads and pedal are played and erase and stutter are
 * held: what the hands did is in the journal, each once and in order, or was refused in words; no
 * key stays down; and the sound stays where it is.
 */
class CutLineTest extends HeldHouse {

  private static final JsonMapper JSON = JsonMapper.shared();

  /** Cuts in all, with one page and with two. */
  private static final int CUTS = Boolean.getBoolean("ancora.long") ? 100 : 5;

  private static final long SEED = Long.getLong("ancora.seed", 1);

  /** Keeps what was done, what was refused, and how often the sound was hushed. */
  private static final String WATCH =
      """
      () => {
        globalThis.did = [];
        globalThis.refused = [];
        globalThis.hushed = 0;
        const { connection, sound } = ancora;
        const act = connection.do.bind(connection);
        connection.do = (command, own) => {
          did.push([connection.seq + 1, JSON.stringify(command)]);
          act(command, own);
        };
        const hush = sound.hush.bind(sound);
        sound.hush = () => {
          hushed++;
          hush();
        };
        const receive = JSON.parse;
        JSON.parse = (text, ...of) => {
          const message = receive(text, ...of);
          if (message?.refused !== undefined) {
            refused.push(message.refused);
          }
          return message;
        };
      }""";

  @ParameterizedTest
  @ValueSource(ints = {1, 2})
  void nothingThatHandsDidIsLost(int pages) throws JacksonException {
    long show =
        house
            .bean(ShowStore.class)
            .add(
                Show.named("Gale")
                    .withNewPart("Kit", Sound.STANDARD_KIT)
                    .withNewPart("Bass", Sound.of(33)),
                false);
    stage = HeldStage.open(hand, house, show);
    Page page = stage.page();
    if (pages > 1) {
      Page other = stage.also("/shows/" + show);
      stage.run(800);
      other.keyboard().press("Shift");
      stage.run(100);
    }
    page.evaluate(WATCH);
    stage.send("{ do: 'start' }");
    Random random = new Random(SEED + pages);
    Set<Integer> down = new TreeSet<>();
    for (int cuts = 0; cuts < CUTS; ) {
      stage.run(HeldStage.STEP * (1 + random.nextInt(12)));
      switch (random.nextInt(9)) {
        case 0 -> stage.bytes("pads", 0xb9, 64, random.nextInt(128));
        case 1 -> hold("eraseHeld", random.nextBoolean(), "");
        case 2 -> hold("stutter", random.nextBoolean(), ", divide: 2, all: false");
        case 3 -> {
          page.evaluate("(after) => held.cut(after)", random.nextInt(2500));
          cuts++;
        }
        default -> {
          int pitch = 36 + random.nextInt(6);
          boolean up = !down.add(pitch);
          stage.bytes("pads", up ? 0x89 : 0x99, pitch, 90);
          if (up) {
            down.remove(pitch);
          }
        }
      }
    }
    down.forEach(pitch -> stage.bytes("pads", 0x89, pitch, 0));
    stage.bytes("pads", 0xb9, 64, 0);
    hold("eraseHeld", false, "");
    hold("stutter", false, ", divide: 2, all: false");
    stage.until("ancora.connection.open && ancora.connection.unsure.size === 0");

    assertAllIsInTheJournal(show, page);
    assertThat(page.evaluate("() => ancora.state.hands.erases?.length ?? 0")).isEqualTo(0);
    assertThat(page.evaluate("() => ancora.hub.down.size")).isEqualTo(0);
    assertThat(page.evaluate("() => hushed")).as("the sound stayed on").isEqualTo(0);
    assertThat(page.evaluate("() => ancora.sound.isOn && ancora.who.isHere")).isEqualTo(true);
  }

  private void hold(String what, boolean on, String more) {
    stage
        .page()
        .evaluate("() => ancora.connection.do({ do: '%s', on: %s%s })".formatted(what, on, more));
  }

  private static void assertAllIsInTheJournal(long show, Page page) throws JacksonException {
    String client = (String) page.evaluate("() => ancora.connection.client");
    Set<Long> answered = new TreeSet<>();
    for (Object number : (List<?>) page.evaluate("() => refused")) {
      answered.add(((Number) number).longValue());
    }
    int refused = answered.size();
    List<Long> written = new ArrayList<>();
    java.util.Map<Long, String> journal = new java.util.TreeMap<>();
    for (JournalRow row : house.bean(Journals.class).after(show, 0)) {
      if (row.client().equals(client)) {
        written.add(row.clientSeq());
        journal.put(row.clientSeq(), row.command());
      }
    }
    assertThat(written).as("each once, in order").isSorted().doesNotHaveDuplicates();
    List<?> did = (List<?>) page.evaluate("() => did");
    assertThat(did).hasSizeGreaterThan(20);
    for (Object one : did) {
      long number = ((Number) ((List<?>) one).get(0)).longValue();
      JsonNode command = JSON.readTree((String) ((List<?>) one).get(1));
      if (journal.containsKey(number)) {
        assertThat(journal.get(number))
            .isEqualTo(CommandJson.write(CommandJson.read(command)).toString());
      } else {
        assertThat(answered).as("%s, %s, is in no journal", number, command).contains(number);
      }
    }
    assertThat(refused).as("some were refused in words").isLessThan(did.size());
  }
}
