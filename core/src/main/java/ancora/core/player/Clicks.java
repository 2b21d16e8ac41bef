package ancora.core.player;

import ancora.core.plan.Plan;
import ancora.core.player.Sounded.Kind;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/** The clicks of the metronome. */
final class Clicks {

  private Clicks() {}

  private static final int DOWNBEAT_VELOCITY = 120;
  private static final int BEAT_VELOCITY = 92;

  /** Those in (after, last], by rising tick in each span. */
  static List<Sounded> in(Plan now, TempoMap map, long after, long last) {
    List<Sounded> clicks = new ArrayList<>();
    long beat = now.meter().beatTicks();
    for (Plan.ClickSpan span : now.clickSpans()) {
      long from = Math.max(after + 1, span.from());
      long end = Math.min(last, span.until() - 1);
      for (long tick = Ticks.ceil(from, beat); tick <= end; tick += beat) {
        if (now.click().fallsOn(tick, now.meter())) {
          boolean downbeat = Math.floorMod(tick, now.meter().barTicks()) == 0;
          Sounded click =
              new Sounded(
                  tick,
                  Ticks.round(map.microsOf(tick)),
                  Sounded.CLICK,
                  Kind.ON,
                  downbeat ? now.click().sound().downbeatKey() : now.click().sound().beatKey(),
                  downbeat ? DOWNBEAT_VELOCITY : BEAT_VELOCITY);
          clicks.add(click);
        }
      }
    }
    return clicks;
  }
}
