package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.House;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.engine.Engine;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.Played;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.BankSound;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ShowStoreTest {

  @TempDir static Path data;
  private static House house;
  private static ShowStore store;

  @BeforeAll
  static void open() {
    house = House.open(data);
    store = house.bean(ShowStore.class);
  }

  @AfterAll
  static void close() {
    house.close();
  }

  private static Clip clip(int id, int notes) {
    List<Note> list = new ArrayList<>();
    for (int i = 0; i < notes; i++) {
      list.add(Note.of(id * 10_000L + i, i % 128, 1 + i % 127, i - 7, i, 15 + i));
    }
    Layer third = new Layer(3, List.of(Note.of(id, 60, 100, -40, 0, 480)));
    Layer peeled = new Layer(4, List.of(Note.of(id + 500, 61, 100, 5, 0, 480)));
    ControllerMove bend = new ControllerMove(Controller.BEND, 1200, 9000);
    Take heard =
        Take.of(
                2,
                List.of(
                    new Layer(1, list, List.of(bend), List.of(), List.of()),
                    third.withOut(List.of(list.get(0).id()), List.of(1L))))
            .with(peeled, false)
            .withName("calm")
            .withStretches(List.of(new Stretch(960, 8640, 1)));
    return Clip.of(new ClipId(id), "a", new LoopWindow(960, 7680), list)
        .withManner(Manner.DEFAULT.withRing(false).withEntersOn(EntryUnit.HALF_BAR))
        .withTakes(List.of(Take.of(1, List.of(third)), heard))
        .withHeard(2);
  }

  private static Show show() {
    return Show.named("Squall")
        .withTempo(Tempo.of(97.303))
        .withMeter(Meter.of(7, 8))
        .withNewPart("Kit", Sound.kit(8))
        .withNewPart("Bass", Sound.of(33))
        .withNextId(90_000);
  }

  /** On a full disk a run that has a number waits to be kept: none may take its place. */
  @Test
  void noNumberOfARunIsGivenTwice() {
    long id = store.add(show(), false);
    RunStore runs = house.bean(RunStore.class);
    assertThat(List.of(runs.nextId(id), runs.nextId(id), runs.nextId(id + 1)))
        .containsExactly(1, 2, 1);
  }

  @Test
  void aShowNamesTheBanksOfItsPartsAndOfItsClipsOwnSounds() {
    PartId bass = show().parts().get(1).id();
    Clip own = clip(7, 3).withSound(Optional.of(ofBank("c0", "Choir.sf2")));
    long id =
        store.add(
            show().mapPart(bass, p -> p.withSound(ofBank("0b", "Bow.sf2")).withClip(own)), false);
    assertThat(store.look(id).banks().values()).containsExactly("Bow.sf2", "Choir.sf2");
  }

  private static Sound ofBank(String digest, String file) {
    return Sound.of(4).withOwn(Optional.of(new BankSound(digest.repeat(32), file, 0, "Voices")));
  }

  @Test
  void whatIsSavedIsFoundAgain() {
    long id = store.add(show(), false);
    Part kit = show().parts().get(0);
    Show full =
        show()
            .mapPart(
                kit.id(),
                p ->
                    p.withClip(clip(7, 1000))
                        .withInputGrid(
                            InputGrid.of(Grid.EIGHTH_TRIPLET).withStrength(40).withSwing(58.5)));
    Stage stage =
        Stage.of(full)
            .withArmed(kit.id())
            .withDelay(33_000)
            .mapOn(
                kit.id(),
                on ->
                    on.withHindsight(
                        on.hindsight().with(Played.down(5, 60, 90, 123).withOff(456))));
    store.save(id, stage, Optional.of(Stage.of(show())), 17, Map.of());
    ShowStore.Saved saved = store.find(id).orElseThrow();
    assertThat(saved.seq()).isEqualTo(17);
    assertThat(saved.stage()).isEqualTo(stage);
  }

  /**
   * A clip that goes from a part to another, and back, is where it is: join, undo, save, restart.
   */
  @Test
  void aClipThatChangesItsPartIsNotLost() {
    Part kit = show().parts().get(0);
    Show two =
        show().withNewPart("Bass", Sound.of(33)).mapPart(kit.id(), p -> p.withClip(clip(7, 10)));
    PartId bass = two.parts().get(1).id();
    Clip moves = two.part(kit.id()).clipOf(new ClipId(7));
    Show joined =
        two.mapPart(kit.id(), p -> p.withoutClip(moves.id())).mapPart(bass, p -> p.withClip(moves));
    long id = store.add(two, false);
    store.save(id, Stage.of(joined), Optional.of(Stage.of(two)), 1, Map.of());
    assertThat(store.find(id).orElseThrow().stage().show()).isEqualTo(joined);
    store.save(id, Stage.of(two), Optional.of(Stage.of(joined)), 2, Map.of());
    assertThat(store.find(id).orElseThrow().stage().show()).isEqualTo(two);
  }

  /** Rule 7: what was done can be undone for as long as the show exists. */
  @Test
  void theHistoryIsKept() {
    long id = store.add(show(), false);
    Engine engine = Engine.of(Stage.of(show()));
    Stage fresh = engine.stage();
    engine.apply(new CueCommand.MakeSection("Quay"), 1, 1);
    engine.apply(new ShelfCommand.RenamePart(show().parts().get(0).id(), "Drums"), 2, 2);
    store.save(id, engine.stage(), Optional.of(fresh), 2, Map.of());
    Engine again = Engine.of(store.find(id).orElseThrow().stage());
    Stage before = again.stage();
    assertThat(before).isEqualTo(engine.stage());
    again.apply(new UndoCommand.Undo(), 3, 3);
    store.save(id, again.stage(), Optional.of(before), 3, Map.of());
    Engine third = Engine.of(store.find(id).orElseThrow().stage());
    assertThat(third.stage().show().parts().get(0).name()).isEqualTo("Kit");
    third.apply(new UndoCommand.Redo(), 4, 4);
    assertThat(third.stage().show()).isEqualTo(engine.stage().show());
  }

  @Test
  void onlyWhatDiffersIsWrittenAndWhatIsGoneGoes() {
    long id = store.add(show(), false);
    Part kit = show().parts().get(0);
    Show one = show().mapPart(kit.id(), p -> p.withClip(clip(7, 10)));
    store.save(id, Stage.of(one), Optional.of(Stage.of(show())), 1, Map.of());
    Show two = one.mapPart(kit.id(), p -> p.withoutClip(new ClipId(7)).withClip(clip(8, 3)));
    store.save(id, Stage.of(two), Optional.of(Stage.of(one)), 2, Map.of());
    assertThat(store.find(id).orElseThrow().stage().show()).isEqualTo(two);
    store.save(id, Stage.of(one), Optional.empty(), 3, Map.of());
    assertThat(store.find(id).orElseThrow().stage().show()).isEqualTo(one);
  }

  @Test
  void deletedShowsComeBackUntilTheyAreForgotten() {
    long id = store.add(show(), false);
    long before = System.currentTimeMillis() * 1000;
    store.setDeleted(id, true);
    store.forgetDeletedBefore(before);
    assertThat(store.deletedCards()).anyMatch(card -> card.id() == id);
    assertThat(store.cards()).noneMatch(card -> card.id() == id);
    assertThat(store.find(id)).isEmpty();
    store.setDeleted(id, false);
    assertThat(store.cards()).anyMatch(card -> card.id() == id);
    store.setDeleted(id, true);
    store.forgetDeletedBefore(Long.MAX_VALUE);
    assertThatThrownBy(() -> store.setDeleted(id, false)).isInstanceOf(Refusal.class);
  }

  @Test
  void namesAreBounded() {
    long id = store.add(show(), false);
    assertThatThrownBy(() -> store.rename(id, "x".repeat(61))).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> store.rename(id, "a\u0007b")).isInstanceOf(Refusal.class);
    store.rename(id, " Lull ");
    assertThat(store.find(id).orElseThrow().stage().show().title()).isEqualTo("Lull");
  }
}
