package ancora.core.standin;

import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import java.util.ArrayList;
import java.util.List;

/**
 * A whole piece played by the stand-in: through the show's form, section by section; then to the
 * end. It does what a performer's feet would do.
 */
public final class Concert {

  /** Bars that each section lasts. */
  private static final int BARS = 8;

  /** A cue is asked for so many beats before it takes effect. */
  private static final int BEATS_AHEAD = 2;

  private Concert() {}

  /**
   * Something that it does.
   *
   * @param tick when, on the transport; what comes before 0 is done before it starts
   * @param command what
   */
  public record Step(long tick, Command command) {}

  /** What it does in a show; nothing if the show has no sections. */
  public static List<Step> of(Show show) {
    Meter meter = show.meter();
    long bar = meter.barTicks();
    List<Step> steps = new ArrayList<>();
    List<Section> form = show.form();
    if (form.isEmpty()) {
      return steps;
    }
    steps.add(new Step(-1, new CueCommand.CueSection(form.get(0).id())));
    steps.add(new Step(-1, new CueCommand.Start()));
    long at = BARS * bar / 2;
    for (Section section : form.subList(1, form.size())) {
      steps.add(
          new Step(at - BEATS_AHEAD * meter.beatTicks(), new CueCommand.CueSection(section.id())));
      at += BARS * bar;
    }
    steps.add(new Step(at - BEATS_AHEAD * meter.beatTicks(), new CueCommand.StopAll()));
    steps.add(new Step(at + bar, new CueCommand.Stop()));
    return steps;
  }
}
