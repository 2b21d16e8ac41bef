package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.player.Sounded.Kind;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.PartInput;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Rule 11: controllers, and the one pedal line. */
class ControllersTest {

  private static final Note DOT = note(1, 50, 0, 60);

  private static Clip bending(ControllerMove... moves) {
    Clip clip = clip(A, DOT);
    return clip.withLayers(
        List.of(new Layer(1, List.of(DOT), List.of(moves), List.of(), List.of())));
  }

  private static Note pedal(long from, long length) {
    return Note.of(5, Note.PEDAL, 127, from, from, length);
  }

  private static Command bend(int value) {
    return new HandCommand.MoveController("keys", 0, Controller.BEND, value);
  }

  @Test
  void movesAreRecordedUnmovedAndThinned() {
    Concert concert = Concert.with(clip(A, DOT)).start().press(100);
    concert.at(1001, bend(9000)).at(1004, bend(9100)).at(1007, bend(9200)).at(1021, bend(9300));
    assertThat(concert.clip(A).moves().map(move -> move.withId(0)))
        .as("5 ms are 10 ticks: what follows sooner takes the place of the one before")
        .containsExactly(
            new ControllerMove(Controller.BEND, 1001, 9200),
            new ControllerMove(Controller.BEND, 1021, 9300));
    concert.until(2 * BAR);
    assertThat(concert.moved(Kind.PITCH_BEND, 0))
        .containsExactly(
            "1001 9000", "1004 9100", "1007 9200", "1021 9300", "4841 9200", "4861 9300");
  }

  /** Worked value 30: 20 ms are 38 ticks. */
  @Test
  void theOffsetMovesControllersAsItMovesNotes() {
    Concert concert = Concert.with(clip(A, DOT));
    concert.at(0, new SettingCommand.SetPartInput(KEYS, PartInput.OPEN.withOffset(20)));
    concert.start().press(100).at(1001, bend(9000)).hit(72, 1001).until(BAR + 10);
    assertThat(concert.clip(A).moves().map(ControllerMove::place)).containsExactly(963L);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 72).map(Note::played))
        .containsExactly(963L);
  }

  @Test
  void theValueInForceIsSentAtEntryAndAtTheLineWhereTheChannelHasAnother() {
    ControllerMove move = new ControllerMove(Controller.change(1), 960, 100);
    Concert concert = Concert.with(bending(move)).start();
    concert.at(2000, new HandCommand.MoveController("keys", 0, Controller.change(1), 30));
    concert.until(2 * BAR);
    assertThat(concert.moved(Kind.CONTROL_CHANGE, 1))
        .containsExactly("0 100", "2000 30", "3840 100");
  }

  @Test
  void whereAClipLeavesTheBendIsCentred() {
    Concert concert =
        Concert.with(
            bending(new ControllerMove(Controller.BEND, 960, 12_000)), clip(B, note(2, 52, 0, 60)));
    concert.start().cue(B, 1500).until(2 * BAR);
    assertThat(concert.moved(Kind.PITCH_BEND, 0)).containsExactly("0 12000", "3840 8192");
    concert.cue(A, 2 * BAR).at(2 * BAR + 500, new CueCommand.Stop());
    assertThat(concert.moved(Kind.PITCH_BEND, 0)).last().asString().endsWith(" 8192");
  }

  @Test
  void aPedalDownAtTheStartBeginsThereAndOneDownAtTheClosingIsRecordedUntilLifted() {
    Concert concert = Concert.with().start().press(3000);
    concert.foot(true, 3500).play(60, BAR, BAR + 100).foot(false, BAR + 700);
    concert.foot(true, 2 * BAR - 480).press(2 * BAR - 10).foot(false, 2 * BAR + 300);
    concert.until(4 * BAR);
    assertThat(concert.newest().notes().filter(Note::isPedal))
        .extracting(Note::meant, Note::length)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(0L, 700L),
            org.assertj.core.groups.Tuple.tuple(BAR - 480, 780L));
    assertThat(concert.moved(Kind.CONTROL_CHANGE, 64))
        .as(
            "the loop takes over what the foot holds; in the next pass it is pressed anew at the line")
        .startsWith(
            "3500 127",
            "4540 0",
            "7200 127",
            "8380 0",
            "11040 127",
            "11520 0",
            "11520 127",
            "12220 0");
  }

  @Test
  void aPedalHeldForAPassLiftsShortlyBeforeItGoesDownAgain() {
    Concert concert = Concert.with(clip(A, DOT, pedal(0, 4000))).start().until(2 * BAR);
    assertThat(concert.moved(Kind.CONTROL_CHANGE, 64))
        .containsExactly("0 127", "3720 0", "3840 127", "7560 0");
    Concert longer = Concert.with(clip(A, DOT, pedal(0, 5000))).start();
    longer.until(3 * BAR);
    assertThat(longer.moved(Kind.CONTROL_CHANGE, 64)).containsExactly("0 127");
  }

  @Test
  void theChannelGetsTheGreaterOfLoopAndFoot() {
    Concert concert = Concert.with(clip(A, DOT, pedal(480, 960))).start();
    concert.foot(true, 960).foot(false, 1920).until(BAR);
    assertThat(concert.moved(Kind.CONTROL_CHANGE, 64)).containsExactly("480 127", "1920 0");
  }

  /** One pedal line: the foot is heard, and the added notes last until it lifts. */
  @Test
  void anOverdubAddsNoSecondPedalLine() {
    Concert concert = Concert.with(clip(A, DOT, pedal(480, 960))).start().press(100);
    concert.foot(true, 2000).play(60, 2100, 2200).foot(false, 3000).until(BAR);
    assertThat(concert.clip(A).notes().filter(Note::isPedal)).hasSize(1);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 60))
        .singleElement()
        .satisfies(note -> assertThat(note.length()).isEqualTo(900));
    assertThat(concert.heard(60)).containsExactly("on 2100", "off 2200");
    Concert merging = Concert.with(clip(A, DOT, pedal(480, 960)));
    merging.at(
        0,
        new SettingCommand.SetRecording(merging.stage().show().recording().withMergePedals(true)));
    merging.start().press(100).foot(true, 2000).play(60, 2100, 2200).foot(false, 3000);
    assertThat(merging.clip(A).notes().filter(Note::isPedal)).hasSize(2);
  }

  @Test
  void whatIsNoControllerIsRefused() {
    for (int number : new int[] {0, 32, 64, 120, 127}) {
      assertThat(Controller.isOne(number)).as("%s", number).isFalse();
    }
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> Controller.change(64))
        .isInstanceOf(ancora.core.Refusal.class);
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> bend(16_384))
        .isInstanceOf(ancora.core.Refusal.class);
    Concert concert = Concert.with(clip(A, DOT));
    concert.at(
        0,
        new SettingCommand.SetPartInput(
            KEYS, concert.stage().show().part(KEYS).input().withChannels(java.util.Set.of(3))));
    concert.start().press(10).at(500, bend(9000)).until(600);
    assertThat(concert.clip(A).moves()).as("another channel than it listens to").isEmpty();
  }
}
