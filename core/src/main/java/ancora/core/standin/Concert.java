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
  public record Request(long tick, Command command) {}

  /** What it does in a show; nothing if the show has no sections. */
  public static List<Request> of(Show show) {
    Meter meter = show.meter();
    long bar = meter.barTicks();
    List<Request> requests = new ArrayList<>();
    List<Section> form = show.form();
    if (form.isEmpty()) {
      return requests;
    }
    requests.add(new Request(-1, new CueCommand.CueSection(form.get(0).id())));
    requests.add(new Request(-1, new CueCommand.Start()));
    long at = BARS * bar / 2;
    for (Section section : form.subList(1, form.size())) {
      requests.add(
          new Request(
              at - BEATS_AHEAD * meter.beatTicks(), new CueCommand.CueSection(section.id())));
      at += BARS * bar;
    }
    requests.add(new Request(at - BEATS_AHEAD * meter.beatTicks(), new CueCommand.StopAll()));
    requests.add(new Request(at + bar, new CueCommand.Stop()));
    return requests;
  }
}
