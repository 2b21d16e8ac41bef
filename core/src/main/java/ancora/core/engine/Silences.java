package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Silence;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * When which notes of a sounding clip are silent: heard live just now, or being taken out. That is
 * said ahead, so that they are not heard however late the next plan comes.
 */
final class Silences {

  private final Map<Long, Silence> silences = new TreeMap<>();

  private Silences() {}

  static Map<Long, Silence> of(Stage stage, PartId part, Vamp vamp, Clip clip) {
    Silences found = new Silences();
    vamp.heard().forEach((id, tick) -> found.silences.put(id, Silence.through(tick)));
    recording(stage, part, clip)
        .ifPresent(
            recording -> {
              long end = recording.isOpen() ? end(stage, part, vamp, clip) : recording.until();
              found.add(recording, end, vamp, clip);
            });
    stage
        .hands()
        .eraseOn(part)
        .filter(e -> e.clip().equals(clip.id()) && e.take() == clip.take().number())
        .ifPresent(erase -> found.add(erase, clip));
    return found.silences;
  }

  /**
   * What controllers do in a pass of a clip: as with notes, what is being taken out does nothing.
   */
  static List<Move> moves(Stage stage, PartId part, Vamp vamp, Clip clip) {
    List<Move> moves = PassPlan.moves(clip);
    Optional<LoopRecording> on =
        recording(stage, part, clip)
            .filter(LoopRecording::isOpen)
            .filter(r -> vamp.from() < end(stage, part, vamp, clip));
    if (on.isEmpty()) {
      return moves;
    }
    if (on.get().way() == Way.TAKES) {
      return List.of();
    }
    if (!on.get().way().takesOut() || clip.take().number() != on.get().take()) {
      return moves;
    }
    Set<Long> old =
        clip.layers().stream()
            .filter(layer -> layer.number() < old(on.get()))
            .flatMap(layer -> layer.moves().stream())
            .map(Move::id)
            .collect(Collectors.toSet());
    return moves.stream()
        .filter(move -> !old.contains(move.id()) || !on.get().takesAt(move.place()))
        .toList();
  }

  private static Optional<LoopRecording> recording(Stage stage, PartId part, Clip clip) {
    return stage.on(part).recording().filter(r -> r.clip().equals(clip.id()));
  }

  /**
   * Where a recording will end by itself, or another take is heard, as far as is known; it has
   * ended where a window that is too short for it begins to sound.
   */
  private static long end(Stage stage, PartId part, Vamp vamp, Clip clip) {
    if (Recordings.isShort(stage, clip)) {
      return vamp.from();
    }
    long heard = stage.on(part).hears().map(TakeSwitch::at).orElse(Ticks.OPEN);
    return Math.min(heard, Recordings.ownEnd(stage, part).orElse(Ticks.OPEN));
  }

  private void add(LoopRecording recording, long end, Vamp vamp, Clip clip) {
    if (recording.isOpen(Way.TAKES)) {
      Silence old =
          end == Ticks.OPEN
              ? Silence.from(recording.since())
              : new Silence(recording.since(), end - 1);
      clip.notes().forEach(note -> silent(note, old));
    }
    if (!recording.way().takesOut() || clip.take().number() != recording.take()) {
      return;
    }
    for (Layer layer : clip.layers()) {
      if (layer.number() < old(recording)) {
        layer.notes().stream()
            .filter(note -> recording.takesAt(note.meant()))
            .forEach(note -> addOld(note, recording, end, vamp, clip.window()));
      }
    }
  }

  private void addOld(Note note, LoopRecording recording, long end, Vamp vamp, LoopWindow window) {
    if (end == Ticks.OPEN) {
      silent(note, Silence.from(recording.since()));
      return;
    }
    if (recording.isOpen()) {
      silent(note, new Silence(recording.since(), end - 1));
    }
    early(note, recording, end, vamp, window)
        .ifPresent(tick -> silent(note, new Silence(recording.since(), tick)));
  }

  /** A punch that goes on takes out the attempts before as it does the old. */
  private static int old(LoopRecording recording) {
    if (recording.way() == Way.REPLACE) {
      return recording.old();
    }
    return recording.laps().stream()
        .filter(lap -> lap.hasLayer() && !lap.ended())
        .mapToInt(Lap::layer)
        .max()
        .orElse(Integer.MAX_VALUE);
  }

  /**
   * The tick of an onset meant after the end of a replacing, but played before it: it is silent.
   */
  private static Optional<Long> early(
      Note note, LoopRecording recording, long end, Vamp vamp, LoopWindow window) {
    long meant = vamp.tickOf(note.meant(), end, window);
    long played = meant + note.played() - note.meant();
    return played >= recording.since() && played < end ? Optional.of(meant) : Optional.empty();
  }

  private void add(Erase erase, Clip clip) {
    erase
        .open()
        .forEach(
            stroke ->
                clip.notes()
                    .filter(note -> note.pitch() == stroke.pitch())
                    .forEach(note -> silent(note, Silence.from(stroke.from()))));
  }

  private void silent(Note note, Silence silence) {
    silences.merge(note.id(), silence, Silence::orLater);
  }
}
