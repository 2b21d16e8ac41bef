package ancora.core.engine;

import static ancora.core.engine.Concert.KEYS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.groups.Tuple.tuple;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.FirstRecording;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Values worked out by hand from the rules, at 120 in 4/4: a bar is 3840 ticks, the forgiveness
 * 230, D 77. Ticks are of the transport, places after @ of the material. Layer 1 is a kick (36) at
 * 0 and a snare (38) at 1920, closed at 3840.
 */
class WorkedValuesTest {

  private static final long BAR = Concert.BAR;

  private static Concert set(UnaryOperator<RecordingSettings> settings) {
    Concert concert =
        Concert.of(show -> show.withRecording(settings.apply(show.recording())))
            .at(0, new SettingCommand.ReportDelay(40_000));
    return concert.start(0);
  }

  private static Concert kit() {
    return kit(UnaryOperator.identity());
  }

  private static Concert kit(UnaryOperator<RecordingSettings> settings) {
    return set(settings).press(5).hit(36, 10).hit(38, 1920).press(3840);
  }

  /** A first recording of four bars with a kick at each. */
  private static Concert fourBars(UnaryOperator<RecordingSettings> settings) {
    Concert concert = set(settings).press(5);
    for (int bar = 0; bar < 4; bar++) {
      concert.hit(36, bar * BAR + 20);
    }
    return concert.press(4 * BAR - 100);
  }

  private static List<String> adds(Concert concert, int layer) {
    return layer(concert, layer).notes().stream().map(n -> n.pitch() + "@" + n.meant()).toList();
  }

  private static List<Integer> out(Concert concert, int layer) {
    List<Note> all = concert.newest().take().allLayers().flatMap(l -> l.notes().stream()).toList();
    return layer(concert, layer).notesOut().stream()
        .map(id -> all.stream().filter(n -> n.id() == id).findFirst().orElseThrow().pitch())
        .sorted()
        .toList();
  }

  private static Layer layer(Concert concert, int number) {
    return concert.newest().take().layer(number).orElseThrow();
  }

  private static List<Integer> layersOn(Concert concert) {
    return concert.newest().layers().stream().map(Layer::number).toList();
  }

  private static List<String> sounding(Concert concert) {
    return sounding(concert.newest().take());
  }

  private static List<String> sounding(Take take) {
    return take.sounding().map(n -> n.pitch() + "@" + n.meant()).sorted().toList();
  }

  private static List<Integer> inHindsight(Concert concert) {
    return concert.on().hindsight().notes().filter(p -> !p.recorded()).map(Played::pitch).toList();
  }

  @Test
  void value1OverdubCountsFromTheLineOrFromTheForgivenessBeforeThePress() {
    Concert forgiven = kit().hit(42, 3842).press(4070);
    assertThat(adds(forgiven, 2)).containsExactly("42@0");
    assertThat(forgiven.until(9000).attacks(42, 3900)).startsWith(7680L);
    assertThat(kit().press(4070).on().recording().orElseThrow().from()).isEqualTo(3840);
    assertThat(kit().press(4071).on().recording().orElseThrow().from()).isEqualTo(3841);
    Concert late = kit().hit(42, 3842).play(44, 3850, 3900).press(4075);
    assertThat(late.on().recording().orElseThrow().from()).isEqualTo(3845);
    assertThat(adds(late, 2)).containsExactly("44@0");
    assertThat(inHindsight(late)).containsExactly(42);
  }

  @Test
  void value2AMendInsideAPassEndsThatPassesLayer() {
    Concert concert = kit().press(3840).hit(42, 4320);
    concert.at(4800, new MendCommand.EraseHeld(true)).play(38, 5700, 5900);
    concert.at(6000, new MendCommand.EraseHeld(false)).hit(42, 6240);
    assertThat(adds(concert, 2)).containsExactly("42@480");
    assertThat(out(concert, 3)).containsExactly(38);
    assertThat(adds(concert, 4)).containsExactly("42@2400");
    concert.at(6500, new MendCommand.Peel());
    assertThat(layersOn(concert)).containsExactly(1, 2, 3);
    concert.at(6510, new MendCommand.Peel());
    assertThat(layersOn(concert)).containsExactly(1, 2);
    concert.at(6520, new MendCommand.Peel());
    assertThat(layersOn(concert)).containsExactly(1);
    assertThat(concert.refused(6530, new MendCommand.Peel())).contains("clear");
    assertThat(concert.until(10_000).attacks(38, 6530)).startsWith(9600L);
  }

  @Test
  void value3ReplaceIsALayerThatTakesOut() {
    Concert concert = kit().at(3840, new MendCommand.Replace(true)).hit(40, 5760);
    concert.until(7680).at(7680, new MendCommand.Replace(false));
    assertThat(adds(concert, 2)).containsExactly("40@1920");
    assertThat(out(concert, 2)).containsExactly(36, 38);
    concert.press(9000).hit(42, 9600);
    assertThat(adds(concert, 3)).containsExactly("42@1920");
    concert.at(11_000, new MendCommand.Peel()).at(12_000, new MendCommand.Peel());
    assertThat(concert.until(16_000).attacks(36, 12_000)).startsWith(15_360L);
  }

  @Test
  void value4UndoTakesOffWhatAnOpenPassHasSoFar() {
    Concert concert = kit().press(3840).hit(42, 4320).at(5000, new UndoCommand.Undo());
    assertThat(layersOn(concert)).containsExactly(1);
    assertThat(concert.on().open()).isPresent();
    concert.hit(42, 6240);
    assertThat(adds(concert, 3)).containsExactly("42@2400");
    concert.at(6500, new UndoCommand.Redo());
    assertThat(layersOn(concert)).containsExactly(1, 2, 3);
  }

  @Test
  void value5ReplaceForgivenForTheLineTakesTheDownbeatOut() {
    Concert concert = kit().at(3940, new MendCommand.Replace(true)).until(5000);
    assertThat(out(concert, 2)).containsExactly(36);
    Concert late = kit().at(4080, new MendCommand.Replace(true)).until(5000);
    assertThat(sounding(late)).containsExactly("36@0", "38@1920");
  }

  @Test
  void value6SwitchedOffCountsAtItsStampHoweverLate() {
    Concert concert = kit().at(3840, new MendCommand.Replace(true)).hit(40, 5800).hit(41, 7000);
    concert.late(5760, 8064, new MendCommand.Replace(false));
    assertThat(out(concert, 2)).containsExactly(36);
    assertThat(sounding(concert)).containsExactly("38@1920");
    assertThat(inHindsight(concert)).containsExactly(40, 41);
    assertThat(concert.until(10_000).attacks(38, 8064)).startsWith(9600L);
  }

  @Test
  void value7ABreatherAfterAFirstRecordingIsNoPassOfIt() {
    Concert concert = fourBars(s -> s.withBreatherBars(1).withOverdubAfter(true));
    concert.hit(42, 16_000).hit(44, 20_000).hit(45, 34_000).until(35_000);
    assertThat(layersOn(concert)).containsExactly(1, 2);
    assertThat(layer(concert, 2).notes()).extracting(Note::pitch).containsExactly(44, 45);
    assertThat(inHindsight(concert)).containsExactly(42);
  }

  @Test
  void value8TakesWithABreatherAreComplete() {
    Concert concert = fourBars(s -> s.withBreatherBars(1)).at(15_460, new MendCommand.Takes(true));
    concert.hit(50, 20_000).hit(51, 32_000).hit(52, 40_000).until(61_440);
    concert.at(61_450, new MendCommand.Takes(false));
    assertThat(concert.newest().takes())
        .extracting(Take::partial)
        .containsExactly(false, false, false);
    assertThat(inHindsight(concert)).containsExactly(51);
    Concert late = fourBars(s -> s.withBreatherBars(1)).at(16_000, new MendCommand.Takes(true));
    assertThat(late.on().recording().orElseThrow().line()).isEqualTo(30_720);
    late.hit(50, 20_000).until(30_730).at(30_800, new MendCommand.Takes(false));
    assertThat(late.newest().take(2).partial()).isTrue();
  }

  @Test
  void value9APunchEndsWhereItsRangeHasGoneBy() {
    Concert concert = kit().at(3940, new MendCommand.Punch(960, 1920)).hit(50, 4840);
    concert.until(5770);
    assertThat(concert.on().recording().orElseThrow().until()).isEqualTo(5760);
    concert.hit(50, 8880);
    assertThat(sounding(concert)).containsExactly("36@0", "38@1920", "50@960");
    Concert goesOn = kit(s -> s.withPunchGoesOn(true)).at(3900, grid(Grid.OFF));
    goesOn.at(3940, new MendCommand.Punch(960, 1920)).hit(50, 4840).hit(50, 8880).until(10_000);
    goesOn.at(10_000, new MendCommand.PunchOff());
    assertThat(sounding(goesOn)).containsExactly("36@0", "38@1920", "50@1200");
    goesOn.at(10_100, new MendCommand.Peel());
    assertThat(sounding(goesOn)).containsExactly("36@0", "38@1920", "50@1000");
  }

  private static Command grid(Grid grid) {
    return new SettingCommand.SetInputGrid(KEYS, InputGrid.of(grid));
  }

  @Test
  void value10APedalSpanIsCutAtTheEdgeOfWhatIsReplaced() {
    Concert concert = set(s -> s).press(5).hit(36, 10).foot(true, 20).foot(false, 3000);
    concert.press(3840).at(3850, grid(Grid.OFF));
    Note span = concert.newest().notes().filter(Note::isPedal).findFirst().orElseThrow();
    assertThat(span.length()).isEqualTo(2980);
    concert
        .at(5780, new MendCommand.Replace(true))
        .until(7670)
        .at(7680, new MendCommand.Replace(false));
    assertThat(concert.newest().notes().filter(Note::isPedal))
        .extracting(Note::meant, Note::length)
        .containsExactly(tuple(20L, 1920L));
    concert.at(7700, new MendCommand.Peel());
    assertThat(concert.newest().notes().filter(Note::isPedal)).containsExactly(span);
  }

  @Test
  void value11TakesFromNothingAreOneStep() {
    Concert concert = set(s -> s.withFixedUnits(1)).at(5, new MendCommand.Takes(true)).hit(40, 10);
    concert.hit(41, 3840).until(12_000).hit(43, 12_480).until(15_400);
    concert.at(15_460, new MendCommand.Takes(false));
    Clip clip = concert.newest();
    assertThat(clip.takes()).extracting(Take::number).containsExactly(1, 2, 3);
    assertThat(clip.takes()).noneMatch(Take::partial);
    assertThat(clip.take().number()).isEqualTo(3);
    assertThat(sounding(concert)).containsExactly("43@960");
    concert.at(15_500, new UndoCommand.Undo(true));
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
    assertThat(concert.on().vamp()).isEmpty();
  }

  @Test
  void value12TakesInMidPassArePartial() {
    Concert concert = kit().at(4840, new MendCommand.Takes(true)).hit(50, 5760).hit(51, 9600);
    concert.hit(52, 11_620).at(12_480, new MendCommand.Takes(false));
    assertThat(concert.newest().takes())
        .extracting(Take::partial)
        .containsExactly(false, true, false, true);
    assertThat(concert.newest().take().number()).isEqualTo(3);
  }

  private static Concert takes() {
    Clip clip =
        Concert.clip(Concert.A, Concert.note(1, 36, 0, 60))
            .with(Take.of(2, List.of(new Layer(1, List.of(Concert.note(2, 40, 0, 3000))))))
            .with(
                Take.of(
                    3,
                    List.of(
                        new Layer(
                            1,
                            List.of(
                                Concert.note(3, 40, 1920, 960), Concert.note(4, 43, 2880, 480))))));
    return Concert.with(clip).at(0, new SettingCommand.ReportDelay(40_000)).start(0);
  }

  private static Command comp() {
    return new MendCommand.Comp(
        KEYS, Concert.A, List.of(new Stretch(0, 1920, 2), new Stretch(1920, 3840, 3)));
  }

  @Test
  void value13ACompRemembersItsStretches() {
    Concert concert = takes().at(100, comp());
    assertThat(lengths(concert, 4)).containsExactly("40@0:1920", "40@1920:960", "43@2880:480");
    concert.at(200, new MendCommand.RedrawComp(KEYS, Concert.A, 4, 0, 1920, 3));
    assertThat(lengths(concert, 4)).containsExactly("40@1920:960", "43@2880:480");
    Concert deleted =
        takes().at(100, comp()).at(200, new MendCommand.DeleteTake(KEYS, Concert.A, 2));
    assertThat(lengths(deleted, 4)).containsExactly("40@0:1920", "40@1920:960", "43@2880:480");
  }

  private static List<String> lengths(Concert concert, int take) {
    return concert
        .clip(Concert.A)
        .take(take)
        .sounding()
        .map(n -> n.pitch() + "@" + n.meant() + ":" + n.length())
        .toList();
  }

  @Test
  void value14ACompIsHeardAtTheNextEntryPoint() {
    Concert concert = takes().until(3850).at(3940, comp());
    assertThat(concert.on().vamp().orElseThrow().from()).isEqualTo(3840);
    assertThat(concert.clip(Concert.A).take().number()).isEqualTo(4);
    Concert later = takes().until(3850).at(4000, comp());
    assertThat(later.on().hears().orElseThrow().at()).isEqualTo(7680);
  }

  @Test
  void value15SeveralChangesBeforeTheNextBeatAddUp() {
    Concert concert = fourBars(s -> s).until(15_360 + 9000);
    concert.at(15_360 + 9000, reshape(concert, new Reshaping.Halve()));
    concert.at(15_360 + 9010, reshape(concert, new Reshaping.Halve())).until(15_360 + 9610);
    assertThat(concert.newest().window().length()).isEqualTo(3840);
    Vamp vamp = concert.on().vamp().orElseThrow();
    assertThat(vamp.in(concert.newest().window()).placeAt(15_360 + 9600)).isEqualTo(1920);
    Concert one = kit();
    for (int i = 0; i < 4; i++) {
      one.at(4000 + i, reshape(one, new Reshaping.Halve()));
    }
    assertThat(one.refused(4010, reshape(one, new Reshaping.Halve()))).contains("quarter");
    assertThat(one.until(4810).newest().window().length()).isEqualTo(240);
    Concert odd =
        kit()
            .at(
                4000,
                new ShelfCommand.Reshape(
                    KEYS, kit().newest().id(), new Reshaping.ToWindow(0, 2880)));
    odd.until(5000);
    assertThat(odd.refused(5100, reshape(odd, new Reshaping.Halve()))).contains("beats");
  }

  private static Command reshape(Concert concert, Reshaping reshaping) {
    return new ShelfCommand.Reshape(KEYS, concert.newest().id(), reshaping);
  }

  /** Counted so that tick 0 of the rule is a line: here the loop closes at 15360. */
  @Test
  void value16AWindowSetBackIsInStepAgain() {
    Concert concert = fourBars(s -> s).until(23_040);
    concert.at(23_050, reshape(concert, new Reshaping.ToWindow(7680, 3840))).until(24_010);
    assertThat(concert.newest().window()).isEqualTo(new LoopWindow(7680, 3840));
    assertThat(place(concert, 24_000)).isEqualTo(8640);
    concert.at(42_300, reshape(concert, new Reshaping.ToWindow(0, 15_360))).until(43_210);
    assertThat(place(concert, 43_200)).isEqualTo(12_480);
  }

  private static long place(Concert concert, long tick) {
    return concert.on().vamp().orElseThrow().in(concert.newest().window()).placeAt(tick);
  }

  /** Each eighth of the loop has a pitch of its own. */
  @Test
  void value17AStutterGoesRoundInTheBeatOfThePress() {
    Note[] eighths = new Note[16];
    for (int i = 0; i < 16; i++) {
      eighths[i] = Concert.note(i + 1, 60 + i, i * 240L, 100);
    }
    Concert concert = Concert.with(Concert.clip(Concert.A, eighths));
    concert.at(0, new SettingCommand.ReportDelay(40_000)).start(0);
    concert.at(1100, new MendCommand.Stutter(true, 1, false)).until(2999);
    assertThat(concert.attacks(64, 0)).containsExactly(960L, 1920L, 2880L);
    concert.at(3000, new MendCommand.Stutter(false, 1, false)).until(3800);
    assertThat(concert.attacks(73, 3000)).as("from 3077 place 3077").containsExactly(3120L);
    Concert quarter = Concert.with(Concert.clip(Concert.A, eighths));
    quarter.at(0, new SettingCommand.ReportDelay(40_000)).start(0);
    quarter.at(1190, new MendCommand.Stutter(true, 4, false)).until(1900);
    assertThat(quarter.attacks(64, 0)).containsExactly(960L, 1440L, 1680L);
    assertThat(quarter.attacks(65, 0)).as("heard only from 1267 on").containsExactly(1200L);
  }

  @Test
  void value18WhatIsPendingIsNewerThanAnyStep() {
    Concert concert = kit().at(8180, new ShelfCommand.RenameClip(KEYS, kit().newest().id(), "fog"));
    concert.at(8280, reshape(concert, new Reshaping.Twice()));
    concert.at(8380, new UndoCommand.Undo()).until(9000);
    assertThat(concert.newest().window().length()).isEqualTo(3840);
    assertThat(concert.newest().name()).isEqualTo("fog");
    concert.at(9010, new UndoCommand.Undo());
    assertThat(concert.newest().name()).isEmpty();
  }

  @Test
  void value19AnOpenPassIsNewerThanAnyStep() {
    Concert concert = kit().press(7690).hit(42, 8160);
    concert.at(9000, new ShelfCommand.RenamePart(Concert.BASS, "Low"));
    concert.at(10_000, new UndoCommand.Undo());
    assertThat(layersOn(concert)).containsExactly(1);
    assertThat(concert.stage().show().part(Concert.BASS).name()).isEqualTo("Low");
    concert.at(10_100, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(Concert.BASS).name()).isEqualTo("Bass");
    Concert later = kit().press(7690).hit(42, 8160);
    later.at(9000, new ShelfCommand.RenamePart(Concert.BASS, "Low")).until(11_530);
    later.at(11_600, new UndoCommand.Undo());
    assertThat(layersOn(later)).containsExactly(1);
    assertThat(later.stage().show().part(Concert.BASS).name()).isEqualTo("Low");
    later.at(11_700, new UndoCommand.Undo());
    assertThat(later.stage().show().part(Concert.BASS).name()).isEqualTo("Bass");
  }

  @Test
  void value20TheLayerThatAHandOffFinishesIsAStepBeforeIt() {
    Concert early = fourBars(s -> s).press(15_370).hit(42, 20_000);
    early.at(26_649, new PressCommand.HandOff());
    assertThat(made(early).start()).isEqualTo(26_880);
    Concert concert = fourBars(s -> s).press(15_370).hit(42, 20_000);
    concert.at(26_650, new PressCommand.HandOff());
    assertThat(made(concert).start()).isEqualTo(30_720);
    concert.until(30_730).hit(50, 31_000).at(32_000, new UndoCommand.Undo());
    assertThat(made(concert).notes()).isEmpty();
    assertThat(concert.stage().show().parts()).hasSize(3);
    concert.at(32_100, new UndoCommand.Undo());
    assertThat(concert.stage().on(newPart(concert)).first()).isEmpty();
    concert.at(32_200, new UndoCommand.Undo());
    assertThat(concert.stage().show().parts()).hasSize(2);
    assertThat(layersOn(concert)).containsExactly(1, 2);
    concert.at(32_300, new UndoCommand.Undo());
    assertThat(layersOn(concert)).containsExactly(1);
  }

  private static PartId newPart(Concert concert) {
    return concert.stage().show().parts().get(2).id();
  }

  private static FirstRecording made(Concert concert) {
    return concert.stage().on(newPart(concert)).first().orElseThrow();
  }

  @Test
  void value21UndoInTakesDropsTheOpenPassThenTheTakeBefore() {
    Concert concert = kit().at(3840, new MendCommand.Takes(true)).hit(50, 4320).hit(51, 8160);
    concert.hit(52, 11_600).at(12_000, new UndoCommand.Undo());
    assertThat(inHindsight(concert)).containsExactly(52);
    assertThat(concert.on().open()).isPresent();
    concert.at(12_050, new UndoCommand.Undo());
    assertThat(inHindsight(concert)).containsExactly(51, 52);
    concert.at(15_410, new MendCommand.Takes(false));
    assertThat(concert.newest().takes()).extracting(Take::number).containsExactly(1, 2);
    assertThat(sounding(concert.newest().take(2))).containsExactly("50@480");
  }

  /** Value 25, §3: how early a note may be for a line, and for a recording's own start. */
  @ParameterizedTest
  @CsvSource({
    "1/16, 50, 4, 4, 3840, 120",
    "1/16, 66.67, 4, 4, 3840, 80",
    "1/16, 75, 4, 4, 3840, 60",
    "1/32, 50, 4, 4, 3840, 60",
    "off, 50, 4, 4, 3840, 154",
    "1/4, 50, 7, 8, 3360, 240",
  })
  void value25TheToleranceIsHalfTheWayFromTheLastLine(
      String grid, double swing, int beats, int unit, long line, long tolerance) {
    InputGrid input = InputGrid.of(Grid.named(grid)).withSwing(swing);
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120));
    assertThat(EarlyNotes.tolerance(input, line, Meter.of(beats, unit), map)).isEqualTo(tolerance);
  }

  @ParameterizedTest
  @CsvSource({"1/32", "1/64"})
  void value25AtARecordingsOwnStartTheGridIsNoFinerThanSixteenths(String grid) {
    InputGrid input = InputGrid.of(Grid.named(grid));
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120));
    assertThat(EarlyNotes.toleranceAtStart(input, 3840, Meter.of(4, 4), map)).isEqualTo(120);
  }
}
