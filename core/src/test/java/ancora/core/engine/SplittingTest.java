package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static ancora.core.engine.Concert.shelved;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Splitting and joining: what sounds before and after is the same, and it can be undone. */
class SplittingTest {

  private static final Clip BEAT =
      clip(
          A, note(1, 36, 0, 60), note(2, 38, 960, 60), note(3, 42, 480, 60), note(4, 36, 2000, 60));

  private static Concert kit() {
    return Concert.of(
        show ->
            show.mapPart(
                KEYS, part -> shelved(part, BEAT).withSound(Sound.STANDARD_KIT).withName("Kit")));
  }

  private static List<String> sounded(Concert concert, int pitch, long from) {
    return concert.stage().show().parts().stream()
        .flatMap(part -> concert.heard(part.id(), pitch, from).stream())
        .sorted()
        .toList();
  }

  /** Who played the part that goes into another plays that one on. */
  @Test
  void thePartThatIsArmedIsJoined() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60)));
    concert.at(10, new PressCommand.Arm(BASS)).at(20, new ShelfCommand.JoinParts(KEYS, BASS));
    assertThat(concert.stage().armed()).contains(KEYS);
  }

  @Test
  void eachDrumGetsAPartOfItsOwnInStepWithTheOthers() {
    Concert concert = kit().at(0, new CueCommand.MakeSection("Quay")).start().until(500);
    Show before = concert.stage().show();
    concert.at(600, new ShelfCommand.SplitPart(KEYS)).until(3 * BAR);
    assertThat(concert.stage().show().parts())
        .extracting(Part::name)
        .containsExactly("Kit: Bass Drum 1", "Kit: Acoustic Snare", "Kit: Closed Hi-hat", "Bass");
    assertThat(concert.stage().show().form().get(0).lineUp()).hasSize(4);
    for (int pitch : new int[] {36, 38, 42}) {
      assertThat(sounded(concert, pitch, BAR)).isEqualTo(sounded(unsplit(), pitch, BAR));
    }
    concert.at(3 * BAR, new UndoCommand.Undo());
    assertThat(concert.stage().show().parts()).isEqualTo(before.parts());
    assertThat(concert.stage().show().form()).isEqualTo(before.form());
  }

  private static Concert unsplit() {
    return kit().start().until(3 * BAR);
  }

  @Test
  void partsAreJoinedLetterByLetter() {
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(KEYS, p -> shelved(p, clip(A, note(1, 60, 0, 60))))
                    .mapPart(
                        BASS,
                        p ->
                            p.withShelf(
                                    List.of(
                                        clip(new ClipId(21), note(2, 64, 960, 60)).withLetter("a")))
                                .withSound(Sound.of(4))));
    concert.start().until(10).at(20, new ShelfCommand.JoinParts(KEYS, BASS)).until(2 * BAR);
    assertThat(concert.stage().show().parts()).hasSize(1);
    assertThat(concert.attacks(60, 0)).containsExactly(0L, BAR);
    assertThat(concert.attacks(64, 0)).containsExactly(960L, BAR + 960);
    concert.at(2 * BAR, new UndoCommand.Undo());
    assertThat(concert.stage().show().parts()).hasSize(2);
  }

  @Test
  void aThinCopyHasTheLouderNotes() {
    Clip loudAndSoft =
        clip(
            A,
            ancora.core.note.Note.of(1, 36, 100, 0, 0, 60),
            ancora.core.note.Note.of(2, 42, 40, 480, 480, 60),
            ancora.core.note.Note.of(3, 38, 90, 960, 960, 60),
            ancora.core.note.Note.of(4, 42, 30, 1440, 1440, 60));
    Concert concert = Concert.with(loudAndSoft).at(0, new ShelfCommand.ThinClip(KEYS, A));
    assertThat(concert.meant(concert.newest())).containsExactly(0L, 960L);
    assertThat(concert.clip(A)).as("the original stays").isEqualTo(loudAndSoft);
    assertThat(Concert.with(BEAT).refused(0, new ShelfCommand.ThinClip(KEYS, A)))
        .contains("as loud");
  }

  @Test
  void chosenPitchesMakeAClipOfTheirOwn() {
    Concert concert = Concert.with(BEAT);
    concert.at(0, new ShelfCommand.SplitClip(KEYS, A, Set.of(38, 42)));
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 2000L);
    assertThat(concert.meant(concert.newest())).containsExactly(480L, 960L);
    assertThat(concert.refused(1, new ShelfCommand.SplitClip(KEYS, A, Set.of(36))))
        .contains("not all");
    assertThat(concert.refused(1, new ShelfCommand.SplitPart(KEYS))).contains("no drum part");
    assertThat(concert.refused(1, new ShelfCommand.JoinParts(KEYS, KEYS))).contains("another one");
  }
}
