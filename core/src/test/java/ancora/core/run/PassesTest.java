package ancora.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** What a span has sounded is kept as short as what was different in it, and is all there. */
class PassesTest {

  private static final long LOOP = 3840;

  /** Notes come as they end: one that rings comes long after those that began with it. */
  @Property(tries = 500)
  void whatWasHeardComesOutAsItWas(@ForAll Random random) {
    long phase = random.nextInt(5000) - 2500;
    Passes passes = new Passes(phase, LOOP);
    List<RunNote> notes = new ArrayList<>();
    for (int pass = -1; pass < 12; pass++) {
      for (int i = 0; i < 4; i++) {
        boolean alike = random.nextInt(3) > 0;
        long place = alike ? i * 960L : random.nextInt(3840);
        long length = random.nextInt(9) == 0 ? random.nextInt(40_000) : 60;
        int pitch = random.nextInt(20) == 0 ? Note.PEDAL : 36 + i;
        notes.add(new RunNote(phase + pass * LOOP + place, pitch, 90, length));
      }
    }
    notes.sort(Comparator.comparingLong(RunNote::end));
    notes.forEach(passes::add);
    List<RunNote> sorted = new ArrayList<>(notes);
    sorted.sort(Passes.BY_PLACE);
    assertThat(passes.notes()).isEqualTo(sorted);
  }

  @Test
  void anHourOfALoopIsKeptAsOnePass() {
    Passes passes = new Passes(0, LOOP);
    for (int pass = 0; pass < 1800; pass++) {
      for (int i = 0; i < 16; i++) {
        passes.add(new RunNote(pass * LOOP + i * 240L, 36, 90, 60));
      }
    }
    assertThat(passes.kept()).isLessThanOrEqualTo(3 * 16);
    assertThat(passes.notes()).hasSize(1800 * 16);
  }
}
