package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.ComesIn;
import ancora.core.clip.Manner;
import ancora.core.rules.Command;
import ancora.core.rules.shelf.Arrival;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.run.Run;
import ancora.core.run.RunPart;
import ancora.core.show.Letters;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A song as parts, clips and sections for a show.
 *
 * @param arrival what is brought in
 * @param leftOut what is not, in sentences
 */
public record Arranging(Arrival arrival, List<String> leftOut) {

  /** Why so many lines do not come in, and what to do. */
  public static String tooMany(int lines) {
    return "%s lines are more than the %s parts of a show: join the lines of a channel, or leave some out."
        .formatted(lines, Show.MOST_PARTS);
  }

  /** What brings it in. */
  public Command bringIn() {
    return new ShelfCommand.BringIn(arrival);
  }

  /**
   * A song for a show.
   *
   * @param show its meter holds if it has music
   */
  public static Arranging of(MidiSong song, Choice choice, Show show) {
    boolean empty = show.parts().stream().allMatch(part -> part.shelf().isEmpty());
    MidiSong.Time time = choice.timeOf(song);
    // in a show with music its own form goes on: clips come for it, and sections where markers name
    // them
    boolean asForm = empty || choice.cut() == 0;
    return new Work(song, choice, time, empty ? time.meter() : show.meter(), asForm).done();
  }

  /** Parts and clips of another show, as they are there; its sections stay there. */
  public static Arranging of(Show other, List<Wanted> wanted) {
    List<Part> parts = new ArrayList<>();
    List<Arrival.Onto> onto = new ArrayList<>();
    for (Wanted one : wanted) {
      Part part = other.part(one.part());
      parts.add(part.withShelf(one.clips().stream().map(part::clipOf).toList()));
      one.onto().ifPresent(to -> onto.add(new Arrival.Onto(part.id(), to)));
    }
    Arrival arrival =
        new Arrival(Optional.of(other.tempo()), Optional.of(other.meter()), parts, onto, List.of());
    return new Arranging(arrival, List.of());
  }

  /**
   * What a part sounded in some bars of a run, as a clip in one layer for its shelf; for a part of
   * its own, where the show has that part no more. Refuses bars in which it sounded nothing.
   *
   * @param from the first bar of the run
   * @param bars how many, 1 to 64
   */
  public static Arranging stretch(Run run, PartId part, int from, int bars, Show show) {
    Refusal.unless(
        bars >= 1 && bars <= Choice.MOST_BARS, "A clip has 1 to %s bars.", Choice.MOST_BARS);
    RunPart sounded = run.stretch(part, from, bars);
    long until = bars * run.meter().barTicks();
    MidiSong.Line line =
        new MidiSong.Line(
            1,
            1,
            sounded.name(),
            sounded.soundAt(0),
            sounded.balances().get(0).balance(),
            sounded.allNotes(),
            sounded.allMoves());
    MidiSong song =
        new MidiSong(
            "",
            List.of(new MidiSong.TempoFrom(0, run.map().tempoAt(0))),
            SongBars.of(run.meter()),
            List.of(line),
            List.of(),
            List.of(),
            0,
            until,
            List.of());
    boolean there = show.parts().stream().anyMatch(p -> p.id().equals(part));
    Map<Integer, PartId> onto = there ? Map.of(0, part) : Map.of();
    Refusal.unless(!line.notes().isEmpty(), "%s sounded nothing in those bars.", sounded.name());
    return of(song, Choice.all(bars).withOnto(onto), show);
  }

  /** What is being arranged. */
  private static final class Work {
    private final MidiSong song;
    private final Choice choice;
    private final MidiSong.Time time;
    private final Meter meter;
    private final boolean asForm;
    private final List<Pieces.Piece> pieces;
    private final List<Map<PartId, Optional<ClipId>>> lineUps = new ArrayList<>();
    private final List<Part> parts = new ArrayList<>();
    private final List<Arrival.Onto> onto = new ArrayList<>();
    private int nextClip = 1;
    private long tooMany;

    Work(MidiSong song, Choice choice, MidiSong.Time time, Meter meter, boolean asForm) {
      this.song = song;
      this.choice = choice;
      this.time = time;
      this.meter = meter;
      this.pieces = Pieces.of(song, choice, meter.barTicks());
      this.asForm = asForm && pieces.size() > 1;
      pieces.forEach(piece -> lineUps.add(new HashMap<>()));
    }

    Arranging done() {
      for (int line = 0; line < song.lines().size(); line++) {
        if (choice.lines().isEmpty() || choice.lines().contains(line)) {
          add(line);
        }
      }
      Refusal.unless(!parts.isEmpty(), "That file has no notes: nothing can be brought in.");
      Refusal.unless(parts.size() <= Show.MOST_PARTS, tooMany(parts.size()));
      Arrival arrival =
          new Arrival(Optional.of(time.tempo()), Optional.of(time.meter()), parts, onto, form());
      return new Arranging(arrival, leftOut());
    }

    private List<String> leftOut() {
      List<String> leftOut = new ArrayList<>(song.leftOut());
      long tempi = song.tempos().size() - 1L;
      if (tempi > 0) {
        leftOut.add(many(tempi, "change") + " of tempo: %s holds.".formatted(time.tempo()));
      }
      long meters = song.bars().changes().size() - 1L;
      if (meters > 0) {
        leftOut.add(
            many(meters, "change")
                + " of meter: %s holds; it is cut on the song's own bar lines.".formatted(meter));
      }
      int others = song.lines().size() - parts.size();
      if (others > 0) {
        leftOut.add(others == 1 ? "1 line was not chosen." : others + " lines were not chosen.");
      }
      if (tooMany > 0) {
        leftOut.add(tooMany + " notes or moves: a clip holds no more.");
      }
      return leftOut;
    }

    private static String many(long count, String what) {
      return count + " " + what + (count == 1 ? "" : "s");
    }

    /** The clips of a line; what is played in several pieces alike is one clip. */
    private void add(int place) {
      MidiSong.Line line = song.lines().get(place);
      PartId id = new PartId(place + 1);
      Part part = Part.of(id, line.called(), line.sound()).withBalance(line.balance());
      List<Clip> shelf = new ArrayList<>();
      Map<ClipContent, ClipId> made = new HashMap<>();
      for (int i = 0; i < pieces.size(); i++) {
        Pieces.Piece piece = pieces.get(i);
        ClipContent content = ClipContent.of(line, piece);
        tooMany += content.tooMany();
        Optional<ClipId> clip = Optional.empty();
        if (!content.isSilent()) {
          clip = Optional.ofNullable(made.get(content));
          if (clip.isEmpty()) {
            String letter = part.withShelf(shelf).freeLetter();
            Clip anew =
                content.clip(new ClipId(nextClip++), letter, manner()).withName(nameOf(piece));
            shelf.add(anew);
            made.put(content, anew.id());
            clip = Optional.of(anew.id());
          }
        }
        lineUps.get(i).put(id, clip);
      }
      if (!shelf.isEmpty()) {
        parts.add(part.withShelf(shelf));
        choice.ontoOf(place).ifPresent(to -> onto.add(new Arrival.Onto(id, to)));
      }
    }

    /**
     * Pieces of a song follow one another: nothing of their own end is under way where they enter.
     */
    private Manner manner() {
      return pieces.size() == 1
          ? Manner.DEFAULT
          : Manner.DEFAULT.withComesIn(ComesIn.FROM_THE_TOP).withUnderWay(false);
    }

    private String nameOf(Pieces.Piece piece) {
      return pieces.size() == 1 ? "" : piece.name();
    }

    /** Each piece is a section, which goes on by itself to the next. */
    private List<Section> form() {
      List<Section> form = new ArrayList<>();
      for (int i = 0; asForm && i < pieces.size(); i++) {
        Pieces.Piece piece = pieces.get(i);
        int bars = (int) (piece.length() / meter.barTicks());
        Optional<Section.GoesOn> goesOn =
            i + 1 < pieces.size()
                ? Optional.of(new Section.GoesOn(bars, new SectionId(i + 2)))
                : Optional.empty();
        String letter = Letters.free('A', l -> form.stream().anyMatch(s -> s.letter().equals(l)));
        form.add(
            new Section(new SectionId(i + 1), letter, piece.name(), lineUps.get(i), false, goesOn));
      }
      return form;
    }
  }
}
