package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.ProtocolExamples;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/**
 * Messages that are broken, pages that flood or sleep, a database that closes: the music goes on.
 */
@Timeout(value = 40, unit = TimeUnit.MINUTES)
class HostileWorldTest {

  private static final int MUTATIONS = Integer.getInteger("ancora.mutations", 100);
  private static final int WATCHERS = 100;
  private static final int FLOOD = 10_000;
  private static final String DOWN =
      "{\"do\":\"keyDown\",\"device\":\"pads\",\"channel\":9,\"pitch\":36,\"velocity\":90}";
  private static final String UP =
      "{\"do\":\"keyUp\",\"device\":\"pads\",\"channel\":9,\"pitch\":36}";

  @TempDir static Path data;
  private static House house;

  @BeforeAll
  static void open() {
    house = House.open(data);
  }

  @AfterAll
  static void close() {
    house.close();
  }

  private static long show() {
    return house
        .bean(ShowStore.class)
        .add(Show.named("Storm").withNewPart("Kit", Sound.STANDARD_KIT), false);
  }

  /**
   * Each message of the protocol, broken in many ways, is answered, and harms neither show nor
   * house.
   */
  @Test
  void everyMessageIsAnsweredHoweverItIsBroken() throws IOException {
    long show = show();
    long other = show();
    Random random = new Random(20_261_127);
    int page = 0;
    for (JsonNode example : ProtocolExamples.all()) {
      if (example.has("hello") || example.has("ping")) {
        continue;
      }
      try (PageStandIn hand = new PageStandIn(house.port(), show, "breaks " + page++)) {
        hand.next("welcome");
        for (int i = 1; i <= MUTATIONS; i++) {
          ObjectNode broken = Mutation.of((ObjectNode) example, random);
          if (broken.has("do")) {
            broken.put("seq", i);
            broken.put("stamp", 0);
          }
          hand.say(Mutation.onTheWire(broken));
          if (broken.has("do")) {
            long number = i;
            hand.next(
                m -> m.path("ack").asLong() == number || m.path("refused").asLong() == number);
          }
        }
        hand.say("{\"ping\":77}");
        hand.next(m -> m.path("pong").asLong() == 77);
        hand.done("{\"do\":\"reportDelay\",\"micros\":30000}");
      }
    }
    for (long each : new long[] {show, other}) {
      try (PageStandIn hand = new PageStandIn(house.port(), each, "comes later")) {
        assertThat(hand.next("welcome").has("plan")).isTrue();
        hand.done(DOWN);
        hand.done(UP);
      }
    }
  }

  /**
   * A hundred pages watch, and one sends without end: the performer's commands are done all the
   * same.
   */
  @Test
  void aFloodAndAHundredWatchersHarmNobody() {
    long show = show();
    List<PageStandIn> watchers = new ArrayList<>();
    try (PageStandIn performer = new PageStandIn(house.port(), show, "performer");
        PageStandIn flooder = new PageStandIn(house.port(), show, "flood")) {
      performer.next("welcome");
      flooder.next("welcome");
      for (int i = 0; i < WATCHERS; i++) {
        watchers.add(new PageStandIn(house.port(), show, "watches " + i));
      }
      watchers.forEach(watcher -> watcher.next("welcome"));
      // what is to come counts as now
      long stamp = performer.now() + TimeUnit.HOURS.toMicros(1);
      Thread flood =
          new Thread(
              () -> {
                for (int i = 0; i < FLOOD; i++) {
                  flooder.command("{\"do\":\"setTempo\",\"bpm\":" + (60 + i % 300) + "}", stamp);
                }
              });
      flood.start();
      for (int i = 0; i < 100; i++) {
        performer.done(i % 2 == 0 ? DOWN : UP);
      }
      flooder.next(m -> m.path("ack").asLong() == FLOOD);
      performer.done("{\"do\":\"setTempo\",\"bpm\":77}");
      for (PageStandIn watcher : watchers) {
        watcher.next(m -> m.at("/state/show/bpm").asDouble() == 77);
      }
    } finally {
      watchers.forEach(PageStandIn::close);
    }
  }

  /** The database closes under the house, as it does when the disk is full: it is opened anew. */
  @Test
  void aDatabaseThatClosesIsOpenedAnew() throws SQLException {
    long show = show();
    try (PageStandIn hand = new PageStandIn(house.port(), show, "plays on")) {
      hand.next("welcome");
      hand.done("{\"do\":\"setTempo\",\"bpm\":101}");
      try (Connection connection = house.bean(DataSource.class).getConnection();
          Statement statement = connection.createStatement()) {
        statement.execute("shutdown immediately");
      } catch (SQLException closed) {
        assertThat(closed.getErrorCode()).isIn(90098, 90121, 90067);
      }
      hand.done("{\"do\":\"setTempo\",\"bpm\":102}");
      hand.done("{\"do\":\"setTempo\",\"bpm\":103}");
    }
    assertThat(house.bean(ShowStore.class).journalAfter(show, 0))
        .extracting(row -> row.command().replaceAll("\\.0|\\D", ""))
        .containsExactly("101", "102", "103");
  }

  /** A message with something in it that is otherwise than it should be. */
  private static final class Mutation {

    private static final String[] TEXTS = {
      "", " ", "\ud83c", "\u0000", "x".repeat(3000), "lighthouse \ud83c\udf0a", "NaN", "-1", "null"
    };
    private static final double[] NUMBERS = {
      0, -1, 0.5, 127, 128, 1e9, -1e18, 9.2e18, 1e300, 4096.25
    };

    static ObjectNode of(ObjectNode example, Random random) {
      ObjectNode message = example.deepCopy();
      List<Runnable> ways = new ArrayList<>();
      collect(message, random, ways);
      for (int i = 0; i <= random.nextInt(2); i++) {
        ways.get(random.nextInt(ways.size())).run();
      }
      return message;
    }

    /** As JSON, in which half a character is written as what it is. */
    static String onTheWire(ObjectNode message) {
      StringBuilder text = new StringBuilder();
      for (char c : message.toString().toCharArray()) {
        if (Character.isSurrogate(c)) {
          text.append(String.format("\\u%04x", (int) c));
        } else {
          text.append(c);
        }
      }
      return text.toString();
    }

    private static void collect(JsonNode node, Random random, List<Runnable> ways) {
      if (node instanceof ObjectNode object) {
        for (String name : new ArrayList<>(names(object))) {
          if (!name.equals("seq") && !name.equals("stamp")) {
            ways.add(() -> object.set(name, other(random)));
            ways.add(() -> object.set(name, other(random)));
            ways.add(() -> object.remove(name));
            collect(object.get(name), random, ways);
          }
        }
      } else if (node instanceof ArrayNode array) {
        ways.add(() -> array.add(other(random)));
        for (int i = 0; i < array.size(); i++) {
          int place = i;
          ways.add(
              () -> {
                if (place < array.size()) {
                  array.set(place, other(random));
                }
              });
          collect(array.get(i), random, ways);
        }
      }
    }

    private static List<String> names(ObjectNode object) {
      List<String> names = new ArrayList<>();
      object.fieldNames().forEachRemaining(names::add);
      return names;
    }

    private static JsonNode other(Random random) {
      JsonNodeFactory json = JsonNodeFactory.instance;
      return switch (random.nextInt(7)) {
        case 0 -> json.nullNode();
        case 1 -> json.booleanNode(random.nextBoolean());
        case 2 -> json.textNode(TEXTS[random.nextInt(TEXTS.length)]);
        case 3 -> json.numberNode(NUMBERS[random.nextInt(NUMBERS.length)]);
        case 4 -> json.numberNode(random.nextLong());
        case 5 -> json.arrayNode().addNull().add(random.nextInt());
        default -> json.objectNode().put("do", "start").putNull("by");
      };
    }
  }
}
