package ancora.core.file;

import ancora.core.analysis.Onset;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.TreeMap;
import java.util.function.LongToDoubleFunction;

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
    return of(MidiReader.read(file));
  }

  static List<Onset> of(MidiReader.Read read) {
    LongToDoubleFunction micros = micros(read);
    return read.tracks().stream()
        .flatMap(List::stream)
        .filter(MidiOnsets::isOnset)
        .sorted(Comparator.comparingLong(MidiReader.Event::tick))
        .map(e -> new Onset(micros.applyAsDouble(e.tick()), e.data1(), e.data2()))
        .toList();
  }

  /** From a tick on each lasts so long. */
  private record Pace(double micros, double aTick) {}

  /** At which instant each tick of a file lies, in microseconds from its beginning. */
  static LongToDoubleFunction micros(MidiReader.Read read) {
    if (read.ticksAQuarter() == 0) {
      return tick -> tick * MICROS_A_SECOND / read.ticksASecond();
    }
    NavigableMap<Long, Pace> paces = new TreeMap<>();
    paces.put(0L, new Pace(0, MICROS_A_QUARTER / read.ticksAQuarter()));
    read.tracks().stream()
        .flatMap(List::stream)
        .filter(MidiOnsets::isTempo)
        .sorted(Comparator.comparingLong(MidiReader.Event::tick))
        .forEach(
            event -> {
              double at = micros(paces, event.tick());
              double aTick = microsAQuarter(event.meta()) / read.ticksAQuarter();
              paces.put(event.tick(), new Pace(at, aTick));
            });
    return tick -> micros(paces, tick);
  }

  private static double micros(NavigableMap<Long, Pace> paces, long tick) {
    Map.Entry<Long, Pace> from = paces.floorEntry(tick);
    return from.getValue().micros() + (tick - from.getKey()) * from.getValue().aTick();
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
