package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.note.InputKey;
import ancora.core.rules.hands.HandCommand;
import org.junit.jupiter.api.Test;

/** Who has the sound while lines come and go, and what is let go of by pages that went. */
class PagesTest {

  private static final long SECOND = 1_000_000;
  private static final InputKey KEY = new InputKey("pads", 9, 36);

  private final Pages pages = new Pages(0);

  private Page enter(String client, boolean had, long now) {
    Page page = Told.page(client, client + " at " + now, had);
    pages.enter(page, name -> false, now);
    return page;
  }

  private String holder() {
    return pages.holder().orElse("nobody");
  }

  @Test
  void theSoundStaysWhereItIsWhenTheLineComesBack() {
    Page one = enter("one", false, 0);
    pages.takeIfFree(one, 0);
    Page two = enter("two", false, 0);
    pages.leave(one, false, 5 * SECOND);
    pages.takeIfFree(two, 6 * SECOND);
    assertThat(holder()).as("it is kept for the other").isEqualTo("nobody");
    enter("one", true, 8 * SECOND);
    assertThat(holder()).isEqualTo("one");
  }

  @Test
  void itIsKeptForHalfAMinute() {
    Page one = enter("one", false, 0);
    pages.takeIfFree(one, 0);
    Page two = enter("two", false, 0);
    pages.leave(one, false, 5 * SECOND);
    pages.takeIfFree(two, 36 * SECOND);
    assertThat(holder()).isEqualTo("two");
    enter("one", true, 37 * SECOND);
    assertThat(holder()).as("it was away for too long").isEqualTo("two");
  }

  @Test
  void whoeverTakesItHasIt() {
    Page one = enter("one", false, 0);
    pages.takeIfFree(one, 0);
    Page two = enter("two", false, 0);
    pages.leave(one, false, 5 * SECOND);
    pages.take(two);
    enter("one", true, 6 * SECOND);
    assertThat(holder()).isEqualTo("two");
  }

  @Test
  void whoWentOfItsOwnAccordLeavesItToOthers() {
    Page one = enter("one", false, 0);
    pages.takeIfFree(one, 0);
    pages.leave(one, true, 5 * SECOND);
    pages.takeIfFree(enter("two", false, 6 * SECOND), 6 * SECOND);
    assertThat(holder()).isEqualTo("two");
  }

  /**
   * After a restart the house knows nobody: the page that had it says so, even if it comes last.
   */
  @Test
  void itStaysOverARestart() {
    Pages anew = new Pages(100 * SECOND);
    Page two = Told.page("two", "b", false);
    anew.enter(two, name -> true, 101 * SECOND);
    anew.takeIfFree(two, 101 * SECOND);
    anew.enter(Told.page("one", "a", true), name -> true, 102 * SECOND);
    assertThat(anew.holder()).contains("one");
  }

  @Test
  void whatAReloadHeldIsLetGo() {
    Page before = enter("one", false, 0);
    pages.heldBy(before.instance()).after(new HandCommand.KeyDown(KEY, 90));
    pages.leave(before, true, SECOND);
    enter("one", false, 2 * SECOND);
    assertThat(pages.letGo(before.instance())).containsExactly(new HandCommand.KeyUp(KEY));
  }

  @Test
  void whatAPageHoldsThatIsBackAsItWasIsHeldOn() {
    Page before = enter("one", false, 0);
    pages.heldBy(before.instance()).after(new HandCommand.KeyDown(KEY, 90));
    pages.leave(before, false, SECOND);
    pages.enter(Told.page("one", before.instance(), true), name -> true, 2 * SECOND);
    assertThat(pages.letGo(before.instance())).isEmpty();
  }

  @Test
  void whatAnotherHoldsTooStays() {
    Page before = enter("one", false, 0);
    pages.heldBy(before.instance()).after(new HandCommand.KeyDown(KEY, 90));
    pages.leave(before, true, SECOND);
    Page again = enter("one", false, 2 * SECOND);
    pages.heldBy(again.instance()).after(new HandCommand.KeyDown(KEY, 90));
    assertThat(pages.letGo(before.instance())).isEmpty();
  }
}
