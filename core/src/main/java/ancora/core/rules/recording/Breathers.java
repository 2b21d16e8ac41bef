package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Together;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import ancora.core.vamp.Breather;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;
import java.util.stream.LongStream;

/** The breather (rule 14): after each recorded pass a loop rests for some bars. */
public final class Breathers {

  private Breathers() {}

  /**
   * How long a loop rests that is recorded onto, in ticks: as set, or longer, so that it is in
   * phase with what else vamps at each of its lines.
   *
   * @param length ticks of the loop
   */
  static long ticks(Stage stage, PartId part, long length) {
    long bar = stage.show().meter().barTicks();
    long set = stage.show().recording().breatherBars() * bar;
    if (set == 0) {
      return 0;
    }
    List<PartId> together = Together.of(stage);
    long[] others =
        stage.show().parts().stream()
            .filter(other -> !other.id().equals(part) && !together.contains(other.id()))
            .flatMapToLong(other -> lengthOf(stage, other))
            .toArray();
    for (long ticks = set; ticks <= length; ticks += bar) {
      long round = length + ticks;
      if (LongStream.of(others).allMatch(other -> round % other == 0)) {
        return ticks;
      }
    }
    return others.length == 0 ? set : Ticks.ceil(set, length);
  }

  private static LongStream lengthOf(Stage stage, Part part) {
    return stage.on(part.id()).vamp().stream()
        .mapToLong(vamp -> part.clipOf(vamp.clip()).window().length());
  }

  /** A loop that is recorded onto rests from a line on, if a breather is set. */
  static Vamp from(Stage stage, PartId part, Loop loop, long line) {
    Vamp vamp = loop.vamp();
    Optional<Breather> still = vamp.breather().filter(b -> line <= b.until() && line >= b.from());
    if (still.isPresent()) {
      return vamp.withBreather(still.map(b -> b.until(Ticks.OPEN)));
    }
    long ticks = ticks(stage, part, loop.length());
    if (ticks == 0) {
      return vamp;
    }
    return vamp.withBreather(Optional.of(Breather.from(line, ticks, vamp.breather())));
  }

  /** A loop that has another window from a tick on rests from its next line, if it does. */
  public static Vamp standing(Stage stage, PartId part, Loop stands, long at) {
    boolean rests =
        stage.on(part).open().filter(recording -> recording.way() != Way.REPLACE).isPresent();
    return rests ? from(stage, part, stands, stands.lineFrom(at)) : stands.vamp();
  }

  /** Where nothing is recorded any more it rests no more from its next line on. */
  static Stage ended(Stage stage, PartId part, long tick) {
    Optional<Vamp> vamp = stage.on(part).vamp().filter(v -> v.breather().isPresent());
    if (vamp.isEmpty() || !vamp.get().breather().get().isOpen()) {
      return stage;
    }
    Breather breather = vamp.get().breather().get();
    Clip clip = stage.clip(part, vamp.get().clip());
    long line = vamp.get().in(clip.window()).lineFrom(tick);
    Optional<Breather> rests =
        line <= breather.from() ? breather.before() : Optional.of(breather.until(line));
    return stage.mapOn(part, on -> on.withVamp(vamp.get().withBreather(rests)));
  }

  /** Only what is recorded onto rests. */
  public static Stage endWhereOver(Stage stage, long tick) {
    Stage next = stage;
    for (PartId part : stage.partStages().keySet()) {
      boolean rests =
          stage.on(part).vamp().flatMap(Vamp::breather).filter(Breather::isOpen).isPresent();
      next = rests && stage.on(part).open().isEmpty() ? ended(next, part, tick) : next;
    }
    return next;
  }

  /** A breather is switched on or off while something is recorded: from the next line on. */
  public static Stage set(Stage before, Stage after, Moment moment) {
    int was = before.show().recording().breatherBars();
    int is = after.show().recording().breatherBars();
    if (was == is || after.map().isEmpty()) {
      return after;
    }
    long tick = moment.tick(after.map().get());
    Stage next = after;
    for (PartId part : after.partStages().keySet()) {
      Optional<LoopRecording> open =
          after.on(part).open().filter(recording -> recording.way() != Way.REPLACE);
      Optional<Vamp> vamp = after.on(part).vamp();
      if (open.isPresent() && vamp.isPresent()) {
        Loop loop = vamp.get().in(after.clip(part, vamp.get().clip()).window());
        long line = loop.lineFrom(Math.max(tick, open.get().since()));
        next =
            is == 0
                ? ended(next, part, tick)
                : next.mapOn(part, on -> on.withVamp(from(after, part, loop, line)));
      }
    }
    return next;
  }
}
