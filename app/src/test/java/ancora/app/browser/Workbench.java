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

  private final HeldStage stage;
  private final Page page;
  private String atFirst;

  Workbench(HeldStage stage) {
    this.stage = stage;
    this.page = stage.page();
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
      stage.run(HeldStage.STEP);
      if (page.evaluate(CLIPS).equals(now)) {
        stage.run(160);
      }
    }
    assertThat(page.evaluate(CLIPS)).as("undone, everything is as it was").isEqualTo(atFirst);
  }

  /** Opens the clip that a part has in hand, from its stave. */
  void openStave(int part, String title) {
    stage.click(".stave[data-part='%s'] .drawing".formatted(part));
    opened(title);
  }

  /** Opens a clip of a shelf, from its menu. */
  void openClip(int part, int place, String title) {
    page.locator(".stave[data-part='%s']".formatted(part))
        .locator(".clip:not(.rest, .anew)")
        .nth(place)
        .click(new Locator.ClickOptions().setButton(MouseButton.RIGHT));
    stage.click("#clip-workshop");
    opened(title);
  }

  void opened(String title) {
    stage.soon(() -> assertThat(page.locator("#workshop-title")).hasText("Workshop: " + title));
    stage.until(
        "%s.every(([, pitch]) => pitch > 127 || ancora.workshop.scale.pitches.includes(pitch))"
            .formatted(NOTES));
    stage.run(100);
  }

  /** Waits for the open clip's notes, as `notes`, to be so. */
  void until(String condition) {
    stage.until(
        "(() => { const notes = %s; const { thing, choice } = ancora.workshop; return %s; })()"
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
    stage.run(2 * HeldStage.STEP);
  }

  void drag(double[] from, double[] to) {
    page.mouse().move(from[0], from[1]);
    page.mouse().down();
    page.mouse().move(to[0] - 12, to[1], new Mouse.MoveOptions().setSteps(4));
    page.mouse().move(to[0], to[1]);
    page.mouse().up();
    stage.run(2 * HeldStage.STEP);
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
   * Records takes onto what a part vamps, pass by pass, each with four strokes, a semitone higher
   * than the last.
   */
  void recordTakes(int part, int takes) {
    stage.send("{ do: 'arm', part: %s }".formatted(part));
    stage.send("{ do: 'setRecording', ...ancora.state.show.recording, countInBars: 0 }");
    String of = "ancora.state.parts.get(%s)".formatted(part);
    stage.until(of + ".vamp");
    long phase = number(of + ".vamp.phase");
    long length = number("ancora.state.clips.get(%s.vamp.clip).length".formatted(of));
    stage.send("{ do: 'takes', on: true }");
    stage.until(of + ".onto");
    long next = (stage.tick() - phase) / length + 1;
    for (int take = 1; take <= takes; take++) {
      stage.untilTick(phase + (next + take - 1) * length);
      for (int i = 0; i < 4; i++) {
        stage.run(5 * HeldStage.STEP);
        key("keyDown", 40 + take, ", velocity: 90");
        stage.run(3 * HeldStage.STEP);
        key("keyUp", 40 + take, "");
      }
    }
    stage.untilTick(phase + (next + takes) * length);
    stage.send("{ do: 'takes', on: false }");
    stage.until("!%s.onto".formatted(of));
  }

  private void key(String what, int pitch, String more) {
    stage.send(
        "{ do: '%s', device: 'keys', channel: 0, pitch: %s%s }".formatted(what, pitch, more));
  }

  private long number(String expression) {
    return ((Number) stage.evaluate("() => " + expression)).longValue();
  }
}
