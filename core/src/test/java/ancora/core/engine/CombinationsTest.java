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
import static ancora.core.engine.Concert.shelved;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.history.History;
import ancora.core.history.Step;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.player.Sounded.Kind;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.shelf.ShelfCommand.WindowBars.Bars;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Click;
import ancora.core.show.Components;
import ancora.core.show.LengthRule;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.WholeShow;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;

/** Two rules at a time: what broke where one met another. */
class CombinationsTest {

  private static final Clip FOUR =
      clip(
          A,
          note(1, 36, 0, 60),
          note(2, 38, 960, 60),
          note(3, 36, 1920, 60),
          note(4, 38, 2880, 60));

  private static Concert vamping() {
    return Concert.with(FOUR).start();
  }

  private static Concert vampingWith(UnaryOperator<RecordingSettings> settings) {
    return Concert.of(
            show ->
                show.withRecording(settings.apply(show.recording()))
                    .mapPart(KEYS, p -> shelved(p, FOUR)))
        .start();
  }

  private static Concert set(UnaryOperator<RecordingSettings> settings) {
    return Concert.of(
        show ->
            show.withRecording(settings.apply(show.recording()))
                .mapPart(KEYS, p -> p.withInputGrid(InputGrid.OFF)));
  }

  private static List<String> sounding(Clip clip) {
    return clip.notes().map(n -> n.pitch() + "@" + n.meant()).sorted().toList();
  }

  private static List<Integer> inHindsight(Concert concert) {
    return concert.on().hindsight().notes().filter(p -> !p.recorded()).map(Played::pitch).toList();
  }

  private static Part keys(Concert concert) {
    return concert.stage().show().part(KEYS);
  }

  // replace, takes and what meets them

  @Test
  void recordingAnewEndsAReplaceWhereItsClipGoes() {
    Concert concert = vamping().at(BAR + 500, new MendCommand.Replace(true));
    concert.play(50, BAR + 1000, BAR + 1060).at(BAR + 1500, new PressCommand.RecordAnew());
    concert.play(51, 2 * BAR + 500, 2 * BAR + 560).until(2 * BAR + 600);
    assertThat(sounding(concert.clip(A))).containsExactly("36@0", "50@1000");
    assertThat(concert.stage().history().done()).hasSize(1);
    concert.press(3 * BAR - 20).until(3 * BAR + 10);
    assertThat(sounding(concert.newest())).containsExactly("51@500");
  }

  @Test
  void recordingAnewEndsTakesWhereTheirClipGoes() {
    Concert concert = vamping().at(BAR - 5, new MendCommand.Takes(true));
    concert.play(50, BAR + 480, BAR + 600).play(51, 2 * BAR + 480, 2 * BAR + 600);
    concert.at(2 * BAR + 1000, new PressCommand.RecordAnew()).until(3 * BAR + 10);
    assertThat(concert.clip(A).takes()).hasSize(3);
    assertThat(sounding(concert.clip(A))).as("the last complete one is heard").hasSize(1);
  }

  @Test
  void undoInAReplaceBringsBackAndReplaceOffDoesNotBringItTwice() {
    Concert concert = vamping().at(BAR + 10, new MendCommand.Replace(true));
    concert.play(50, BAR + 480, BAR + 540).until(BAR + 1500).at(BAR + 1500, new UndoCommand.Undo());
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
    concert.at(BAR + 1600, new MendCommand.Replace(false));
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
    Concert erase = vamping().at(BAR + 10, new MendCommand.EraseHeld(true)).down(38, BAR + 500);
    erase.until(BAR + 1500).at(BAR + 1500, new UndoCommand.Undo()).up(38, BAR + 1600);
    erase.at(BAR + 1700, new MendCommand.EraseHeld(false));
    assertThat(sounding(erase.clip(A))).isEqualTo(sounding(FOUR));
  }

  @Test
  void aCompWhileReplacingHoldsWhatItWasPutTogetherFrom() {
    Clip two = FOUR.with(Take.of(2, List.of(new Layer(1, List.of(note(9, 60, 2000, 60))))));
    Concert concert = Concert.with(two).start().at(BAR + 500, new MendCommand.Replace(true));
    concert.at(
        BAR + 600,
        new MendCommand.Comp(
            KEYS, A, List.of(new Stretch(0, 1920, 1), new Stretch(1920, 3840, 2))));
    concert.play(50, BAR + 3000, BAR + 3060).until(2 * BAR + 10);
    assertThat(sounding(concert.clip(A))).containsExactly("36@0", "38@960", "60@2000");
    assertThat(concert.clip(A).take(1).layers()).as("the replace is over").hasSize(2);
  }

  @Test
  void onlyTheReplaceThatIsSwitchedOffEnds() {
    Concert concert =
        Concert.of(
                show ->
                    show.mapPart(KEYS, p -> shelved(p, FOUR))
                        .mapPart(
                            BASS,
                            p -> shelved(p, clip(B, note(7, 40, 0, 60), note(8, 41, 1920, 60)))))
            .start();
    concert.at(BAR + 100, new MendCommand.Replace(true)).at(BAR + 110, new PressCommand.Arm(BASS));
    assertThat(concert.on().open()).as("armed away, it ends as by its own press").isEmpty();
    concert.at(BAR + 120, new MendCommand.Replace(true)).at(BAR + 130, new PressCommand.Arm(KEYS));
    concert
        .at(BAR + 140, new MendCommand.Replace(true))
        .at(BAR + 150, new MendCommand.Replace(false));
    assertThat(concert.on().open()).isEmpty();
  }

  @Test
  void aBarPunchedUntilItIsRightSoundsTheLastAttemptAlone() {
    Concert concert = vampingWith(r -> r.withPunchGoesOn(true));
    concert.at(100, new MendCommand.Punch(960, 1920)).play(50, 1000, 1060);
    concert.play(51, BAR + 1100, BAR + 1160).play(52, 2 * BAR + 1200, 2 * BAR + 1260);
    concert.until(3 * BAR + 2000).at(3 * BAR + 2000, new MendCommand.PunchOff());
    assertThat(sounding(concert.clip(A))).containsExactly("36@0", "36@1920", "38@2880", "52@1200");
    for (int i = 0; i < 3; i++) {
      concert.at(3 * BAR + 2100 + i, new MendCommand.Peel());
    }
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
  }

  @Test
  void aPunchInWhichNothingIsPlayedTakesNothingOut() {
    Concert concert = vamping().at(100, new MendCommand.Punch(960, 1920)).until(3 * BAR);
    assertThat(concert.attacks(38, 0)).as("silent as long as it is armed").doesNotContain(960L);
    concert.at(3 * BAR, new MendCommand.PunchOff()).until(4 * BAR);
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
    assertThat(concert.attacks(38, 3 * BAR)).startsWith(3 * BAR + 960);
  }

  // controllers and pedal

  private static Command bend(int value) {
    return new HandCommand.MoveController("keys", 0, Controller.BEND, value);
  }

  @Test
  void takesAndReplaceRecordPedalAndControllersAndSilenceTheOldOnes() {
    Concert concert = set(s -> s).start().press(0).play(60, 100, 160).foot(true, 480);
    concert.at(960, bend(9000)).foot(false, 1400).at(1600, bend(8192)).press(BAR - 50);
    concert.at(BAR - 5, new MendCommand.Takes(true)).until(BAR + 5).play(61, BAR + 100, BAR + 160);
    concert.foot(true, BAR + 2000).at(BAR + 2100, bend(10_000)).foot(false, BAR + 2400);
    concert.until(2 * BAR - 5).at(2 * BAR + 5, new MendCommand.Takes(false));
    Clip taken = concert.newest();
    assertThat(taken.take(2).sounding().filter(Note::isPedal)).hasSize(1);
    assertThat(taken.take(2).soundingMoves()).hasSize(1);
    concert.until(3 * BAR);
    assertThat(concert.moved(Kind.PITCH_BEND, 0))
        .as("the old bend does not sound on in the take")
        .doesNotContain((BAR + 960) + " 9000");
    concert.at(3 * BAR + 5, new MendCommand.Replace(true)).until(4 * BAR - 1);
    concert.until(4 * BAR + 10);
    assertThat(concert.newest().moves()).as("taken out as notes are").isEmpty();
    assertThat(concert.newest().notes()).noneMatch(Note::isPedal);
  }

  @Test
  void heldEraseNeverTouchesThePedalAndEndsWithItsKey() {
    Note pedal = Note.of(9, Note.PEDAL, 127, 480, 480, 900);
    Concert concert = Concert.with(FOUR.mapHeard(t -> t.mapLayer(1, l -> l.with(pedal)))).start();
    concert.down(38, 100).foot(true, 200).at(300, new MendCommand.EraseHeld(true)).up(38, 500);
    concert
        .until(BAR + 1500)
        .at(BAR + 1500, new MendCommand.EraseHeld(false))
        .foot(false, BAR + 1600);
    assertThat(sounding(concert.clip(A)))
        .as("its key is up before the first 38 passes")
        .containsExactly("128@480", "36@0", "36@1920", "38@2880", "38@960");
  }

  @Test
  void overdubOffJustAfterTheLineLeavesRepeatsAndMovesToo() {
    Concert concert =
        vamping().at(50, new HandCommand.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 50)));
    concert.press(100).down(50, BAR - 950).at(BAR + 20, bend(9000)).press(BAR + 200);
    concert.up(50, BAR + 300);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 50).map(Note::meant))
        .containsExactly(BAR - 960, BAR - 480);
    assertThat(concert.clip(A).moves()).isEmpty();
  }

  // one history

  @Test
  void undoOfARenameTouchesNothingElse() {
    Concert concert = vamping().at(10, new ShelfCommand.RenamePart(KEYS, "Harbour"));
    concert.at(
        20,
        new SettingCommand.SetBalance(
            KEYS, keys(concert).balance().withLevel(-12).withMuted(true)));
    concert.at(30, new UndoCommand.Undo());
    assertThat(keys(concert).name()).isEqualTo("Keys");
    assertThat(keys(concert).balance().level()).isEqualTo(-12);
    assertThat(keys(concert).balance().muted()).isTrue();
  }

  @Test
  void undoGoesBackLayerByLayerBeforeItTakesThePartAway() {
    Concert concert = set(s -> s).start();
    concert.at(0, new SettingCommand.AddPart("Bell", Sound.of(14)));
    PartId bell = concert.stage().show().parts().get(2).id();
    assertThat(concert.stage().armed()).as("a new part is armed at once").contains(bell);
    concert.press(10).play(60, 480, 540).press(BAR - 20).until(BAR + 10);
    concert.press(BAR + 100).play(62, BAR + 960, BAR + 1020).press(BAR + 2000);
    concert.at(BAR + 2100, new UndoCommand.Undo());
    Part now = concert.stage().show().part(bell);
    assertThat(sounding(now.shelf().get(0))).containsExactly("60@480");
    concert.at(BAR + 2200, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(bell).shelf())
        .as("a loop that sounds is not silenced by a slip")
        .hasSize(1);
    concert.at(BAR + 2300, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(bell).shelf()).isEmpty();
    concert.at(BAR + 2400, new UndoCommand.Undo());
    assertThat(concert.stage().show().parts()).hasSize(2);
  }

  @Test
  void undoAfterASectionIsMadeTakesTheOverdubFirst() {
    Concert concert = vamping().at(10, new CueCommand.MakeSection("Quay")).press(100);
    concert.play(50, 1000, 1060).press(2000).at(2100, new UndoCommand.Undo());
    assertThat(concert.stage().show().form()).hasSize(1);
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
  }

  @Test
  void aPressThatOnlySaysSoIsTheFirstOfTwoFor2Seconds() {
    Concert concert = set(s -> s).start().press(0).play(60, 480, 540).press(BAR - 20);
    concert.until(BAR + 10).at(BAR + 100, new UndoCommand.Undo());
    assertThat(concert.stage().firstPress()).isPresent();
    concert.at(BAR + 200, new ShelfCommand.RenamePart(BASS, "Low"));
    assertThat(concert.stage().firstPress()).as("any other command ends it").isEmpty();
    concert.at(BAR + 300, new UndoCommand.Undo()).at(BAR + 310, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(BASS).name()).isEqualTo("Bass");
    assertThat(keys(concert).shelf()).hasSize(1);
    concert.at(BAR + 320 + 3841, new UndoCommand.Undo());
    assertThat(keys(concert).shelf()).as("2 s and a tick later it is a first one").hasSize(1);
    concert.at(BAR + 320 + 3841 + 3840, new UndoCommand.Undo());
    assertThat(keys(concert).shelf()).isEmpty();
    concert.at(4 * BAR, new UndoCommand.Redo()).until(5 * BAR);
    assertThat(concert.attacks(60, 4 * BAR))
        .as("back where it would have been")
        .startsWith(4 * BAR + 480);
  }

  @Test
  void theForecastOfAFirstPressIsWhatItSays() {
    Concert concert = set(s -> s).start().press(0).play(60, 480, 540).press(BAR - 20);
    concert.until(BAR + 100);
    Engine engine = Engine.of(concert.stage());
    Forecast forecast = engine.forecast(new UndoCommand.Undo(), Concert.micros(BAR + 100));
    assertThat(forecast.effects()).isEmpty();
    assertThat(forecast.word().orElseThrow()).contains("Keys a").contains("press again");
    Forecast sure = engine.forecast(new UndoCommand.Undo(true), Concert.micros(BAR + 100));
    assertThat(sure.effects()).isNotEmpty();
  }

  @Test
  void aDoublingThatWaitsForItsBeatIsCalledOffByUndo() {
    Concert concert = vamping().at(100, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Twice()));
    concert.at(200, new UndoCommand.Undo()).until(2000);
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR);
  }

  @Test
  void redoneLayersStayApart() {
    Concert concert = vamping().press(100).play(50, 1000, 1060).at(1500, new UndoCommand.Undo());
    concert.play(51, 2000, 2060).until(BAR + 10).at(BAR + 20, new UndoCommand.Redo());
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2, 3);
  }

  @Test
  void peelAllNamesTheLayersSinceRecordingWasSwitchedOn() {
    Concert concert = vamping().press(100).play(50, 1000, 1060).press(BAR - 50);
    concert
        .press(BAR + 100)
        .play(51, BAR + 1000, BAR + 1060)
        .play(52, 2 * BAR + 500, 2 * BAR + 560);
    concert.at(2 * BAR + 600, new MendCommand.Peel()).at(2 * BAR + 700, new MendCommand.PeelAll());
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2);
    concert.at(2 * BAR + 800, new UndoCommand.Undo());
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2, 3);
  }

  // parts together

  @Test
  void partsArmedTogetherAreOneForEveryWay() {
    Concert concert =
        Concert.of(
                show ->
                    show.mapPart(KEYS, p -> shelved(p, FOUR))
                        .mapPart(BASS, p -> shelved(p, clip(B, note(7, 40, 0, 60)))))
            .at(0, new PressCommand.ArmAlongside(BASS, true))
            .start();
    concert.press(100).play(50, 1000, 1060).until(BAR + 10).at(BAR + 20, new MendCommand.Peel());
    Clip bass = concert.stage().show().part(BASS).clipOf(B);
    assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR));
    assertThat(sounding(bass)).as("both").containsExactly("40@0");
    concert.at(BAR + 100, new UndoCommand.Undo());
    assertThat(concert.clip(A).layers()).hasSize(2);
    assertThat(concert.stage().show().part(BASS).clipOf(B).layers()).as("one step").hasSize(2);
    concert.press(BAR + 200).at(BAR + 300, new PressCommand.HandOff());
    assertThat(concert.stage().show().parts()).as("a new part for each").hasSize(4);
    assertThat(concert.stage().alongside()).hasSize(1);
  }

  @Test
  void peelOfAnotherTakeLeavesThePartsAlongsideAlone() {
    Clip bass = clip(B, note(11, 36, 0, 60));
    Concert concert =
        Concert.of(
                show ->
                    show.mapPart(KEYS, p -> Concert.shelved(p, FOUR))
                        .mapPart(BASS, p -> Concert.shelved(p, bass)))
            .at(0, new PressCommand.ArmAlongside(BASS, true))
            .start();
    concert.press(BAR).play(50, BAR + 480, BAR + 540).press(2 * BAR);
    concert.at(3 * BAR, new MendCommand.Takes(true)).play(51, 3 * BAR + 480, 3 * BAR + 540);
    concert.at(4 * BAR, new MendCommand.Takes(false));
    concert.press(5 * BAR).play(52, 5 * BAR + 480, 5 * BAR + 540).until(6 * BAR + 10);
    concert.at(6 * BAR + 20, new MendCommand.HearTake(KEYS, A, 1, true));
    concert.at(6 * BAR + 100, new MendCommand.Peel());
    assertThat(sounding(concert.clip(A))).as("its own layer 2 is off").hasSize(4);
    Clip heard = concert.stage().show().part(BASS).clipOf(B);
    assertThat(sounding(heard)).as("layer 2 of another take is on").contains("52@480");
  }

  @Test
  void fromTheFirstNotePartsAlongsideBeginWhereItIsPlaced() {
    Concert concert =
        set(s -> s.withFromFirstNote(true))
            .at(0, new PressCommand.ArmAlongside(BASS, true))
            .at(0, new SettingCommand.SetPartInput(KEYS, PartInput.OPEN.withOffset(150)))
            .press(0);
    concert.down(60, 1000);
    assertThat(concert.on().first().orElseThrow().notes())
        .extracting(Note::played)
        .containsExactly(0L);
    assertThat(concert.stage().on(BASS).first()).isPresent();
  }

  @Test
  void aHandOffJustAfterTheLineTakesTheDownbeatAlong() {
    Concert concert = Concert.with(clip(A, 0, 4 * BAR, note(1, 60, 0, 60))).start().press(100);
    concert.at(
        150,
        new SettingCommand.SetBalance(KEYS, keys(concert).balance().withLevel(-7).withMuted(true)));
    concert.play(70, BAR + 10, BAR + 70).at(BAR + 80, new PressCommand.HandOff()).until(BAR + 90);
    Part made = concert.stage().show().parts().get(2);
    assertThat(concert.stage().on(made.id()).first().orElseThrow().notes())
        .extracting(Note::pitch)
        .containsExactly(70);
    assertThat(concert.clip(A).notes().map(Note::pitch)).containsExactly(60);
    assertThat(made.balance().level()).isEqualTo(-7);
    assertThat(made.balance().muted()).as("mute is not taken over").isFalse();
  }

  // cues and sections

  private static Section section(Concert concert, int place) {
    return concert.stage().show().form().get(place);
  }

  @Test
  void callingOffASectionCallsOffWhatItCuedAndNoMore() {
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(
                        KEYS,
                        p ->
                            shelved(
                                p,
                                clip(A, note(1, 60, 0, 60)),
                                clip(B, 960, BAR, note(2, 62, 960, 60))))
                    .mapPart(BASS, p -> shelved(p, clip(C, note(3, 40, 0, 60)))));
    concert.at(0, new CueCommand.MakeSection("one"));
    Section one = section(concert, 0).withLineUp(Map.of(KEYS, Optional.of(B)));
    concert.at(1, new CueCommand.SetSection(one)).start();
    concert.at(510, new CueCommand.CueTacet(BASS)).at(520, new CueCommand.CueSection(one.id()));
    assertThat(concert.on().cue().orElseThrow().at()).as("off the bar").isEqualTo(BAR + 960);
    concert.at(530, new CueCommand.CueSection(one.id())).until(3 * BAR);
    assertThat(concert.attacks(62, 0)).isEmpty();
    assertThat(concert.stage().on(BASS).vamp()).as("the performer's own cue").isEmpty();
  }

  @Test
  void callingOffASectionLetsARecordingGoOn() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60)));
    concert.at(0, new CueCommand.MakeSection("one")).at(1, new CueCommand.CueTacet(KEYS)).start();
    concert.at(10, new PressCommand.RecordAnew()).play(64, 480, 540);
    concert.at(600, new CueCommand.CueSection(section(concert, 0).id()));
    assertThat(concert.on().first().orElseThrow().isClosing()).isTrue();
    concert.at(700, new CueCommand.CueSection(section(concert, 0).id())).until(2 * BAR);
    assertThat(concert.on().first()).as("it records on").isPresent();
  }

  @Test
  void cutAllCallsOffWhatIsCuedOnSilentParts() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60)));
    concert.at(0, new CueCommand.CueTacet(KEYS)).start().at(510, new CueCommand.CueClip(KEYS, A));
    concert.at(520, new CueCommand.CutAll()).until(2 * BAR);
    assertThat(concert.attacks(60, 0)).isEmpty();
  }

  @Test
  void aCueIsOnTheBarWhateverBecomesOfItsWindow() {
    Concert concert =
        Concert.with(clip(A, note(1, 60, 0, 60)), clip(B, 960, BAR, note(2, 62, 960, 60))).start();
    concert.at(510, new CueCommand.CueClip(KEYS, B));
    concert
        .at(520, new ShelfCommand.Reshape(KEYS, B, new Reshaping.ToWindow(0, BAR)))
        .until(BAR + 10);
    Vamp vamp = concert.on().vamp().orElseThrow();
    assertThat(vamp.clip()).isEqualTo(B);
    assertThat(vamp.from()).isEqualTo(BAR);
  }

  @Test
  void aSectionThatGoesOnByItselfDoesNotDropWhatIsCuedFarLater() {
    Concert concert =
        Concert.of(
            show ->
                show.withRecording(show.recording().withEntersOn(EntryUnit.FOUR_BARS))
                    .mapPart(KEYS, p -> shelved(p, clip(A, note(1, 60, 0, 60)))));
    concert.at(0, new CueCommand.MakeSection("one")).at(1, new CueCommand.MakeSection("two"));
    Section one = section(concert, 0);
    concert.at(
        2,
        new CueCommand.SetSection(
            one.withGoesOn(Optional.of(new Section.GoesOn(1, section(concert, 1).id())))));
    concert.at(3, new CueCommand.CueSection(one.id())).start().until(10);
    concert.at(20, new CueCommand.CueSection(one.id())).until(4 * BAR + 400);
    concert.at(4 * BAR + 500, new PressCommand.RecordAnew()).until(6 * BAR);
    assertThat(concert.on().first().orElseThrow().start()).isEqualTo(8 * BAR);
  }

  // windows

  @Test
  void windowsHoldForAllTakes() {
    Clip two = FOUR.with(Take.of(2, List.of(new Layer(1, List.of(note(9, 60, 2000, 60))))));
    Concert concert = Concert.with(two);
    concert.at(0, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Twice()));
    assertThat(concert.clip(A).take(2).sounding().map(Note::meant))
        .containsExactly(2000L, 2000L + BAR);
    concert.at(1, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Shift(-480)));
    assertThat(concert.clip(A).take(2).sounding().map(Note::meant))
        .containsExactly(1520L, 1520L + BAR);
  }

  @Test
  void aBarAloneAndLongerAgainIsInStepWithTheBand() {
    Clip two = clip(A, 0, 2 * BAR, note(1, 60, 0, 60), note(2, 62, BAR, 60));
    Concert concert = Concert.with(two).start().until(BAR + 400);
    concert.at(BAR + 500, new ShelfCommand.WindowBars(Bars.ALONE, false)).until(4 * BAR - 10);
    assertThat(concert.clip(A).window()).isEqualTo(new LoopWindow(BAR, BAR));
    assertThat(concert.attacks(62, 2 * BAR)).containsExactly(2L * BAR, 3L * BAR);
    concert.at(4 * BAR + 100, new UndoCommand.Undo()).until(7 * BAR);
    assertThat(concert.attacks(62, 4 * BAR + 200)).as("in step").containsExactly(5L * BAR);
    concert.at(7 * BAR + 100, new ShelfCommand.WindowBars(Bars.LONGER, true));
    concert.at(7 * BAR + 110, new ShelfCommand.WindowBars(Bars.LONGER, true)).until(7 * BAR + 1000);
    assertThat(concert.clip(A).window().length()).as("they add up").isEqualTo(4 * BAR);
    for (int i = 0; i < 3; i++) {
      concert.at(7 * BAR + 1100 + i, new ShelfCommand.WindowBars(Bars.SHORTER, false));
    }
    assertThat(concert.refused(7 * BAR + 1200, new ShelfCommand.WindowBars(Bars.SHORTER, false)))
        .contains("halve it instead");
  }

  @Test
  void nothingIsRecordedIntoAWindowShorterThanABar() {
    Concert concert = vamping().at(100, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Halve()));
    concert.until(1000);
    assertThat(concert.refused(1100, new PressCommand.MainPress())).contains("set its window back");
    assertThat(concert.refused(1100, new MendCommand.Replace(true)))
        .contains("set its window back");
    concert.at(1200, new MendCommand.EraseHeld(true)).at(1300, new MendCommand.EraseHeld(false));
  }

  // limits and names

  @Test
  void multiplesOfAFiveBarLoopEndAtSixty() {
    Concert concert =
        Concert.of(
            show ->
                show.withRecording(show.recording().withLengthRule(LengthRule.OF_THE_SHOWS_FIRST))
                    .mapPart(BASS, p -> shelved(p, clip(B, 0, 5 * BAR, note(7, 40, 0, 60)))));
    concert.start().press(10).play(60, 480, 540).until(63 * BAR);
    assertThat(concert.newest().window().length()).isEqualTo(60 * BAR);
  }

  @Test
  void theTwentySeventhClipIsCalledAa() {
    Concert concert = vamping();
    for (int i = 0; i < 27; i++) {
      concert.at(10 + i, new ShelfCommand.DuplicateClip(KEYS, A));
    }
    List<String> letters = keys(concert).shelf().stream().map(Clip::letter).toList();
    assertThat(letters).hasSize(28).startsWith("a", "b").endsWith("z", "aa", "ab");
  }

  @Test
  void theClickSoundsOnceWhereTwoPartsRecord() {
    Concert concert =
        Concert.of(
                show -> show.withClick(Click.of(true, Click.When.RECORDING, Click.Sound.CLAVES, 0)))
            .at(0, new PressCommand.ArmAlongside(BASS, true))
            .start()
            .press(10);
    assertThat(Engine.of(concert.stage()).plan().clickSpans()).hasSize(1);
  }

  @Test
  void afterManyTempoChangesAHeldKeyIsWhereItWasPressed() {
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120));
    double pressed = map.microsOf(100);
    for (int i = 1; i <= 600; i++) {
      map = map.withTempoFrom(Tempo.of(100 + i % 40), i * 500_000.0);
    }
    assertThat(map.tickAt(pressed)).isEqualTo(100);
  }

  @Test
  void keepHasThePedalToo() {
    Concert concert = set(s -> s).start().play(60, 100, 160).foot(true, 480).foot(false, 1440);
    concert.at(BAR - 100, new KeepCommand.Keep(false, false));
    assertThat(concert.newest().notes().filter(Note::isPedal).map(Note::length))
        .containsExactly(960L);
  }

  @Test
  void theGridOfNoteRepeatHasTheSwingOfThePart() {
    Concert concert = set(s -> s).start();
    concert.at(
        10, new SettingCommand.SetInputGrid(KEYS, InputGrid.of(Grid.SIXTEENTH).withSwing(62)));
    concert.at(20, new HandCommand.RepeatKeys(true, Grid.SIXTEENTH));
    assertThat(concert.stage().hands().repeat().orElseThrow().swing()).isEqualTo(62);
  }

  @Test
  void whatIsSwitchedOffMoreThanASecondLateIsOff() {
    Concert concert =
        vamping().at(50, new HandCommand.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 50)));
    concert.at(100, new MendCommand.Punch(960, 1920)).late(300, 3000, new MendCommand.PunchOff());
    assertThat(concert.on().open()).isEmpty();
    concert.late(400, 3100, new HandCommand.RepeatOff());
    assertThat(concert.stage().hands().repeat()).isEmpty();
    concert
        .at(3200, new MendCommand.EraseHeld(true))
        .late(3300, 6000, new MendCommand.EraseHeld(false));
    assertThat(concert.stage().hands().isErasing()).isFalse();
  }

  @Test
  void aSilentFirstPassGoesRoundUntilSomethingIsPlayed() {
    Concert concert = set(s -> s.withFixedUnits(1).withOverdubAfter(true)).start().press(10);
    concert.until(2 * BAR + 100);
    assertThat(keys(concert).shelf()).isEmpty();
    concert.play(60, 2 * BAR + 480, 2 * BAR + 540).until(3 * BAR + 10);
    Clip loop = concert.newest();
    assertThat(sounding(loop)).containsExactly("60@480");
    assertThat(loop.window()).isEqualTo(new LoopWindow(0, BAR));
    assertThat(concert.on().open()).as("overdub goes on").isPresent();
    concert.at(3 * BAR + 100, new UndoCommand.Undo(true)).until(4 * BAR + 10);
    assertThat(concert.on().first()).as("the empty loop goes on").isPresent();
    concert.press(4 * BAR + 100);
    assertThat(concert.on().first()).as("and goes with what ends the recording").isEmpty();
  }

  @Test
  void twoCompleteTakesWithABreatherAreComplete() {
    Concert concert = vampingWith(r -> r.withBreatherBars(1));
    concert.at(BAR + 40, new MendCommand.Takes(true)).play(50, BAR + 480, BAR + 540);
    concert.play(51, 3 * BAR + 480, 3 * BAR + 540).at(4 * BAR + 20, new MendCommand.Takes(false));
    assertThat(concert.clip(A).takes())
        .extracting(Take::partial)
        .containsExactly(false, false, false);
  }

  @Test
  void overdubPressedJustAfterTheLineCountsFromItWithABreather() {
    Concert concert = vampingWith(r -> r.withBreatherBars(1));
    concert.press(BAR + 40).play(50, BAR + 480, BAR + 540);
    concert.play(51, 3 * BAR, 3 * BAR + 60).until(4 * BAR + 10);
    assertThat(sounding(concert.clip(A))).contains("50@480").contains("51@0");
    assertThat(concert.clip(A).layers()).extracting(Layer::number).containsExactly(1, 2, 3);
  }

  /** Beside a loop that is added to, a first recording closes by its own lengths. */
  @Test
  void handOffInAPassClosesAFirstRecordingAlongsideByWholeBars() {
    Components<RecordingSettings> now =
        Components.one(RecordingSettings.class, "entersOn", EntryUnit.NOW);
    Concert concert = Concert.with(FOUR).at(0, new SettingCommand.SetRecording(now));
    concert.at(0, new PressCommand.ArmAlongside(BASS, true)).press(0).play(60, 1000, 1060);
    concert.at(1300, new PressCommand.HandOff()).until(4 * BAR);
    assertThat(concert.stage().show().parts().stream().flatMap(part -> part.shelf().stream()))
        .allMatch(clip -> clip.window().length() % BAR == 0)
        .hasSizeGreaterThan(1);
  }

  @Test
  void handOffInAFirstRecordingTakesThePartArmedAlongsideToo() {
    Concert concert =
        Concert.of(show -> show).at(0, new PressCommand.ArmAlongside(BASS, true)).start();
    concert.press(10).play(60, 480, 540).at(BAR - 100, new PressCommand.HandOff()).until(BAR + 10);
    assertThat(concert.stage().show().parts()).as("a new part for each").hasSize(4);
    assertThat(concert.on().first()).isEmpty();
    assertThat(concert.stage().on(BASS).first()).as("it is not out of reach").isEmpty();
  }

  @Test
  void whatIsEarlyForAHandOffIsTheNewPartsAloneThoughTheLoopHasClosed() {
    Concert concert = Concert.of(show -> show).start().press(10);
    concert.play(60, 480, 540).play(62, BAR - 60, BAR - 20).press(BAR + 20);
    concert.at(BAR + 40, new PressCommand.HandOff());
    concert.until(2 * BAR);
    assertThat(sounding(concert.newest())).containsExactly("60@480");
    PartId next = concert.stage().armedPart();
    assertThat(concert.stage().on(next).first().orElseThrow().notes())
        .extracting(Note::pitch)
        .containsExactly(62);
  }

  /** The loop closes, is added to, and handed off, all by its line; the note was early for that. */
  @Test
  void whatIsEarlyForAHandOffIsTheNewPartsAloneThoughTheLoopIsAddedTo() {
    Concert concert = Concert.of(show -> show).start().press(10).play(60, 480, 540);
    concert.press(BAR - 60).down(62, BAR - 50).until(BAR + 2).press(BAR + 20);
    concert.at(BAR + 40, new PressCommand.HandOff()).until(BAR + 100);
    concert.up(62, BAR + 200).press(2 * BAR - 50).until(3 * BAR);
    List<Long> ids =
        concert.stage().show().parts().stream()
            .flatMap(part -> part.shelf().stream())
            .flatMap(Clip::notes)
            .map(Note::id)
            .toList();
    assertThat(ids).hasSize(2).doesNotHaveDuplicates();
  }

  /** Keep once more takes the other phrase instead; not where the first is being added to. */
  @Test
  void whatIsBeingAddedToIsNotKeptOtherwise() {
    Concert concert = Concert.of(show -> show);
    concert.play(60, 0, 99).play(62, 480, 579).at(700, new KeepCommand.Keep(false, false));
    concert.press(800).play(64, 1100, 1200).at(1300, new KeepCommand.Keep(false, false));
    assertThat(concert.stage().show().part(KEYS).shelf())
        .flatExtracting(clip -> clip.notes().map(Note::pitch).toList())
        .contains(60, 62, 64);
  }

  /** Time may pass in one go, or bit by bit: what ends on one tick is in the same order. */
  @Test
  void aReplaceAndAClosingOnOneLineAreStepsInTheSameOrder() {
    RecordingSettings aBar = RecordingSettings.DEFAULT.withCountInBars(1).withFixedUnits(1);
    for (boolean bitByBit : new boolean[] {false, true}) {
      Concert concert = Concert.with(FOUR).at(0, new SettingCommand.SetRecording(aBar));
      concert
          .at(0, new PressCommand.ArmAlongside(BASS, true))
          .press(0)
          .play(60, BAR - 40, BAR - 30);
      Engine engine = Engine.of(concert.at(BAR - 20, new MendCommand.Replace(true)).stage());
      for (long tick = BAR - 20; bitByBit && tick < 2 * BAR; tick += 60) {
        engine.advance(Concert.micros(tick));
      }
      engine.advance(Concert.micros(2 * BAR + 100));
      assertThat(engine.stage().history().done())
          .extracting(Step::words)
          .as("bit by bit: %s", bitByBit)
          .endsWith("replace in Keys a", "the recording of Bass a");
    }
  }

  /** All that was in it is off: there is a clip still, and its pieces are as empty. */
  @Test
  void aClipWithNothingOnCanBeCut() {
    Clip off =
        FOUR.withWindow(new LoopWindow(0, 2 * BAR))
            .mapTakes(take -> take.withLayers(List.of()).withOff(take.layers()));
    Concert concert = Concert.with(off).at(0, new EditCommand.CutClip(KEYS, A, 1));
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(3);
    assertThat(concert.newest().notes()).isEmpty();
  }

  @Test
  void takesInARowAreOneLongerClipWithNotesOfItsOwn() {
    Clip two = FOUR.with(Take.of(2, List.of(new Layer(1, List.of(note(9, 60, 2000, 60))))));
    Concert concert = Concert.with(two).start().at(100, new MendCommand.LayTakesInRow(KEYS, A));
    Clip row = concert.newest();
    assertThat(row.window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(sounding(row))
        .containsExactly("36@0", "36@1920", "38@2880", "38@960", "60@" + (BAR + 2000));
    assertThat(row.notes().map(Note::id)).doesNotContain(1L, 2L, 3L, 4L, 9L);
    concert.at(200, new UndoCommand.Undo());
    assertThat(keys(concert).shelf()).hasSize(1);
    concert.at(300, new MendCommand.DeleteTake(KEYS, A, 2));
    assertThat(concert.refused(400, new MendCommand.LayTakesInRow(KEYS, A)))
        .contains("one take only");
  }

  @Test
  void aLoopThatComesBackMakesUpForWhatTheHandPlayedLongAgo() {
    Concert concert = set(s -> s.withFixedUnits(1)).start().press(10).hit(60, BAR - 60);
    concert.until(2 * BAR).at(2 * BAR + 100, new UndoCommand.Undo(true));
    concert.at(3 * BAR - 40, new UndoCommand.Redo()).until(3 * BAR);
    assertThat(concert.attacks(60, BAR)).containsExactly(2 * BAR - 60, 3 * BAR - 39);
  }

  @Test
  void aTakeHeardAtOnceSoundsTheKeyThatErasedTheOther() {
    Clip two = FOUR.with(Take.of(2, List.of(new Layer(1, List.of(note(9, 60, 480, 60))))));
    Concert concert = Concert.with(two.withHeard(1)).start();
    concert.at(100, new MendCommand.EraseHeld(true)).down(60, 200);
    concert.at(479, new MendCommand.HearTake(KEYS, A, 2, true)).until(BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(480L);
  }

  @Test
  void redoOfAWindowTooShortForTakesEndsThemFirst() {
    Concert concert = vamping().at(100, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Halve()));
    concert.until(BAR).at(BAR, new UndoCommand.Undo()).at(BAR + 40, new MendCommand.Takes(true));
    concert.play(60, 2 * BAR + 480, 2 * BAR + 540).at(2 * BAR + 1000, new UndoCommand.Redo());
    assertThat(concert.on().open()).isEmpty();
    assertThat(concert.clip(A).takes()).hasSize(2);
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR / 2);
    concert.at(2 * BAR + 1100, new UndoCommand.Undo());
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR);
    assertThat(concert.clip(A).takes()).hasSize(2);
  }

  @Test
  void aTogglePressedTwiceInAStallIsOff() {
    for (String way : List.of("takes {on}", "replace {on}")) {
      Command turned = asked(way, "on", "on and off");
      Concert concert = vamping();
      concert.late(300, 1900, turned);
      concert.late(900, 1900, turned);
      assertThat(concert.on().open()).as(way).isEmpty();
      assertThat(sounding(concert.clip(A))).isEqualTo(sounding(FOUR).stream().toList());
    }
  }

  /** The key was down when it was undone, and up, after 5000 ticks, when it is done again. */
  @Test
  void redoAfterAStopHasTheLengthThatWasPlayed() {
    Concert concert = Concert.with(clip(A, 0, 4 * BAR, note(1, 40, 0, 60))).start().press(100);
    concert.down(60, 960).at(2000, new UndoCommand.Undo()).up(60, 5960);
    concert.at(6000, new CueCommand.Stop()).at(6100, new UndoCommand.Redo());
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 60).map(Note::length))
        .containsExactly(5000L);
  }

  @Test
  void aStopEndsHeldKeysWithThePartsOffset() {
    Concert concert = Concert.with(clip(A, note(1, 40, 0, 60)));
    concert.at(0, new SettingCommand.SetPartInput(KEYS, PartInput.OPEN.withOffset(20)));
    concert.start().press(100).down(60, 1000).at(2000, new CueCommand.Stop());
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 60).map(Note::length))
        .containsExactly(1000L);
  }

  @Test
  void aPassOfPartsTogetherIsOneUndoHoweverManyStepsThereAre() {
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(KEYS, part -> Concert.shelved(part, clip(A, note(1, 40, 0, 60))))
                    .mapPart(BASS, part -> Concert.shelved(part, clip(B, note(2, 41, 0, 60)))));
    for (int i = 0; i < History.MOST; i++) {
      concert.at(0, new ShelfCommand.RenamePart(KEYS, "Keys " + i));
    }
    concert.at(0, new PressCommand.ArmAlongside(BASS, true)).start().press(100).hit(60, 960);
    concert.at(1500, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).clipOf(A).noteCount()).isEqualTo(1);
    assertThat(concert.stage().show().part(BASS).clipOf(B).noteCount()).isEqualTo(1);
  }

  private static Clip full(int notes) {
    List<Note> all = new ArrayList<>();
    for (int i = 0; i < notes; i++) {
      all.add(note(2000 + i, 36 + i % 12, i * 3L % (4 * BAR), 15));
    }
    return clip(A, 0, 4 * BAR, all.toArray(Note[]::new));
  }

  private static Concert onto(int notes) {
    return Concert.of(
            show ->
                show.mapPart(KEYS, part -> Concert.shelved(part, full(notes))).withNextId(10_000))
        .start();
  }

  @Test
  void ontoAFullTakeAKeyIsRefusedInWordsAndATakeBesideItIsNot() {
    InputKey key = new InputKey("keys", 0, 90);
    Concert concert = onto(Clip.MOST_NOTES).press(100);
    assertThat(concert.said(200, new HandCommand.KeyDown(key, 90)))
        .isEqualTo("Keys has 4000 notes, as many as fit: what is played is in hindsight.");
    Concert takes = onto(Clip.MOST_NOTES).at(0, new MendCommand.Takes(true));
    assertThat(takes.said(960, new HandCommand.KeyDown(key, 90))).isEmpty();
    takes.up(90, 1000).until(4 * BAR + 10);
    assertThat(takes.clip(A).take(2).noteCount()).isEqualTo(1);
  }

  @Test
  void noLayerComesBackThatMakesATakeTooFull() {
    Concert concert = onto(Clip.MOST_NOTES - 1).press(100).hit(90, 960).until(4 * BAR + 10);
    concert.at(4 * BAR + 100, new MendCommand.Peel()).hit(91, 4 * BAR + 960).until(8 * BAR + 10);
    assertThat(concert.clip(A).take().noteCount()).isEqualTo(Clip.MOST_NOTES);
    assertThat(concert.refused(8 * BAR + 100, new MendCommand.Restore()))
        .contains("more than 4000 notes");
    WholeShow.check(concert.at(8 * BAR + 200, new CueCommand.Stop()).stage().show());
  }

  @Test
  void whatIsSplitOffGetsTheWindowThatIsToCome() {
    Clip kit = clip(A, 0, 2 * BAR, note(1, 36, 0, 60), note(2, 38, BAR, 60));
    Concert concert =
        Concert.of(
                show ->
                    show.mapPart(
                        KEYS, part -> Concert.shelved(part.withSound(Sound.STANDARD_KIT), kit)))
            .start();
    concert.at(500, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Halve()));
    concert.at(600, new ShelfCommand.SplitPart(KEYS)).until(BAR + 10);
    assertThat(concert.stage().show().parts().stream().flatMap(p -> p.shelf().stream()))
        .extracting(clip -> clip.window().length())
        .containsOnly(BAR);
  }
}
