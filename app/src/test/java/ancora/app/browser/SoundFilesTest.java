package ancora.app.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.MouseButton;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.DoubleStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Rule 20, WAV out: what the page makes is read by the JDK and by sox, and held against the plan.
 */
class SoundFilesTest extends DemoNight {

  private static final JsonMapper JSON = JsonMapper.shared();
  private static final Locator.ClickOptions RIGHT =
      new Locator.ClickOptions().setButton(MouseButton.RIGHT);

  @TempDir Path folder;

  private JsonNode rendering(String path) throws IOException, InterruptedException {
    HttpRequest ask = HttpRequest.newBuilder(URI.create(house.url(path))).build();
    HttpResponse<byte[]> answer =
        HttpClient.newHttpClient().send(ask, HttpResponse.BodyHandlers.ofByteArray());
    return JSON.readTree(answer.body());
  }

  /** The demo's show, whose echo and room are soon over. */
  private Page stage() {
    Page page = hand.silentStage(house, 1);
    page.evaluate("() => ancora.connection.do({ do: 'setMaster', repeats: 10, room: 0.3 })");
    page.waitForFunction("() => ancora.state.show.master.room === 0.3");
    return page;
  }

  /** The demo's run, trimmed to some bars. */
  private Page trimmed(int from, int bars) {
    Page page = stage();
    page.keyboard().press("F10");
    assertThat(page.locator(".runslist li.is-open")).hasCount(1);
    page.evaluate(
        "([from, bars]) => ancora.connection.ask({ run: { edit: 1, by: { by: 'trim', from, bars } } })",
        List.of(from, bars));
    assertThat(page.locator("#runs-words")).containsText(bars + " bars");
    return page;
  }

  private static Download made(Page page, String each, int rate, int bits) {
    page.locator("input[name='sound-file-each'][value='" + each + "']").check();
    page.locator("input[name='sound-file-rate'][value='" + rate + "']").check();
    page.locator("input[name='sound-file-bits'][value='" + bits + "']").check();
    Download download =
        page.waitForDownload(
            new Page.WaitForDownloadOptions().setTimeout(120_000),
            () -> page.locator("#sound-file-go").click());
    assertThat(page.locator("#sound-file-words")).containsText("Made:");
    return download;
  }

  private static Map<String, byte[]> unzipped(Path zip) throws IOException {
    Map<String, byte[]> files = new LinkedHashMap<>();
    try (ZipFile read = new ZipFile(zip.toFile())) {
      for (ZipEntry entry : Collections.list(read.entries())) {
        files.put(entry.getName(), read.getInputStream(entry).readAllBytes());
      }
    }
    return files;
  }

  /** All frames the file should have, by the host's own word. */
  private static long frames(JsonNode rendering, int rate) {
    return Math.round(
        (rendering.get("micros").asLong() + rendering.get("tail").asLong()) * rate / 1e6);
  }

  @Test
  void aRunWithEachPartByItself() throws Exception {
    Page page = trimmed(5, 4);
    page.locator("#runs-sound").click();
    Download download = made(page, "each", 48_000, 24);
    assertThat(download.suggestedFilename()).isEqualTo("Lighthouse Night - run 1.zip");
    Map<String, byte[]> files = unzipped(download.path());
    JsonNode rendering = rendering("/shows/1/runs/1.rendering.json");
    String run = "Lighthouse Night - run 1 - ";
    List<String> names = new ArrayList<>(List.of(run + "mix.wav"));
    for (JsonNode part : rendering.get("parts")) {
      names.add(run + names.size() + " " + part.get("name").asString() + ".wav");
    }
    names.add(run + names.size() + " echo and room.wav");
    assertThat(files.keySet()).containsExactlyElementsOf(names);

    long frames = frames(rendering, 48_000);
    List<WavRead> read = new ArrayList<>();
    for (Map.Entry<String, byte[]> file : files.entrySet()) {
      WavRead wav = WavRead.of(file.getValue());
      assertThat(wav.format().getSampleRate()).isEqualTo(48_000);
      assertThat(wav.format().getSampleSizeInBits()).isEqualTo(24);
      assertThat(wav.frames()).as(file.getKey()).isEqualTo((int) frames);
      Path path = Files.write(folder.resolve(file.getKey()), file.getValue());
      assertThat(WavRead.soxFrames(path)).isEqualTo(frames);
      double rms = Math.pow(10, rms(wav) / 20);
      assertThat(WavRead.sox(path, "RMS     amplitude")).isCloseTo(rms, within(1e-5));
      assertThat(wav.peak()).as(file.getKey() + " sounds").isGreaterThan(0.003);
      read.add(wav);
    }
    // the parts, and what echo and room add, are together what all are together
    double worst = 0;
    for (int i = 0; i < 2 * frames; i++) {
      double sum = 0;
      for (WavRead one : read.subList(1, read.size())) {
        sum += one.samples()[i];
      }
      worst = Math.max(worst, Math.abs(sum - read.get(0).samples()[i]));
    }
    assertThat(worst).isLessThan(read.size() * 3e-7);

    // over when it has rung
    WavRead mix = read.get(0);
    assertThat(mix.level(0, mix.frames() - 480, 480)).isLessThan(-75);
  }

  private static double rms(WavRead wav) {
    double left = Math.pow(10, wav.level(0, 0, wav.frames()) / 10);
    double right = Math.pow(10, wav.level(1, 0, wav.frames()) / 10);
    return 10 * Math.log10((left + right) / 2);
  }

  /** One pass of five strokes of the kit: each sets in where the plan has it, and nothing else. */
  @Test
  void aClipInSixteenBitsHasItsStrokesOnThePlan() throws Exception {
    Page page = stage();
    page.evaluate(
        "() => ancora.connection.do({ do: 'setBalance', part: 1, ...ancora.state.parts.get(1).balance, room: 0 })");
    page.locator(".stave").first().locator(".clip").nth(3).click(RIGHT);
    page.locator("#clip-sound").click();
    assertThat(page.locator("#sound-file-title")).hasText("Kit c as sound");
    WavRead wav = WavRead.of(Files.readAllBytes(made(page, "mix", 44_100, 16).path()));
    assertThat(wav.format().getSampleRate()).isEqualTo(44_100);
    assertThat(wav.format().getSampleSizeInBits()).isEqualTo(16);
    JsonNode rendering = rendering("/shows/1/clips/13.rendering.json");
    assertThat(wav.frames()).isEqualTo((int) frames(rendering, 44_100));
    List<Double> planned =
        DoubleStream.of(0, 2, 4, 6, 7.5).map(beat -> beat * 60 * 44_100 / 96).boxed().toList();
    List<Integer> onsets = onsets(wav);
    assertThat(onsets).hasSameSizeAs(planned);
    for (int i = 0; i < onsets.size(); i++) {
      // a drum takes some ms to rise
      assertThat(onsets.get(i) - planned.get(i)).as("stroke %s", i).isBetween(-1.0, 350.0);
    }
  }

  /**
   * As a loop it is what it is alone, with what rings over its end on its beginning; exactly its
   * bars.
   */
  @Test
  void aClipAsALoopClosesAndIsTheSameFileEachTime() throws Exception {
    Page page = stage();
    page.locator(".stave").nth(1).locator(".clip").nth(2).click(RIGHT);
    page.locator("#clip-sound").click();
    WavRead alone = WavRead.of(Files.readAllBytes(made(page, "mix", 48_000, 24).path()));
    page.locator("#sound-file-loop").check();
    Download download = made(page, "mix", 48_000, 24);
    assertThat(download.suggestedFilename())
        .startsWith("Lighthouse Night - Bass b")
        .endsWith(".wav");
    byte[] once = Files.readAllBytes(download.path());
    WavRead loop = WavRead.of(once);
    assertThat(loop.frames()).as("two bars at 96").isEqualTo(2 * 4 * 30_000);
    double worst = 0;
    for (int i = 0; i < loop.frames(); i++) {
      double folded = 0;
      for (int at = i; at < alone.frames(); at += loop.frames()) {
        folded += alone.left(at);
      }
      worst = Math.max(worst, Math.abs(loop.left(i) - folded));
    }
    assertThat(worst).isLessThan(1e-5);
    assertThat(Files.readAllBytes(made(page, "mix", 48_000, 24).path())).isEqualTo(once);
    page.locator("#sound-file-loud").check();
    WavRead loud = WavRead.of(Files.readAllBytes(made(page, "mix", 48_000, 24).path()));
    double peak = 20 * Math.log10(peak(loud, 0, loud.frames()));
    assertThat(peak)
        .as("true peaks are at −1 dB, those of samples hardly lower")
        .isBetween(-4.0, -0.99);
    assertThat(page.locator("#sound-file-words")).containsText("its highest peak at");
  }

  /** Where ten ms are far louder than the 25 before them. */
  private static List<Integer> onsets(WavRead wav) {
    int ms = (int) wav.format().getSampleRate() / 1000;
    List<Integer> onsets = new ArrayList<>();
    for (int at = 0; at + 10 * ms < wav.frames(); at += ms / 4) {
      double before = peak(wav, Math.max(0, at - 25 * ms), at);
      if (peak(wav, at, at + 10 * ms) > Math.max(0.002, 3 * before)) {
        int frame = at;
        while (Math.abs(wav.left(frame)) <= Math.max(0.0005, 1.2 * before)) {
          frame++;
        }
        onsets.add(frame);
        at += 200 * ms;
      }
    }
    return onsets;
  }

  private static double peak(WavRead wav, int from, int until) {
    double peak = 0;
    for (int i = from; i < until; i++) {
      peak = Math.max(peak, Math.abs(wav.left(i)));
    }
    return peak;
  }

  @Test
  void stoppedRefusedAndNotLeftUnasked() {
    Page page = hand.page(house, "/", false);
    page.locator("summary:has-text('Take along')").last().click();
    page.locator("button:has-text('The form as sound')").last().click();
    assertThat(page.locator("#sound-file-title")).hasText("Lighthouse Night as sound");
    page.locator("#sound-file-go").click();
    assertThat(page.locator("#sound-file-words")).containsText("s to go");
    page.locator("#sound-file-go").click();
    assertThat(page.locator("#sound-file-words")).hasText("Stopped: nothing was made.");
    assertThat(page.locator("#sound-file-go")).hasText("Make it");

    // whoever closes the page meanwhile is asked first
    page.locator("#sound-file-go").click();
    assertThat(page.locator("#sound-file-words")).containsText("s to go");
    List<String> asked = new ArrayList<>();
    page.onDialog(
        dialog -> {
          asked.add(dialog.type());
          dialog.dismiss();
        });
    page.close(new Page.CloseOptions().setRunBeforeUnload(true));
    page.waitForCondition(() -> !asked.isEmpty());
    assertThat(asked).containsExactly("beforeunload");
    page.locator("#sound-file-go").click();
    assertThat(page.locator("#sound-file-words")).hasText("Stopped: nothing was made.");
    page.locator("#sound-file [data-close]").click();

    // a show without a form says so
    page.locator("input[name='title']").last().fill("Empty quay");
    page.locator("button:has-text('New show')").click();
    page.navigate(house.url("/"));
    Locator card = page.locator(".show-card:has-text('Empty quay')");
    card.locator("summary:has-text('Take along')").click();
    card.locator("button:has-text('The form as sound')").click();
    page.locator("#sound-file-go").click();
    assertThat(page.locator("#sound-file-words"))
        .hasText("The form has no sections yet: make one first.");
  }

  /** A link that gives a file can be dragged out: the browser fetches it under the house's name. */
  @Test
  void clipsRunsAndShowsAreDraggedOut() {
    String dragged =
        """
        (link) => {
          const dataTransfer = new DataTransfer();
          link.dispatchEvent(new DragEvent("dragstart", { bubbles: true, dataTransfer }));
          return dataTransfer.getData("DownloadURL");
        }""";
    Page page = hand.silentStage(house, 1);
    page.locator(".stave").nth(1).locator(".clip").nth(1).click(RIGHT);
    assertThat(page.locator("#clip-midi").evaluate(dragged))
        .isEqualTo(
            "audio/midi:Lighthouse Night - Bass a.mid:" + house.url("/shows/1/clips/21.mid"));
    page.keyboard().press("Escape");
    page.keyboard().press("F10");
    assertThat(page.locator(".runslist li.is-open")).hasCount(1);
    assertThat(page.locator("#runs-midi").evaluate(dragged))
        .isEqualTo("audio/midi:Lighthouse Night - run 1.mid:" + house.url("/shows/1/runs/1.mid"));
    Page shows = hand.page(house, "/", false);
    Locator link = shows.locator(".show-card:has-text('Swell') a[data-file]").first();
    assertThat(link.evaluate(dragged))
        .isEqualTo(
            "application/json:Lighthouse Night  Swell.json:"
                + house.url("/shows/2/show.json?runs=true"));
  }
}
