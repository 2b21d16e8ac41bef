package ancora.core.control;

import java.util.EnumSet;
import java.util.Set;

/** What a pedal, pad, key or knob of an outside device may stand for. */
public enum Action {
  MAIN("main press"),
  RECORD_ANEW("record into a new clip"),
  CLOSE("close the loop"),
  OVERDUB("overdub on and off"),
  PEEL("peel"),
  RESTORE("restore"),
  CLEAR("clear"),
  UNDO("undo"),
  REDO("redo"),
  HAND_OFF("hand-off"),
  KEEP("keep what was played last"),
  KEEP_BARS("keep the last bars: so many as its number", Hold.NUMBERED),
  KEPT_MORE("what was kept: one phrase more"),
  KEPT_FEWER("what was kept: one phrase fewer"),
  KEPT_HALF("what was kept: half the tempo"),
  KEPT_DOUBLE("what was kept: double the tempo"),
  KEPT_EARLIER("what was kept: the bar a beat earlier"),
  KEPT_LATER("what was kept: the bar a beat later"),
  KEPT_THREE("what was kept: three beats to the bar"),
  KEPT_FOUR("what was kept: four beats to the bar"),
  KEPT_STEADY("what was kept: steady, or as played"),
  KEPT_HEAR("what was kept: hear it"),
  KEPT_GIVE_UP("what was kept: give it up"),
  REPLACE("replace, while held", Hold.WHILE_HELD),
  ERASE("erase, while held", Hold.WHILE_HELD),
  PUNCH("punch the bar that sounds, on and off"),
  BREATHER("breather of a bar on and off"),
  TAKES("takes on and off"),
  NOTE_REPEAT("note repeat on and off"),
  NOTE_REPEAT_HELD("note repeat, while held", Hold.WHILE_HELD),
  REPEAT_GRID("grid of note repeat: 1 is 1/4, 2 is 1/8 …", Hold.NUMBERED),
  HALVE("halve the loop"),
  DOUBLE("double the loop"),
  SHIFT_EARLIER("shift the loop a beat earlier"),
  SHIFT_LATER("shift the loop a beat later"),
  START_STOP("start and stop"),
  STOP_ALL("all parts tacet"),
  PANIC("panic"),
  TACET("the armed part tacet"),
  CUT("cut the armed part"),
  CUE_CLIP("cue a clip of the armed part", Hold.NUMBERED),
  CUE_NEXT_CLIP("cue the next clip of the armed part"),
  CUE_SECTION("cue a section", Hold.NUMBERED),
  NEXT_SECTION("next section"),
  PREVIOUS_SECTION("section before"),
  ARM("arm a part", Hold.NUMBERED),
  ARM_NEXT("arm the next part"),
  ARM_PREVIOUS("arm the part before"),
  MUTE("mute a part", Hold.NUMBERED),
  SOLO("solo a part", Hold.NUMBERED),
  LOUDER("all parts a dB louder"),
  SOFTER("all parts a dB softer"),
  CLICK("click on and off"),
  TAP("tap the tempo"),
  TEMPO("tempo, by knob", Hold.KNOB),
  MASTER("level of all, by knob", Hold.KNOB),
  LEVEL("level of a part, by knob", Hold.KNOB),
  ECHO("echo of a part, by knob", Hold.KNOB),
  ROOM("room of a part, by knob", Hold.KNOB);

  private static final Set<Action> AT_ONCE =
      EnumSet.of(MAIN, RECORD_ANEW, CLOSE, OVERDUB, HAND_OFF, PUNCH, TAKES);

  /** How a control works that stands for it. */
  public enum Hold {
    /** Pressed. */
    PRESSED,
    /** Pressed, and of several by number. */
    NUMBERED,
    /** It lasts as long as the control is held. */
    WHILE_HELD,
    /** Turned. */
    KNOB
  }

  private final String words;
  private final Hold hold;

  Action(String words) {
    this(words, Hold.PRESSED);
  }

  Action(String words, Hold hold) {
    this.words = words;
    this.hold = hold;
  }

  public String words() {
    return words;
  }

  /**
   * Whether being late with it would be heard: it is done when the foot comes down, and taken back
   * if the press turns out to be a long or a double one.
   */
  public boolean isAtOnce() {
    return AT_ONCE.contains(this);
  }

  public Hold hold() {
    return hold;
  }
}
