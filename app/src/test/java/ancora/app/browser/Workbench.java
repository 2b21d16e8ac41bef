package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Mouse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.MouseButton;
import java.util.List;

/** The Workshop as a test has it before it: what the open clip holds, and where its notes lie. */
final class Workbench {

  /** [id, pitch, velocity, meant onset, length] of all notes of the clip that is open. */
  private static final String NOTES = "ancora.workshop.thing.layers.flatMap(({ notes }) => notes)";

  /** What every clip of the show sounds like, whatever the ids of its notes. */
  private static final String CLIPS =
      """
      () => JSON.stringify([...ancora.state.parts.values()].map(({ shelf }) => shelf.map((id) => {
        const { letter, name, start, length, take, takes, layers } = ancora.state.clips.get(id);
        return [id, letter, name, start, length, take, takes, layers];
      })))""";

  private final Page page;
  private String atFirst;

  Workbench(Page page) {
    this.page = page;
  }

  /** Remembers what there is, so that {@link #undoAll} can be held against it. */
  void remember() {
    atFirst = (String) page.evaluate(CLIPS);
  }

  /** Undoes step by step until all clips are as they were remembered, note for note. */
  void undoAll(Runnable undo, int most) {
    for (int i = 0; i < most && !page.evaluate(CLIPS).equals(atFirst); i++) {
      Object now = page.evaluate(CLIPS);
      undo.run();
      page.waitForTimeout(40);
      if (page.evaluate(CLIPS).equals(now)) {
        page.waitForTimeout(150);
      }
    }
    assertThat(page.evaluate(CLIPS)).as("undone, everything is as it was").isEqualTo(atFirst);
  }

  /** Opens the clip that a part has in hand, from its stave. */
  void openStave(int part, String title) {
    page.locator(".stave[data-part='%s'] .drawing".formatted(part)).click();
    opened(title);
  }

  /** Opens a clip of a shelf, from its menu. */
  void openClip(int part, int place, String title) {
    page.locator(".stave[data-part='%s']".formatted(part))
        .locator(".clip:not(.rest, .anew)")
        .nth(place)
        .click(new Locator.ClickOptions().setButton(MouseButton.RIGHT));
    page.locator("#clip-workshop").click();
    opened(title);
  }

  void opened(String title) {
    assertThat(page.locator("#workshop-title")).hasText("Workshop: " + title);
    page.waitForFunction(
        "() => %s.every(([, pitch]) => pitch > 127 || ancora.workshop.scale.pitches.includes(pitch))"
            .formatted(NOTES));
    page.waitForTimeout(100);
  }

  /** Waits for the open clip's notes, as `notes`, to be so. */
  void until(String condition) {
    page.waitForFunction(
        "() => { const notes = %s; const { thing, choice } = ancora.workshop; return %s; }"
            .formatted(NOTES, condition));
  }

  int notes() {
    return ((Number) page.evaluate("() => %s.length".formatted(NOTES))).intValue();
  }

  /** Meant places of a pitch, in order. */
  List<Long> places(int pitch) {
    return longs(
        "(pitch) => %s.filter((note) => note[1] === pitch).map((note) => note[3]).sort((a, b) => a - b)"
            .formatted(NOTES),
        pitch);
  }

  /** Velocities of what is chosen, in order of place. */
  List<Long> loudness() {
    return longs(
        "() => ancora.workshop.chosenNotes().sort((a, b) => a[3] - b[3]).map((note) => note[2])",
        null);
  }

  private List<Long> longs(String script, Object of) {
    return ((List<?>) page.evaluate(script, of))
        .stream().map(n -> ((Number) n).longValue()).toList();
  }

  /** Where a place lies on the screen: the middle of a note that begins there. */
  double[] at(int pitch, long meant) {
    BoundingBox box = page.locator("#workshop-sheet").boundingBox();
    double x =
        ((Number) page.evaluate("(t) => ancora.workshop.scale.x(t)", (double) meant)).doubleValue();
    double y = ((Number) page.evaluate("(p) => ancora.workshop.scale.y(p)", pitch)).doubleValue();
    return new double[] {box.x + x + 3, box.y + y};
  }

  void press(int pitch, long meant) {
    double[] at = at(pitch, meant);
    page.mouse().click(at[0], at[1]);
  }

  void drag(double[] from, double[] to) {
    page.mouse().move(from[0], from[1]);
    page.mouse().down();
    page.mouse().move(to[0] - 12, to[1], new Mouse.MoveOptions().setSteps(4));
    page.mouse().move(to[0], to[1]);
    page.mouse().up();
  }

  /** Sweeps over all that there is. */
  void sweepAll() {
    BoundingBox box = page.locator("#workshop-sheet").boundingBox();
    drag(
        new double[] {box.x + 3, box.y + 3},
        new double[] {box.x + box.width - 3, box.y + box.height - 3});
  }

  /** Chooses a row by its name. */
  Locator row(String name) {
    return page.locator(".rowname").filter(new Locator.FilterOptions().setHasText(name)).first();
  }

  void set(String slider, int value) {
    page.locator(slider).fill(String.valueOf(value));
  }

  /**
   * Records takes onto what a part vamps, pass by pass, each with as many strokes as its number, a
   * semitone higher than the last.
   */
  void recordTakes(int part, int takes) {
    page.evaluate(
        """
        async ([part, takes]) => {
          const { connection, state } = ancora;
          const wait = (millis) => new Promise((done) => setTimeout(done, millis));
          connection.do({ do: "arm", part });
          connection.do({ do: "setRecording", ...state.show.recording, countInBars: 0 });
          while (!state.parts.get(part).vamp) await wait(10);
          const { vamp } = state.parts.get(part);
          const clip = state.clips.get(vamp.clip);
          const pass = () => Math.floor((state.map.tickAt(ancora.clock.now()) - vamp.phase) / clip.length);
          connection.do({ do: "takes", on: true });
          while (!state.parts.get(part).onto) await wait(10);
          const first = pass();
          for (let take = 1; take <= takes; take++) {
            while (pass() < first + take) await wait(5);
            for (let i = 0; i < 4; i++) {
              await wait(80);
              connection.do({ do: "keyDown", device: "keys", channel: 0, pitch: 40 + take, velocity: 90 });
              await wait(60);
              connection.do({ do: "keyUp", device: "keys", channel: 0, pitch: 40 + take });
            }
          }
          while (pass() < first + takes + 1) await wait(5);
          connection.do({ do: "takes", on: false });
          while (state.parts.get(part).onto) await wait(10);
        }""",
        List.of(part, takes));
  }
}
