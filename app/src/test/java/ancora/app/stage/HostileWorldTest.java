package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.LongTable;
import ancora.app.Mutation;
import ancora.app.PageStandIn;
import ancora.app.ProtocolExamples;
import ancora.app.store.Journals;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.core.run.From;
import ancora.core.run.Run;
import ancora.core.run.RunHistory;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.show.Balance;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.dao.DataAccessException;
import org.springframework.transaction.TransactionException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Messages that are broken, pages that flood or sleep, a database that closes: the music goes on.
 */
@Timeout(value = 40, unit = TimeUnit.MINUTES)
class HostileWorldTest {

  private static final int MUTATIONS = Integer.getInteger("ancora.mutations", 100);

  /** Commands are broken 2000 times where they are read, without a socket. */
  private static final int OF_OTHERS = Math.max(600, MUTATIONS);

  private static final int AT_ONCE = 30;
  private static final int WATCHERS = 100;
  private static final int FLOOD = 5_000;
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

  /** A run of three bars, in which something was played. */
  private static void performed(long show) {
    RunPart part =
        new RunPart(
            new PartId(1),
            "Kit",
            0,
            List.of(new From.OfSound(0, Sound.STANDARD_KIT)),
            List.of(new From.OfBalance(0, Balance.DEFAULT, true)),
            List.of(),
            List.of(new RunNote(0, 36, 90, 240)),
            List.of());
    Run run =
        new Run(
            TempoMap.of(0, 0, Tempo.of(120)),
            Meter.COMMON,
            0,
            3 * Meter.COMMON.barTicks(),
            List.of(part),
            List.of());
    house.bean(RunStore.class).add(show, 1, 1_700_000_000_000_000L, "", RunHistory.of(run));
  }

  /**
   * Each message of the protocol, broken in many ways, is answered, and harms neither show nor
   * house.
   */
  @Test
  void everyMessageIsAnsweredHoweverItIsBroken() throws IOException {
    long show = show();
    performed(show);
    long other = show();
    Random random = new Random(Long.getLong("ancora.seed", 20_261_127));
    int page = 0;
    long all = 0;
    for (JsonNode example : ProtocolExamples.all()) {
      if (example.has("hello") || example.has("ping")) {
        continue;
      }
      try (PageStandIn hand = new PageStandIn(house.port(), show, "breaks " + page++)) {
        hand.next("welcome");
        Set<Long> unanswered = new HashSet<>();
        int mutations = example.has("do") ? MUTATIONS : OF_OTHERS;
        all += mutations;
        long seq = 0;
        for (long number = 1; number <= mutations; number++) {
          ObjectNode broken = Mutation.of((ObjectNode) example, random);
          if (broken.has("do")) {
            broken.put("seq", ++seq);
            broken.put("stamp", 0);
            unanswered.add(seq);
          }
          hand.say(Mutation.onTheWire(broken));
          // no more is on its way than whoever reads can take
          long until = number;
          if (number % AT_ONCE == 0 || number == mutations) {
            hand.say("{\"ping\":%s}".formatted(until));
            hand.next(
                answer -> {
                  answered(answer, unanswered);
                  return answer.path("pong").asLong() == until;
                });
          }
        }
        while (!unanswered.isEmpty()) {
          answered(hand.next(m -> m.has("ack") || m.has("refused")), unanswered);
        }
        hand.goOnFrom(seq);
        hand.done("{\"do\":\"reportDelay\",\"micros\":30000}");
      }
    }
    LongTable.row("broken messages, each answered", "%,d of %s kinds".formatted(all, page));
    for (long each : new long[] {show, other}) {
      try (PageStandIn hand = new PageStandIn(house.port(), each, "comes later")) {
        assertThat(hand.next("welcome").has("plan")).isTrue();
        // what was broken may still have been a way to delete the last part
        if (house.bean(StageHouse.class).show(each).parts().isEmpty()) {
          hand.done("{\"do\":\"addPart\",\"name\":\"Kit\",\"drums\":true,\"program\":0}");
        }
        hand.done(DOWN);
        hand.done(UP);
      }
    }
  }

  private static void answered(JsonNode answer, Set<Long> unanswered) {
    unanswered.remove(answer.path("ack").asLong());
    unanswered.remove(answer.path("refused").asLong());
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
      // on a slow machine it reads too late, and is sent away before it is through
      if (!flooder.finds(m -> m.path("ack").asLong() == FLOOD)) {
        for (int i = 0; i < 100; i++) {
          performer.done(i % 2 == 0 ? DOWN : UP);
        }
      }
      performer.done("{\"do\":\"setTempo\",\"bpm\":77}");
      for (PageStandIn watcher : watchers) {
        sees(watcher, show, 77);
      }
    } finally {
      watchers.forEach(PageStandIn::close);
    }
  }

  /**
   * A page knows the tempo; one that a slow machine let read too late is sent away, and comes back.
   */
  private static void sees(PageStandIn watcher, long show, double bpm) {
    String at = "/state/show/bpm";
    if (watcher.finds(m -> m.at(at).asDouble() == bpm)) {
      return;
    }
    try (PageStandIn back = new PageStandIn(house.port(), show, "watches again")) {
      assertThat(back.next("welcome").at(at).asDouble()).isEqualTo(bpm);
    }
  }

  /**
   * A show is deleted under its pages: each is told, and what is done on one after that is answered
   * in the same words. Put back, it is what it was.
   */
  @Test
  void aShowThatIsDeletedWhileItIsOpen() {
    long show = show();
    StageHouse stages = house.bean(StageHouse.class);
    try (PageStandIn hand = new PageStandIn(house.port(), show, "left alone");
        PageStandIn watcher = new PageStandIn(house.port(), show, "watches")) {
      hand.next("welcome");
      watcher.next("welcome");
      hand.done("{\"do\":\"setTempo\",\"bpm\":104}");
      stages.delete(show);
      assertThat(hand.next("gone").asString()).contains("closed");
      assertThat(watcher.next("gone").asString()).contains("closed");
      hand.command("{\"do\":\"setTempo\",\"bpm\":105}", 0);
      assertThat(hand.next("gone").asString()).contains("closed");
    }
    house.bean(ShowStore.class).setDeleted(show, false);
    try (PageStandIn again = new PageStandIn(house.port(), show, "comes back")) {
      assertThat(again.next("welcome").at("/state/show/bpm").asDouble()).isEqualTo(104);
    }
  }

  /** The database closes under the house, as it does when the disk is full: it is opened anew. */
  @Test
  void aDatabaseThatClosesIsOpenedAnew() throws SQLException, InterruptedException {
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
    assertThat(house.bean(Journals.class).after(show, 0))
        .extracting(row -> row.command().replaceAll("\\.0|\\D", ""))
        .containsExactly("101", "102", "103");
    // it is opened anew by the next that asks, or saves
    ShowStore store = house.bean(ShowStore.class);
    for (int asked = 0; !isOpen(store); asked++) {
      assertThat(asked).isLessThan(600);
      Thread.sleep(100);
    }
    // what was lost with it is there again, from the journals
    for (int asked = 0; !isSaved(store, show); asked++) {
      assertThat(asked).isLessThan(600);
      Thread.sleep(100);
    }
  }

  private static boolean isSaved(ShowStore store, long show) {
    return store
        .find(show)
        .filter(saved -> saved.stage().show().tempo().milliBpm() == 103_000)
        .isPresent();
  }

  private static boolean isOpen(ShowStore store) {
    try {
      store.cards();
      return true;
    } catch (DataAccessException | TransactionException closed) {
      return false;
    }
  }
}
