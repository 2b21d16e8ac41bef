package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Page;
import java.util.List;
import java.util.Random;
import org.assertj.core.api.Assertions;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever the screen: what is needed on a stage is in the picture, and large enough. */
class SizesTest extends HeldNight {

  /** A name, and CSS pixels across and down. */
  private record Size(String name, int wide, int high) {}

  private static final List<Size> SIZES =
      List.of(
          new Size("a small laptop", 1024, 768),
          new Size("a laptop", 1280, 800),
          new Size("the same at 200 %", 640, 400),
          new Size("a tablet upright", 768, 1024),
          new Size("a phone", 390, 844),
          new Size("a large screen", 3840, 2160));

  /** Presses take long: at the others they are tried in a long search. */
  private static final List<Size> PRESSED_AT =
      Boolean.getBoolean("ancora.long") ? SIZES : SIZES.subList(0, 3);

  private static final String MISSING =
      """
      () => {
        const missing = [];
        const inPicture = (what, element) => {
          const box = element?.getBoundingClientRect();
          if (!box || box.width < 1 || box.left < -1 || box.top < -1
              || box.right > innerWidth + 1 || box.bottom > innerHeight + 1) {
            missing.push(`${what} ${box ? JSON.stringify([box.left, box.top, box.right, box.bottom].map(Math.round)) : ""}`);
          }
        };
        inPicture("place", document.getElementById("count"));
        inPicture("stop", document.getElementById("run"));
        inPicture("panic", document.getElementById("panic"));
        document.querySelectorAll(".pedal").forEach((pedal, i) => inPicture(`pedal ${i + 1}`, pedal));
        const letter = document.querySelector(".sections .sec em");
        if (letter?.checkVisibility()) inPicture("section", letter);
        inPicture("armed stave", document.querySelector(".stave.armed"));
        document.querySelectorAll(".stave").forEach((stave) => {
          const { height } = stave.getBoundingClientRect();
          if (height < 40) missing.push(`a stave is ${Math.round(height)} px high`);
        });
        const across = document.documentElement.scrollWidth;
        if (across > innerWidth) missing.push(`the page is ${across} px wide`);
        return missing;
      }""";

  private static final String READ =
      """
      () => {
        const word = document.getElementById("word");
        return word.scrollHeight <= word.clientHeight && word.parentElement.clientHeight <= 46;
      }""";

  @Test
  void whatIsNeededIsInThePicture() {
    HeldStage stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.send("{ do: 'arm', part: 5 }");
    stage.until("ancora.state.armed === 5");
    nothingIsMissing(stage);
  }

  /** Names as long as they may be, from the right, and of signs that are several characters. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "Wwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwww",
        "\u05DE\u05D2\u05D3\u05DC\u05D5\u05E8 \u05D1\u05DC\u05D9\u05DC\u05D4 \u0645\u0646\u0627\u0631\u0629",
        "\uD83D\uDC69\u200D\uD83D\uDE80\uD83D\uDEA8 \uD83C\uDF0A\uD83C\uDF0A lamp"
      })
  void namesKeepWithinTheirRoom(String name) {
    HeldStage stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    page.evaluate("(name) => (globalThis.called = name)", name);
    stage.send("{ do: 'renamePart', part: 2, name: called }");
    stage.send(
        "{ do: 'renameClip', part: 2, clip: ancora.state.parts.get(2).shelf[0], name: called }");
    stage.send("{ do: 'makeSection', name: called }");
    stage.until(
        "ancora.state.parts.get(2).name === called && ancora.state.form.sections.at(-1).name === called");
    stage.send("{ do: 'arm', part: 2 }");
    stage.press("Space");
    stage.run(500);
    nothingIsMissing(stage);
    page.evaluate("() => (globalThis.called = 'x'.repeat(200))");
    stage.send("{ do: 'renamePart', part: 2, name: called }");
    stage.soon(() -> assertThat(page.locator("#word")).containsText("60"));
  }

  /** What is said is read whole, beside a title as long as can be. */
  @Test
  void whatIsSaidIsReadBesideALongTitle() {
    Show show = Show.named("W".repeat(60)).withNewPart("Kit", Sound.STANDARD_KIT);
    HeldStage stage = HeldStage.open(hand, house, house.bean(ShowStore.class).add(show, false));
    stage.send("{ do: 'renamePart', part: 1, name: 'x'.repeat(200) }");
    stage.soon(() -> assertThat(stage.page().locator("#word")).containsText("60"));
    Assertions.assertThat(stage.page().evaluate(READ)).isEqualTo(true);
  }

  /** What may be touched, but what leaves the page or has the browser ask for a file. */
  private static final String TOUCHED =
      """
      () => {
        const all = [...document.querySelectorAll("main button, main summary, .drawing, dialog[open] button")];
        const seen = all.flatMap((element) => {
          const { left, top, width, height } = element.getBoundingClientRect();
          const [x, y] = [left + width / 2, top + height / 2];
          const hit = document.elementFromPoint(x, y);
          return element.contains(hit) && !element.disabled ? [[x, y]] : [];
        });
        return seen;
      }""";

  /**
   * Forty presses of whatever there is, at each size: nothing breaks, the keyboard is the
   * performer's again, and Stop stays in the picture.
   */
  @Test
  void fortyPressesOfWhateverThereIs() {
    HeldStage stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    SoftAssertions all = new SoftAssertions();
    for (Size size : PRESSED_AT) {
      page.setViewportSize(size.wide(), size.high());
      stage.run(100);
      Random random = new Random(size.wide());
      for (int press = 0; press < 40; press++) {
        List<?> places = (List<?>) page.evaluate(TOUCHED);
        List<?> at = (List<?>) places.get(random.nextInt(places.size()));
        page.mouse().click(number(at.get(0)), number(at.get(1)));
        stage.run(random.nextInt(4) * 50 + 20);
      }
      all.assertThat(page.locator("#run").isVisible()).as("stop at %s", size.name()).isTrue();
      for (int i = 0; i < 8; i++) {
        stage.press("Escape");
      }
      all.assertThat(page.locator("dialog[open]").count()).as(size.name()).isZero();
      boolean rolled = (boolean) page.evaluate("() => ancora.state.transport.rolling");
      stage.press("Space");
      stage.until("ancora.state.transport.rolling !== " + rolled);
    }
    all.assertAll();
  }

  private static double number(Object value) {
    return ((Number) value).doubleValue();
  }

  private static void nothingIsMissing(HeldStage stage) {
    SoftAssertions all = new SoftAssertions();
    for (Size size : SIZES) {
      stage.page().setViewportSize(size.wide(), size.high());
      stage.run(300);
      all.assertThat((List<?>) stage.page().evaluate(MISSING)).as(size.name()).isEmpty();
    }
    all.assertAll();
  }
}
