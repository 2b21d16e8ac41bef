package ancora.app.browser;

import ancora.app.PageStandIn;
import ancora.core.control.ReadyMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.LongUnaryOperator;

/** Hands and feet on stand-in devices: what they do on which tick, as bytes of MIDI 1.0. */
final class DevicePlayer {

  static final String PADS = "stand-in pads";

  /** A foot is down for this long in a short press, in ticks: some 40 ms at 96. */
  private static final long SHORT = 60;

  /** From the first press to the second of a double one, in ticks: some 130 ms at 96. */
  private static final long BETWEEN = 200;

  private static final int FIRST_PEDAL = 79;
  private static final int CONTROL_CHANGE = 0xb0;
  private static final int DRUMS_ON = 0x99;
  private static final int DRUMS_OFF = 0x89;

  private record Sent(long tick, String device, int status, int data1, int data2) {}

  private final List<Sent> script = new ArrayList<>();

  DevicePlayer press(int pedal, long tick) {
    return hold(pedal, tick, tick + SHORT);
  }

  DevicePlayer pressTwice(int pedal, long tick) {
    return press(pedal, tick).press(pedal, tick + BETWEEN);
  }

  DevicePlayer hold(int pedal, long from, long until) {
    script.add(new Sent(from, ReadyMap.FOOTBOARD, CONTROL_CHANGE, FIRST_PEDAL + pedal, 127));
    script.add(new Sent(until, ReadyMap.FOOTBOARD, CONTROL_CHANGE, FIRST_PEDAL + pedal, 0));
    return this;
  }

  DevicePlayer hit(int pitch, long tick) {
    return holdPad(pitch, tick, tick + SHORT);
  }

  DevicePlayer holdPad(int pitch, long from, long until) {
    script.add(new Sent(from, PADS, DRUMS_ON, pitch, 100));
    script.add(new Sent(until, PADS, DRUMS_OFF, pitch, 0));
    return this;
  }

  /**
   * Sends it all, each thing at the first step at which its tick has come, and stamped with that.
   *
   * @param devices the page of the devices
   * @param instantOf the instant of a tick, in microseconds of server time
   */
  void perform(HeldStage stage, PageStandIn devices, LongUnaryOperator instantOf) {
    script.sort(Comparator.comparingLong(Sent::tick));
    for (Sent sent : script) {
      long due = instantOf.applyAsLong(sent.tick());
      stage.untilMicros(due);
      devices.say(
          "{\"bytes\":[%d,%d,%d],\"device\":\"%s\",\"stamp\":%d}"
              .formatted(sent.status(), sent.data1(), sent.data2(), sent.device(), due));
    }
    stage.run(HeldStage.STEP);
  }
}
