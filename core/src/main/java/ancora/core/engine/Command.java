package ancora.core.engine;

import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.show.Click;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;

/** What a performer, a device or a page may ask of the engine. */
public sealed interface Command {

  /** Commands that count by their stamp however late they arrive; others are refused after 1 s. */
  sealed interface Timeless extends Command {}

  /** A key goes down; velocity 0 is a key coming up, as in MIDI 1.0. */
  record KeyDown(InputKey key, int velocity) implements Timeless {}

  /** A key comes up. */
  record KeyUp(InputKey key) implements Timeless {}

  /** All keys of a device come up, since the device has gone. */
  record DeviceGone(String device) implements Timeless {}

  /**
   * The one control that starts a recording, closes it, and starts and stops overdubbing, on the
   * armed part.
   */
  record MainPress() implements Timeless {}

  /** Starts the transport, without count-in. */
  record Start() implements Command {}

  /** Stops the transport; what is being recorded is closed. */
  record Stop() implements Command {}

  /** Ends every key that is down. */
  record Panic() implements Timeless {}

  /** Sets the tempo. */
  record SetTempo(Tempo tempo) implements Command {}

  /** A tap of the tempo, on a beat of the click. */
  record TapTempo() implements Command {}

  /** Sets the meter; refused once there is music. */
  record SetMeter(Meter meter) implements Command {}

  /** Sets the click. */
  record SetClick(Click click) implements Command {}

  /** Sets how recordings begin and close. */
  record SetRecording(RecordingSettings settings) implements Command {}

  /** Gives the show another name. */
  record Rename(String title) implements Command {}

  /** Adds a part, and arms it if none is armed. */
  record AddPart(String name, Sound sound) implements Command {}

  /** Makes a part the one that recording goes to. */
  record Arm(PartId part) implements Command {}

  /**
   * Chooses a part's sound.
   *
   * @param part the part
   * @param sound its sound
   * @param evenWithMusic must be set if the part has a clip
   */
  record ChooseSound(PartId part, Sound sound, boolean evenWithMusic) implements Command {}

  /** Sets a part's input grid. */
  record SetInputGrid(PartId part, InputGrid grid) implements Command {}

  /** Takes the newest layer off the armed part's clip, or starts its first recording afresh. */
  record Peel() implements Command {}

  /** Puts back the layer that was peeled off last. */
  record Restore() implements Command {}

  /** Peels to the state in which overdub was last switched on. */
  record PeelAll() implements Command {}

  /** Takes the armed part's clip off the shelf. */
  record Clear() implements Command {}

  /** Brings back the clip that was cleared last. */
  record Unclear() implements Command {}

  /** The page reports D: delivery and output latency, 0 to 1 000 000 µs. */
  record ReportDelay(long micros) implements Timeless {}
}
