package ancora.app.browser;

import static ancora.app.browser.Stagehand.untilTick;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;

/** With stand-in devices in a second window: a piece by pedals and pads alone. */
class HandsFreeTest extends DemoNight {

  private static Locator pedal(Page devices, int number) {
    return devices.locator("#board .pedal").nth(number - 1);
  }

  /** What the footboard says that a pedal does next. */
  private static Locator words(Page page, String action) {
    return page.locator("[data-action=" + action + "] b");
  }

  /** A press that is over before it would be a long one. */
  private static void press(Page devices, int number) {
    pedal(devices, number).click();
  }

  private static void hold(Page devices, int number) {
    pedal(devices, number).hover();
    devices.mouse().down();
    devices.waitForTimeout(650);
    devices.mouse().up();
  }

  @Test
  void aLoopIsMadeWithPedalsAndPadsAlone() {
    Page first = hand.page(house, "/", false);
    first.getByLabel("Name of a new show").fill("Harbour");
    first.getByLabel("Name of a new show").press("Enter");
    first.waitForFunction("() => globalThis.ancora?.state.show");
    String path = first.url().replaceFirst("^.*?(?=/shows)", "");
    first.keyboard().press("Shift");
    first.waitForFunction(
        "() => ancora.sound.isOn && ancora.state.holder === ancora.connection.client");
    first.evaluate(
        "() => ancora.connection.do({ do: 'setRecording', ...ancora.state.show.recording, countInBars: 0 })");
    Page devices = hand.page(house, path + "/devices", false);
    assertThat(devices.locator("#line")).hasText("");
    Page board = hand.page(house, path + "?view=footboard", false);
    assertThat(words(board, "MAIN")).hasText("start, then record Kit");

    // a short press, awaited for what else it might be, still counts from when the foot came down
    press(devices, 1);
    untilTick(first, 700);
    devices.getByText("Bass Drum 1").click();
    untilTick(first, 2600);
    press(devices, 1);
    assertThat(first.locator(".statewords .state")).hasText("VAMP");
    assertThat(words(board, "MAIN")).hasText("add to Kit a");
    Object notes =
        first.evaluate(
            "() => [...ancora.state.clips.values()][0].layers[0].notes.map((n) => n[1])");
    assertThat(notes.toString()).isEqualTo("[36]");

    press(devices, 1);
    assertThat(first.locator(".statewords .state")).hasText("OVERDUB");
    devices.getByText("Acoustic Snare").click();
    assertThat(words(board, "PEEL")).containsText("take off layer 2");
    hold(devices, 1);
    first.waitForFunction("() => [...ancora.state.clips.values()][0].layers.length === 1");
    press(devices, 6);
    assertThat(first.locator(".statewords .state")).hasText("READY");

    // a control is taught, kept, and does what it is taught
    first.locator("#setup").click();
    first.locator("[data-tab=controls]").click();
    first.locator("#teach-action").selectOption("CLICK");
    first.locator("#teach").click();
    press(devices, 3);
    assertThat(first.locator("#teach-words")).containsText("given anew");
    first.locator("#setup-dialog [data-close]").click();
    assertThat(first.locator("#click")).hasText("click on");
    press(devices, 3);
    assertThat(first.locator("#click")).hasText("click off");
    first.reload();
    first.waitForFunction("() => globalThis.ancora?.state.show");
    assertThat(
            first
                .evaluate(
                    "() => ancora.controls.map.assignments.filter((a) => a.action === 'CLICK').length")
                .toString())
        .isEqualTo("1");
  }

  /**
   * Web MIDI through a stand-in behind requestMIDIAccess: refused, and a device that goes and
   * comes.
   */
  @Test
  void aMidiDeviceComesAndGoes() {
    Page page = hand.page(house, "/shows/1", false);
    page.addInitScript(
        """
        navigator.requestMIDIAccess = async () => {
          const access = new EventTarget();
          access.inputs = new Map();
          access.outputs = new Map();
          globalThis.plug = (id, name) => {
            access.inputs.set(id, { id, name, state: "connected" });
            access.dispatchEvent(new Event("statechange"));
          };
          globalThis.unplug = (id) => {
            access.inputs.delete(id);
            access.dispatchEvent(new Event("statechange"));
          };
          globalThis.midi = (id, bytes) =>
            access.inputs.get(id).onmidimessage({ data: new Uint8Array(bytes), timeStamp: performance.now() });
          return access;
        };""");
    page.reload();
    page.waitForFunction("() => globalThis.ancora?.state.show");
    page.keyboard().press("Shift");
    page.waitForFunction("() => globalThis.plug");
    page.evaluate("() => plug('one', 'Quay keys')");
    assertThat(page.locator("#midi-lamp")).hasText("Quay keys");
    page.evaluate("() => midi('one', [0x90, 60, 90, 64, 91])");
    page.waitForFunction("() => ancora.hub.down.size === 2");
    page.evaluate("() => unplug('one')");
    assertThat(page.locator("#midi-lamp")).hasText("");
    page.waitForFunction("() => ancora.hub.down.size === 0");
    page.evaluate("() => plug('one', 'Quay keys')");
    page.evaluate("() => midi('one', [0x90, 60, 90])");
    page.waitForFunction("() => ancora.hub.down.size === 1");
    Page refused = hand.page(house, "/shows/1", false);
    refused.addInitScript(
        "navigator.requestMIDIAccess = async () => { throw new DOMException('no', 'NotAllowedError'); };");
    refused.reload();
    refused.waitForFunction("() => globalThis.ancora?.state.show");
    refused.keyboard().press("Shift");
    assertThat(refused.locator("#midi-lamp")).hasText("no MIDI");
    assertThat(refused.locator("#word")).containsText("allow them in the browser");
  }
}
