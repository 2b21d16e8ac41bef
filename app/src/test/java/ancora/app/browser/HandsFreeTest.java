package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.app.PageStandIn;
import ancora.app.journal.CoreJson;
import ancora.core.catalogue.Catalogue;
import ancora.core.control.Assignment;
import ancora.core.control.Control;
import ancora.core.control.ReadyMap;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** With stand-in devices in a second window: a piece by pedals and pads alone. */
class HandsFreeTest extends HeldNight {

  private HeldStage stage;

  private static Locator pedal(Page devices, int number) {
    return devices.locator("#board .pedal").nth(number - 1);
  }

  /** What the footboard says that a pedal does next. */
  private static Locator words(Page page, String command) {
    return page.locator("[data-does=" + command + "] b");
  }

  /** A press that is over before it would be a long one. */
  private void press(Page devices, int number) {
    pedal(devices, number).click();
    stage.run(2 * HeldStage.STEP);
  }

  private void hold(Page devices, int number) {
    pedal(devices, number).hover();
    devices.mouse().down();
    stage.run(650);
    devices.mouse().up();
    stage.run(2 * HeldStage.STEP);
  }

  @Test
  void aLoopIsMadeWithPedalsAndPadsAlone() {
    stage = HeldStage.of(hand, house, "/");
    Page first = stage.page();
    first.getByLabel("Name of a new show").fill("Harbour");
    first.getByLabel("Name of a new show").press("Enter");
    stage.until("globalThis.ancora?.connection.open");
    String path = first.url().replaceFirst("^.*?(?=/shows)", "");
    stage.soundsOn();
    stage.send("{ do: 'setRecording', ...ancora.state.show.recording, countInBars: 0 }");
    Page devices = stage.also(path + "/devices");
    stage.soon(() -> assertThat(devices.locator("#line")).hasText(""));
    Page board = stage.also(path + "?view=footboard");
    stage.soon(() -> assertThat(words(board, "mainPress")).hasText("start, then record Kit"));

    // a short press, awaited for what else it might be, still counts from when the foot came down
    press(devices, 1);
    stage.untilTick(700);
    stage.click(devices.getByText("Bass Drum 1"));
    stage.untilTick(2600);
    press(devices, 1);
    stage.soon(() -> assertThat(first.locator(".statewords .state")).hasText("VAMP"));
    stage.soon(() -> assertThat(words(board, "mainPress")).hasText("add to Kit a"));
    Object notes =
        first.evaluate(
            "() => [...ancora.state.clips.values()][0].layers[0].notes.map((n) => n[1])");
    assertThat(notes.toString()).isEqualTo("[36]");

    press(devices, 1);
    stage.soon(() -> assertThat(first.locator(".statewords .state")).hasText("OVERDUB"));
    stage.click(devices.getByText("Acoustic Snare"));
    stage.soon(() -> assertThat(words(board, "peel")).containsText("take off layer 2"));
    hold(devices, 1);
    stage.until("[...ancora.state.clips.values()][0].layers.length === 1");
    press(devices, 6);
    stage.soon(() -> assertThat(first.locator(".statewords .state")).hasText("READY"));

    // a control is taught, kept, and does what it is taught
    stage.click(first.locator("#setup"));
    stage.click(first.locator("[data-tab=controls]"));
    first.locator("#teach-word").fill("click, ");
    first.locator("#teach-found").selectOption("0");
    stage.click(first.locator("#teach"));
    press(devices, 3);
    stage.soon(
        () ->
            assertThat(first.locator("#teach-words"))
                .containsText("stands for “cue the next section” already"));
    stage.click(first.locator("#teach-leave"));
    stage.click(first.locator("#teach"));
    press(devices, 3);
    stage.click(first.locator("#teach-anew"));
    stage.soon(
        () ->
            assertThat(first.locator("#teach-words"))
                .containsText("stands for “click, on and off”"));
    first.locator("#controls-name").fill("Harbour feet");
    first.locator("#controls-name").press("Enter");
    stage.click(first.locator("#setup-dialog [data-close]"));
    stage.soon(() -> assertThat(first.locator("#click")).hasText("click on"));
    press(devices, 3);
    stage.soon(() -> assertThat(first.locator("#click")).hasText("click off"));
    first.reload();
    stage.until("globalThis.ancora?.connection.open");
    assertThat(
            first
                .evaluate(
                    "() => ancora.controls.map.assignments.filter((a) => a.command.do === 'setClick').length")
                .toString())
        .as("the pedal, and the key")
        .isEqualTo("2");
    stage.click(first.locator("#setup"));
    stage.click(first.locator("[data-tab=controls]"));
    stage.soon(() -> assertThat(first.locator("#controls-name")).hasValue("Harbour feet"));
    stage.click(first.locator("#controls-ready"));
    stage.click(first.locator("#controls-ready-yes"));
    stage.soon(() -> assertThat(first.locator("#controls-name")).hasValue("stand-in devices"));
    stage.soon(() -> assertThat(words(first, "cueSection")).hasText("the form has no sections"));
  }

  /** Notes of a clip of a part, as [pitch, place], by pitch and place. */
  private static Object notes(Page page, String part, String letter) {
    return page.evaluate(
        """
        ([name, letter]) => {
          const part = [...ancora.state.parts.values()].find((p) => p.name === name);
          const clip = part.shelf.map((id) => ancora.state.clips.get(id)).find((c) => c.letter === letter);
          return clip.layers
            .flatMap(({ notes }) => notes.map(([, pitch, , meant]) => [pitch, meant - clip.start]))
            .sort(([a, b], [c, d]) => a - c || b - d);
        }""",
        List.of(part, letter));
  }

  private static List<List<Integer>> meant(int pitch, int... places) {
    return IntStream.of(places).mapToObj(place -> List.of(pitch, place)).toList();
  }

  /**
   * Most of a minute of the first piece, by bytes of stand-in devices alone: the kit is sent tacet,
   * recorded anew, added to, peeled, restored, erased, repeated, handed off, and a section is cued.
   * The show's notes are what the script meant.
   */
  @Test
  void aPieceIsPlayedByDevicesAlone() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.send("{ do: 'setTempo', bpm: 140 }");
    PageStandIn devices = stage.devices();
    Assignment repeat =
        new Assignment(
            new Control(DevicePlayer.PADS, Control.Kind.NOTE, 9, 49),
            Assignment.Gesture.SHORT,
            Catalogue.named("note repeat on {grid}, {on}").usual());
    JsonNode taught = CoreJson.write(repeat);
    devices.say("{\"controls\":{\"teach\":[" + taught + "]}}");
    stage.until("ancora.controls.map.assignments.length > " + ReadyMap.ALL.assignments().size());
    long start = stage.micros();
    new DevicePlayer().press(6, 0).perform(stage, devices, tick -> start + tick * 650);
    stage.until("ancora.state.map");
    List<?> anchor = (List<?>) page.evaluate("() => ancora.state.map.anchors[0]");
    double first = ((Number) anchor.get(1)).doubleValue();
    double perTick = ((Number) anchor.get(2)).doubleValue();
    script().perform(stage, devices, tick -> Math.round(first + tick * perTick));
    stage.until("!ancora.state.transport.rolling");
    List<List<Integer>> loop = new ArrayList<>(meant(36, 0, 1920, 3840, 5760));
    loop.addAll(meant(38, 4800, 6720));
    loop.addAll(meant(39, 1920, 2160, 2400, 2640));
    loop.addAll(meant(42, 1920, 2400, 2880, 3360, 3840, 4320));
    assertThat(notes(page, "Kit", "d")).isEqualTo(loop);
    List<List<Integer>> handedOff = new ArrayList<>(meant(36, 0));
    handedOff.addAll(meant(38, 960));
    assertThat(notes(page, "Kit 2", "a")).isEqualTo(handedOff);
    assertThat(page.evaluate("() => ancora.state.form.now")).isEqualTo(61);
    stage.soon(() -> assertThat(page.locator("#word")).not().hasClass("bad"));
  }

  private static DevicePlayer script() {
    DevicePlayer player = new DevicePlayer();
    player.pressTwice(1, 960); // the kit is tacet from bar 2 on
    player.press(1, 3840 + 1920); // and recorded anew from bar 3 on
    long loop = 7680;
    player.hit(36, loop - 20).hit(38, loop + 960 + 12).hit(36, loop + 1920 - 9);
    player.hit(38, loop + 2880 + 4).hit(36, loop + 3840 + 15).hit(38, loop + 4800 - 14);
    player.hit(36, loop + 5760).hit(38, loop + 6720 + 8);
    player.press(1, loop + 7680 - 400); // closed after two bars
    long second = loop + 7680;
    player.press(1, second + 960); // added to
    for (int i = 0; i < 6; i++) {
      player.hit(42, second + 1920 + 480 * i + (i % 2 == 0 ? 10 : -10));
    }
    player.press(1, second + 6640);
    long third = second + 7680;
    player.press(2, third + 400); // the hats peeled
    player.hold(2, third + 1960, third + 3460); // and put back
    long fourth = third + 7680;
    player.hold(4, fourth - 100, fourth + 3740); // snares of the first bar erased
    player.holdPad(38, fourth - 80, fourth + 3700);
    player.hit(49, fourth + 4200); // note repeat on
    long fifth = fourth + 7680;
    player.press(1, fifth - 300); // added to: claps on four sixteenths
    player.holdPad(39, fifth + 1890, fifth + 2870);
    player.hit(49, fifth + 3600); // note repeat off
    player.press(5, fifth + 4600); // handed off from the next bar on
    long handedOff = fifth + 7680;
    player.hit(36, handedOff + 5).hit(38, handedOff + 954);
    player.press(1, handedOff + 3820); // closed after one bar
    player.press(3, handedOff + 4920); // the first section, at the next bar
    return player.press(6, handedOff + 11520);
  }

  /**
   * A part sounds on a device behind a stand-in for Web MIDI, with MIDI clock. What it is sent is
   * due when the plan says; MIDI 1.0 has 24 clocks a quarter note, at 96 that is 26.04 ms.
   */
  @Test
  void aPartSoundsOutsideWithClock() {
    stage = HeldStage.listenedTo(hand, house, "/shows/1/setup");
    Page page = stage.page();
    page.addInitScript(
        """
        globalThis.sent = [];
        const send = (bytes, at) =>
          sent.push([[...bytes], at ?? performance.now(), globalThis.ancora?.clock.own(0)]);
        navigator.requestMIDIAccess = async () => {
          const access = new EventTarget();
          access.inputs = new Map();
          access.outputs = new Map([["box", { id: "box", name: "Harbour box", state: "connected", send }]]);
          globalThis.unplug = () => {
            access.outputs.clear();
            access.dispatchEvent(new Event("statechange"));
          };
          return access;
        };""");
    page.reload();
    stage.until("globalThis.ancora?.connection.open");
    stage.soon(() -> assertThat(page.locator("#setup-dialog")).isVisible());
    stage.press("Shift");
    stage.until("ancora.sound.isOn && ancora.who.isHere && ancora.sound.reported");
    stage.soon(() -> assertThat(page.getByLabel("MIDI clock, start and stop")).isVisible());
    page.getByLabel("MIDI clock, start and stop").check();
    stage.run(100);
    stage.click(page.locator("[data-tab=parts]"));
    page.getByLabel("Bass: sounds on").selectOption("Harbour box");
    stage.soon(() -> assertThat(page.getByLabel("Bass: channel")).isVisible());
    page.getByLabel("Bass: channel").selectOption(new SelectOption().setLabel("5"));
    stage.run(100);
    page.getByLabel("Bass: program").fill("34");
    page.getByLabel("Bass: program").press("Enter");
    stage.until("sent.some(([[status, program]]) => status === 0xc4 && program === 33)");
    stage.click(page.locator("#setup-dialog [data-close]"));
    stage.until("ancora.sound.mixer.strips.get(2).level.gain.value < 0.001");
    stage.press("Space");
    stage.untilTick(7000);
    // notes of the loop: how far from the plan each is due, in ms
    List<?> astray =
        (List<?>)
            page.evaluate(
                """
                () => {
                  const { map, clips, parts } = ancora.state;
                  const bass = clips.get(parts.get(2).vamp.clip).layers.flatMap(({ notes }) => notes);
                  return sent
                    .filter(([[status]]) => status === 0x94)
                    // by the clock as it was when it was sent: an answer may have set it since
                    .map(([[, pitch], at, zero]) => Math.min(
                      ...bass.filter((note) => note[1] === pitch).map((note) =>
                        Math.abs(ancora.clock.own(map.microsOf(note[3])) - ancora.clock.own(0) + zero - at))));
                }""");
    assertThat(astray).hasSizeGreaterThanOrEqualTo(5);
    // the page hears of a start a step after it, at most
    assertThat(((Number) astray.get(0)).doubleValue()).isLessThanOrEqualTo(HeldStage.STEP);
    assertThat(astray.subList(1, astray.size())).allMatch(ms -> ((Number) ms).doubleValue() < 0.1);
    stage.press("Space");
    stage.until("sent.some(([[status]]) => status === 0xfc)");
    List<?> steps =
        (List<?>)
            page.evaluate(
                """
                () => {
                  const clocks = sent.filter(([[status]]) => status === 0xf8).map(([, at]) => at);
                  return clocks.slice(1).map((at, i) => at - clocks[i]);
                }""");
    assertThat(steps).hasSizeGreaterThan(120);
    assertThat(median(steps)).isCloseTo(60_000.0 / 96 / 24, within(0.01));
    assertThat(
            page.evaluate(
                "() => sent.filter(([[status]]) => status === 0xfa || status === 0xfb).length"))
        .isEqualTo(1);
    page.evaluate("() => unplug()");
    stage.until("ancora.sound.mixer.strips.get(2).level.gain.value > 0.1");
  }

  private static double median(List<?> numbers) {
    double[] sorted =
        numbers.stream().mapToDouble(number -> ((Number) number).doubleValue()).sorted().toArray();
    return sorted[sorted.length / 2];
  }

  /** Taps that come 30 ms after the click are found to be that late, and placed earlier by it. */
  @Test
  void theOffsetIsMeasuredByTapping() {
    stage = HeldStage.open(hand, house, 1);
    Page page = stage.page();
    stage.press("F8");
    stage.click(page.locator("[data-tab=parts]"));
    stage.send("{ do: 'setTempo', bpm: 200 }");
    stage.click(page.locator("#routes tr").first().getByText("Measure"));
    stage.until("ancora.state.map && ancora.state.armedPart.id === 1");
    List<?> anchor = (List<?>) page.evaluate("() => ancora.state.map.anchors[0]");
    double first = ((Number) anchor.get(1)).doubleValue();
    double perTick = ((Number) anchor.get(2)).doubleValue();
    DevicePlayer taps = new DevicePlayer();
    for (int beat = 3; beat < 19; beat++) {
      taps.hit(36, beat * 960);
    }
    taps.perform(stage, stage.devices(), tick -> Math.round(first + tick * perTick) + 30_000);
    stage.soon(
        () -> assertThat(page.locator("#measure-words")).hasText("30 ms late, give or take 0 ms."));
    stage.click(page.locator("#measure-take"));
    stage.until("ancora.state.parts.get(1).input.offset === 30");
    stage.soon(() -> assertThat(page.getByLabel("Kit: earlier by, ms")).hasValue("30"));
  }

  /**
   * Web MIDI through a stand-in behind requestMIDIAccess: refused, and a device that goes and
   * comes.
   */
  @Test
  void aMidiDeviceComesAndGoes() {
    stage = HeldStage.of(hand, house, "/shows/1");
    Page page = stage.page();
    stage.putsWebMidi();
    stage.press("Shift");
    stage.until("globalThis.plug");
    page.evaluate("() => ancora.who.take()");
    stage.until("ancora.hub.live");
    page.evaluate("() => plug('Quay keys')");
    stage.soon(() -> assertThat(page.locator("#midi-lamp")).hasText("Quay keys"));
    page.evaluate("() => midi('Quay keys', [0x90, 60, 90, 64, 91])");
    stage.until("ancora.hub.down.size === 2");
    page.evaluate("() => unplug('Quay keys')");
    stage.soon(() -> assertThat(page.locator("#midi-lamp")).hasText(""));
    stage.until("ancora.hub.down.size === 0");
    page.evaluate("() => plug('Quay keys')");
    page.evaluate("() => midi('Quay keys', [0x90, 60, 90])");
    stage.until("ancora.hub.down.size === 1");
    Page refused = stage.also("/shows/1");
    refused.addInitScript(
        "navigator.requestMIDIAccess = async () => { throw new DOMException('no', 'NotAllowedError'); };");
    refused.reload();
    stage.run(1000);
    refused.keyboard().press("Shift");
    stage.soon(() -> assertThat(refused.locator("#midi-lamp")).hasText("no MIDI"));
    stage.soon(
        () -> assertThat(refused.locator("#word")).containsText("allow them in the browser"));
  }
}
