package ancora.core.engine;

import static ancora.core.catalogue.Asked.asked;
import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.C;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.clip.ClipId;
import ancora.core.note.Grid;
import ancora.core.rules.Command;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.Show;
import ancora.core.vamp.Cue;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What a control names is looked up at the moment at which it is judged. */
class AddressesTest {

  private static Concert three() {
    return Concert.with(
        clip(A, note(1, 60, 0, 100)), clip(B, note(2, 62, 0, 100)), clip(C, note(3, 64, 0, 100)));
  }

  private static Show show(Concert concert) {
    return concert.stage().show();
  }

  private static Optional<ClipId> cued(Concert concert) {
    return concert.on().cue().flatMap(Cue::clip);
  }

  @Test
  void oneControlStartsAndStops() {
    Concert concert = three().at(0, asked("start and stop"));
    assertThat(concert.stage().map()).isPresent();
    concert.at(500, asked("start and stop"));
    assertThat(concert.stage().map()).isEmpty();
  }

  @Test
  void clipsAreCuedByNumberAndOneAfterTheOther() {
    Concert concert = three().start().at(1000, asked("cue {clip} of {part}", "clip", "clip c"));
    assertThat(cued(concert)).contains(C);
    concert.at(1100, asked("cue {clip} of {part}", "clip", "clip c"));
    assertThat(cued(concert)).as("pressed again it is called off").isEmpty();
    concert.at(1200, asked("cue {clip} of {part}", "clip", "the next clip"));
    assertThat(cued(concert)).contains(B);
    concert.at(1300, asked("cue {clip} of {part}", "clip", "the next clip"));
    assertThat(cued(concert)).as("after the one that is cued").contains(C);
    assertThat(concert.refused(1400, asked("cue {clip} of {part}", "clip", "the next clip")))
        .contains("no clip after this one");
    assertThat(concert.refused(1400, asked("cue {clip} of {part}", "clip", "clip i")))
        .contains("no clip i yet");
  }

  @Test
  void partsAreChosenByTheirPlace() {
    Concert concert = three().at(0, asked("arm {part}", "part", "part 2"));
    assertThat(concert.stage().armed()).contains(BASS);
    assertThat(concert.refused(10, asked("arm {part}"))).isEqualTo("No part comes next.");
    concert
        .at(20, asked("arm {part}", "part", "the part before"))
        .at(30, asked("mute {part}, {muted}"))
        .at(40, asked("solo {part}, {solo}", "part", "part 2"));
    assertThat(concert.stage().armed()).contains(KEYS);
    assertThat(show(concert).part(KEYS).balance().muted()).isTrue();
    assertThat(show(concert).part(BASS).balance().solo()).isTrue();
    concert.at(50, asked("mute {part}, {muted}", "part", "part 1"));
    assertThat(show(concert).part(KEYS).balance().muted()).isFalse();
    assertThat(concert.refused(60, asked("mute {part}, {muted}", "part", "part 7")))
        .contains("no part 7");
  }

  @Test
  void sectionsAreCuedByNumber() {
    Concert concert = three().at(0, new CueCommand.MakeSection("Quay"));
    concert
        .at(10, new CueCommand.MakeSection("Lamp"))
        .start()
        .at(1000, asked("cue {section}", "section", "section B"));
    assertThat(concert.stage().form().next().orElseThrow().section())
        .isEqualTo(show(concert).form().get(1).id());
    assertThat(concert.refused(1100, asked("cue {section}", "section", "section C")))
        .contains("no section C");
  }

  @Test
  void whatIsSwitchedOnIsSwitchedOffByTheSameControl() {
    Concert concert = three().start();
    for (String way : List.of("replace {on}", "takes {on}", "punch the bar that sounds, {on}")) {
      Command turned = asked(way, "on", "on and off");
      concert.at(100, turned);
      assertThat(concert.on().recording().orElseThrow().isOpen()).as(way).isTrue();
      concert.at(200, turned);
      assertThat(concert.on().recording().orElseThrow().isOpen()).as(way).isFalse();
    }
    Command erase = asked("erase {on}", "on", "on and off");
    concert.at(300, erase).at(310, erase);
    assertThat(concert.stage().hands().isErasing()).isFalse();
    concert.at(320, asked("note repeat on {grid}, {on}", "grid", "1/16"));
    assertThat(concert.stage().hands().repeat().orElseThrow().grid()).isEqualTo(Grid.SIXTEENTH);
    concert.at(330, asked("note repeat on {grid}, {on}"));
    assertThat(concert.stage().hands().repeat()).isEmpty();
    concert.at(340, asked("note repeat on {grid}, {on}", "grid", "1/8T", "on", "on"));
    assertThat(concert.stage().hands().repeat().orElseThrow().grid())
        .isEqualTo(Grid.EIGHTH_TRIPLET);
    concert.at(360, asked("breather: {breatherBars}"));
    assertThat(show(concert).recording().breatherBars()).isEqualTo(1);
    concert.at(370, asked("breather: {breatherBars}"));
    assertThat(show(concert).recording().breatherBars()).isZero();
    boolean clicked = show(concert).click().on();
    assertThat(show(concert.at(380, asked("click, {on}"))).click().on()).isNotEqualTo(clicked);
  }

  /** As forty presses of its own in a row: what an address names is found when it is judged. */
  @Test
  void takesAreHeardOneAfterTheOther() {
    Concert concert = three().start().at(100, new MendCommand.Takes(true));
    for (int pass = 1; pass <= 3; pass++) {
      concert.play(60 + pass, pass * BAR + 100, pass * BAR + 200);
    }
    concert.at(4 * BAR - 100, new MendCommand.Takes(false)).until(4 * BAR + 10);
    int last = concert.clip(A).take().number();
    String hear = "hear {take} of {clip}, {part}, {atOnce}";
    concert.at(4 * BAR + 100, asked(hear, "take", "the take before", "atOnce", "at once"));
    concert.until(4 * BAR + 400);
    assertThat(concert.clip(A).take().number()).isEqualTo(last - 1);
    concert.at(4 * BAR + 500, asked(hear, "take", "take 1"));
    concert.at(4 * BAR + 600, asked(hear)).until(6 * BAR);
    assertThat(concert.clip(A).take().number()).as("after the one that is to come").isEqualTo(2);
    assertThat(concert.refused(6 * BAR, asked(hear, "take", "take 9"))).contains("no take 9");
  }

  @Test
  void senselessNamesAreRefused() {
    assertThatThrownBy(() -> new Address(Address.Of.CLIP, "armed"))
        .hasMessage("“armed” names no clip: say which one, or next, or previous.");
    assertThatThrownBy(() -> new Address(Address.Of.PART, "x".repeat(90)))
        .hasMessageContaining("…” names no part");
    assertThatThrownBy(() -> new Addressed(CueCommand.CueClip.class, Map.of()))
        .hasMessage("The message lacks “part”.");
    assertThatThrownBy(
            () ->
                Addressed.of(
                    new KeepCommand.Keep(false, false), Map.of("cue", new Adjustment.Toggle())))
        .hasMessage("That cannot be turned over.");
    assertThat(three().refused(0, asked("erase {on}")))
        .isEqualTo("That lasts as long as its control is held.");
    assertThat(Concert.with().start().refused(0, asked("cue {clip} of {part}")))
        .contains("no loop yet");
  }

  /** What the main press does by itself can be given to controls of their own. */
  @Test
  void closingAndOverdubDoNothingElse() {
    Concert concert = Concert.with().start();
    assertThat(concert.refused(100, asked("close the loop"))).contains("No loop is being recorded");
    assertThat(concert.refused(100, asked("overdub on and off"))).contains("no loop yet");
    concert.at(100, asked("record into a new clip")).play(60, 500, 600);
    assertThat(concert.refused(700, asked("overdub on and off")))
        .contains("close this recording first");
    concert.at(3000, asked("close the loop")).until(BAR + 100);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
    concert.at(BAR + 500, asked("overdub on and off"));
    assertThat(concert.on().recording().orElseThrow().isOpen()).isTrue();
    concert.at(BAR + 900, asked("overdub on and off"));
    assertThat(concert.on().recording().orElseThrow().isOpen()).isFalse();
    assertThat(concert.refused(BAR + 950, asked("close the loop"))).contains("No loop");
  }

  @Test
  void theLoopInHandIsReshaped() {
    Concert concert = three().start().at(100, asked("double {clip}, {part}")).until(2000);
    assertThat(concert.clip(A).window().length()).isEqualTo(2 * BAR);
    concert
        .at(2000, asked("halve {clip}, {part}"))
        .until(4000)
        .at(4000, asked("shift {clip}, {part}, {beats}"))
        .until(6000);
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR);
    assertThat(concert.meant(concert.clip(A))).startsWith(960L);
    concert.at(6000, asked("shift {clip}, {part}, {beats}", "beats", "a beat earlier")).until(8000);
    assertThat(concert.meant(concert.clip(A))).startsWith(0L);
    assertThat(
            concert
                .at(8000, asked("arm {part}", "part", "part 2"))
                .refused(8100, asked("halve {clip}, {part}")))
        .contains("Bass has no loop yet");
  }

  @Test
  void levelsMoveByADecibel() {
    Concert concert =
        three()
            .at(0, asked("level of each part: {decibels}", "decibels", "a dB softer"))
            .at(10, asked("level of each part: {decibels}", "decibels", "a dB softer"));
    assertThat(show(concert).part(BASS).balance().level()).isEqualTo(-2);
    assertThat(
            show(concert.at(20, asked("level of each part: {decibels}")))
                .part(BASS)
                .balance()
                .level())
        .isEqualTo(-1);
  }

  /**
   * A main press counts by its stamp however late it comes; what else is a second late does not.
   */
  @Test
  void whatIsMeantDecidesHowLateItMayCome() {
    Concert concert = three().at(0, new CueCommand.MakeSection("Quay")).start().until(5 * BAR);
    concert.late(BAR, 5 * BAR, asked("main press"));
    assertThat(concert.lateRefused(BAR, 5 * BAR, asked("cue {section}"))).contains("second late");
  }
}
