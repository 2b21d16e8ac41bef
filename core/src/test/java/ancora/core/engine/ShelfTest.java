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
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Manner;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/**
 * What can be done to clips, parts and sections; rule 16.6: each undone, and done again, exactly.
 */
class ShelfTest {

  private static Concert three() {
    Clip layered =
        clip(B, note(2, 62, 0, 100))
            .withLayers(
                List.of(
                    new Layer(1, List.of(note(2, 62, 0, 100))),
                    new Layer(2, List.of(note(3, 64, 960, 100), note(4, 65, 1920, 100)))));
    return Concert.with(clip(A, note(1, 60, 0, 100)), layered, clip(C, note(5, 67, 0, 100)));
  }

  /** Done, undone and done again: the show is what it was, and what it became. */
  private static void isUndoneExactly(Concert concert, long tick, Command command) {
    Show before = concert.stage().show();
    concert.at(tick, command);
    Show after = concert.stage().show();
    assertThat(after).isNotEqualTo(before);
    concert.at(tick + 10, new UndoCommand.Undo());
    assertThat(concert.stage().show().withNextId(0)).isEqualTo(before.withNextId(0));
    concert.at(tick + 20, new UndoCommand.Redo());
    assertThat(concert.stage().show().withNextId(0)).isEqualTo(after.withNextId(0));
  }

  private static List<String> letters(Concert concert) {
    return concert.stage().show().part(KEYS).shelf().stream().map(Clip::letter).toList();
  }

  @Test
  void aCopyHasAllLayersWithNotesOfItsOwn() {
    Concert concert = three().start();
    isUndoneExactly(concert, 500, new ShelfCommand.DuplicateClip(KEYS, B));
    Clip copy = concert.newest();
    assertThat(letters(concert)).containsExactly("a", "b", "c", "d");
    assertThat(copy.layers().stream().map(l -> l.notes().size())).containsExactly(1, 2);
    assertThat(concert.meant(copy)).isEqualTo(concert.meant(concert.clip(B)));
    List<Long> own = copy.notes().map(Note::id).toList();
    assertThat(concert.clip(B).notes().map(Note::id)).doesNotContainAnyElementsOf(own);
    concert.cue(copy.id(), 700).until(BAR + 500);
    assertThat(concert.attacks(62, 0)).containsExactly(BAR);
  }

  @Test
  void aDeletedClipEndsAndComesBackVamping() {
    Concert concert = three().start().until(50);
    concert.at(80, new ShelfCommand.DeleteClip(KEYS, A));
    assertThat(concert.heard(60)).hasSize(2).last().asString().startsWith("off ");
    assertThat(concert.on().vamp()).isEmpty();
    assertThat(letters(concert)).containsExactly("b", "c");
    concert.at(900, new UndoCommand.Undo()).until(2 * BAR + 10);
    assertThat(letters(concert)).containsExactly("a", "b", "c");
    assertThat(concert.attacks(60, 900)).as("in step").containsExactly(BAR, 2 * BAR);
  }

  @Test
  void aLetterThatIsFreeIsGivenAgain() {
    Concert concert = three().at(0, new ShelfCommand.DeleteClip(KEYS, B));
    concert.at(0, new ShelfCommand.DuplicateClip(KEYS, A));
    assertThat(letters(concert)).containsExactly("a", "b", "c");
    assertThat(concert.meant(concert.stage().show().part(KEYS).shelf().get(1))).hasSize(1);
  }

  @Test
  void movingGivesLettersByPlace() {
    Concert concert = three();
    isUndoneExactly(concert, 0, new ShelfCommand.MoveClip(KEYS, C, 0));
    assertThat(concert.stage().show().part(KEYS).shelf().stream().map(Clip::id))
        .containsExactly(C, A, B);
    assertThat(letters(concert)).containsExactly("a", "b", "c");
    concert.at(100, new ShelfCommand.MoveClip(KEYS, C, 99));
    assertThat(concert.newest().id()).as("beyond the end is the end").isEqualTo(C);
  }

  @Test
  void clipsKeepLettersOfTheirOwnWhateverIsUndone() {
    Concert concert = three().start().at(10, new ShelfCommand.DeleteClip(KEYS, B));
    concert.at(20, new ShelfCommand.DeleteClip(KEYS, C)).at(30, new PressCommand.RecordAnew());
    concert.at(50, new ShelfCommand.DuplicateClip(KEYS, A));
    Clip copy = concert.newest();
    assertThat(copy.letter()).as("what is not on the shelf yet has no letter").isEqualTo("b");
    concert.at(60, new ShelfCommand.MoveClip(KEYS, copy.id(), 0));
    concert.at(70, new ShelfCommand.DeleteClip(KEYS, A));
    concert.play(60, BAR, BAR + 100).press(2 * BAR - 20).until(2 * BAR + 10);
    assertThat(letters(concert)).as("the copy and what was recorded").containsExactly("a", "b");
    for (int i = 0; i < 5; i++) {
      concert.at(2 * BAR + 20 + i, new UndoCommand.Undo(true));
      assertThat(letters(concert)).doesNotHaveDuplicates();
    }
    for (int i = 0; i < 5; i++) {
      concert.at(2 * BAR + 30 + i, new UndoCommand.Redo());
      assertThat(letters(concert)).doesNotHaveDuplicates();
    }
    assertThat(letters(concert)).containsExactly("a", "b");
  }

  @Test
  void namesAreKeptAndBounded() {
    Concert concert = three();
    isUndoneExactly(concert, 0, new ShelfCommand.RenameClip(KEYS, A, "slow swell"));
    isUndoneExactly(concert, 100, new ShelfCommand.RenamePart(KEYS, "Harbour keys"));
    assertThat(concert.refused(200, new ShelfCommand.RenamePart(KEYS, "x".repeat(61))))
        .contains("60");
    assertThat(concert.refused(200, new ShelfCommand.RenamePart(KEYS, "  "))).endsWith(".");
    assertThat(concert.refused(200, new ShelfCommand.RenameClip(KEYS, A, "x".repeat(61))))
        .contains("60");
    assertThat(concert.stage().show().part(KEYS).name()).isEqualTo("Harbour keys");
  }

  @Test
  void aPickupIsWholeBeatsUpToABar() {
    Concert concert = three();
    isUndoneExactly(
        concert, 0, new ShelfCommand.SetManner(KEYS, A, Manner.DEFAULT.withPickup(1920)));
    assertThat(
            concert.refused(
                50, new ShelfCommand.SetManner(KEYS, A, Manner.DEFAULT.withPickup(BAR + 960))))
        .contains("up to a bar");
    assertThat(
            concert.refused(
                50, new ShelfCommand.SetManner(KEYS, A, Manner.DEFAULT.withPickup(500))))
        .contains("whole beats");
  }

  @Test
  void partsAreMovedFlaggedAndDeleted() {
    Concert concert = three();
    isUndoneExactly(concert, 0, new ShelfCommand.MovePart(BASS, 0));
    assertThat(concert.stage().show().parts().stream().map(Part::id)).containsExactly(BASS, KEYS);
    isUndoneExactly(concert, 50, new SettingCommand.SetPennant(BASS, 5));
    concert.at(100, new CueCommand.MakeSection("Quay"));
    isUndoneExactly(concert, 200, new ShelfCommand.DeletePart(KEYS));
    assertThat(concert.stage().show().form().get(0).lineUp()).doesNotContainKey(KEYS);
    assertThat(concert.stage().armed())
        .as("what is armed is there")
        .isNotEqualTo(Optional.of(KEYS));
    assertThat(concert.refused(300, new ShelfCommand.RenamePart(KEYS, "again"))).endsWith(".");
    assertThat(concert.refused(300, new SettingCommand.SetPennant(BASS, 16))).endsWith(".");
  }

  @Test
  void aDeletedPartIsSilentAndComesBackInStep() {
    Concert concert = three().start().until(50).at(60, new ShelfCommand.DeletePart(KEYS));
    assertThat(concert.heard(60)).hasSize(2);
    concert.until(BAR + 500).at(BAR + 600, new UndoCommand.Undo()).until(2 * BAR + 10);
    assertThat(concert.attacks(60, 100)).containsExactly(2 * BAR);
  }

  @Test
  void sectionsAreMadeChangedMovedAndDeleted() {
    Concert concert = three();
    isUndoneExactly(concert, 0, new CueCommand.MakeSection("Quay"));
    concert.at(100, new CueCommand.MakeSection("Lamp")).at(110, new CueCommand.MakeSection("Gale"));
    List<Section> form = concert.stage().show().form();
    assertThat(form.stream().map(Section::letter)).containsExactly("A", "B", "C");
    Section goesOn = form.get(0).withGoesOn(Optional.of(new Section.GoesOn(4, form.get(2).id())));
    isUndoneExactly(concert, 200, new CueCommand.SetSection(goesOn.withLetter("Z")));
    assertThat(concert.stage().show().form().get(0).letter()).as("its letter stays").isEqualTo("A");
    isUndoneExactly(concert, 300, new CueCommand.MoveSection(form.get(2).id(), 0));
    isUndoneExactly(concert, 400, new CueCommand.DeleteSection(form.get(2).id()));
    assertThat(concert.stage().show().section(form.get(0).id()).goesOn())
        .as("what it went on to is gone")
        .isEmpty();
    concert.at(500, new CueCommand.MakeSection(""));
    assertThat(concert.stage().show().form().get(2).letter()).isEqualTo("C");
  }

  @Test
  void aLineUpHasClipsThatAreThere() {
    Concert concert = three().at(0, new CueCommand.MakeSection("Quay"));
    Section quay = concert.stage().show().form().get(0);
    Section wrong = quay.withLineUp(Map.of(BASS, Optional.of(A)));
    assertThat(concert.refused(10, new CueCommand.SetSection(wrong))).contains("no such clip");
    Section nobody = quay.withLineUp(Map.of(new PartId(77), Optional.empty()));
    assertThat(concert.refused(10, new CueCommand.SetSection(nobody))).endsWith(".");
    assertThat(concert.stage().show().form()).containsExactly(quay);
    assertThatThrownBy(() -> new Section.GoesOn(0, quay.id())).isInstanceOf(Refusal.class);
    assertThat(
            concert
                .at(20, new ShelfCommand.DeleteClip(KEYS, A))
                .stage()
                .show()
                .form()
                .get(0)
                .lineUp())
        .as("a clip that is gone leaves its part tacet there")
        .containsEntry(KEYS, Optional.empty());
  }

  @Test
  void aFormHas256SectionsAtMostAndGoesOnAfterZWithAa() {
    Concert concert = three();
    for (int i = 0; i < 256; i++) {
      concert.at(i, new CueCommand.MakeSection(""));
    }
    assertThat(concert.stage().show().form())
        .extracting(Section::letter)
        .contains("Z", "AA", "AZ", "BA", "IV")
        .doesNotHaveDuplicates();
    assertThat(concert.refused(300, new CueCommand.MakeSection(""))).contains("256 sections");
  }

  @Test
  void aNewPartHasASoundAndALetterlessShelf() {
    Concert concert = three();
    isUndoneExactly(concert, 0, new SettingCommand.AddPart("Bells", Sound.of(14)));
    Part bells = concert.stage().show().parts().get(2);
    assertThat(bells.shelf()).isEmpty();
    assertThat(concert.stage().show().part(bells.id()).sound()).isEqualTo(Sound.of(14));
  }
}
