package ancora.core.player;

import ancora.core.plan.Plan;
import ancora.core.player.Sounded.Kind;
import ancora.core.show.Click;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/** The clicks of the metronome. */
final class Clicks {

  private Clicks() {}

  /** Those in (after, last], by rising tick in each span. */
  static List<Sounded> in(Plan now, TempoMap map, long after, long last) {
    List<Sounded> clicks = new ArrayList<>();
    long step = now.click().step(now.meter());
    for (Plan.ClickSpan span : now.clickSpans()) {
      long from = Math.max(after + 1, span.from());
      long end = Math.min(last, span.until() - 1);
      for (long tick = Ticks.ceil(from, step); tick <= end; tick += step) {
        clicks.add(click(now.click(), now.meter(), map, tick));
      }
    }
    return clicks;
  }

  private static Sounded click(Click click, Meter meter, TempoMap map, long tick) {
    boolean downbeat = Math.floorMod(tick, meter.barTicks()) == 0;
    boolean beat = Math.floorMod(tick, click.ticks(meter)) == 0;
    return new Sounded(
        tick,
        Ticks.round(map.microsOf(tick)),
        Sounded.CLICK,
        Kind.ON,
        downbeat ? click.downbeatKey() : click.beatKey(),
        click.velocities().get(downbeat ? 0 : beat ? 1 : 2));
  }
}
