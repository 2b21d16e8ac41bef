package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.analysis.Onset;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;

/** The onsets of a Standard MIDI File, at the instants that its tempo map gives them. */
public final class MidiOnsets {

  /** More are not read. */
  public static final int MOST = 100_000;

  private static final int SET_TEMPO = 0x51;

  /** Until a file says otherwise: 120 quarter notes a minute (Standard MIDI Files 1.0). */
  private static final double MICROS_A_QUARTER = 500_000;

  private MidiOnsets() {}

  /** The onsets of all tracks, in time; in microseconds from the beginning. */
  public static List<Onset> of(Sequence sequence) {
    Refusal.unless(
        sequence.getDivisionType() == Sequence.PPQ && sequence.getResolution() > 0,
        "That file counts frames, not beats: save it with ticks to the quarter note.");
    List<MidiEvent> events = new ArrayList<>();
    for (Track track : sequence.getTracks()) {
      for (int i = 0; i < track.size(); i++) {
        if (isTempo(track.get(i)) || isOnset(track.get(i))) {
          events.add(track.get(i));
        }
      }
    }
    events.sort(
        Comparator.comparingLong(MidiEvent::getTick).thenComparing(event -> !isTempo(event)));
    List<Onset> onsets = new ArrayList<>();
    double micros = 0;
    double aTick = MICROS_A_QUARTER / sequence.getResolution();
    long tick = 0;
    for (MidiEvent event : events) {
      micros += (event.getTick() - tick) * aTick;
      tick = event.getTick();
      if (isTempo(event)) {
        aTick = microsAQuarter((MetaMessage) event.getMessage()) / sequence.getResolution();
      } else if (onsets.size() < MOST) {
        ShortMessage message = (ShortMessage) event.getMessage();
        onsets.add(new Onset(micros, message.getData1() % Note.PEDAL, message.getData2()));
      }
    }
    return onsets;
  }

  private static boolean isOnset(MidiEvent event) {
    return event.getMessage() instanceof ShortMessage message
        && message.getCommand() == ShortMessage.NOTE_ON
        && message.getData2() > 0;
  }

  private static boolean isTempo(MidiEvent event) {
    return event.getMessage() instanceof MetaMessage meta
        && meta.getType() == SET_TEMPO
        && meta.getData().length == 3;
  }

  private static double microsAQuarter(MetaMessage tempo) {
    byte[] data = tempo.getData();
    int micros = (data[0] & 0xff) << 16 | (data[1] & 0xff) << 8 | data[2] & 0xff;
    return Math.max(1, micros);
  }
}
