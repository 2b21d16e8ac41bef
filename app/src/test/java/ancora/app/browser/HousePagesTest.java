package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Several pages of one show, and pages that something befalls. */
class HousePagesTest {

  @TempDir static Path data;
  private static House house;
  private Stagehand hand;
  private long show;

  @BeforeAll
  static void open() {
    house = House.open(data);
  }

  @AfterAll
  static void close() {
    house.close();
  }

  @BeforeEach
  void begin() {
    hand = new Stagehand();
    show =
        house
            .bean(ShowStore.class)
            .add(
                Show.named("Two windows")
                    .withNewPart("Kit", Sound.STANDARD_KIT)
                    .withNewPart("Bass", Sound.of(33)),
                false);
  }

  @AfterEach
  void end() {
    assertThat(hand.faults()).isEmpty();
    hand.close();
  }

  /**
   * The Stage is had in a dozen requests besides the sound bank; what the build laid for it is kept
   * by the browser for good and sent packed.
   */
  @Test
  void theStageIsLoadedByAFewRequests() {
    List<Response> had = new ArrayList<>();
    Page page = hand.stage(house, show);
    page.onResponse(had::add);
    page.reload();
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Shift");
    page.waitForFunction("() => ancora.sound.isOn && ancora.sound.delay !== null");
    List<Response> built = had.stream().filter(r -> r.url().contains("/built/")).toList();
    List<Response> packed = built.stream().filter(r -> r.url().matches(".*(js|css)")).toList();
    assertThat(had.stream().filter(r -> !r.url().endsWith(".sf3"))).hasSizeBetween(5, 12);
    assertThat(packed).hasSizeGreaterThan(3);
    assertThat(packed).allMatch(r -> r.allHeaders().get("content-encoding").matches("gzip|br"));
    assertThat(built).allMatch(r -> r.url().matches(".*-[0-9a-f]{32}[.][a-z0-9]+"));
    assertThat(built)
        .allMatch(r -> r.allHeaders().getOrDefault("cache-control", "none").contains("immutable"));
  }

  /** A pedal that both pages hear counts once: on the page that has the sound. */
  @Test
  void whatIsPlayedCountsOnOnePageAlone() {
    Page one = hand.stage(house, show);
    Page two = hand.page(house, "/shows/" + show, false);
    two.waitForFunction("() => globalThis.ancora?.connection.open");
    two.keyboard().press("Shift");
    assertThat(two.locator("#sound-lamp")).hasText("the sound is on the other page · take it here");
    assertThat(one.locator("#sound-lamp")).isHidden();
    for (Page page : new Page[] {one, two}) {
      page.evaluate("() => ancora.hub.receive('pads', [0x99, 36, 90], performance.now())");
    }
    assertThat(two.locator("#word")).containsText("does not count");
    assertThat(one.evaluate("() => ancora.hub.down.size")).isEqualTo(1);
    assertThat(two.evaluate("() => ancora.hub.down.size")).isEqualTo(0);

    two.locator("#sound-lamp").click();
    two.waitForFunction("() => ancora.who.isHere && ancora.sound.isOn");
    assertThat(two.locator("#sound-lamp")).isHidden();
    assertThat(one.locator("#sound-lamp")).hasText("the sound is on the other page · take it here");
    one.waitForFunction("() => ancora.hub.down.size === 0 && !ancora.sound.isOn");

    two.close();
    assertThat(one.locator("#sound-lamp")).hasText("no page has the sound · take it here");
    one.locator("#sound-lamp").click();
    one.waitForFunction("() => ancora.who.isHere && ancora.sound.isOn");
  }

  /** The page that has the sound is reloaded: it is the one that has it again. */
  @Test
  void aReloadTakesTheSoundAlong() {
    Page one = hand.stage(house, show);
    Page two = hand.page(house, "/shows/" + show, false);
    two.waitForFunction("() => globalThis.ancora?.connection.open");
    one.reload();
    one.waitForFunction("() => globalThis.ancora?.who.isHere");
    assertThat(two.evaluate("() => ancora.who.isHere")).isEqualTo(false);
  }

  @Test
  void anAudioThreadThatDiesIsBegunAnew() {
    Page page = hand.stage(house, show);
    page.evaluate("() => { ancora.sound.node.onprocessorerror(new Event('processorerror')); }");
    assertThat(page.locator("#word")).containsText("begun anew");
    page.evaluate(
        """
        () => {
          globalThis.loudest = 0;
          ancora.sound.addEventListener("levels", ({ detail: { output } }) => {
            globalThis.loudest = Math.max(globalThis.loudest, output);
          });
        }""");
    page.waitForFunction(
        """
        () => {
          ancora.hub.receive("pads", [0x99, 38, 120], performance.now());
          ancora.hub.receive("pads", [0x89, 38, 0], performance.now());
          return globalThis.loudest > 0.05;
        }""",
        null,
        new Page.WaitForFunctionOptions().setPollingInterval(300));
  }

  /** Parts that come and go for a whole night leave those that stay alone. */
  @Test
  void moreThanSixteenPartsInOneNight() {
    Page page = hand.stage(house, show);
    page.evaluate("() => { globalThis.first = ancora.sound.mixer.strips.get(1); }");
    page.evaluate(
        """
        async () => {
          const { connection, state, sound } = ancora;
          const wait = (millis) => new Promise((done) => setTimeout(done, millis));
          for (let i = 0; i < 24; i++) {
            connection.do({ do: "addPart", name: `Guest ${i}`, drums: false, program: 12 });
            while (state.order.length < 3) await wait(10);
            connection.do({ do: "deletePart", part: state.order[2] });
            while (state.order.length > 2) await wait(10);
          }
          await wait(300);
        }""");
    assertThat(page.evaluate("() => ancora.sound.mixer.strips.size")).isEqualTo(2);
    assertThat(page.evaluate("() => ancora.sound.mixer.strips.get(1) === globalThis.first"))
        .isEqualTo(true);
  }

  /** A link opens beside the page, and the keys that reload it do not, while the music plays. */
  @Test
  void nothingLeavesThePageWhileItRolls() {
    Page page = hand.stage(house, show);
    page.evaluate("() => ancora.connection.do({ do: 'start' })");
    page.waitForFunction("() => ancora.state.transport.rolling");
    page.evaluate("() => { globalThis.here = true; }");
    page.keyboard().press("F5");
    assertThat(page.locator("#word")).containsText("stop it first");
    Page beside = page.context().waitForPage(() -> page.locator(".wordline a").click());
    beside.close();
    assertThat(page.evaluate("() => globalThis.here && ancora.state.transport.rolling"))
        .isEqualTo(true);
    page.evaluate("() => ancora.connection.do({ do: 'stop' })");
  }

  /**
   * A page that is still connecting shows the show as it was saved, and says that it is not there
   * yet.
   */
  @Test
  void beforeTheHostAnswersTheShowIsShownAsItWasSaved() {
    Page page = hand.page(house, "/", false);
    page.addInitScript("globalThis.WebSocket = class extends EventTarget { close() {} };");
    page.navigate(house.url("/shows/" + show));
    assertThat(page.locator(".stave")).hasCount(2);
    assertThat(page.locator(".parts")).containsText("Bass");
    assertThat(page.locator("body")).hasClass("connecting");
    assertThat(page.locator("#line-lamp")).hasText("connecting …");
  }

  /** What has no answer is said, until there is one. */
  @Test
  void aCommandWithoutAnAnswerIsSaid() {
    Page page = hand.stage(house, show);
    page.evaluate(
        """
        () => {
          const { socket } = ancora.connection;
          globalThis.real = socket.send.bind(socket);
          globalThis.kept = [];
          socket.send = (text) => (text.includes('"do"') ? globalThis.kept.push(text) : globalThis.real(text));
          ancora.connection.do({ do: "setTempo", bpm: 93 });
        }""");
    assertThat(page.locator("#line-lamp")).containsText("no answer");
    page.evaluate("() => globalThis.kept.forEach(globalThis.real)");
    assertThat(page.locator("#line-lamp")).hasText("");
  }
}
