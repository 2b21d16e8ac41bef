package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Shows and sounds are chosen; and what happens when there is no sound. */
class ChoosingTest extends DemoNight {

  @Test
  void aSoundIsChosenByEarAndNeverReplacedUnasked() {
    Page page = hand.page(house, "/shows/1", false);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("o");
    assertThat(page.locator("#sounds-dialog")).isVisible();
    // one is found by many: the bell that tinkles too; what the show has already stands first
    page.keyboard().type("bells");
    assertThat(page.locator(".soundchoice:visible"))
        .hasText(new String[] {"Tubular Bells", "Tubular Bells", "Tinkle Bell"});
    page.keyboard().type(" tub");
    page.locator(".soundchoice:visible").last().click();
    assertThat(page.locator("#sound-favourite")).hasText("a favourite");
    assertThat(page.locator("#sound-keep")).hasText("Replace the sound of Kit");
    page.locator("#sound-keep").click();
    assertThat(page.locator(".soundname").first()).hasText("Tubular Bells");
  }

  /**
   * By arrows alone, while the loop sounds: it goes on with each, and is as it was where none is
   * chosen.
   */
  @Test
  void soundsAreTriedInTheLoopItself() {
    Page page = hand.stage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'start' })");
    page.waitForFunction("() => ancora.state.parts.get(2).vamp");
    page.evaluate(
        """
        () => {
          globalThis.tries = [];
          const { port } = ancora.sound.node;
          const post = port.postMessage.bind(port);
          port.postMessage = (message, ...more) => {
            if ("tries" in message) tries.push(message.tries);
            post(message, ...more);
          };
        }""");
    page.evaluate("() => ancora.connection.do({ do: 'arm', part: 2 })");
    page.waitForFunction("() => ancora.state.armed === 2");
    page.keyboard().press("o");
    page.keyboard().press("ArrowDown");
    page.keyboard().press("ArrowDown");
    assertThat(page.locator("#sounds-words")).containsText("Bass goes on with");
    page.keyboard().press("Escape");
    page.waitForFunction("() => tries.length === 3 && tries[2] === null");
    page.keyboard().press("o");
    page.keyboard().press("ArrowUp");
    page.keyboard().press("Enter");
    page.waitForFunction(
        "() => ancora.state.parts.get(2).sound.program === tries[3].sound.program");
    page.waitForFunction("() => tries.length === 5 && tries[4] === null");
  }

  static Stream<Arguments> lacking() {
    String noStorage =
        "for (const name of ['localStorage', 'sessionStorage']) Object.defineProperty(globalThis, name,"
            + " { get() { throw new DOMException('denied', 'SecurityError'); } });";
    return Stream.of(
        Arguments.of(
            "globalThis.AudioContext = class { constructor() { throw new Error('no output'); } }",
            "There is no sound: no output."),
        Arguments.of(
            "Object.defineProperty(AudioContext.prototype, 'audioWorklet', { value: undefined })",
            "There is no sound: this browser has no audio thread here; use another one"),
        Arguments.of(
            "const had = fetch; globalThis.fetch = (what, ...more) => String(what).endsWith('.sf3')"
                + " ? Promise.resolve(new Response('', { status: 404 })) : had(what, ...more)",
            "There is no sound: the house does not give its sound bank"),
        Arguments.of("delete Navigator.prototype.requestMIDIAccess", "No MIDI devices here"),
        Arguments.of("delete globalThis.crypto.randomUUID", ""),
        Arguments.of(noStorage, ""));
  }

  /** What a browser lacks, or does not allow, is said in a sentence, and the rest works. */
  @ParameterizedTest
  @MethodSource("lacking")
  void whatIsLackingIsSaidAndTheRestGoesOn(String lacking, String said) {
    Page page = hand.page(house, "/shows/1", false);
    page.addInitScript(lacking);
    page.reload();
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Space");
    assertThat(page.locator("#word")).containsText(said);
    assertThat(page.locator(".statewords .state").first()).hasText("VAMP");
  }

  @Test
  void showsAreMadeRenamedDeletedAndPutBack() {
    Page page = hand.page(house, "/", false);
    assertThat(page.locator(".show-card")).hasCount(2);
    press(page, "Delete", 1);
    press(page, "Rename", 0);
    page.getByLabel("New name").fill("Lamp Room");
    page.getByLabel("New name").press("Enter");
    assertThat(page.locator(".showname")).hasText("Lamp Room");
    press(page, "Delete", 0);
    assertThat(page.locator(".show-card")).hasCount(0);
    assertThat(page.locator(".shows")).containsText("No show yet");
    page.getByText("Put it back").first().click();
    assertThat(page.locator(".show-card")).hasCount(1);
    assertThat(page.locator(".form-line em")).hasCount(2);
    // and the one that was deleted before it, from the list of those
    page.getByText("Deleted shows").click();
    page.getByText("Put it back").click();
    assertThat(page.locator(".show-card")).hasCount(2);
  }

  private static void press(Page page, String words, int which) {
    page.getByText(words, new Page.GetByTextOptions().setExact(true)).nth(which).click();
  }
}
