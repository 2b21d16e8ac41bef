package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.files.HouseFiles;
import ancora.core.file.MidiFile;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.io.ByteArrayOutputStream;
import java.util.Base64;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.Test;

/** What is in a file is seen before it comes in; some of it is chosen, and vamps. */
class BringInStoryTest extends DemoNight {

  private byte[] form() {
    return house.bean(HouseFiles.class).form(1).midi(MidiFile.Type.TRACKS).bytes();
  }

  @Test
  void aFileFromElsewhereVampsAsAShowOfItsOwn() {
    Page page = hand.page(house, "/", false);
    int shows = page.locator(".show-card").count();
    page.locator("#file").setInputFiles(new FilePayload("harbour.mid", "audio/midi", form()));
    assertThat(page.locator("#bring-in-title")).hasText("Lighthouse Night");
    assertThat(page.locator("#bring-in-facts")).containsText("96 bpm, 4/4, 16 bars, 5 lines");
    assertThat(page.locator("#bring-in-lines tr")).hasCount(5);
    // nothing has come in yet
    assertThat(page.locator(".show-card")).hasCount(shows);

    page.locator("#bring-in-lines tr:has-text('Choir') .whole").uncheck();
    page.locator("#bring-in-cut").selectOption("4");
    page.locator("#bring-in-go").click();
    assertThat(page.locator("#bring-in-words")).containsText("4 parts, ");
    assertThat(page.locator("#bring-in-leftout")).containsText("1 line was not chosen.");
    page.locator("#bring-in-open").click();
    assertThat(page.locator(".stave")).hasCount(4);
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    page.keyboard().press("Space");
    page.waitForFunction("() => ancora.state.staves.filter((part) => part.vamp).length === 4");
    page.keyboard().press("Space");
  }

  /**
   * Two tempi, two tracks on one channel, and words: the sheet offers them; started, the song goes
   * on from section to section, and its run has both tempi.
   */
  @Test
  void aSongIsReadAsItIsChosenAndPlaysFromItsFirstSection() throws Exception {
    Sequence song = new Sequence(Sequence.PPQ, 96);
    Track conductor = song.createTrack();
    conductor.add(new MidiEvent(new MetaMessage(0x51, new byte[] {0x07, (byte) 0xa1, 0x20}, 3), 0));
    conductor.add(
        new MidiEvent(new MetaMessage(0x51, new byte[] {0x03, (byte) 0xd0, (byte) 0x90}, 3), 384));
    for (int i = 0; i < 2; i++) {
      Track track = song.createTrack();
      track.add(new MidiEvent(new MetaMessage(5, "Lamp".getBytes(), 4), 0));
      for (int beat = 0; beat < 24; beat++) {
        track.add(new MidiEvent(new ShortMessage(0x90, 2, 60 + i, 90), 96L * beat));
        track.add(new MidiEvent(new ShortMessage(0x80, 2, 60 + i, 0), 96L * beat + 48));
      }
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    MidiSystem.write(song, 1, out);
    Page page = hand.page(house, "/", false);
    page.locator("#file")
        .setInputFiles(new FilePayload("lamp.mid", "audio/midi", out.toByteArray()));
    assertThat(page.locator("#bring-in-time option")).hasCount(3);
    assertThat(page.locator("#bring-in-lines tr")).hasCount(2);
    page.getByLabel("join the lines of a channel").check();
    assertThat(page.locator("#bring-in-lines tr")).hasCount(1);
    assertThat(page.locator("#bring-in-lines tr")).containsText("48 notes");
    page.getByLabel("name sections by what is sung").check();
    page.getByLabel("as a run besides").check();
    page.locator("#bring-in-time").selectOption("0");
    page.locator("#bring-in-cut").selectOption("1");
    page.locator("#bring-in-go").click();
    assertThat(page.locator("#bring-in-words")).containsText("1 part, 1 clip, 6 sections came in");
    assertThat(page.locator("#bring-in-leftout")).containsText("1 change of tempo: 240 bpm holds");
    page.locator("#bring-in-open").click();
    page.waitForFunction("() => globalThis.ancora?.connection.open");
    assertThat(page.locator("#form")).containsText("Lamp");
    page.keyboard().press("F10");
    assertThat(page.locator(".runslist li")).hasCount(1);
    assertThat(page.locator("#runs-words")).containsText("6 bars");
    page.keyboard().press("F10");
    page.keyboard().press("Space");
    page.waitForFunction(
        "() => ancora.state.form.sections[1] && ancora.state.form.now === ancora.state.form.sections[1].id");
  }

  /**
   * The kit by itself: what sounds is what a sound file would have, piece by piece, without a gap.
   */
  @Test
  void aLineIsHeardBeforeItComesInWithTheDrumsThatAreMeant() {
    Page page = hand.page(house, "/", false);
    page.evaluate(
        """
        () => {
          globalThis.sounded = [];
          const { start } = AudioBufferSourceNode.prototype;
          AudioBufferSourceNode.prototype.start = function (at) {
            const [first, ...rest] = this.buffer.getChannelData(0).map(Math.abs);
            sounded.push({ at, lasts: this.buffer.duration, peak: rest.reduce((a, b) => Math.max(a, b), first) });
            start.call(this, at);
          };
        }""");
    page.locator("#file").setInputFiles(new FilePayload("harbour.mid", "audio/midi", form()));
    Locator drums = page.locator("#bring-in-drums");
    drums.locator("summary").click();
    assertThat(drums.locator("label").first()).containsText("36 Bass Drum 1");
    drums.locator("select[data-pitch='36']").selectOption("41");
    Locator hear = page.locator("#bring-in-lines tr").first().locator(".hear");
    hear.click();
    assertThat(hear).hasAttribute("aria-pressed", "true");
    page.waitForFunction("() => sounded.length > 4");
    Object even =
        page.evaluate(
            "() => sounded.every(({ at, lasts }, i) => i === 0 || Math.abs(sounded[i - 1].at + sounded[i - 1].lasts - at) < 1e-6)");
    assertThat(even).isEqualTo(true);
    assertThat((boolean) page.evaluate("() => sounded[0].peak > 0.01")).isTrue();
    // another is heard in its place; then none
    Locator bass = page.locator("#bring-in-lines tr").nth(1).locator(".hear");
    bass.click();
    assertThat(hear).hasAttribute("aria-pressed", "false");
    bass.click();
    assertThat(bass).hasAttribute("aria-pressed", "false");
    page.locator("#bring-in-go").click();
    page.locator("#bring-in-open").click();
    page.waitForFunction(
        "() => [...(globalThis.ancora?.state.clips.values() ?? [])].some(({ layers }) => layers.some(({ notes }) => notes.some((n) => n[1] === 41)))");
  }

  /** Dropped on the Stage, onto a part that is there; then a clip of another show; undone. */
  @Test
  void droppedOnTheStageAndTakenFromAnotherShow() {
    Page page = hand.stage(house, 2);
    int parts = page.locator(".stave").count();
    page.evaluate(
        """
        (bytes) => {
          const data = new DataTransfer();
          data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], "harbour.mid"));
          dispatchEvent(new DragEvent("drop", { dataTransfer: data, cancelable: true }));
        }""",
        Base64.getEncoder().encodeToString(form()));
    assertThat(page.locator("#bring-in-facts"))
        .containsText("This show keeps its own time: 132 bpm, 7/8");
    Locator rows = page.locator("#bring-in-lines tr");
    for (int i = 1; i < 5; i++) {
      rows.nth(i).locator(".whole").uncheck();
    }
    rows.first().locator(".onto").selectOption("1");
    page.locator("#bring-in-cut").selectOption("2");
    int clips = shelf(page, 1);
    page.locator("#bring-in-go").click();
    assertThat(page.locator("#bring-in-words")).containsText("clips came in");
    page.waitForFunction("n => ancora.state.parts.get(1).shelf.length > n", clips);
    assertThat(page.locator(".stave")).hasCount(parts);
    page.locator("#bring-in [data-close]").click();

    page.locator("#bring-in-show-sheet").click();
    page.locator("#bring-in-show").selectOption("Lighthouse Night");
    assertThat(rows).hasCount(5);
    for (int i = 0; i < 4; i++) {
      rows.nth(i).locator(".whole").uncheck();
    }
    page.locator("#bring-in-go").focus();
    page.keyboard().press("Enter");
    assertThat(page.locator("#bring-in-words")).containsText("1 part, 1 clip came in");
    page.locator("#bring-in [data-close]").click();
    assertThat(page.locator(".stave")).hasCount(parts + 1);
    page.keyboard().press("u");
    assertThat(page.locator(".stave")).hasCount(parts);

    // what cannot come in is said, and the sheet takes another file
    page.locator("#bring-in-show-sheet").click();
    page.locator("#bring-in-file")
        .setInputFiles(new FilePayload("lamp.mid", "audio/midi", "lamp".getBytes()));
    assertThat(page.locator("#bring-in-words")).containsText("That is no MIDI file");
    assertThat(page.locator("#bring-in-go")).isDisabled();
    page.locator("#bring-in-file")
        .setInputFiles(new FilePayload("harbour.mid", "audio/midi", form()));
    assertThat(page.locator("#bring-in-go")).isEnabled();
    assertThat(page.locator("#bring-in-words")).hasText("");
  }

  private static int shelf(Page page, int part) {
    return ((Number) page.evaluate("p => ancora.state.parts.get(p).shelf.length", part)).intValue();
  }

  @Test
  void runsHaveAWindowOfTheirOwn() {
    Page page = hand.page(house, "/shows/1?view=runs", false);
    assertThat(page.locator("#runs")).isVisible();
    assertThat(page.locator(".score > svg:first-child .score-part")).hasCount(5);
    assertThat(page.locator("#runs-own")).hasAttribute("aria-pressed", "true");
  }
}
