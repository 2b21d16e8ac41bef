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
import ancora.core.clip.ClipId;
import ancora.core.clip.ComesIn;
import ancora.core.clip.Manner;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Rule 12: cues, sections, form, stop and cut. */
class CuesTest {

  private static final ClipId D = new ClipId(21);

  private static Concert band() {
    return Concert.of(
        show ->
            show.mapPart(
                    KEYS,
                    part ->
                        shelved(
                            part,
                            clip(A, note(1, 60, 0, 100)),
                            clip(B, note(2, 62, 0, 100)),
                            clip(C, note(3, 64, 480, 100))))
                .mapPart(BASS, part -> shelved(part, clip(D, note(4, 40, 0, 100)))));
  }

  private static Section section(int id, String letter, Map<PartId, Optional<ClipId>> lineUp) {
    return new Section(new SectionId(id), letter, "", lineUp, false, Optional.empty());
  }

  @Test
  void aClipEntersOnTheNextBarAndTheOtherLeaves() {
    Concert concert = band().start().cue(B, 700).until(2 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L);
    assertThat(concert.attacks(62, 0)).containsExactly(BAR);
  }

  @Test
  void theNewestCueWinsAndCueingWhatIsCuedCallsItOff() {
    Concert concert = band().start().cue(B, 700).cue(C, 800).until(BAR + 1000);
    assertThat(concert.attacks(64, 0)).containsExactly(BAR + 480);
    concert.cue(A, BAR + 1000).cue(A, BAR + 1100).until(3 * BAR);
    assertThat(concert.attacks(60, 100)).isEmpty();
    concert.cue(A, 3 * BAR + 500).cue(C, 3 * BAR + 600);
    assertThat(concert.on().cue()).as("what vamps calls the cue off").isEmpty();
  }

  /** 60 ms are 115 ticks: a press that late enters as if on the boundary. */
  @Test
  void aLateCueIsForgivenAndPressedAgainBroughtBack() {
    Concert concert = band().start().cue(B, BAR + 100).until(BAR + 900);
    assertThat(concert.on().vamp().orElseThrow().clip()).isEqualTo(B);
    assertThat(concert.on().vamp().orElseThrow().phase()).isEqualTo(BAR);
    Concert again = band().start().cue(C, BAR + 50).cue(C, BAR + 110).until(3 * BAR);
    assertThat(again.on().vamp().orElseThrow().clip()).isEqualTo(A);
    assertThat(again.attacks(60, BAR + 1)).as("in step").containsExactly(2 * BAR);
    Concert late = band().start().cue(B, BAR + 130).until(2 * BAR + 10);
    assertThat(late.attacks(62, 0)).as("68 ms are too late").containsExactly(2 * BAR);
  }

  @Test
  void aClipHasItsOwnUnitAndComesFromTheTopOrInStep() {
    Concert concert = band();
    concert.at(
        0,
        new ShelfCommand.SetManner(
            KEYS, B, Manner.DEFAULT.withEntersOn(EntryUnit.BEAT).withComesIn(ComesIn.IN_STEP)));
    concert.start().cue(B, 700).until(2 * BAR + 10);
    assertThat(concert.attacks(62, 0))
        .as("on the beat, as if it had gone round since it was recorded")
        .containsExactly(BAR, 2 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L);
  }

  private static Concert entersOn(EntryUnit unit, Clip... clips) {
    Concert concert = Concert.with(clips);
    RecordingSettings settings = concert.stage().show().recording().withEntersOn(unit);
    return concert.at(0, new SettingCommand.SetRecording(settings));
  }

  /** Worked value 17. */
  @Test
  void cuedByTheBeatAClipComesInByItselfInStep() {
    Clip twoBars = clip(B, 0, 2 * BAR, note(2, 62, 0, 50), note(3, 64, 1920, 50));
    Concert concert = entersOn(EntryUnit.BEAT, clip(A, note(1, 60, 0, 100)), twoBars);
    concert.start().cue(B, 4 * BAR + 1440).until(7 * BAR);
    assertThat(concert.on().vamp().orElseThrow().from()).isEqualTo(4 * BAR + 1920);
    assertThat(concert.attacks(64, 0)).containsExactly(4 * BAR + 1920, 6 * BAR + 1920);
    assertThat(concert.attacks(62, 0)).containsExactly(6 * BAR);
  }

  /** Worked value 18. */
  @Test
  void aClipThatVampsIsCuedOnceMore() {
    Clip threeBars = clip(A, 0, 3 * BAR, note(1, 60, 0, 50));
    Concert concert = entersOn(EntryUnit.BAR, threeBars).start().cue(A, BAR + 500);
    assertThat(concert.on().cue().orElseThrow().at()).isEqualTo(2 * BAR);
    concert.cue(A, BAR + 600);
    assertThat(concert.on().cue()).as("cued again it is called off").isEmpty();
    concert.cue(A, BAR + 700).until(6 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L, 2 * BAR, 5 * BAR);
    // the next bar line is its own line
    String word = concert.said(7 * BAR + 500, new CueCommand.CueClip(KEYS, A));
    assertThat(word).isEqualTo("Keys a begins there in any case.");
    assertThat(concert.on().cue()).isEmpty();
  }

  /** Worked value 28. */
  @Test
  void onceMoreIsFromTheTopEvenByTheBeat() {
    Clip twoBars =
        clip(A, 0, 2 * BAR, note(1, 60, 0, 50))
            .withManner(Manner.DEFAULT.withComesIn(ComesIn.FROM_THE_TOP));
    Concert concert = entersOn(EntryUnit.BEAT, twoBars).start().cue(A, 1440).until(2 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L, BAR);
  }

  @Test
  void onceMoreEndsARecordingOnTheClip() {
    Concert concert =
        Concert.with(clip(A, 0, 2 * BAR, note(1, 60, 0, 50))).start().press(500).hit(64, 900);
    concert.cue(A, 1000).until(BAR + 2000);
    assertThat(concert.on().open()).isEmpty();
    assertThat(concert.clip(A).layers()).hasSize(2);
    assertThat(concert.attacks(64, 1000)).containsExactly(BAR + 900);
  }

  @Test
  void aSectionThatSoundsIsCuedOnceMoreAndItsBarsCountAnew() {
    Clip threeBars = clip(D, 0, 3 * BAR, note(4, 40, 0, 100));
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(KEYS, part -> shelved(part, clip(A, note(1, 60, 0, 100))))
                    .mapPart(BASS, part -> shelved(part, threeBars)));
    concert.at(0, new CueCommand.MakeSection("Quay"));
    SectionId quay = concert.stage().show().form().get(0).id();
    concert.at(0, new CueCommand.CueSection(quay)).start();
    concert.at(BAR + 500, new CueCommand.CueSection(quay)).until(2 * BAR + 10);
    assertThat(concert.stage().form().since()).isEqualTo(2 * BAR);
    assertThat(concert.stage().on(BASS).vamp().orElseThrow().phase()).isEqualTo(2 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L, BAR, 2 * BAR);
  }

  /** Worked value 19: a stroke has no length. */
  @Test
  void onADrumPartOnlyAStrokeJustBeforeTheEntryIsAttacked() {
    Clip kit =
        clip(B, note(1, 36, BAR - 60, 100), note(2, 49, BAR - 240, 480), note(3, 38, 1920, 60));
    Concert drums =
        Concert.of(
            show ->
                show.mapPart(
                    KEYS, part -> shelved(part.withSound(Sound.STANDARD_KIT), clip(A), kit)));
    drums.start().cue(B, 700).until(2 * BAR - 300);
    assertThat(drums.attacks(36, 0)).containsExactly(BAR);
    assertThat(drums.attacks(49, 0)).isEmpty();
    Concert keys = Concert.with(clip(A), kit).start().cue(B, 700).until(2 * BAR - 300);
    assertThat(keys.attacks(49, 0)).as("on keys it has a length").containsExactly(BAR);
  }

  /** A window that starts within the bar enters where that place of the bar is. */
  @Test
  void fromTheTopIsModuloABar() {
    Concert concert =
        Concert.with(clip(A, note(1, 60, 0, 100)), clip(B, 960, 1920, note(2, 62, 960, 50)));
    concert.start().cue(B, 500).until(2 * BAR);
    assertThat(concert.attacks(62, 0)).startsWith(BAR + 960, BAR + 960 + 1920);
  }

  @Test
  void aSectionChangesItsPartsOnOneTickAndOthersKeepOn() {
    Concert concert = band();
    concert.at(0, new CueCommand.MakeSection("Quay"));
    Section quay = concert.stage().show().form().get(0);
    assertThat(quay.letter()).isEqualTo("A");
    assertThat(quay.lineUp()).isEqualTo(Map.of(KEYS, Optional.of(A), BASS, Optional.of(D)));
    concert.start();
    Section lamp = section(quay.id().value(), "A", Map.of(KEYS, Optional.of(B)));
    concert.at(10, new CueCommand.SetSection(lamp));
    concert.at(500, new CueCommand.CueSection(quay.id())).until(2 * BAR + 10);
    assertThat(concert.attacks(62, 0)).containsExactly(BAR, 2 * BAR);
    assertThat(concert.heard(BASS, 40, 0)).as("not named: it keeps on").contains("on 7680");
    concert.at(2 * BAR + 500, new CueCommand.SetSection(lamp.withOthersTacet(true)));
    concert.at(2 * BAR + 600, new CueCommand.CueSection(quay.id())).until(4 * BAR + 10);
    assertThat(concert.heard(BASS, 40, 3 * BAR)).isEmpty();
  }

  /** Two sections, of which the first goes on to the second after two bars. */
  private static Concert withAForm() {
    return Concert.of(
        show ->
            band()
                .stage()
                .show()
                .withForm(
                    List.of(
                        section(31, "A", Map.of(KEYS, Optional.of(B)))
                            .withGoesOn(Optional.of(new Section.GoesOn(2, new SectionId(32)))),
                        section(32, "B", Map.of(KEYS, Optional.of(C))))));
  }

  @Test
  void aSectionThatStandsReadyCountsItsBarsFromTheStart() {
    Concert concert = withAForm().at(0, new CueCommand.CueSection(new SectionId(31)));
    concert.start().until(3 * BAR);
    assertThat(concert.attacks(62, 0)).containsExactly(0L, BAR);
    assertThat(concert.stage().form().now()).contains(new SectionId(32));
    Concert otherwise = withAForm().at(0, new CueCommand.CueSection(new SectionId(31)));
    otherwise.cue(A, 1).start().until(3 * BAR);
    assertThat(otherwise.stage().form().now())
        .as("another clip stands ready than the section's: it is not played")
        .contains(new SectionId(31));
  }

  @Test
  void theFormGoesOnByItself() {
    Concert concert = withAForm();
    concert.start().at(500, asked("cue {section}")).until(4 * BAR);
    assertThat(concert.attacks(62, 0)).containsExactly(BAR, 2 * BAR);
    assertThat(concert.attacks(64, 0)).containsExactly(3 * BAR + 480);
    assertThat(concert.stage().form().now()).contains(new SectionId(32));
    assertThat(concert.refused(4 * BAR, asked("cue {section}"))).contains("last section");
    concert
        .at(4 * BAR + 500, asked("cue {section}", "section", "the section before"))
        .until(5 * BAR + 10);
    assertThat(concert.attacks(62, 4 * BAR)).containsExactly(5 * BAR);
  }

  @Test
  void cutIsAtOnceAndStopIsOnTheBarThenNow() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 3000))).start();
    concert.at(1000, new CueCommand.Cut(KEYS)).until(1100);
    assertThat(concert.heard(60)).containsExactly("on 0", "off 1000");
    concert.cue(A, 1200).at(BAR + 500, new CueCommand.StopAll());
    assertThat(concert.on().cue().orElseThrow().at()).isEqualTo(2 * BAR);
    concert.at(BAR + 700, new CueCommand.StopAll()).until(3 * BAR);
    assertThat(concert.heard(60)).endsWith("on 3840", "off 4540");
  }

  @Test
  void transportStopCallsOffAndGoesBackToWhereItStarted() {
    Concert concert = band().start().cue(B, 500).at(600, new CueCommand.Stop());
    assertThat(concert.on().cue()).isEmpty();
    assertThat(concert.on().ready()).contains(A);
    concert.cue(C, 700);
    assertThat(concert.on().ready()).as("at standstill a cue makes the line-up").contains(C);
    concert.at(1000, new CueCommand.Start()).until(3000);
    assertThat(concert.stage().map().orElseThrow().microsOf(0)).isEqualTo(Concert.micros(1000));
  }

  /** What is cued on a part that records closes its loop first, at the first length that may be. */
  @Test
  void aCueClosesARecording() {
    Concert concert = band().start();
    concert.at(500, new PressCommand.RecordAnew()).play(70, BAR + 10, BAR + 100);
    assertThat(concert.attacks(60, BAR))
        .as("what vamped leaves where the recording begins")
        .isEmpty();
    concert.cue(B, BAR + 500).until(3 * BAR);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
    assertThat(concert.attacks(62, 0)).startsWith(2 * BAR);
    assertThat(concert.attacks(70, 2 * BAR)).as("it is on the shelf, and does not sound").isEmpty();
  }

  @Test
  void tacetOfASilentPartSaysSo() {
    Concert concert = band().start().at(500, new CueCommand.CueTacet(KEYS)).until(BAR + 500);
    assertThat(concert.on().vamp()).isEmpty();
    concert.at(BAR + 600, new CueCommand.CueTacet(KEYS));
    assertThat(concert.on().cue()).isEmpty();
    assertThat(concert.refused(BAR + 700, new CueCommand.CueClip(KEYS, new ClipId(999))))
        .contains("no such clip");
  }
}
