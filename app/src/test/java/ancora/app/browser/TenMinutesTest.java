package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.LongTable;
import ancora.app.time.HouseClock;
import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Page;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/** A page in which the band plays for a long time, by the clock. */
@EnabledIfSystemProperty(named = "ancora.long", matches = "true")
class TenMinutesTest {

  private static final int MINUTES = Integer.getInteger("ancora.minutes", 10);

  /** What a page may hold more at the end than after its first minute, in bytes. */
  private static final double MORE = 8e6;

  @TempDir Path data;

  @Test
  void aPageGrowsNoLargerAndStaysWithTheHouse() {
    try (House house = House.open(data, "--ancora.demo=true");
        Stagehand hand = new Stagehand()) {
      Page page = hand.stage(house, 1);
      // what a test listens with would grow
      page.evaluate(
          "() => { globalThis.tapped.push = () => {}; globalThis.clocks.push = () => {}; }");
      page.keyboard().press("Space");
      page.waitForFunction("() => ancora.state.transport.rolling");
      CDPSession browser = page.context().newCDPSession(page);
      List<Double> heaps = new ArrayList<>();
      List<JsonObject> drawn = new ArrayList<>();
      double furthest = 0;
      for (int minute = 0; minute < MINUTES; minute++) {
        page.waitForTimeout(60_000);
        heaps.add(heap(browser));
        drawn.add(browser.send("Memory.getDOMCounters"));
        furthest = Math.max(furthest, apart(house, page));
      }
      int breaks = (int) page.evaluate("() => ancora.sound.breaks");
      LongTable.row(
          "a page for %s minutes: heap after the first and the last".formatted(MINUTES),
          "%.1f, %.1f MB".formatted(heaps.get(0) / 1e6, heaps.get(MINUTES - 1) / 1e6));
      LongTable.row(
          "  its nodes, and what listens to them, then",
          "%s, %s; %s, %s"
              .formatted(
                  drawn.get(0).get("nodes"),
                  drawn.get(MINUTES - 1).get("nodes"),
                  drawn.get(0).get("jsEventListeners"),
                  drawn.get(MINUTES - 1).get("jsEventListeners")));
      LongTable.row("  its clock and the house's, apart at most", "%.2f ms".formatted(furthest));
      LongTable.row("  blocks of sound that came late", Integer.toString(breaks));
      assertThat(heaps.get(MINUTES - 1)).isLessThan(heaps.get(0) + MORE);
      for (String kind : List.of("nodes", "jsEventListeners")) {
        int first = drawn.get(0).get(kind).getAsInt();
        assertThat(drawn.get(MINUTES - 1).get(kind).getAsInt())
            .as("what is drawn goes with the music, and does not grow")
            .isLessThan(first + first / 4);
      }
      assertThat((boolean) page.evaluate("() => ancora.state.transport.rolling")).isTrue();
      assertThat(hand.faults()).isEmpty();
    }
  }

  private static double heap(CDPSession browser) {
    browser.send("HeapProfiler.collectGarbage");
    JsonObject usage = browser.send("Runtime.getHeapUsage");
    return usage.get("usedSize").getAsDouble();
  }

  /** How far the page's idea of the house's time is outside of what it can be, in ms. */
  private static double apart(House house, Page page) {
    HouseClock clock = house.bean(HouseClock.class);
    long before = clock.micros();
    double said = ((Number) page.evaluate("() => ancora.clock.now()")).doubleValue();
    long after = clock.micros();
    return Math.max(0, Math.max(before - said, said - after)) / 1000;
  }
}
