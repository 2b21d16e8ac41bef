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
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

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

  private static final int VOLUME = 7;
  private static final int EXPRESSION = 11;
  private static final int PAN = 10;
  private static final int CENTRE = 64;

  static ClipContent of(MidiSong.Line line, Pieces.Piece piece) {
    long tooMany = 0;
    List<RunNote> notes = new ArrayList<>();
    Set<Integer> begin = new HashSet<>();
    Map<Integer, RunNote> carried = new HashMap<>();
    for (RunNote note : line.notes()) {
      long place = note.place() - piece.from();
      if (place >= 0 && place < piece.length()) {
        notes.add(new RunNote(place, note.pitch(), note.velocity(), note.length()));
        if (place == 0) {
          begin.add(note.pitch());
        }
      } else if (place < 0 && note.end() - piece.from() >= Note.SHORTEST) {
        carried.merge(
            note.pitch(),
            new RunNote(-1, note.pitch(), note.velocity(), note.end() - piece.from() + 1),
            (a, b) -> a.length() >= b.length() ? a : b);
      }
    }
    carried.keySet().removeAll(begin);
    notes.addAll(
        0, carried.values().stream().sorted(Comparator.comparingInt(RunNote::pitch)).toList());
    if (notes.size() > Clip.MOST_NOTES) {
      tooMany += notes.size() - Clip.MOST_NOTES;
      notes = notes.subList(0, Clip.MOST_NOTES);
    }
    List<ControllerMove> moves = new ArrayList<>(atStart(line, piece.from()));
    for (ControllerMove move : line.moves()) {
      long place = move.place() - piece.from();
      if (place > 0 && place < piece.length()) {
        moves.add(move.withPlace(place));
      }
    }
    if (moves.size() > Clip.MOST_MOVES) {
      tooMany += moves.size() - Clip.MOST_MOVES;
      moves = moves.subList(0, Clip.MOST_MOVES);
    }
    return new ClipContent(piece.length(), List.copyOf(notes), List.copyOf(moves), tooMany);
  }

  /**
   * How each controller that the line moves anywhere stands at a tick, in the order of the first
   * moves.
   */
  private static List<ControllerMove> atStart(MidiSong.Line line, long tick) {
    Map<Controller, Integer> stand = new LinkedHashMap<>();
    Set<Controller> moved = new HashSet<>();
    for (ControllerMove move : line.moves()) {
      if (move.place() <= tick) {
        stand.put(move.controller(), move.value());
      }
      moved.add(move.controller());
    }
    moved.removeAll(stand.keySet());
    List<ControllerMove> moves = new ArrayList<>();
    stand.forEach((controller, value) -> moves.add(new ControllerMove(controller, 0, value)));
    moved.stream()
        .sorted(Comparator.comparing((Controller c) -> c.kind()).thenComparing(Controller::number))
        .filter(controller -> hasRest(controller))
        .forEach(controller -> moves.add(new ControllerMove(controller, 0, rest(controller))));
    return moves;
  }

  private static boolean hasRest(Controller controller) {
    return controller.springsBack()
        || Set.of(1, VOLUME, PAN, EXPRESSION).contains(controller.number());
  }

  /** Where a controller stands that nothing has moved yet (MIDI 1.0, and General MIDI). */
  private static int rest(Controller controller) {
    if (controller.springsBack()) {
      return controller.rest();
    }
    return switch (controller.number()) {
      case VOLUME, EXPRESSION -> controller.most();
      case PAN -> CENTRE;
      default -> 0;
    };
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
