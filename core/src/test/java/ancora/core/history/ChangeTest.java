package ancora.core.history;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Rule 17: a step is taken back, and done again, whatever else has become of the show since. */
class ChangeTest {

  private static final PartId KIT = new PartId(1);
  private static final PartId BASS = new PartId(2);

  private static Note note(long id, long onset) {
    return Note.of(id, 40 + (int) (id % 20), 90, onset, onset, 60);
  }

  private static Clip clip(int id, String letter) {
    Layer first = new Layer(1, List.of(note(id * 100L, 0), note(id * 100L + 1, 960)));
    Layer second =
        new Layer(2, List.of(note(id * 100L + 2, 480)))
            .withMoves(List.of(new ControllerMove(Controller.BEND, 100, 9000)))
            .takingOut(List.of(id * 100L + 1), List.of());
    Take two = Take.of(2, List.of(new Layer(1, List.of(note(id * 100L + 5, 1920)))));
    return Clip.of(new ClipId(id), letter, new LoopWindow(0, 3840), List.of())
        .withTakes(List.of(Take.of(1, List.of(first, second)), two));
  }

  private static Show show() {
    Section quay =
        new Section(
            new SectionId(30),
            "A",
            "Quay",
            Map.of(KIT, Optional.of(new ClipId(10))),
            false,
            Optional.empty());
    return Show.named("Squall")
        .withParts(
            List.of(
                Part.of(KIT, "Kit", Sound.STANDARD_KIT)
                    .withShelf(List.of(clip(10, "a"), clip(11, "b"))),
                Part.of(BASS, "Bass", Sound.of(33)).withShelf(List.of(clip(20, "a")))))
        .withForm(List.of(quay, quay.withId(new SectionId(31)).withLetter("B")))
        .withNextId(5000);
  }

  /** Something is done to a part, of all that can be done to one. */
  private static Show onePart(Show show, PartId id, Random random) {
    Part part = show.part(id);
    int some = random.nextInt(1000);
    if (part.shelf().isEmpty() || random.nextInt(6) == 0) {
      int clip = id.value() * 1000 + some;
      return random.nextBoolean() || part.clip(new ClipId(clip)).isPresent()
          ? show.mapPart(id, p -> p.withName("Part " + some).withSound(Sound.of(some % 128)))
          : show.mapPart(id, p -> p.withClip(clip(clip, p.freeLetter())));
    }
    Clip clip = part.shelf().get(random.nextInt(part.shelf().size()));
    if (random.nextInt(8) == 0) {
      return show.mapPart(id, p -> p.withoutClip(clip.id()));
    }
    return show.mapPart(id, p -> p.withClip(oneClip(clip, some, random)));
  }

  private static Clip oneClip(Clip clip, int some, Random random) {
    return switch (random.nextInt(5)) {
      case 0 -> clip.withName("Clip " + some);
      case 1 -> clip.withWindow(new LoopWindow(some, 1920 + some));
      case 2 -> clip.with(Take.of(clip.nextTake(), List.of(new Layer(1, List.of(note(some, 3))))));
      case 3 -> clip.takes().size() > 1 ? clip.without(clip.takes().get(0).number()) : clip;
      default -> clip.mapHeard(take -> oneTake(take, some, random));
    };
  }

  private static Take oneTake(Take take, int some, Random random) {
    List<Layer> all = take.allLayers().toList();
    if (all.isEmpty() || random.nextInt(4) == 0) {
      return take.with(new Layer(take.nextLayer(), List.of(note(7000 + some, some))), true)
          .withNextLayer(take.nextLayer() + 1);
    }
    Layer layer = all.get(random.nextInt(all.size()));
    UnaryOperator<Take> change =
        switch (random.nextInt(6)) {
          case 0 -> t -> t.takenOff(layer.number());
          case 1 -> t -> t.putBack(layer.number());
          case 2 -> t -> t.without(layer.number());
          case 3 -> t -> t.mapLayer(layer.number(), l -> l.map(n -> n.withLength(100 + some)));
          case 4 -> t -> t.mapLayer(layer.number(), l -> l.where(n -> n.id() % 2 == 0));
          default ->
              t -> t.mapLayer(layer.number(), l -> l.takingOut(List.of(7L + some), List.of()));
        };
    return change.apply(take);
  }

  /** Something is done to the show as a whole. */
  private static Show whole(Show show, Random random) {
    List<Part> parts = new ArrayList<>(show.parts());
    List<Section> form = new ArrayList<>(show.form());
    switch (random.nextInt(4)) {
      case 0 -> Collections.shuffle(parts, random);
      case 1 -> Collections.shuffle(form, random);
      case 2 -> parts.remove(random.nextInt(parts.size()));
      default -> form.remove(random.nextInt(form.size()));
    }
    Meter meter = random.nextBoolean() ? new Meter(3, 4) : show.meter();
    return show.withParts(parts).withForm(form).withMeter(meter);
  }

  private static Show several(Show show, PartId id, Random random) {
    Show next = show;
    for (int i = random.nextInt(5); i >= 0; i--) {
      next = onePart(next, id, random);
    }
    return next;
  }

  /** But for what counts up, which no step takes back, and which take was heard before others. */
  private static Show music(Show show) {
    return show.withParts(
        show.parts().stream()
            .map(part -> part.withShelf(part.shelf().stream().map(ChangeTest::music).toList()))
            .toList());
  }

  private static Clip music(Clip clip) {
    return clip.with(
        c ->
            c.nextTake(0)
                .heard(List.of(0))
                .takes(
                    clip.takes().stream()
                        .map(take -> take.withNextLayer(0).withNextMove(0))
                        .toList()));
  }

  @Property(tries = 2000)
  void aChangeLeadsFromOneShowToTheOtherAndBack(@ForAll Random random) {
    Show before = several(show(), KIT, random);
    Show after = several(several(before, KIT, random), BASS, random);
    after = random.nextInt(3) == 0 ? whole(after, random) : after;
    Change change = Change.between(before, after);
    assertThat(music(change.madeIn(before))).isEqualTo(music(after));
    assertThat(music(change.inverse().madeIn(after))).isEqualTo(music(before));
    assertThat(change.isNothing()).isEqualTo(music(before).equals(music(after)));
  }

  @Property(tries = 1000)
  void whatWasDoneToAnotherPartSinceStays(@ForAll Random random) {
    Show before = show();
    Show after = several(before, KIT, random);
    long seed = random.nextLong();
    Show since = several(after, BASS, new Random(seed));
    Show without = several(before, BASS, new Random(seed));
    Change change = Change.between(before, after);
    assertThat(music(change.inverse().madeIn(since))).isEqualTo(music(without));
    assertThat(music(change.madeIn(without))).isEqualTo(music(since));
  }

  /** A step costs what it changes, in memory and in what is written down of it. */
  @Property(tries = 1000)
  void ofAllThatIsTheSameNothingIsKept(@ForAll Random random) {
    Show before = show();
    Change change = Change.between(before, several(before, KIT, random));
    for (Show told : List.of(change.before(), change.after())) {
      assertThat(told.parts()).noneMatch(part -> part.id().equals(BASS));
      assertThat(told.form()).isEmpty();
    }
    assertThat(notes(change.before())).noneMatch(notes(change.after())::contains);
  }

  private static List<String> notes(Show told) {
    return told.parts().stream()
        .flatMap(part -> part.shelf().stream())
        .flatMap(
            clip ->
                clip.takes().stream()
                    .flatMap(
                        take ->
                            take.allLayers()
                                .flatMap(
                                    layer ->
                                        layer.notes().stream()
                                            .map(
                                                n ->
                                                    clip.id()
                                                        + "/"
                                                        + take.number()
                                                        + "/"
                                                        + layer.number()
                                                        + n))))
        .toList();
  }

  private static Show edited(Show show, UnaryOperator<Note> change) {
    return show.mapPart(
        KIT,
        part ->
            part.withClip(
                part.clipOf(new ClipId(10))
                    .mapHeard(take -> take.mapLayer(1, layer -> layer.map(change)))));
  }

  @Test
  void anotherComponentOfTheSameNoteStays() {
    Show moved = edited(show(), note -> note.meantAt(note.meant() + 240));
    Change move = Change.between(show(), moved);
    Show longer = edited(moved, note -> note.withLength(700));
    assertThat(move.inverse().madeIn(longer)).isEqualTo(edited(show(), n -> n.withLength(700)));
  }

  @Test
  void whatHasGoneSinceDoesNotComeBack() {
    Change rename = Change.between(show(), show().mapPart(BASS, part -> part.withName("Tuba")));
    Show without = show().withParts(List.of(show().part(KIT)));
    assertThat(rename.inverse().madeIn(without)).isEqualTo(without);
  }

  @Test
  void aLayerThatIsUndoneKeepsWhatComesToItMeanwhile() {
    Show on = show();
    Change came = Change.layerOn(on, KIT, new ClipId(10), 1, 2);
    Show off = came.inverse().madeIn(on);
    Take undone = off.part(KIT).clipOf(new ClipId(10)).take(1);
    assertThat(undone.isOn(2)).isFalse();
    Note late = note(6000, 1000);
    Show more =
        off.mapPart(
            KIT,
            part ->
                part.withClip(
                    part.clipOf(new ClipId(10))
                        .mapTake(1, take -> take.mapLayer(2, layer -> layer.with(late)))));
    Take back = came.madeIn(more).part(KIT).clipOf(new ClipId(10)).take(1);
    assertThat(back.isOn(2)).isTrue();
    assertThat(back.layer(2).orElseThrow().notes()).contains(late);
  }

  private static Show take(Show show, UnaryOperator<Take> change) {
    return show.mapPart(KIT, part -> part.withClip(part.clipOf(new ClipId(10)).mapTake(1, change)));
  }

  private static Take take(Show show) {
    return show.part(KIT).clipOf(new ClipId(10)).take(1);
  }

  @Test
  void aLayerThatWentOffSinceStaysOff() {
    Show moved = take(show(), t -> t.mapLayer(2, l -> l.map(n -> n.meantAt(n.meant() + 240))));
    Show off = take(moved, t -> t.takenOff(2));
    Take back = take(Change.between(show(), moved).inverse().madeIn(off));
    assertThat(back.isOn(2)).isFalse();
    assertThat(back.layer(2)).isEqualTo(take(show()).layer(2));
  }

  @Test
  void aLayerThatHasGoneSinceDoesNotComeBackEmpty() {
    Show moved = take(show(), t -> t.mapLayer(2, l -> l.map(n -> n.meantAt(n.meant() + 240))));
    Show gone = take(moved, t -> t.without(2));
    assertThat(Change.between(show(), moved).inverse().madeIn(gone)).isEqualTo(gone);
  }

  /** Restore brings back the one that went off last. */
  @Test
  void layersAreOffInTheOrderInWhichTheyWent() {
    Show four = take(show(), t -> t.with(Layer.empty(3), true).with(Layer.empty(4), true));
    Show off = take(four, t -> t.takenOff(2).takenOff(3));
    Change restored = Change.between(off, take(off, t -> t.putBack(2)));
    Show since = take(restored.madeIn(off), t -> t.takenOff(4));
    assertThat(take(restored.inverse().madeIn(since)).off())
        .extracting(Layer::number)
        .containsExactly(2, 3, 4);
    Change last = Change.between(off, take(off, t -> t.takenOff(4)));
    assertThat(last.after().parts().get(0).shelf().get(0).takes().get(0).off())
        .extracting(Layer::number)
        .containsExactly(4);
  }

  @Test
  void whatIsEqualIsTheSame() {
    Show same = show();
    Change none = Change.between(show(), same);
    assertThat(none.isNothing()).isTrue();
    assertThat(none.after().parts()).isEmpty();
  }

  @Test
  void aLayerThatIsLeftWithoutAnyNoteIsNoPartOfAStep() {
    Show played = take(show(), t -> t.with(new Layer(3, List.of(note(900, 0))), true));
    Change flattened = Change.between(played, take(played, t -> t.without(3)));
    assertThat(flattened.withoutNotes(Set.of(901L)).isNothing()).isFalse();
    assertThat(flattened.withoutNotes(Set.of(900L)).isNothing()).isTrue();
  }

  /** What is new in a thing is of what a step changes; what is not is named, and stays so. */
  @Test
  void eachComponentIsOfAStepUnlessItIsNamed() {
    Set<String> noStep = new TreeSet<>();
    Stream.of(show(), show().part(KIT), clip(10, "a"), clip(10, "a").take(), show().form().get(0))
        .forEach(
            thing -> {
              RecordComponent[] all = thing.getClass().getRecordComponents();
              for (int i = 0; i < all.length; i++) {
                if (!Things.isStep(thing)[i]) {
                  noStep.add(thing.getClass().getSimpleName() + "." + all[i].getName());
                }
              }
            });
    assertThat(noStep)
        .containsAll(Arrays.asList("Show.recording", "Part.balance", "Clip.nextTake"))
        .hasSize(17);
  }
}
