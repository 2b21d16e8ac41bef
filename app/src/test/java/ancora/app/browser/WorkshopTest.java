package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The Workshop by touch, and by steps into an empty clip, while the band of the demo plays. */
class WorkshopTest extends HeldNight {

  private HeldStage stage;
  private Page page;
  private Workbench bench;

  @BeforeEach
  void begin() {
    stage = HeldStage.open(hand, house, 1);
    page = stage.page();
    bench = new Workbench(stage);
    stage.press("Space");
    stage.until("ancora.state.transport.rolling");
  }

  @AfterEach
  void end() {
    assertThat(page.evaluate("() => ancora.state.transport.rolling"))
        .as("it never stopped")
        .isEqualTo(true);
    stage.send("{ do: 'stop' }");
    stage.until("!ancora.state.transport.rolling");
  }

  /** A finger chooses, drags and, with another, zooms. */
  @Test
  void byTouch() {
    bench.openStave(1, "Kit a");
    Object done =
        page.evaluate(
            """
            async () => {
              const { workshop } = ancora;
              const canvas = document.getElementById("workshop-sheet");
              canvas.setPointerCapture = () => {};
              const box = canvas.getBoundingClientRect();
              const finger = (kind, id, x, y) =>
                canvas.dispatchEvent(new PointerEvent(kind, {
                  pointerId: id, pointerType: "touch", clientX: box.left + x, clientY: box.top + y, bubbles: true }));
              const kick = workshop.thing.layers.flatMap((l) => l.notes).find((n) => n[1] === 36);
              // fourteen px beside it is near enough for a finger
              finger("pointerdown", 1, workshop.scale.x(kick[3]) - 14, workshop.scale.y(36));
              finger("pointerup", 1, workshop.scale.x(kick[3]) - 14, workshop.scale.y(36));
              const chosen = workshop.choice.ids.has(kick[0]);
              const before = workshop.scale.to - workshop.scale.from;
              finger("pointerdown", 1, 200, 100);
              finger("pointerdown", 2, 300, 100);
              finger("pointermove", 2, 500, 100);
              finger("pointerup", 1, 200, 100);
              finger("pointerup", 2, 500, 100);
              return [chosen, (workshop.scale.to - workshop.scale.from) / before];
            }""");
    assertThat(((List<?>) done).get(0)).isEqualTo(true);
    assertThat(((Number) ((List<?>) done).get(1)).doubleValue()).isBetween(0.25, 0.45);
    for (String name : List.of("#tool-delete", "#tool-draw", "#workshop-close", ".layerrow")) {
      assertThat(page.locator(name).first().boundingBox().height)
          .as("%s is large enough for a finger", name)
          .isGreaterThanOrEqualTo(40);
    }
  }

  /** The loop's ends are dragged, here and on the Stage's stave; a length is a note value. */
  @Test
  void endsAreDraggedAndLengthsAreTyped() {
    bench.openStave(2, "Bass a");
    int length = 4 * 3840;
    bench.until("ancora.workshop.thing.length === " + length);
    double[] end = at("ancora.workshop.scale.x(%s) + 12".formatted(length));
    double[] there = at("ancora.workshop.scale.x(%s)".formatted(2 * 3840));
    bench.drag(end, there);
    bench.until("ancora.workshop.thing.length === " + 2 * 3840);
    // all that is chosen is an eighth, exactly
    stage.press("Control+a");
    page.locator("#tool-length").fill("1/8");
    stage.press("Enter");
    bench.until("ancora.workshop.chosenNotes().every((n) => n[4] === 480)");
    stage.press("Shift+}");
    bench.until("ancora.workshop.chosenNotes().every((n) => n[4] === 720)");
    stage.press("F9");
    stage.until("ancora.state.parts.get(2).changesAt === undefined");
    BoundingBox stave = page.locator(".drawing").nth(1).boundingBox();
    double bar = (stave.width - 60) / 2;
    double y = stave.y + stave.height / 2;
    bench.drag(
        new double[] {stave.x + stave.width - 8, y},
        new double[] {stave.x + stave.width - 8 - bar, y});
    stage.until("ancora.state.clips.get(ancora.state.parts.get(2).vamp.clip).length === 3840");
    assertThat(page.locator("#workshop")).isHidden();
  }

  /**
   * Both takes and clips go to the grid at once; views have numbers; what is chosen fills the
   * sheet.
   */
  @Test
  void severalClipsAtOnceAndViewsByNumber() {
    bench.openStave(1, "Kit a");
    String off =
        "[...ancora.state.parts.get(1).shelf].flatMap((id) => ancora.state.clips.get(id).layers)"
            + ".flatMap((l) => l.notes).filter((n) => n[3] % 960).length";
    assertThat(((Number) page.evaluate("() => " + off)).intValue()).isPositive();
    page.locator("#workshop-grid").selectOption("1/4");
    page.locator("#workshop-reach").selectOption("clips");
    stage.press("Control+g");
    stage.until(off + " === 0");
    stage.press("Control+Shift+G");
    stage.until(off + " > 0");
    stage.press("Alt+Shift+1");
    double all = shown();
    bench.press(36, 0);
    stage.press("Control+Enter");
    assertThat(shown()).isLessThan(all / 2);
    stage.press("Alt+1");
    assertThat(shown()).isEqualTo(all);
  }

  /** A touch on an empty stave makes nothing; F9 makes a clip to draw into. */
  @Test
  void anEmptyClipWhereNoneIs() {
    stage.send("{ do: 'addPart', name: 'New', drums: false, program: 0 }");
    stage.until("ancora.state.armedPart.name === 'New'");
    stage.click(page.locator(".drawing").last());
    stage.soon(() -> assertThat(page.locator("#word")).containsText("no clip yet"));
    assertThat(page.evaluate("() => ancora.state.armedPart.shelf.length")).isEqualTo(0);
    stage.press("F9");
    stage.until("ancora.workshop.isOpen && ancora.workshop.thing.layers.length <= 1");
    assertThat(page.evaluate("() => ancora.state.armedPart.shelf.length")).isEqualTo(1);
  }

  private double shown() {
    return ((Number) page.evaluate("() => ancora.workshop.scale.to - ancora.workshop.scale.from"))
        .doubleValue();
  }

  /** A place on the sheet, in the header above its rows. */
  private double[] at(String x) {
    BoundingBox sheet = page.locator("#workshop-sheet").boundingBox();
    return new double[] {
      sheet.x + ((Number) page.evaluate("() => " + x)).doubleValue(), sheet.y + 16
    };
  }

  /**
   * What there is to choose from is there as soon as it opens, though nothing changes meanwhile.
   */
  @Test
  void itsChoicesAreThereAtOnce() {
    Object feels =
        page.evaluate(
            """
            () => {
              ancora.workshop.open(2);
              const { value, options } = document.getElementById("workshop-feel");
              return [value, options.length > 3];
            }""");
    assertThat(feels).isEqualTo(List.of("0", true));
  }

  /**
   * An empty clip is made and drawn into; at standstill keys go to the grid, one after the other.
   */
  @Test
  void anEmptyClipIsFilledBySteps() {
    bench.openStave(1, "Kit a");
    stage.click(page.locator("#clip-empty"));
    stage.soon(() -> assertThat(page.locator("#workshop-words")).containsText("0 notes"));
    stage.send("{ do: 'arm', part: 1 }");
    stage.send("{ do: 'stop' }");
    stage.until("!ancora.state.transport.rolling && ancora.state.armed === 1");
    stage.click(page.locator("#tool-steps"));
    for (int[] chord : new int[][] {{36, 42}, {42}, {38, 42}}) {
      for (int velocity : new int[] {90, 0}) {
        for (int key : chord) {
          page.evaluate(
              "([k, v]) => ancora.hub.receive('pads', [0x99, k, v], performance.now())",
              List.of(key, velocity));
        }
      }
    }
    stage.until("ancora.workshop.thing.layers.flatMap((l) => l.notes).length === 5");
    assertThat(bench.places(42)).isEqualTo(List.of(0L, 240L, 480L));
    assertThat(bench.places(38)).isEqualTo(List.of(480L));
    stage.press("Space");
    stage.until("ancora.state.transport.rolling");
  }
}
