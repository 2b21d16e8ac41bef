package ancora.core.file;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.RunNote;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What a line plays in a piece of a song, at places of a clip's own. What rings into it from before
 * is carried: it begins just before the clip's start, so that it sounds on there. Controllers stand
 * at its start as they do in the song.
 *
 * @param length of the clip, in ticks
 * @param notes by rising place
 * @param moves by rising place
 * @param tooMany how many notes and moves a clip does not hold
 */
record ClipContent(long length, List<RunNote> notes, List<ControllerMove> moves, long tooMany) {

  static ClipContent of(MidiSong.Line line, Pieces.Piece piece) {
    List<RunNote> notes = notes(line, piece);
    List<ControllerMove> moves = moves(line, piece);
    List<RunNote> kept = notes.subList(0, Math.min(notes.size(), Clip.MOST_NOTES));
    List<ControllerMove> keptMoves = moves.subList(0, Math.min(moves.size(), Clip.MOST_MOVES));
    long tooMany = notes.size() - kept.size() + moves.size() - keptMoves.size();
    return new ClipContent(piece.length(), List.copyOf(kept), List.copyOf(keptMoves), tooMany);
  }

  private static List<RunNote> notes(MidiSong.Line line, Pieces.Piece piece) {
    List<RunNote> notes = new ArrayList<>();
    Map<Integer, RunNote> carried = new TreeMap<>();
    for (RunNote note : line.notes()) {
      long place = note.place() - piece.from();
      long rest = note.end() - piece.from();
      if (place >= 0 && place < piece.length()) {
        notes.add(note.later(-piece.from()));
      } else if (place < 0 && rest >= Note.SHORTEST) {
        carried.merge(
            note.pitch(),
            new RunNote(-1, note.pitch(), note.velocity(), rest + 1),
            (a, b) -> a.length() >= b.length() ? a : b);
      }
    }
    notes.stream().filter(note -> note.place() == 0).forEach(note -> carried.remove(note.pitch()));
    notes.addAll(0, carried.values());
    return notes;
  }

  private static List<ControllerMove> moves(MidiSong.Line line, Pieces.Piece piece) {
    List<ControllerMove> moves = new ArrayList<>(atStart(line, piece.from()));
    for (ControllerMove move : line.moves()) {
      long place = move.place() - piece.from();
      if (place > 0 && place < piece.length()) {
        moves.add(move.withPlace(place));
      }
    }
    return moves;
  }

  /**
   * How each controller that the line moves anywhere stands at a tick, in the order of first moves.
   */
  private static List<ControllerMove> atStart(MidiSong.Line line, long tick) {
    Map<Controller, Integer> stand = new LinkedHashMap<>();
    for (ControllerMove move : line.moves()) {
      if (move.place() <= tick) {
        stand.put(move.controller(), move.value());
      } else if (!stand.containsKey(move.controller())) {
        move.controller().unmoved().ifPresent(value -> stand.put(move.controller(), value));
      }
    }
    return stand.entrySet().stream()
        .map(e -> new ControllerMove(e.getKey(), 0, e.getValue()))
        .toList();
  }

  /** Whether nothing sounds. */
  boolean isSilent() {
    return notes.stream().allMatch(note -> note.pitch() == Note.PEDAL);
  }

  /** The same as a clip. */
  Clip clip(ClipId id, String letter, Manner manner) {
    List<Note> own = new ArrayList<>();
    for (RunNote note : notes) {
      long place = note.place();
      long lasts = Math.max(Note.SHORTEST, note.length());
      own.add(Note.of(own.size() + 1, note.pitch(), note.velocity(), place, place, lasts));
    }
    List<ControllerMove> numbered = new ArrayList<>();
    moves.forEach(move -> numbered.add(move.withId(numbered.size() + 1)));
    Layer layer = new Layer(1, own).withMoves(numbered);
    return Clip.of(id, letter, new LoopWindow(0, length), layer).withManner(manner);
  }
}
