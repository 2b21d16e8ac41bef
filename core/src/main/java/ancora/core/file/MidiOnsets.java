package ancora.core.file;

import ancora.core.analysis.Onset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The onsets of a Standard MIDI File, at the instants that its tempo map gives them. */
public final class MidiOnsets {

  /** No file is read that is longer, in bytes. */
  public static final int MOST_BYTES = MidiReader.MOST_BYTES;

  private static final int SET_TEMPO = 0x51;
  private static final int NOTE_ON = 0x90;
  private static final double MICROS_A_SECOND = 1e6;

  /** Until a file says otherwise: 120 quarter notes a minute (Standard MIDI Files 1.0). */
  private static final double MICROS_A_QUARTER = 500_000;

  private MidiOnsets() {}

  /**
   * The onsets of all tracks, in time; in microseconds from the beginning. What is no such file is
   * refused.
   */
  public static List<Onset> of(byte[] file) {
    MidiReader.Read read = MidiReader.read(file);
    List<MidiReader.Event> events = new ArrayList<>();
    for (List<MidiReader.Event> track : read.tracks()) {
      track.stream().filter(event -> isTempo(event) || isOnset(event)).forEach(events::add);
    }
    events.sort(
        Comparator.comparingLong(MidiReader.Event::tick).thenComparing(event -> !isTempo(event)));
    boolean counts = read.ticksAQuarter() > 0;
    List<Onset> onsets = new ArrayList<>();
    double micros = 0;
    double aTick =
        counts ? MICROS_A_QUARTER / read.ticksAQuarter() : MICROS_A_SECOND / read.ticksASecond();
    long tick = 0;
    for (MidiReader.Event event : events) {
      micros += (event.tick() - tick) * aTick;
      tick = event.tick();
      if (isOnset(event)) {
        onsets.add(new Onset(micros, event.data1(), event.data2()));
      } else if (counts) {
        aTick = microsAQuarter(event.meta()) / read.ticksAQuarter();
      }
    }
    return onsets;
  }

  private static boolean isOnset(MidiReader.Event event) {
    return !event.isMeta() && event.command() == NOTE_ON && event.data2() > 0;
  }

  private static boolean isTempo(MidiReader.Event event) {
    return event.isMeta() && event.data1() == SET_TEMPO && event.meta().length == 3;
  }

  private static double microsAQuarter(byte[] data) {
    int micros = (data[0] & 0xff) << 16 | (data[1] & 0xff) << 8 | data[2] & 0xff;
    return Math.max(1, micros);
  }
}
