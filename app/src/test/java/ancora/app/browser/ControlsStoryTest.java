package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.journal.CommandJson;
import ancora.app.stage.StageHouse;
import ancora.app.store.JournalRow;
import ancora.app.store.Journals;
import ancora.app.store.ShowStore;
import ancora.core.engine.Engine;
import ancora.core.show.Click;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Tempo;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What hands and feet can do without a screen, and with one that is touched in between. */
class ControlsStoryTest extends HeldNight {

  private static final String BOARD = "board";
  private static final String PADS = "sixteen pads";
  private static final String KNOBS = "eight knobs";
  private static final long BAR = 3840;

  private HeldStage stage;
  private long show;

  /** By the browser's Web MIDI; in a long search by what takes its messages too. */
  static Stream<Boolean> ways() {
    return Boolean.getBoolean("ancora.long") ? Stream.of(true, false) : Stream.of(true);
  }

  /** A show with a bass alone, at 240, without count-in. */
  private void begin(boolean webMidi) {
    Show bass =
        Show.named("Pier")
            .withNewPart("Bass", Sound.of(33))
            .withTempo(Tempo.of(240))
            .withClick(Click.DEFAULT.withOn(false))
            .withRecording(RecordingSettings.DEFAULT.withCountInBars(0));
    show = house.bean(ShowStore.class).add(bass, false);
    stage =
        webMidi
            ? HeldStage.openWithWebMidi(hand, house, show, BOARD, PADS, KNOBS, HeldStage.KEYS)
            : HeldStage.open(hand, house, show);
  }

  private void teach(String device, String kind, int number, String gesture, String command) {
    stage.evaluate(
        ("() => ancora.connection.ask({ controls: { teach: [{ control: { device: '%s', kind: '%s',"
                + " channel: 0, number: %d, key: '' }, gesture: '%s', command: %s }] } })")
            .formatted(device, kind, number, gesture, command));
    stage.until(
        "ancora.controls.of({ device: '%s', kind: '%s', channel: 0, number: %d }).some((a) => a.gesture === '%s')"
            .formatted(device, kind, number, gesture));
  }

  private void pedal(int number, String command) {
    teach(BOARD, "CONTROL_CHANGE", number, "SHORT", command);
  }

  private void pad(int number, String command) {
    teach(PADS, "NOTE", number, "SHORT", command);
  }

  private void down(int pedal) {
    stage.bytes(BOARD, 0xb0, pedal, 127);
    stage.run(HeldStage.STEP);
  }

  private void up(int pedal) {
    stage.bytes(BOARD, 0xb0, pedal, 0);
    stage.run(HeldStage.STEP);
  }

  private void tread(int pedal) {
    down(pedal);
    up(pedal);
  }

  private void hit(int pad) {
    stage.bytes(PADS, 0x90, pad, 100);
    stage.run(HeldStage.STEP);
    stage.bytes(PADS, 0x80, pad, 0);
    stage.run(HeldStage.STEP);
  }

  private Object of(String script) {
    return stage.evaluate("() => " + script);
  }

  private static final String BASS = "[...ancora.state.parts.values()][0]";
  private static final String CLIP = "ancora.state.clips.get(" + BASS + ".shelf[0])";

  /**
   * Six takes of a bass from nothing, the third chosen by foot, the second's first bar swept into
   * it by holding a pedal; hand-offs by one pedal; pads that bring in clips of parts that are not
   * armed; the window by two knobs, a bar alone, and back; all taken back by one press; a set
   * length dialled. What the hands did is what the journal does again.
   */
  @ParameterizedTest(name = "by Web MIDI: {0}")
  @MethodSource("ways")
  void aBandIsBuiltWithPedalsPadsAndKnobsAlone(boolean webMidi) throws IOException {
    begin(webMidi);
    pedal(80, "{ do: 'takes', on: 'toggle' }");
    pedal(81, "{ do: 'close' }");
    pedal(82, "{ do: 'hearTake', part: 'armed', clip: 'in hand', take: 3, atOnce: true }");
    pedal(83, "{ do: 'compHeld', part: 'armed', clip: 'in hand', take: 2, on: 'held' }");
    pedal(84, "{ do: 'handOff' }");
    pedal(85, "{ do: 'peelAll' }");
    tread(80);
    stage.until("ancora.state.map");
    for (int take = 1; take <= 6; take++) {
      stage.untilTick((take - 1) * 2 * BAR + 500);
      stage.play(40 + take);
      stage.untilTick((take - 1) * 2 * BAR + BAR + 500);
      stage.play(50 + take);
      if (take == 1) {
        stage.untilTick(2 * BAR - 400);
        tread(81);
      }
    }
    stage.untilTick(12 * BAR - 300);
    tread(80);
    stage.untilTick(12 * BAR + 200);
    stage.until(CLIP + ".takes.length >= 6");
    tread(82);
    stage.until(CLIP + ".take === 3");
    stage.untilTick(14 * BAR - 100);
    down(83);
    stage.untilTick(15 * BAR - 200);
    up(83);
    stage.until(CLIP + ".takes.length >= 7 && " + CLIP + ".layers[0].notes.length === 2");
    assertThat(of("JSON.stringify(" + CLIP + ".layers[0].notes.map((n) => n[1]).sort())"))
        .as("the first bar of the second, the second bar of the third")
        .isEqualTo("[42,53]");

    // one part after the other, each with a press and with two takes; a round of the bass each
    tread(84);
    for (int part = 2; part <= 6; part++) {
      stage.until("ancora.state.order.length === " + part);
      stage.until("ancora.state.armedPart?.onto || ancora.state.armedPart?.first");
      long from = Math.floorDiv(stage.tick(), BAR) * BAR + BAR;
      stage.untilTick(from + 300);
      tread(80);
      stage.play(60 + part);
      stage.untilTick(from + BAR - 400);
      tread(81);
      stage.untilTick(from + BAR + 400);
      stage.play(70 + part);
      stage.untilTick(from + 2 * BAR - 200);
      tread(part < 6 ? 84 : 80);
    }
    stage.until("ancora.state.armedPart.vamp !== undefined && !ancora.state.armedPart.first");
    assertThat(
            of(
                "JSON.stringify(ancora.state.order.slice(1).map((id) => ancora.state.clips.get("
                    + "ancora.state.parts.get(id).shelf[0])).map((c) => [c.length, c.takes.length,"
                    + " c.take, c.layers[0].notes[0][1]]))"))
        .as("of each the length of the bass, two takes, and the one that was played whole is heard")
        .isEqualTo("[[7680,2,1,62],[7680,2,1,63],[7680,2,1,64],[7680,2,1,65],[7680,2,1,66]]");

    // pads bring in clips of four parts, without arming one
    for (int part = 1; part <= 4; part++) {
      pad(35 + part, "{ do: 'cueTacet', part: '%d' }".formatted(part));
      pad(39 + part, "{ do: 'cueClip', part: '%d', clip: 'a' }".formatted(part));
    }
    int armed = (int) of("ancora.state.armed");
    hit(36);
    hit(37);
    stage.until("ancora.state.lit['sixteen pads NOTE 0 36'] === 'CUED'");
    stage.until(BASS + ".vamp === undefined || " + BASS + ".vamp === null");
    hit(40);
    stage.until("ancora.state.lit['sixteen pads NOTE 0 40'] === 'SOUNDING'");
    assertThat(of("ancora.state.armed")).isEqualTo(armed);

    // the window of the bass by two knobs, and back
    teach(
        KNOBS,
        "CONTROL_CHANGE",
        20,
        "SHORT",
        "{ do: 'moveEdge', part: '1', clip: 'a', edge: 'START', unit: 'BAR', by: { knob: [0, 1] } }");
    teach(
        KNOBS,
        "CONTROL_CHANGE",
        21,
        "SHORT",
        "{ do: 'moveEdge', part: '1', clip: 'a', edge: 'LENGTH', unit: 'BAR', by: { knob: [1, 2] } }");
    for (int turned : new int[] {127, 60, 0}) {
      stage.bytes(KNOBS, 0xb0, 21, turned);
      stage.run(HeldStage.STEP);
    }
    stage.until(CLIP + ".length === " + BAR);
    for (int turned : new int[] {0, 64, 127}) {
      stage.bytes(KNOBS, 0xb0, 20, turned);
      stage.run(HeldStage.STEP);
    }
    stage.until(CLIP + ".start === " + BAR);
    pedal(86, "{ do: 'undo', sure: false }");
    tread(86);
    stage.until(CLIP + ".start === 0 && " + CLIP + ".length === " + 2 * BAR);

    // all that was added since it began goes with one press
    pedal(
        87,
        "{ do: 'sequence', name: 'bass, add', commands: [{ do: 'arm', part: '1' }, { do: 'overdub' }] }");
    tread(87);
    stage.until("ancora.state.armed === ancora.state.order[0] && ancora.state.armedPart.onto");
    stage.play(70);
    stage.run(2500);
    stage.play(71);
    stage.until(CLIP + ".layers.length > 1");
    tread(85);
    stage.until(CLIP + ".layers.length === 1");

    // a set length of six bars is dialled
    pad(44, "{ do: 'setRecording', fixedUnits: '+1' }");
    for (int i = 0; i < 6; i++) {
      hit(44);
    }
    stage.until("ancora.state.show.recording.fixedUnits === 6");
    stage.send("{ do: 'stop' }");
    stage.until("!ancora.state.transport.rolling");
    replayed();

    // what was performed is heard, and not any more, by foot
    pedal(88, "{ do: 'onPage', what: 'HEAR_RUN' }");
    stage.until("ancora.runs.cards?.length");
    tread(88);
    stage.until("ancora.runs.hearing");
    pedal(89, "{ do: 'onPage', what: 'RUN_ROUND' }");
    stage.run(3000);
    tread(89);
    stage.until("ancora.runs.hearing.round");
    assertThat(of("ancora.runs.hearing.round[1] - ancora.runs.hearing.round[0]")).isEqualTo(1);
    tread(89);
    stage.until("!ancora.runs.hearing.round");
    tread(88);
    stage.until("!ancora.runs.hearing");
  }

  /** What is in the journal, done again, is what there is. */
  private void replayed() throws IOException {
    stage.run(500);
    Show there = house.bean(StageHouse.class).show(show);
    Engine engine =
        Engine.of(
            Show.named("Pier")
                .withNewPart("Bass", Sound.of(33))
                .withTempo(Tempo.of(240))
                .withClick(Click.DEFAULT.withOn(false))
                .withRecording(RecordingSettings.DEFAULT.withCountInBars(0)));
    List<JournalRow> rows = house.bean(Journals.class).after(show, 0);
    for (JournalRow row : rows) {
      JsonNode command = JsonMapper.shared().readTree(row.command());
      engine.apply(CommandJson.read(command), row.stampUs(), row.appliedUs());
    }
    assertThat(rows).hasSizeGreaterThan(40);
    assertThat(engine.stage().show()).isEqualTo(there);
  }

  /**
   * Forty presses of keys, pads, pedals and the mouse, in any order, between choices in lists,
   * sliders moved, and drawers opened and closed: each reaches the engine once.
   */
  @Test
  void fortyMixedPressesReachTheEngineOnceEach() {
    begin(false);
    Page page = stage.page();
    String faster = "{ do: 'shiftTempo', by: '+0.1' }";
    stage.evaluate(
        "() => ancora.connection.ask({ controls: { teach: [{ control: { device: 'computer keyboard',"
            + " kind: 'KEY', channel: 0, number: 0, key: 'Comma' }, gesture: 'SHORT', command: "
            + faster
            + " }] } })");
    pedal(80, faster);
    pad(36, faster);
    stage.until(
        "ancora.controls.of({ device: 'computer keyboard', kind: 'KEY', channel: 0, number: 0, key: 'Comma' }).length");
    Random random = new Random(24);
    for (int press = 1; press <= 40; press++) {
      between(page, random.nextInt(6));
      switch (random.nextInt(4)) {
        case 0 -> tread(80);
        case 1 -> hit(36);
        case 2 -> {
          page.keyboard().press("u");
          stage.run(2 * HeldStage.STEP);
          page.keyboard().press(",");
        }
        default -> page.keyboard().press(",");
      }
      stage.run(2 * HeldStage.STEP);
      String wanted = String.valueOf(Math.round((240 + press / 10.0) * 10));
      stage.until("Math.round(ancora.state.show.bpm * 10) === " + wanted);
      assertThat(of("document.querySelector('dialog[open]') === null")).isEqualTo(true);
    }
    assertThat(of("ancora.state.transport.rolling")).as("nothing was started").isEqualTo(false);
  }

  /** Something of the screen is touched. */
  private void between(Page page, int what) {
    switch (what) {
      case 0 -> {
        stage.click(page.locator("#balance"));
        stage.click(page.locator("#balance-dialog [data-close]"));
      }
      case 1 -> {
        BoundingBox slider = page.locator(".stave input[type=range]").first().boundingBox();
        page.mouse().click(slider.x + slider.width / 2, slider.y + slider.height / 2);
      }
      case 2 -> {
        stage.click(page.locator("#setup"));
        stage.click(page.locator("[data-tab=recording]"));
        page.locator("#closes-on").selectOption("BEAT");
        stage.click(page.locator("#setup-dialog [data-close]"));
      }
      case 3 -> stage.click(page.locator("#what-now-toggle"));
      case 4 -> stage.click(page.locator("#hands-toggle"));
      default -> page.mouse().click(500, 300);
    }
    stage.run(HeldStage.STEP);
  }
}
