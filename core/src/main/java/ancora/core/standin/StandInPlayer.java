package ancora.core.standin;

import ancora.core.Refusal;
import ancora.core.record.FirstRecording;
import ancora.core.stage.Stage;
import ancora.core.standin.Pattern.Stroke;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;

/**
 * A player who is not there: turns a pattern into the messages that a keyboard would send, with
 * human timing. What it sends goes through the very same input as a device's.
 */
public final class StandInPlayer {

  /** It plays a pattern no more often than this. */
  public static final int MOST_TIMES = 64;

  /** It begins no sooner than this, in microseconds. */
  private static final long GETS_READY = 150_000;

  private static final int NOTE_ON = 0x90;
  private static final int NOTE_OFF = 0x80;

  private StandInPlayer() {}

  /**
   * A channel message of MIDI 1.0.
   *
   * @param micros instant of the key's movement, in microseconds of server time
   * @param status status byte: 0x90 note on, 0x80 note off, channel 0
   * @param data1 note number
   * @param data2 velocity
   */
  public record Message(long micros, int status, int data1, int data2) {}

  /**
   * Joins in: from where a recording that is cued begins, else from the next bar line; refuses at
   * standstill.
   *
   * @param now the present instant, in microseconds of server time
   * @return messages by rising instant
   */
  public static List<Message> joining(
      Stage stage, Pattern pattern, int times, HumanTiming timing, long now) {
    TempoMap map =
        stage
            .map()
            .orElseThrow(
                () -> new Refusal("Start first: the stand-in plays to a running transport."));
    Meter meter = stage.show().meter();
    long soon = map.tickAt(now + GETS_READY);
    long from =
        stage
            .armed()
            .flatMap(part -> stage.on(part).first())
            .map(FirstRecording::start)
            .filter(start -> start >= soon)
            .orElse(Math.max(0, Ticks.ceil(soon, meter.barTicks())));
    return perform(pattern, times, from, map, meter, timing);
  }

  /**
   * Plays a pattern some times from a tick on.
   *
   * @param from the tick at which the pattern begins
   * @param times 1 to {@value #MOST_TIMES}
   * @return messages by rising instant
   */
  public static List<Message> perform(
      Pattern pattern, int times, long from, TempoMap map, Meter meter, HumanTiming timing) {
    Refusal.unless(
        times >= 1 && times <= MOST_TIMES, "A pattern is played 1 to %s times.", MOST_TIMES);
    Random hand = new Random(timing.seed());
    List<Message> messages = new ArrayList<>();
    for (int time = 0; time < times; time++) {
      for (Stroke stroke : pattern.strokes()) {
        long tick = from + time * pattern.ticks() + stroke.tick();
        double stray = gaussian(hand) * timing.spreadMillis() * 1000;
        boolean downbeat = Math.floorMod(tick, meter.barTicks()) == 0;
        double early = downbeat ? timing.earlyDownbeatMillis() * 1000 : 0;
        long on = Ticks.round(map.microsOf(tick) + stray - early);
        long held = Ticks.round(map.microsOf(tick + stroke.length()) - map.microsOf(tick));
        long louder = Ticks.round(gaussian(hand) * timing.velocitySpread());
        int velocity = (int) Math.max(1, Math.min(127, stroke.velocity() + louder));
        messages.add(new Message(on, NOTE_ON, stroke.pitch(), velocity));
        messages.add(new Message(on + held, NOTE_OFF, stroke.pitch(), 0));
      }
    }
    messages.sort(Comparator.comparingLong(Message::micros));
    return List.copyOf(messages);
  }

  private static double gaussian(Random hand) {
    return Math.max(-3, Math.min(3, hand.nextGaussian()));
  }
}
