package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.shelf.Arrival;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;
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

  /** What brings it in. */
  public Command bringIn() {
    return new ShelfCommand.BringIn(arrival);
  }

  /** Where a clip begins and ends in the song. */
  private record Piece(long from, long until, String name) {}

  /**
   * A song for a show.
   *
   * @param show its meter holds if it has music
   */
  public static Arranging of(MidiSong song, Choice choice, Show show) {
    boolean empty = show.parts().stream().allMatch(part -> part.shelf().isEmpty());
    return new Work(song, choice, empty ? song.meter() : show.meter()).done();
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
            "", run.map().tempoAt(0), run.meter(), List.of(line), List.of(), until, List.of());
    boolean there = show.parts().stream().anyMatch(p -> p.id().equals(part));
    Map<Integer, PartId> onto = there ? Map.of(0, part) : Map.of();
    Refusal.unless(!line.notes().isEmpty(), "%s sounded nothing in those bars.", sounded.name());
    return of(song, new Choice(List.of(), onto, bars), show);
  }

  /** What is being arranged. */
  private static final class Work {
    private final MidiSong song;
    private final Choice choice;
    private final Meter meter;
    private final List<Piece> pieces;
    private final List<Map<PartId, Optional<ClipId>>> lineUps = new ArrayList<>();
    private final List<Part> parts = new ArrayList<>();
    private final List<Arrival.Onto> onto = new ArrayList<>();
    private int nextClip = 1;
    private long tooMany;

    Work(MidiSong song, Choice choice, Meter meter) {
      this.song = song;
      this.choice = choice;
      this.meter = meter;
      this.pieces = pieces();
      pieces.forEach(piece -> lineUps.add(new HashMap<>()));
    }

    Arranging done() {
      for (int line = 0; line < song.lines().size(); line++) {
        if (choice.lines().isEmpty() || choice.lines().contains(line)) {
          add(line);
        }
      }
      Refusal.unless(!parts.isEmpty(), "That file has no notes: nothing can be brought in.");
      List<String> leftOut = new ArrayList<>(song.leftOut());
      int others = song.lines().size() - parts.size();
      if (others > 0) {
        leftOut.add(others == 1 ? "1 line was not chosen." : others + " lines were not chosen.");
      }
      if (tooMany > 0) {
        leftOut.add(tooMany + " notes or moves: a clip holds no more.");
      }
      Arrival arrival =
          new Arrival(Optional.of(song.tempo()), Optional.of(song.meter()), parts, onto, form());
      return new Arranging(arrival, leftOut);
    }

    /** At markers, on the bar lines at or before them; or every so many bars. */
    private List<Piece> pieces() {
      long bar = meter.barTicks();
      long end = song.end(bar);
      List<Piece> all = new ArrayList<>();
      long step = (choice.cut() > 0 ? choice.cut() : Choice.MOST_BARS) * bar;
      Refusal.unless(
          Ticks.ceil(end, step) / step + song.markers().size() <= Arrival.MOST_CLIPS,
          "That would be more than %s clips: cut it into longer ones.",
          Arrival.MOST_CLIPS);
      if (choice.cut() > 0) {
        cut(all, 0, end, "", choice.cut() * bar);
        return all;
      }
      long from = 0;
      String name = "";
      for (MidiSong.Marker marker : song.markers()) {
        long tick = Ticks.nearest(marker.tick(), bar);
        if (tick > from && tick < end) {
          cut(all, from, tick, name, Choice.MOST_BARS * bar);
          from = tick;
        }
        name = marker.name();
      }
      cut(all, from, end, name, Choice.MOST_BARS * bar);
      return all;
    }

    private static void cut(List<Piece> all, long from, long until, String name, long longest) {
      for (long tick = from; tick < until; tick += longest) {
        all.add(new Piece(tick, Math.min(until, tick + longest), name));
      }
    }

    private void add(int place) {
      MidiSong.Line line = song.lines().get(place);
      PartId id = new PartId(place + 1);
      String name = line.name().isEmpty() ? line.sound().name() : line.name();
      Part part = Part.of(id, name, line.sound()).withBalance(line.balance());
      List<Clip> shelf = new ArrayList<>();
      for (int i = 0; i < pieces.size(); i++) {
        Optional<Clip> clip = clip(line, pieces.get(i), part.withShelf(shelf).freeLetter());
        lineUps.get(i).put(id, clip.map(Clip::id));
        clip.ifPresent(shelf::add);
      }
      if (!shelf.isEmpty()) {
        parts.add(part.withShelf(shelf));
        choice.ontoOf(place).ifPresent(to -> onto.add(new Arrival.Onto(id, to)));
      }
    }

    private Optional<Clip> clip(MidiSong.Line line, Piece piece, String letter) {
      List<Note> notes = new ArrayList<>();
      for (RunNote note : line.notes()) {
        if (note.place() >= piece.from() && note.place() < piece.until()) {
          long tick = note.place() - piece.from();
          long length = Math.max(Note.SHORTEST, note.length());
          if (notes.size() < Clip.MOST_NOTES) {
            notes.add(Note.of(notes.size() + 1, note.pitch(), note.velocity(), tick, tick, length));
          } else {
            tooMany++;
          }
        }
      }
      if (notes.isEmpty()) {
        return Optional.empty();
      }
      List<ControllerMove> moves = new ArrayList<>();
      for (ControllerMove move : line.moves()) {
        if (move.place() >= piece.from() && move.place() < piece.until()) {
          if (moves.size() < Clip.MOST_MOVES) {
            long id = moves.size() + 1;
            moves.add(move.withId(id).withPlace(move.place() - piece.from()));
          } else {
            tooMany++;
          }
        }
      }
      LoopWindow window = new LoopWindow(0, piece.until() - piece.from());
      Layer layer = new Layer(1, notes).withMoves(moves);
      return Optional.of(
          Clip.of(new ClipId(nextClip++), letter, window, layer).withName(piece.name()));
    }

    /** Where it is cut at markers each piece is a section, which goes on by itself to the next. */
    private List<Section> form() {
      List<Section> form = new ArrayList<>();
      if (choice.cut() > 0 || pieces.size() > Section.MOST) {
        return form;
      }
      for (int i = 0; i < pieces.size(); i++) {
        Piece piece = pieces.get(i);
        int bars = (int) ((piece.until() - piece.from()) / meter.barTicks());
        Optional<Section.GoesOn> goesOn =
            i + 1 < pieces.size()
                ? Optional.of(new Section.GoesOn(bars, new SectionId(i + 2)))
                : Optional.empty();
        String letter = String.valueOf((char) ('A' + i));
        form.add(
            new Section(new SectionId(i + 1), letter, piece.name(), lineUps.get(i), false, goesOn));
      }
      return form;
    }
  }
}
