package ancora.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Rule 1 (notes of one pitch on one tick) and rule 5 (ring over, again), as the plan has them. */
class PassPlanTest {

  private static final LoopWindow BAR = new LoopWindow(0, 3840);

  private static Note note(long id, int pitch, long onset, long length) {
    return Note.of(id, pitch, 80 + (int) id, onset, onset, length);
  }

  private static List<PlannedNote> plan(Note... notes) {
    return PassPlan.of(Clip.of(new ClipId(1), "a", BAR, List.of(notes)), 960, Silencing.NONE)
        .notes();
  }

  @Test
  void aNoteRingsOverTheLine() {
    assertThat(plan(note(1, 60, 3360, 1280)))
        .singleElement()
        .satisfies(
            n -> {
              assertThat(n.place()).isEqualTo(3360);
              assertThat(n.length()).isEqualTo(1280);
            });
  }

  /** With a loop note of the pitch at 240 of the next pass, it ends there: off 240, on 240. */
  @Test
  void attackedAgainWhileItRingsOverItEndsThere() {
    List<PlannedNote> notes = plan(note(1, 60, 3360, 1280), note(2, 60, 240, 100));
    assertThat(notes.get(1).length()).isEqualTo(3840 - 3360 + 240);
    assertThat(notes.get(0).length()).isEqualTo(100);
  }

  @Test
  void aClipMayCutAtTheLine() {
    Clip cut =
        Clip.of(new ClipId(1), "a", BAR, List.of(note(1, 60, 3360, 1280)))
            .withManner(Manner.DEFAULT.withRing(false));
    assertThat(PassPlan.of(cut, 960, Silencing.NONE).notes().get(0).length()).isEqualTo(480);
  }

  @Test
  void onOneTickTheLouderAndTheLonger() {
    assertThat(plan(note(1, 60, 0, 500), note(2, 60, 0, 100)))
        .containsExactly(new PlannedNote(1, 0, 500, 60, 82, Silence.NONE, false));
  }

  @Test
  void aNoteIsCutByTheNextOnsetOfItsPitch() {
    List<PlannedNote> notes = plan(note(1, 60, 0, 2000), note(2, 60, 960, 100));
    assertThat(notes).extracting(PlannedNote::length).containsExactly(960L, 100L);
  }

  /** Rule 5: pressed at 0 and released at 3900: length 3840. At 5000: a drone. */
  @Test
  void longNotes() {
    assertThat(plan(note(1, 60, 0, 3900)).get(0).length()).isEqualTo(3840);
    assertThat(plan(note(1, 60, 0, 3840 + 959)).get(0).length()).isEqualTo(3840);
    assertThat(plan(note(1, 60, 0, 5000)).get(0).length()).isEqualTo(PlannedNote.DRONE);
    assertThat(plan(note(1, 60, 0, 5000), note(2, 60, 1920, 100)).get(0).length())
        .as("a pitch with another onset in the loop has no drone")
        .isEqualTo(1920);
  }

  @Test
  void materialOutsideTheWindowIsSilent() {
    assertThat(plan(note(1, 60, -30, 50), note(2, 62, 3840, 50), note(3, 64, 3839, 50)))
        .extracting(PlannedNote::pitch)
        .containsExactly(64);
  }

  /** Rule 3: begun before the start, with more of it after than before. */
  @Test
  void whatIsHeldOverTheStartIsALoopNoteThere() {
    assertThat(plan(note(1, 60, -10, 50)))
        .containsExactly(new PlannedNote(1, 0, 40, 60, 81, Silence.NONE, true));
  }

  /** Rule 5, tie: X and Y are one gesture, with nothing attacked at the line. */
  @Test
  void aTieOverTheLine() {
    assertThat(plan(note(1, 60, 3360, 480), note(2, 60, -480, 1280)))
        .extracting(PlannedNote::place, PlannedNote::length, PlannedNote::tied)
        .containsExactly(tuple(0L, 800L, true), tuple(3360L, 1280L, false));
  }

  /** Silent up to a tick, which may be another later. */
  private record Heard(Map<Long, Long> until) implements Silencing {
    @Override
    public Silence of(int layer, Note note) {
      return until.containsKey(note.id()) ? Silence.through(until.get(note.id())) : Silence.NONE;
    }

    @Override
    public Optional<Set<Long>> since(Silencing before) {
      Map<Long, Long> was = ((Heard) before).until;
      Set<Long> ids = new HashSet<>(was.keySet());
      ids.addAll(until.keySet());
      ids.removeIf(id -> Objects.equals(was.get(id), until.get(id)));
      return Optional.of(ids);
    }
  }

  /** A note, each on a place of its own in the bar, or anywhere near it. */
  private static Note random(long id, boolean apart, Random random) {
    long place = apart ? (id - 1) * 96 : random.nextInt(12) * 480 - 960;
    int pitch = random.nextInt(8) == 0 ? Note.PEDAL : 60 + random.nextInt(2);
    long length = random.nextInt(6) == 0 ? 5_000 : 60 + random.nextInt(1200);
    return new Note(id, pitch, 80, place, place, length, random.nextInt(12) == 0);
  }

  /** Changed step by step, a note or a few at a time, it is what it is when it is made anew. */
  @Property(tries = 400)
  void aPassThatIsChangedIsAsOneMadeAnew(@ForAll long seed) {
    Random random = new Random(seed);
    boolean apart = random.nextBoolean();
    Clip clip = Clip.of(new ClipId(1), "a", BAR, List.of());
    Map<Long, Long> heard = new HashMap<>();
    PassPlan plan = PassPlan.of(clip, 960, new Heard(Map.of()));
    List<Layer> layers = new ArrayList<>(List.of(Layer.empty(1), Layer.empty(2)));
    for (int step = 0; step < 30; step++) {
      for (int i = random.nextInt(3); i >= 0; i--) {
        int which = random.nextInt(2);
        Layer layer = layers.get(which);
        long id = 1 + random.nextInt(40);
        boolean there = layers.stream().anyMatch(each -> each.holds(id));
        layers.set(
            which,
            switch (random.nextInt(8)) {
              case 0 -> layer.where(note -> note.id() != id);
              case 1 -> layer.mapNote(id, note -> random(id, apart, random));
              case 2 -> layer.takingOut(List.of(id), List.of());
              case 3 -> layer.puttingBack(List.of(id), List.of());
              default -> there ? layer : layer.with(random(id, apart, random));
            });
        if (random.nextInt(4) == 0) {
          heard.put(id, (long) random.nextInt(10_000));
        }
      }
      Clip next = clip.withLayers(List.copyOf(layers));
      Heard silencing = new Heard(Map.copyOf(heard));
      plan = plan.next(next, 960, silencing);
      assertThat(plan.notes()).isEqualTo(PassPlan.of(next, 960, silencing).notes());
    }
  }
}
