package ancora.core.rules;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.control.Action;
import ancora.core.control.Assignment;
import ancora.core.note.Controller;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Leaving;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** What a performer, a device or a page may ask of the engine. */
public sealed interface Command {

  /** Commands that count by their stamp however late they arrive; others are refused after 1 s. */
  sealed interface Timeless extends Command {}

  /** What hands and feet do on the instruments, and what goes on by itself. */
  sealed interface Playing extends Timeless {}

  /** Whether it counts by its stamp however late it arrives. Switching off always does. */
  default boolean isTimeless() {
    return this instanceof Timeless
        || this instanceof Replace replace && !replace.on()
        || this instanceof Takes takes && !takes.on()
        || this instanceof EraseHeld erase && !erase.on()
        || this instanceof Stutter stutter && !stutter.on();
  }

  /** A key goes down; velocity 0 is a key coming up, as in MIDI 1.0. */
  record KeyDown(InputKey key, int velocity) implements Playing {
    public KeyDown {
      refusePedal(key);
    }
  }

  /** A key comes up. */
  record KeyUp(InputKey key) implements Playing {
    public KeyUp {
      refusePedal(key);
    }
  }

  /**
   * A controller of a device is moved.
   *
   * @param device the device's name
   * @param channel MIDI channel, 0 to 15
   * @param controller which; {@link Controller#SUSTAIN} goes by {@link Sustain}
   * @param value 0 to {@link Controller#most()}
   */
  record MoveController(String device, int channel, Controller controller, int value)
      implements Playing {
    public MoveController {
      new InputKey(device, channel, 0);
      Refusal.unless(
          value >= 0 && value <= controller.most(),
          "A value of %s does not exist there: use 0 to %s.",
          value,
          controller.most());
    }
  }

  /**
   * The sustain pedal of a device is moved: 64 and more is down.
   *
   * @param device the device's name
   * @param channel MIDI channel, 0 to 15
   * @param value 0 to 127
   */
  record Sustain(String device, int channel, int value) implements Playing {
    public Sustain {
      new InputKey(device, channel, 0);
      Refusal.unless(
          value >= 0 && value <= 127, "A pedal at %s does not exist: use 0 to 127.", value);
    }
  }

  /** Pressure on a key that is down, 0 to 127: repeats of it get this velocity. */
  record KeyPressure(InputKey key, int value) implements Playing {
    public KeyPressure {
      refusePedal(key);
      Refusal.unless(
          value >= 0 && value <= 127, "A pressure of %s does not exist: use 0 to 127.", value);
    }
  }

  private static void refusePedal(InputKey key) {
    Refusal.unless(!key.isPedal(), "Key %s does not exist: use 0 to 127.", key.pitch());
  }

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

  /** A part is played, and recorded on, together with the one that is armed; or is not any more. */
  record ArmAlongside(PartId part, boolean on) implements Command {}

  /** Makes a part the one that recording goes to, and no other. */
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

  /**
   * Takes the armed part's clip off the shelf.
   *
   * @param sure whether a loop that sounds goes at once; else the first press only says so
   */
  record Clear(boolean sure) implements Command {
    public Clear() {
      this(false);
    }
  }

  /**
   * Takes back what is pending, else what is under way, else the latest step.
   *
   * @param sure whether a loop that sounds goes at once; else the first press only says so
   */
  record Undo(boolean sure) implements Command {
    public Undo() {
      this(false);
    }
  }

  /** Does again what was undone last. */
  record Redo() implements Command {}

  /** Records into a new clip on the armed part, from the next entry point on. */
  record RecordAnew() implements Timeless {}

  /** Puts new notes for old in the stretch being played, on the armed part. */
  record Replace(boolean on) implements Command {}

  /**
   * Puts new notes for old in a range of the armed part's clip.
   *
   * @param from its first place, in ticks of the clip's material
   * @param to the first place after it
   */
  record Punch(long from, long to) implements Command {}

  /** Punches the bar of the armed part's loop that sounds now. */
  record PunchHere() implements Command {}

  /** Ends a punch. */
  record PunchOff() implements Timeless {}

  /**
   * Makes each pass a take of the armed part's clip; switched off, the last complete one is heard.
   */
  record Takes(boolean on) implements Command {}

  /** Hears another take of a clip. */
  record HearTake(PartId part, ClipId clip, int take, boolean atOnce) implements Command {}

  /** Gives a take a name. */
  record RenameTake(PartId part, ClipId clip, int take, String name) implements Command {}

  /** Deletes a take that is not heard. */
  record DeleteTake(PartId part, ClipId clip, int take) implements Command {}

  /** Keeps the take that is heard, and no other. */
  record CropTakes(PartId part, ClipId clip) implements Command {}

  /** Makes each other take a clip of its own. */
  record SpreadTakes(PartId part, ClipId clip) implements Command {}

  /** Takes one after another make a longer clip, beside this one. */
  record LayTakesInRow(PartId part, ClipId clip) implements Command {}

  /** Puts a take together from stretches of others, which cover the loop once. */
  record Comp(PartId part, ClipId clip, List<Stretch> stretches) implements Command {
    public Comp {
      Refusal.unless(
          !stretches.isEmpty() && stretches.size() <= Stretch.MOST,
          "A comp has 1 to %s stretches.",
          Stretch.MOST);
      stretches = List.copyOf(stretches);
    }
  }

  /**
   * Draws a stretch of a comp anew.
   *
   * @param take the comp
   * @param from the stretch's first place, in ticks of the clip's material
   * @param to the first place after it
   * @param of the take that it is drawn from
   */
  record RedrawComp(PartId part, ClipId clip, int take, long from, long to, int of)
      implements Command {}

  /**
   * While it is held, a loop goes round in the beat in which the press fell.
   *
   * @param on whether it is held
   * @param divide 1 for a beat, 2 for half, 4 for a quarter of one
   * @param all whether all loops do that vamp; else that of the armed part
   */
  record Stutter(boolean on, int divide, boolean all) implements Command {
    public Stutter {
      Refusal.unless(
          divide == 1 || divide == 2 || divide == 4,
          "A stutter is a beat long, or half or a quarter of one: use 1, 2 or 4.");
    }
  }

  /** While it is held, pitches held with it are taken out of the armed part's loop as they pass. */
  record EraseHeld(boolean on) implements Command {}

  /** Sounds held keys again on every line of a grid. */
  record RepeatNotes(NoteRepeat repeat) implements Command {}

  /** Held keys sound as they are. */
  record RepeatOff() implements Timeless {}

  /** Cues a clip; one that is cued already is called off. */
  record CueClip(PartId part, ClipId clip) implements Command {}

  /** Cues silence for a part. */
  record CueTacet(PartId part) implements Command {}

  /** Cues a section; one that is cued already is called off. */
  record CueSection(SectionId section) implements Command {}

  /** Cues the next section of the form. */
  record CueNext() implements Command {}

  /** Cues the section before. */
  record CuePrevious() implements Command {}

  /** Calls off what is cued on a part. */
  record CallOff(PartId part) implements Command {}

  /** Silences a part at once. */
  record Cut(PartId part) implements Command {}

  /** Silences all parts at once. */
  record CutAll() implements Command {}

  /** Silences all parts at the next bar; asked again, at once. */
  record StopAll() implements Command {}

  /** Makes a section of what sounds now. */
  record MakeSection(String name) implements Command {}

  /** Puts a section in the place of the one with its id. */
  record SetSection(Section section) implements Command {}

  /** Deletes a section. */
  record DeleteSection(SectionId section) implements Command {}

  /** Moves a section to a place in the form, from 0. */
  record MoveSection(SectionId section, int place) implements Command {}

  /** Changes a clip's window, at the next beat if it sounds. */
  record Reshape(PartId part, ClipId clip, Reshaping reshaping) implements Command {}

  /**
   * Changes windows by bars, at the next beat: of what the armed part has in hand, or of all that
   * vamp.
   */
  record WindowBars(Bars bars, boolean all) implements Command {

    /** What becomes of a window. */
    public enum Bars {
      /** The bar that sounds, alone. */
      ALONE,
      /** A bar longer at its end. */
      LONGER,
      /** A bar shorter at its end. */
      SHORTER
    }
  }

  /**
   * Makes a clip of the last phrase played on the armed part, whether or not it was recorded.
   *
   * @param ofLoopLength whether it is to be as long as the loop that vamps
   * @param cue whether it is cued
   */
  record Keep(boolean ofLoopLength, boolean cue) implements Command {}

  /** Finishes the armed part's loop, and records on in a new part with the same sound. */
  record HandOff() implements Timeless {}

  /** Copies a clip, with all its layers and takes, onto the same shelf. */
  record DuplicateClip(PartId part, ClipId clip) implements Command {}

  /** Copies a clip with only its louder notes, to be cued where there should be less. */
  record ThinClip(PartId part, ClipId clip) implements Command {}

  /** Takes a clip off the shelf. */
  record DeleteClip(PartId part, ClipId clip) implements Command {}

  /** Gives a clip a name; an empty one takes it away. */
  record RenameClip(PartId part, ClipId clip, String name) implements Command {}

  /** Moves a clip to a place on its shelf, from 0. */
  record MoveClip(PartId part, ClipId clip, int place) implements Command {}

  /** Sets how a clip comes in and goes round. */
  record SetManner(PartId part, ClipId clip, Manner manner) implements Command {}

  /** Gives each drum of a part a part of its own. */
  record SplitPart(PartId part) implements Command {}

  /** Joins another part's clips into a part. */
  record JoinParts(PartId part, PartId other) implements Command {}

  /** Makes a clip of its own of some pitches of a clip. */
  record SplitClip(PartId part, ClipId clip, Set<Integer> pitches) implements Command {
    public SplitClip {
      pitches = Collections.unmodifiableSet(new TreeSet<>(pitches));
    }
  }

  /** Gives a part another name. */
  record RenamePart(PartId part, String name) implements Command {}

  /** Deletes a part with its clips. */
  record DeletePart(PartId part) implements Command {}

  /** Moves a part to a place among the staves, from 0. */
  record MovePart(PartId part, int place) implements Command {}

  /** Sets what becomes of a part's notes where a clip leaves. */
  record SetLeaving(PartId part, Leaving leaving) implements Command {}

  /** Gives a part another pennant. */
  record SetPennant(PartId part, int pennant) implements Command {}

  /** Sets how a part stands in the whole. */
  record SetBalance(PartId part, Balance balance) implements Command {}

  /** Moves the levels of all parts by some dB, −24 to +24. */
  record TrimAll(double decibels) implements Command {
    public TrimAll {
      Refusal.unless(decibels >= -24 && decibels <= 24, "Trim by −24 to +24 dB at a time.");
    }
  }

  /** Sets what all parts go through. */
  record SetMaster(Master master) implements Command {}

  /** Sets what a part takes of what is played. */
  record SetPartInput(PartId part, PartInput filter) implements Command {}

  /** From now on a part sounds on an outside device, besides or instead of its own sound. */
  record SoundOutside(PartId part, PartOutput output) implements Command {}

  /** A part has its own sound alone again. */
  record SoundInside(PartId part) implements Command {}

  /**
   * A control that stands for an action is pressed.
   *
   * @param action what it stands for; not one for knobs
   * @param number which clip, section or part, from 1; 0 where there is only one, or for the armed
   *     part
   * @param sure whether it was a long press: what silences a loop does so at once
   */
  record Act(Action action, int number, boolean sure) implements Command {
    public Act(Action action, int number) {
      this(action, number, false);
    }

    public Act {
      Assignment.checkNumber(number);
    }
  }

  /** The page reports D: delivery and output latency, 0 to 1 000 000 µs. */
  record ReportDelay(long micros) implements Playing {}
}
