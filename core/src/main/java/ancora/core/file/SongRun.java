package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.run.From;
import ancora.core.run.Run;
import ancora.core.run.RunEdit;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.show.Part;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/** A song as a run: its notes as they are, at its own tempi, as if hands had played it. */
public final class SongRun {

  /** So much of a line is heard before it comes in. */
  private static final int HEARD_BARS = 8;

  private SongRun() {}

  /**
   * A song as a run of the show that it came in as.
   *
   * @param choice by which it did: its lines are the show's parts, in order
   */
  public static Run of(MidiSong song, Choice choice, Show show) {
    List<RunPart> parts = new ArrayList<>();
    for (int line = 0; line < song.lines().size(); line++) {
      if (choice.lines().isEmpty() || choice.lines().contains(line)) {
        parts.add(part(song.lines().get(line), show.parts().get(parts.size())));
      }
    }
    Meter meter = choice.timeOf(song).meter();
    List<From.OfSection> sections =
        song.markers().stream()
            .map(marker -> new From.OfSection(marker.tick(), "", marker.name()))
            .toList();
    return new Run(song.map(), meter, 0, song.end(), parts, sections);
  }

  /**
   * What a line sounds from the bar in which it sets in, some bars long: to be heard before it
   * comes in. Refuses a line that the song has not.
   *
   * @param place of the line, from 0
   */
  public static Run heard(MidiSong song, int place) {
    Refusal.unless(
        place >= 0 && place < song.lines().size(), "That song has no such line: look at it again.");
    MidiSong.Line line = song.lines().get(place);
    Show alone = Show.named(line.called()).withNewPart(line.called(), line.sound());
    Run whole = of(song, Choice.all(HEARD_BARS).withLines(List.of(place)), alone);
    long bar = whole.meter().barTicks();
    long first = line.firstOnset() / bar;
    long bars = Math.min(HEARD_BARS, Ticks.ceil(whole.until(), bar) / bar - first);
    return new RunEdit.Trim((int) first + 1, (int) bars).of(whole);
  }

  private static RunPart part(MidiSong.Line line, Part part) {
    List<RunNote> notes = line.notes().stream().filter(note -> note.length() > 0).toList();
    return new RunPart(
        part.id(),
        part.name(),
        part.pennant(),
        List.of(new From.OfSound(0, line.sound())),
        List.of(new From.OfBalance(0, line.balance(), true)),
        List.of(),
        notes,
        line.moves());
  }
}
