package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
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
