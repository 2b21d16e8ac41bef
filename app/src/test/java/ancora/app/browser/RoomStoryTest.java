package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.safety.Invitation;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Others in the room: the performer's own phone is the footboard, somebody else watches. */
class RoomStoryTest {

  /** Another address of this machine, as far as a browser knows another one. */
  private static final String ADDRESS = "https://127.0.0.2:";

  @TempDir Path data;
  private House house;
  private Stagehand hand;
  private long show;

  private void open(String... more) {
    house = House.open(data, more);
    show =
        house
            .bean(ShowStore.class)
            .add(Show.named("Gale").withNewPart("Kit", Sound.STANDARD_KIT), false);
  }

  @BeforeEach
  void begin() {
    hand = new Stagehand();
  }

  @AfterEach
  void end() {
    assertThat(hand.faults()).isEmpty();
    hand.close();
    house.close();
  }

  private String phrase(String role) throws IOException {
    return Files.readAllLines(data.resolve("pass-phrases.txt")).stream()
        .filter(line -> line.startsWith(role + ": "))
        .map(line -> line.substring(role.length() + 2))
        .findFirst()
        .orElseThrow();
  }

  private String room(String address, String path) {
    return address + house.bean(Invitation.class).port() + path;
  }

  private static void say(Page page, String phrase) {
    page.getByLabel("Pass phrase").fill(phrase);
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Come in")).click();
  }

  private static Locator pedal(Page board) {
    return board.locator("#footboard .pedal.main").first();
  }

  @Test
  void aPhoneIsTheFootboardAndAnotherOneWatches() throws IOException {
    open("--ancora.listen=0");
    Page stage = hand.stage(house, show);
    Page board = hand.inTheRoom(room(ADDRESS, "/shows/" + show + "?view=footboard"), 390, 844);
    say(board, "lantern oar mist bell");
    assertThat(board.getByRole(AriaRole.ALERT)).containsText("not one of the two pass phrases");
    // in capitals, as phones begin a line
    say(board, phrase("perform").toUpperCase(java.util.Locale.ROOT));
    board.waitForFunction("() => globalThis.ancora?.connection.open");
    assertThat(board).hasURL(room(ADDRESS, "/shows/" + show + "?view=footboard"));
    Page watch = hand.inTheRoom(room(ADDRESS, "/"), 390, 844);
    say(watch, phrase("watch"));
    watch.getByText("Gale").click();
    assertThat(watch.locator("#watch")).containsText("stands still");

    pedal(board).tap();
    stage.waitForFunction("() => ancora.state.transport.rolling");
    assertThat(watch.locator("#watch")).not().containsText("stands still");
    for (Page page : List.of(board, watch)) {
      assertThat((boolean) page.evaluate("() => document.documentElement.scrollWidth <= 390"))
          .isTrue();
    }
  }

  /**
   * The house is ended, the phrases are made anew, and it is started: a page that was in says so.
   */
  @Test
  void aPageThatIsNotKnownAnyMoreSaysSo() throws IOException {
    open("--ancora.listen=0");
    Page board = hand.inTheRoom(room(ADDRESS, "/shows/" + show), 1280, 800);
    say(board, phrase("perform"));
    board.waitForFunction("() => globalThis.ancora?.connection.open");
    int port = house.bean(Invitation.class).port();
    house.close();
    Files.delete(data.resolve("pass-phrases.txt"));
    house = House.open(data, "--ancora.listen=" + port);
    assertThat(board.locator("#line-lamp")).containsText("say the pass phrase again");
    board.reload();
    say(board, phrase("perform"));
    board.waitForFunction("() => globalThis.ancora?.connection.open");
  }

  @Test
  void withoutTlsAllWorksButSoundAndDevicesAndThePageSaysSo() throws IOException {
    open("--ancora.listen=0", "--ancora.plain=true", "--ancora.host-names=lamp.house");
    Page stage = hand.inTheRoom(room("http://lamp.house:", "/shows/" + show), 1280, 800);
    say(stage, phrase("perform"));
    stage.waitForFunction("() => globalThis.ancora?.connection.open");
    assertThat((boolean) stage.evaluate("() => isSecureContext")).isFalse();
    assertThat(stage.locator("#word")).containsText("By plain http there is no sound here");
    assertThat(stage.locator("#sound-lamp")).containsText("no sound on this page");
    // it does not take from another page what it has no use for
    Page own = hand.stage(house, show);
    stage.keyboard().press("Shift");
    assertThat((boolean) own.evaluate("() => ancora.who.isHere && ancora.sound.isOn")).isTrue();
    Page board =
        hand.inTheRoom(room("http://lamp.house:", "/shows/" + show + "?view=footboard"), 390, 844);
    say(board, phrase("perform"));
    board.waitForFunction("() => globalThis.ancora?.connection.open");
    pedal(board).tap();
    stage.waitForFunction("() => ancora.state.transport.rolling");
  }

  /** What others need stands on this machine's list of shows, and not on theirs. */
  @Test
  void theInvitationIsOnTheListOfThisMachine() throws IOException {
    open("--ancora.listen=0");
    Page list = hand.page(house, "/", false);
    boolean isOnANetwork = house.bean(Invitation.class).card().isPresent();
    if (isOnANetwork) {
      list.getByText("Others in the room").click();
      assertThat(list.locator(".invitation")).containsText(phrase("watch"));
      assertThat(list.locator(".invitation .code")).isVisible();
    } else {
      assertThat(list.locator("main")).containsText("this machine is on no network");
    }
  }

  /** A name that was typed long ago is not lost, whatever became of the house meanwhile. */
  @Test
  void aListThatWasLeftOpenIsGoodAfterAStart() throws IOException {
    open();
    Page list = hand.page(house, "/", false);
    list.getByLabel("Name of a new show").fill("Squall");
    int port = house.port();
    house.close();
    house = House.open(data, "--ancora.port=" + port);
    list.getByLabel("Name of a new show").press("Enter");
    list.waitForFunction("() => globalThis.ancora?.connection.open");
    assertThat(list).hasTitle(java.util.regex.Pattern.compile("Squall"));
  }
}
