package ancora.core.file;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.RunNote;
import ancora.core.show.Balance;
import ancora.core.show.PartOutput;
import ancora.core.sound.GeneralMidi;
import ancora.core.sound.Sound;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.IntUnaryOperator;

/**
 * What becomes of one channel of a file, whichever tracks say it: sound, pedal, volume, pan, bend
 * and other controllers hold for all that sounds on the channel.
 */
final class ChannelState {

  private static final int BANK = 0;
  private static final int FINE_BANK = 32;
  private static final int DATA_ENTRY = 6;
  private static final int FINE_DATA = 38;
  private static final int FIRST_PARAMETER = 96;
  private static final int PARAMETER_FINE = 100;
  private static final int PARAMETER = 101;
  private static final int DOWN = 64;
  private static final int PAN_CENTRE = 64;
  private static final int LOUDEST = 127;

  /** Banks of kits on any channel: General MIDI 2 has 120, others 127 (from memory). */
  private static final List<Integer> KIT_BANKS = List.of(120, 127);

  private final int channel;
  private final List<ControllerMove> moves = new ArrayList<>();
  private final NavigableMap<Long, Integer> volumes = new TreeMap<>();
  private final NavigableMap<Long, Integer> pans = new TreeMap<>();
  private final List<RunNote> pedals = new ArrayList<>();
  private Optional<RunNote> pedal = Optional.empty();
  private int program;
  private int bank;
  private int parameter = -1;
  private boolean asksForAnotherBank;

  ChannelState(int channel) {
    this.channel = channel;
  }

  void program(int asked) {
    program = asked;
    asksForAnotherBank |= bank != 0 && !isKit();
  }

  void bend(long tick, int value) {
    moves.add(new ControllerMove(Controller.BEND, tick, value));
  }

  void pressure(long tick, int value) {
    moves.add(new ControllerMove(Controller.PRESSURE, tick, value));
  }

  /** A control change; whether a clip can keep it. */
  boolean change(long tick, int number, int value) {
    switch (number) {
      case BANK -> bank = value;
      case FINE_BANK -> {}
      case Controller.VOLUME -> volumes.put(tick, value);
      case Controller.PAN -> pans.put(tick, value);
      case Controller.SUSTAIN -> pedal(tick, value);
      case PARAMETER -> parameter = value << 7 | parameter & 0x7f;
      case PARAMETER_FINE -> parameter = Math.max(0, parameter) & 0x3f80 | value;
      case DATA_ENTRY -> {
        return bendRange(tick, value);
      }
      default -> {
        if (number == FINE_DATA
            || number >= FIRST_PARAMETER && number < PARAMETER
            || !Controller.isOne(number)) {
          return false;
        }
        moves.add(new ControllerMove(Controller.change(number), tick, value));
      }
    }
    return true;
  }

  /** Registered parameter 0 is the range of the bend (MIDI 1.0): its messages go together. */
  private boolean bendRange(long tick, int semitones) {
    if (parameter != 0) {
      return false;
    }
    moves.add(new ControllerMove(Controller.change(PARAMETER), tick, 0));
    moves.add(new ControllerMove(Controller.change(PARAMETER_FINE), tick, 0));
    moves.add(new ControllerMove(Controller.change(DATA_ENTRY), tick, semitones));
    return true;
  }

  private void pedal(long tick, int value) {
    if (value >= DOWN && pedal.isEmpty()) {
      pedal = Optional.of(new RunNote(tick, Note.PEDAL, value, 0));
    } else if (value < DOWN) {
      pedal.ifPresent(
          down ->
              pedals.add(
                  new RunNote(down.place(), Note.PEDAL, down.velocity(), tick - down.place())));
      pedal = Optional.empty();
    }
  }

  /** Reset all controllers (MIDI 1.0, controller 121): volume and pan stay (RP-015). */
  void reset(long tick) {
    pedal(tick, 0);
    List<Controller> moved = moves.stream().map(ControllerMove::controller).distinct().toList();
    if (moved.contains(Controller.BEND)) {
      bend(tick, Controller.BEND_CENTRE);
    }
    if (moved.contains(Controller.PRESSURE)) {
      pressure(tick, 0);
    }
    for (int number : new int[] {Controller.MODULATION, Controller.EXPRESSION}) {
      if (moved.contains(Controller.change(number))) {
        change(tick, number, number == Controller.EXPRESSION ? LOUDEST : 0);
      }
    }
  }

  void end(long tick) {
    pedal(tick, 0);
  }

  boolean asksForAnotherBank() {
    return asksForAnotherBank;
  }

  private boolean isKit() {
    return channel == Channels.DRUMS || KIT_BANKS.contains(bank);
  }

  /** What it sounds with now; a kit on channel 10, or where the bank is one of kits. */
  Sound sound() {
    if (!isKit()) {
      return Sound.of(program);
    }
    return GeneralMidi.kit(program).isPresent() ? Sound.kit(program) : Sound.STANDARD_KIT;
  }

  /**
   * How a line stands in the whole: as loud as it is at its loudest, and where it is at its first
   * note.
   *
   * @param first the tick of its first note
   * @param until the first tick at which it is over
   * @param unsaid the volume of a channel that says none
   */
  Balance balance(long first, long until, int unsaid) {
    return Balance.DEFAULT
        .withLevel(PartOutput.levelOf(loudest(first, until, unsaid)))
        .withPan(PartOutput.panOf(at(pans, first, PAN_CENTRE)));
  }

  boolean saysVolume() {
    return !volumes.isEmpty();
  }

  private int loudest(long first, long until, int unsaid) {
    return volumes.subMap(first, false, Math.max(first, until), false).values().stream()
        .reduce(at(volumes, first, unsaid), Math::max);
  }

  private static int at(NavigableMap<Long, Integer> said, long tick, int unsaid) {
    return Optional.ofNullable(said.floorEntry(tick)).map(Map.Entry::getValue).orElse(unsaid);
  }

  /** Where the pedal is down while a line sounds. */
  List<RunNote> pedals(long first, long until) {
    return pedals.stream().filter(down -> down.place() < until && down.end() > first).toList();
  }

  /**
   * What controllers do, by rising place; volume and pan against how the line stands in the whole.
   * A device that is sent volume v turns it down to (v/127)² of the amplitude, so that of two in a
   * row the values are multiplied.
   */
  List<ControllerMove> moves(long first, long until, int unsaid) {
    List<ControllerMove> all = new ArrayList<>(moves);
    int loudest = loudest(first, until, unsaid);
    against(
        all,
        Controller.VOLUME,
        volumes,
        first,
        until,
        unsaid,
        v -> Math.round(LOUDEST * v / (float) Math.max(1, loudest)));
    int place = at(pans, first, PAN_CENTRE);
    against(
        all,
        Controller.PAN,
        pans,
        first,
        until,
        PAN_CENTRE,
        v -> Math.max(0, Math.min(LOUDEST, PAN_CENTRE + v - place)));
    all.sort(Comparator.comparingLong(ControllerMove::place));
    return all;
  }

  /** Moves of what the line's balance has too: none where it stays as it is at the first note. */
  private static void against(
      List<ControllerMove> all,
      int number,
      NavigableMap<Long, Integer> said,
      long first,
      long until,
      int unsaid,
      IntUnaryOperator against) {
    int at = at(said, first, unsaid);
    NavigableMap<Long, Integer> later = said.subMap(first, false, Math.max(first, until), false);
    if (later.values().stream().anyMatch(value -> value != at)) {
      Controller controller = Controller.change(number);
      all.add(new ControllerMove(controller, first, against.applyAsInt(at)));
      later.forEach(
          (tick, value) ->
              all.add(new ControllerMove(controller, tick, against.applyAsInt(value))));
    }
  }
}
