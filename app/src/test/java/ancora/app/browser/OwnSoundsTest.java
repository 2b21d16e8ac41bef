package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.Base64;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;
import org.junit.jupiter.api.Test;

/**
 * A bank and a click of one's own, brought in by hand while the band plays; and files that are
 * none.
 */
class OwnSoundsTest extends HeldNight {

  private HeldStage stage;

  private static FilePayload file(String name, byte[] bytes) {
    return new FilePayload(name, "application/octet-stream", bytes);
  }

  /** A WAV file of the JDK's own writing, in which a tone sounds. */
  private static FilePayload wav(String name, int rate, int bits, int channels, double seconds)
      throws IOException {
    AudioFormat format = new AudioFormat(rate, bits, channels, true, false);
    byte[] bytes = new byte[(int) (rate * seconds) * format.getFrameSize()];
    for (int frame = 0; frame < (int) (rate * seconds); frame++) {
      byte loud = (byte) Math.round(90 * Math.sin(2 * Math.PI * 1000 * frame / rate));
      for (int channel = 1; channel <= channels; channel++) {
        // the highest byte of each sample; the others are nothing
        bytes[frame * format.getFrameSize() + channel * bits / 8 - 1] = loud;
      }
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    AudioSystem.write(
        new AudioInputStream(
            new ByteArrayInputStream(bytes), format, bytes.length / format.getFrameSize()),
        AudioFileFormat.Type.WAVE,
        out);
    return file(name, out.toByteArray());
  }

  private void says(Locator words, String what) {
    stage.soonAtItsPace(() -> assertThat(words).containsText(what));
  }

  @Test
  void aBankIsBroughtInWhileTheBandPlays() {
    stage = HeldStage.listenedTo(hand, house, 1);
    Page page = stage.page();
    stage.press("Space");
    stage.run(800);
    stage.send("{ do: 'arm', part: 2 }");
    stage.press("o");
    stage.soon(() -> assertThat(page.locator("#sounds-title")).hasText("Sound of Bass"));
    Locator words = page.locator("#sounds-words");
    page.locator("#bank-file").setInputFiles(file("poem.sf2", "no bank at all".getBytes()));
    says(words, "no sound bank");
    String bytes =
        (String)
            page.evaluate(
                """
                async () => {
                  const { BasicSoundBank } = await import("/built/offline.js");
                  const bytes = new Uint8Array(BasicSoundBank.getSampleSoundBankFile());
                  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(""));
                }""");
    byte[] bank = Base64.getDecoder().decode(bytes);
    byte[] cut = Arrays.copyOf(bank, bank.length / 2);
    page.locator("#bank-file").setInputFiles(file("cut.sf2", cut));
    says(words, "cut off");
    page.locator("#bank-file").setInputFiles(file("harbour.sf2", bank));
    says(words, "harbour.sf2 is here");
    Locator choice = page.locator("#banks .soundchoice").first();
    String name = choice.textContent().strip();
    stage.click(choice);
    says(words, "Bass goes on with " + name + " for now.");
    stage.click("#sound-keep");
    stage.until("ancora.state.parts.get(2).sound.own?.file === 'harbour.sf2'");
    stage.run(1500);
    assertThat((boolean) page.evaluate("() => ancora.state.transport.rolling")).isTrue();
    assertThat(page.locator(".stave").nth(1)).containsText(name);

    // deleted, by a second press
    stage.press("o");
    Locator delete = page.getByLabel("delete harbour.sf2");
    stage.soonAtItsPace(() -> assertThat(delete).isVisible());
    stage.click(delete);
    says(words, "played by other sounds");
    stage.click(delete);
    says(words, "harbour.sf2 is deleted");
    assertThat(page.locator("#banks .soundchoice")).hasCount(0);
  }

  @Test
  void aClickOfTwoFilesAndFilesThatAreNone() throws IOException {
    stage = HeldStage.listenedTo(hand, house, 1);
    Page page = stage.page();
    stage.click("#setup");
    stage.click(page.locator("[data-tab=click]"));
    Locator words = page.locator("#click-own-words");
    Locator take = page.locator("#click-own-take");
    stage.click(take);
    says(words, "Choose two WAV files");
    page.locator("#click-downbeat").setInputFiles(wav("high.wav", 48_000, 16, 1, 0.05));
    page.locator("#click-beat").setInputFiles(wav("long.wav", 16_000, 16, 1, 30));
    stage.click(take);
    says(words, "long.wav lasts 30 s: a click is 2 s long at most.");
    page.locator("#click-beat").setInputFiles(wav("wide.wav", 48_000, 16, 8, 0.1));
    stage.click(take);
    says(words, "wide.wav has 8 channels");
    page.locator("#click-beat").setInputFiles(file("poem.wav", "no sound at all".getBytes()));
    stage.click(take);
    says(words, "poem.wav cannot be read as a sound");
    page.locator("#click-beat").setInputFiles(wav("low.wav", 44_100, 24, 2, 0.05));
    stage.click(take);
    stage.soonAtItsPace(() -> assertThat(words).hasText("The click is high click."));
    stage.until("ancora.state.show.click.own");
    for (int part = 1; part <= 5; part++) {
      stage.send("{ do: 'cueTacet', part: %s }".formatted(part));
    }
    page.evaluate(
        """
        () => {
          globalThis.loudest = 0;
          ancora.sound.addEventListener("levels", ({ detail }) => (loudest = Math.max(loudest, detail.click)));
        }""");
    stage.press("Space");
    stage.run(3000);
    assertThat(((Number) page.evaluate("() => loudest")).doubleValue()).isGreaterThan(0.1);
    stage.click("#click-own-leave");
    stage.until("!ancora.state.show.click.own");
  }
}
