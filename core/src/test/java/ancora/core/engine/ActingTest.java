package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.C;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.ClipId;
import ancora.core.control.Action;
import ancora.core.note.Grid;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.show.Show;
import ancora.core.vamp.Cue;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What a control stands for is looked up at the moment at which it is carried out. */
class ActingTest {

  private static Concert three() {
    return Concert.with(
        clip(A, note(1, 60, 0, 100)), clip(B, note(2, 62, 0, 100)), clip(C, note(3, 64, 0, 100)));
  }

  private static Command act(Action action) {
    return act(action, 0);
  }

  private static Command act(Action action, int number) {
    return new Act(action, number);
  }

  private static Show show(Concert concert) {
    return concert.stage().show();
  }

  private static Optional<ClipId> cued(Concert concert) {
    return concert.on().cue().flatMap(Cue::clip);
  }

  @Test
  void oneControlStartsAndStops() {
    Concert concert = three().at(0, act(Action.START_STOP));
    assertThat(concert.stage().map()).isPresent();
    concert.at(500, act(Action.START_STOP));
    assertThat(concert.stage().map()).isEmpty();
  }

  @Test
  void clipsAreCuedByNumberAndOneAfterTheOther() {
    Concert concert = three().start().at(1000, act(Action.CUE_CLIP, 3));
    assertThat(cued(concert)).contains(C);
    concert.at(1100, act(Action.CUE_CLIP, 3));
    assertThat(cued(concert)).as("pressed again it is called off").isEmpty();
    concert.at(1200, act(Action.CUE_NEXT_CLIP));
    assertThat(cued(concert)).contains(B);
    concert.at(1300, act(Action.CUE_NEXT_CLIP));
    assertThat(cued(concert)).as("after the one that is cued").contains(C);
    assertThat(concert.refused(1400, act(Action.CUE_NEXT_CLIP))).contains("no clip 4 yet");
    assertThat(concert.refused(1400, act(Action.CUE_CLIP, 9))).contains("no clip 9 yet");
  }

  @Test
  void partsAreChosenByTheirPlace() {
    Concert concert = three().at(0, act(Action.ARM, 2));
    assertThat(concert.stage().armed()).contains(BASS);
    assertThat(concert.refused(10, act(Action.ARM_NEXT))).isEqualTo("No part comes next.");
    concert.at(20, act(Action.ARM_PREVIOUS)).at(30, act(Action.MUTE)).at(40, act(Action.SOLO, 2));
    assertThat(concert.stage().armed()).contains(KEYS);
    assertThat(show(concert).part(KEYS).balance().muted()).isTrue();
    assertThat(show(concert).part(BASS).balance().solo()).isTrue();
    concert.at(50, act(Action.MUTE, 1));
    assertThat(show(concert).part(KEYS).balance().muted()).isFalse();
    assertThat(concert.refused(60, act(Action.MUTE, 7))).contains("no part 7");
  }

  @Test
  void sectionsAreCuedByNumber() {
    Concert concert = three().at(0, new CueCommand.MakeSection("Quay"));
    concert.at(10, new CueCommand.MakeSection("Lamp")).start().at(1000, act(Action.CUE_SECTION, 2));
    assertThat(concert.stage().form().next().orElseThrow().section())
        .isEqualTo(show(concert).form().get(1).id());
    assertThat(concert.refused(1100, act(Action.CUE_SECTION, 3))).contains("no section 3");
  }

  @Test
  void whatIsSwitchedOnIsSwitchedOffByTheSameControl() {
    Concert concert = three().start();
    for (Action way : new Action[] {Action.REPLACE, Action.TAKES, Action.PUNCH}) {
      concert.at(100, act(way));
      assertThat(concert.on().recording().orElseThrow().isOpen()).as("%s", way).isTrue();
      concert.at(200, act(way));
      assertThat(concert.on().recording().orElseThrow().isOpen()).as("%s", way).isFalse();
    }
    concert.at(300, act(Action.ERASE)).at(310, act(Action.ERASE));
    assertThat(concert.stage().hands().isErasing()).isFalse();
    concert.at(320, act(Action.NOTE_REPEAT));
    assertThat(concert.stage().hands().repeat().orElseThrow().grid()).isEqualTo(Grid.SIXTEENTH);
    concert.at(330, act(Action.NOTE_REPEAT)).at(340, act(Action.REPEAT_GRID, 7));
    assertThat(concert.stage().hands().repeat().orElseThrow().grid())
        .isEqualTo(Grid.EIGHTH_TRIPLET);
    assertThat(concert.refused(350, act(Action.REPEAT_GRID, 10))).contains("9 grids");
    concert.at(355, act(Action.NOTE_REPEAT_HELD, 2));
    assertThat(concert.stage().hands().repeat().orElseThrow().grid()).isEqualTo(Grid.EIGHTH);
    concert.at(360, act(Action.BREATHER));
    assertThat(show(concert).recording().breatherBars()).isEqualTo(1);
    concert.at(370, act(Action.BREATHER));
    assertThat(show(concert).recording().breatherBars()).isZero();
    boolean clicked = show(concert).click().on();
    assertThat(show(concert.at(380, act(Action.CLICK))).click().on()).isNotEqualTo(clicked);
  }

  /** What the main press does by itself can be given to controls of their own. */
  @Test
  void closingAndOverdubDoNothingElse() {
    Concert concert = Concert.with().start();
    assertThat(concert.refused(100, act(Action.CLOSE))).contains("No loop is being recorded");
    assertThat(concert.refused(100, act(Action.OVERDUB))).contains("no loop yet");
    concert.at(100, act(Action.RECORD_ANEW)).play(60, 500, 600);
    assertThat(concert.refused(700, act(Action.OVERDUB))).contains("close it");
    concert.at(3000, act(Action.CLOSE)).until(BAR + 100);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
    concert.at(BAR + 500, act(Action.OVERDUB));
    assertThat(concert.on().recording().orElseThrow().isOpen()).isTrue();
    concert.at(BAR + 900, act(Action.OVERDUB));
    assertThat(concert.on().recording().orElseThrow().isOpen()).isFalse();
    assertThat(concert.refused(BAR + 950, act(Action.CLOSE))).contains("No loop");
  }

  @Test
  void theLoopInHandIsReshaped() {
    Concert concert = three().start().at(100, act(Action.DOUBLE)).until(2000);
    assertThat(concert.clip(A).window().length()).isEqualTo(2 * BAR);
    concert.at(2000, act(Action.HALVE)).until(4000).at(4000, act(Action.SHIFT_LATER)).until(6000);
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR);
    assertThat(concert.meant(concert.clip(A))).startsWith(960L);
    concert.at(6000, act(Action.SHIFT_EARLIER)).until(8000);
    assertThat(concert.meant(concert.clip(A))).startsWith(0L);
    assertThat(concert.at(8000, act(Action.ARM, 2)).refused(8100, act(Action.HALVE)))
        .contains("Bass has no loop yet");
  }

  @Test
  void levelsMoveByADecibel() {
    Concert concert = three().at(0, act(Action.SOFTER)).at(10, act(Action.SOFTER));
    assertThat(show(concert).part(BASS).balance().level()).isEqualTo(-2);
    assertThat(show(concert.at(20, act(Action.LOUDER))).part(BASS).balance().level()).isEqualTo(-1);
  }

  /** A knob's action cannot be pressed; nothing else is without a meaning. */
  @ParameterizedTest
  @EnumSource(Action.class)
  void everyActionIsDoneOrRefusedInASentence(Action action) {
    Concert concert = three().start().until(100);
    Outcome outcome =
        Engine.of(concert.stage()).apply(act(action), Concert.micros(200), Concert.micros(200));
    if (action.hold() == Action.Hold.KNOB) {
      assertThat(((Outcome.Refused) outcome).why()).contains("turns");
    } else if (outcome instanceof Outcome.Refused refused) {
      assertThat(refused.why()).matches("[A-Z].*\\.");
    }
  }

  /**
   * A main press counts by its stamp however late it comes; what else is a second late does not.
   */
  @Test
  void whatIsMeantDecidesHowLateItMayCome() {
    Concert concert = three().start().until(5 * BAR);
    concert.late(BAR, 5 * BAR, act(Action.MAIN));
    assertThat(concert.lateRefused(BAR, 5 * BAR, act(Action.NEXT_SECTION))).contains("second late");
  }
}
