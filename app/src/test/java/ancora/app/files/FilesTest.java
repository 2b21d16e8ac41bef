package ancora.app.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.stage.StageHouse;
import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HeldClock;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.file.MidiSong;
import ancora.core.run.Passage;
import ancora.core.run.Run;
import ancora.core.show.Part;
import ancora.core.show.Section;
import ancora.core.show.Show;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Files by their addresses and by command, as others would ask for them. */
class FilesTest {

  private static final Pattern TOKEN = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"");
  private static final JsonMapper JSON = JsonMapper.shared();

  @TempDir static Path data;
  @TempDir static Path folder;
  private static House house;
  private static HttpClient client;

  @BeforeAll
  static void open() {
    house = House.held(data, "--ancora.demo=true");
    client = HttpClient.newBuilder().cookieHandler(new CookieManager()).build();
  }

  @AfterAll
  static void close() {
    house.close();
  }

  @Test
  void aDiskOrAReaderThatTakesNoMoreIsAFaultOfWriting() {
    OutputStream full =
        new OutputStream() {
          @Override
          public void write(int one) throws IOException {
            throw new IOException("no room");
          }
        };
    assertThatThrownBy(() -> house.bean(HouseFiles.class).show(1, true, full))
        .isInstanceOf(IOException.class)
        .hasMessage("no room");
  }

  private static HttpResponse<byte[]> get(String path) throws Exception {
    HttpRequest ask = HttpRequest.newBuilder(URI.create(house.url(path))).build();
    return client.send(ask, HttpResponse.BodyHandlers.ofByteArray());
  }

  /** As the form on the list of shows sends it. */
  private static HttpResponse<String> send(String name, byte[] bytes, String accept, boolean token)
      throws Exception {
    Post post = token ? post() : new Post();
    return post.withFile(name, bytes).send(client, house.url("/shows/import"), accept);
  }

  /** With the token that stands in the forms of the list of shows. */
  private static Post post() throws Exception {
    String page = new String(get("/").body(), StandardCharsets.UTF_8);
    Matcher found = TOKEN.matcher(page);
    assertThat(found.find()).isTrue();
    return new Post().with("_csrf", found.group(1));
  }

  private static JsonNode answer(Post post, String path, int status) throws Exception {
    HttpResponse<String> answer = post.send(client, house.url(path), "application/json");
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
    return JSON.readTree(answer.body());
  }

  private static JsonNode came(String name, byte[] bytes) throws Exception {
    HttpResponse<String> answer = send(name, bytes, "application/json", true);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    return JSON.readTree(answer.body());
  }

  private static String refused(String name, byte[] bytes) throws Exception {
    int before = house.bean(ShowStore.class).cards().size();
    HttpResponse<String> answer = send(name, bytes, "application/json", true);
    assertThat(answer.statusCode()).isEqualTo(422);
    assertThat(house.bean(ShowStore.class).cards()).hasSize(before);
    return JSON.readTree(answer.body()).get("why").stringValue();
  }

  private static Show show(long id) {
    return house.bean(StageHouse.class).show(id);
  }

  @Test
  void aShowGoesOutAndComesInAsItself() throws Exception {
    HttpResponse<byte[]> out = get("/shows/1/show.json");
    assertThat(out.headers().firstValue("Content-Disposition").orElseThrow())
        .contains("attachment", "Lighthouse%20Night.json");
    JsonNode in = came("night.json", out.body());
    assertThat(in.get("what").stringValue()).isEqualTo("5 parts, 9 clips, 4 sections came in.");
    assertThat(show(in.get("show").longValue())).isEqualTo(show(1));
  }

  @Test
  void allClipsGoOutInOneZipUnderTheirNames() throws Exception {
    HttpResponse<byte[]> out = get("/shows/1/clips.zip");
    assertThat(out.headers().firstValue("Content-Disposition").orElseThrow())
        .contains("Lighthouse%20Night%20-%20clips.zip");
    int clips = 0;
    try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(out.body()))) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        assertThat(entry.getName()).startsWith("Lighthouse Night - ").endsWith(".mid");
        assertThat(MidiSong.read(zip.readAllBytes()).lines()).hasSize(1);
        clips++;
      }
    }
    assertThat(clips).isEqualTo(9);
    assertThat(get("/shows/1/clips.zip").body()).isEqualTo(out.body());
    assertThat(FileName.of("A/B: \"night\"?", "..", "mid")).isEqualTo("A B   night.mid");
    assertThat(FileName.of("\u0007", "", "mid")).isEqualTo("Ancora.mid");
  }

  @Test
  void theFormAndAClipGoOutAsMidi() throws Exception {
    HttpResponse<byte[]> form = get("/shows/1/form.mid");
    assertThat(form.headers().firstValue("Content-Type")).contains("audio/midi");
    MidiSong song = MidiSong.read(form.body());
    assertThat(song.markers()).extracting(MidiSong.Marker::name).containsExactly(names(show(1)));
    assertThat(song.tempo().bpm()).isEqualTo(96);
    Part bass = show(1).parts().get(1);
    Clip clip = bass.shelf().get(0);
    MidiSong alone = MidiSong.read(get("/shows/1/clips/" + clip.id().value() + ".mid").body());
    assertThat(alone.notes()).isEqualTo(clip.noteCount());
    assertThat(MidiSong.read(get("/shows/1/form.mid?type=0").body()).notes())
        .isEqualTo(song.notes());
  }

  private static String[] names(Show show) {
    return show.form().stream()
        .map((Section s) -> (s.letter() + " " + s.name()).strip())
        .toArray(String[]::new);
  }

  @Test
  void aMidiFileComesInAsAShow() throws Exception {
    JsonNode in = came("Form.mid", get("/shows/1/form.mid").body());
    Show show = show(in.get("show").longValue());
    assertThat(show.title()).isEqualTo(show(1).title());
    assertThat(show.form()).hasSize(4);
    assertThat(show.parts()).extracting(Part::name).contains("Kit", "Bass", "Keys");
    assertThat(show.tempo().bpm()).isEqualTo(96);
  }

  /** A tune in abc notation (the standard 2.1), set by abc2midi, which others wrote. */
  @Test
  void aTuneThatOthersSetComesIn() throws Exception {
    Path abc = folder.resolve("tune.abc");
    Path midi = folder.resolve("tune.mid");
    Files.writeString(
        abc,
        "X:1\nT:The Harbour Stair\nM:3/4\nL:1/8\nQ:1/4=108\nK:D\n"
            + "D2 F2 A2 | d4 c2 | B2 A2 G2 | F6 |]\n");
    Process process =
        new ProcessBuilder("abc2midi", abc.toString(), "-o", midi.toString())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("log").toFile())
            .start();
    assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
    JsonNode in = came("tune.mid", Files.readAllBytes(midi));
    Show show = show(in.get("show").longValue());
    assertThat(show.tempo().bpm()).isEqualTo(108);
    assertThat(show.meter().toString()).isEqualTo("3/4");
    Clip clip = show.parts().get(0).shelf().get(0);
    // D major, the last note a dotted half: pitches of MIDI 1.0, where middle C is 60; abc2midi
    // begins one of its ticks late, two of ours
    assertThat(clip.notes().map(n -> n.meant() - 2 + " " + n.pitch()))
        .containsExactly(
            "0 62", "960 66", "1920 69", "2880 74", "4800 73", "5760 71", "6720 69", "7680 67",
            "8640 66");
    assertThat(clip.window().length()).isEqualTo(4 * 2880);
  }

  @Test
  void aJournalComesInAsItsShow() throws Exception {
    JsonNode in = came("night.jsonl", get("/shows/2/journal").body());
    assertThat(show(in.get("show").longValue()).parts()).isEqualTo(show(2).parts());
  }

  @Test
  void whatCannotComeInIsSaidInASentenceAndNothingIsHalfDone() throws Exception {
    assertThat(refused("x.mid", "lamp".getBytes())).contains("no MIDI file");
    assertThat(refused("x.json", "{".getBytes())).contains("cut off");
    assertThat(refused("x.jsonl", "lamp".getBytes())).contains("line 1");
    assertThat(refused("x.wav", "lamp".getBytes())).contains(".mid, .kar or .rmi");
    assertThat(refused("x.mid", new byte[0])).contains("empty");
    assertThat(refused("x.json", new byte[49 << 20])).contains("larger than 48 MB");
    byte[] form = get("/shows/1/form.mid").body();
    assertThat(refused("x.mid", java.util.Arrays.copyOf(form, form.length / 2)))
        .contains("cut off");
  }

  /** What is in a file, or another show, is said before any of it comes in. */
  @Test
  void whatThereIsIsSaidBefore() throws Exception {
    int before = house.bean(ShowStore.class).cards().size();
    byte[] form = get("/shows/1/form.mid").body();
    JsonNode midi = answer(post().withFile("form.mid", form), "/shows/look", 200);
    assertThat(midi.get("kind").stringValue()).isEqualTo("midi");
    assertThat(midi.get("bpm").doubleValue()).isEqualTo(96);
    assertThat(midi.get("bars").longValue()).isEqualTo(16);
    assertThat(midi.get("markers").intValue()).isEqualTo(4);
    assertThat(midi.get("lines"))
        .extracting(line -> line.get("name").stringValue())
        .containsExactly("Kit", "Bass", "Keys", "Choir", "Bells");
    assertThat(midi.get("lines").get(0).get("drums").get(0).get("name").stringValue())
        .isEqualTo("Bass Drum 1");
    assertThat(midi.get("lines").get(1).get("drums")).isEmpty();
    JsonNode show = answer(post().with("from", "1"), "/shows/look", 200);
    assertThat(show.get("kind").stringValue()).isEqualTo("show");
    assertThat(show.get("parts").get(1).get("clips").get(0).get("bars").doubleValue()).isEqualTo(4);
    byte[] journal = get("/shows/2/journal").body();
    assertThat(
            answer(post().withFile("night.jsonl", journal), "/shows/look", 200)
                .get("kind")
                .stringValue())
        .isEqualTo("journal");
    assertThat(
            answer(post().withFile("x.mid", "lamp".getBytes()), "/shows/look", 422)
                .get("why")
                .stringValue())
        .contains("That is no MIDI file");
    assertThat(answer(post(), "/shows/look", 422).get("why").stringValue())
        .contains("Choose a file");
    assertThat(house.bean(ShowStore.class).cards()).hasSize(before);
  }

  /** A line of a file, with another drum, and a part of a show; nothing comes in by it. */
  @Test
  void aLineIsHeardBefore() throws Exception {
    int before = house.bean(ShowStore.class).cards().size();
    byte[] form = get("/shows/1/form.mid").body();
    Post line = post().withFile("form.mid", form).with("line", "0");
    JsonNode heard = answer(line.with("choice", "{\"drums\":[[36,41]]}"), "/shows/hear", 200);
    assertThat(heard.get("parts")).hasSize(1);
    assertThat(heard.get("micros").longValue()).as("eight bars at 96").isEqualTo(20_000_000);
    assertThat(heard.get("plan").toString()).contains(",96,41,").doesNotContain(",96,36,");
    JsonNode part = answer(post().with("from", "1").with("line", "2"), "/shows/hear", 200);
    assertThat(part.get("parts").get(0).get("name").stringValue()).isEqualTo("Bass");
    for (Post none :
        List.of(
            post().withFile("form.mid", form),
            post().withFile("form.mid", form).with("line", "5"),
            post()
                .withFile("form.mid", form)
                .with("line", "0")
                .with("choice", "{\"drums\":[[36]]}"),
            post().with("from", "1").with("line", "99"),
            post().with("line", "0"))) {
      assertThat(answer(none, "/shows/hear", 422).get("why").stringValue()).endsWith(".");
    }
    assertThat(house.bean(ShowStore.class).cards()).hasSize(before);
  }

  /** Two lines of five, one of them onto a part that is there, cut into clips of four bars. */
  @Test
  void someLinesOfAFileComeIntoAShow() throws Exception {
    long id = copyOf(1);
    Show before = show(id);
    byte[] form = get("/shows/1/form.mid").body();
    Post post =
        post()
            .withFile("form.mid", form)
            .with("into", "" + id)
            .with("choice", "{\"lines\":[{\"line\":0},{\"line\":1,\"onto\":2}],\"cut\":4}");
    JsonNode came = answer(post, "/shows/import", 200);
    assertThat(came.get("what").stringValue()).startsWith("1 part, ");
    assertThat(came.get("leftOut").get(0).stringValue()).isEqualTo("3 lines were not chosen.");
    Show after = show(id);
    assertThat(after.parts()).hasSize(6);
    assertThat(after.parts().get(1).shelf())
        .hasSizeGreaterThan(before.parts().get(1).shelf().size());
    assertThat(after.parts().get(5).shelf()).allMatch(c -> c.window().length() == 4 * 3840);
    assertThat(after.form()).isEqualTo(before.form());
  }

  /** One clip of another show onto a part, and another part whole; notes are as they were. */
  @Test
  void clipsOfAnotherShowComeIn() throws Exception {
    long id = copyOf(1);
    Show from = show(1);
    String choice =
        "{\"parts\":[{\"part\":1,\"clips\":[12],\"onto\":1},{\"part\":5,\"clips\":[51]}]}";
    Post post = post().with("from", "1").with("into", "" + id).with("choice", choice);
    assertThat(answer(post, "/shows/import", 200).get("what").stringValue())
        .isEqualTo("1 part, 2 clips came in.");
    Show after = show(id);
    Clip came = after.parts().get(0).shelf().get(3);
    assertThat(came.name()).isEqualTo("squall");
    assertThat(came.letter()).isEqualTo("d");
    assertThat(came.notes().map(n -> n.meant() + " " + n.pitch()).toList())
        .isEqualTo(
            from.parts()
                .get(0)
                .clipOf(new ClipId(12))
                .notes()
                .map(n -> n.meant() + " " + n.pitch())
                .toList());
    Part bells = after.parts().get(5);
    assertThat(bells.name()).isEqualTo(from.parts().get(4).name());
    assertThat(bells.balance()).isEqualTo(from.parts().get(4).balance());
    assertThat(bells.shelf().get(0).takes()).hasSize(3);
  }

  @Test
  void aChoiceThatCannotBeDoneIsRefusedWhole() throws Exception {
    long id = copyOf(1);
    Show before = show(id);
    for (String[] refused :
        new String[][] {
          {"1", "{\"parts\":[{\"part\":1,\"clips\":[12,999]}]}", "no such clip"},
          {"1", "{\"parts\":[{\"part\":77,\"clips\":[]}]}", "no such part"},
          {"1", "{\"parts\":[{\"part\":1,\"clips\":[12],\"onto\":88}]}", "no such part"},
          {"1", "{\"parts\":[{\"part\":1,\"clips\":[\"a\"]}]}", "chosen by its number"},
          {"1", "{\"parts\":[]}", "Choose something"},
          {"1", "{\"parts\":7}", "not understood"},
          {"1", "lamp", "not understood"},
          {"" + id, "{\"parts\":[]}", "the show itself"},
        }) {
      Post post = post().with("from", refused[0]).with("into", "" + id).with("choice", refused[1]);
      assertThat(answer(post, "/shows/import", 422).get("why").stringValue())
          .as(refused[1])
          .contains(refused[2]);
    }
    byte[] form = get("/shows/1/form.mid").body();
    for (String choice :
        List.of("{\"lines\":[],\"cut\":4}", "{\"lines\":[{\"line\":0}],\"cut\":65}")) {
      Post post = post().withFile("form.mid", form).with("into", "" + id).with("choice", choice);
      answer(post, "/shows/import", 422);
    }
    assertThat(show(id)).isEqualTo(before);
  }

  /** A show like another, so that tests do not meet. */
  private static long copyOf(long id) throws Exception {
    return came("copy.json", get("/shows/" + id + "/show.json").body()).get("show").longValue();
  }

  /** What is wrong with a run is found after the show: nothing of both is there then. */
  @Test
  void aShowComesInWithItsRunsOrNotAtAll() throws Exception {
    ObjectNode file = (ObjectNode) JSON.readTree(get("/shows/1/show.json?runs=true").body());
    ((ObjectNode) file.get("runs").get(0)).put("name", "x".repeat(61));
    assertThat(refused("night.json", file.toString().getBytes(StandardCharsets.UTF_8)))
        .contains("60 characters");
  }

  @Test
  void withoutTheFormsTokenNothingComesIn() throws Exception {
    byte[] bytes = get("/shows/1/form.mid").body();
    assertThat(send("x.mid", bytes, "application/json", false).statusCode()).isEqualTo(403);
  }

  @Test
  void aPageSaysWhatCameIn() throws Exception {
    HttpResponse<String> page = send("x.mid", get("/shows/1/form.mid").body(), "text/html", true);
    assertThat(page.body()).contains("came in", "Open it");
    HttpResponse<String> none = send("x.mid", "lamp".getBytes(), "text/html", true);
    assertThat(none.body()).contains("That is no MIDI file");
  }

  @Test
  void whatIsNotThereIsSaid() throws Exception {
    for (String path :
        List.of(
            "/shows/99/show.json",
            "/shows/99/form.mid",
            "/shows/1/clips/9999.mid",
            "/shows/1/runs/77.mid",
            "/shows/1/runs/77.rendering.json",
            "/shows/1/form.mid?type=2")) {
      HttpResponse<byte[]> answer = get(path);
      assertThat(answer.statusCode()).as(path).isEqualTo(404);
      assertThat(new String(answer.body(), StandardCharsets.UTF_8)).contains("role=\"alert\"");
    }
  }

  /** What is performed is kept at its stop, and goes out as MIDI. */
  @Test
  void aPerformanceIsKeptAsARun() throws Exception {
    try (PageStandIn page = new PageStandIn(house.port(), 1, "left")) {
      page.done("{\"do\":\"setTempo\",\"bpm\":400}");
      page.done("{\"do\":\"start\"}");
      house.bean(HeldClock.class).pass(2500);
      house.bean(StageHouse.class).show(1);
      page.done("{\"do\":\"stop\"}");
      page.done("{\"do\":\"setTempo\",\"bpm\":96}");
    }
    RunStore runs = house.bean(RunStore.class);
    // one is the demo's
    for (int i = 0; runs.cards(1).size() < 2 || runs.cards(1).get(0).underway(); i++) {
      assertThat(i).isLessThan(1200);
      Thread.sleep(50);
    }
    RunCard card = runs.cards(1).get(0);
    Run run = runs.find(1, card.id()).history().run();
    assertThat(run.parts()).hasSize(5);
    assertThat(run.parts().get(0).passages()).extracting(Passage::letter).containsExactly("a");
    MidiSong song = MidiSong.read(get("/shows/1/runs/" + card.id() + ".mid").body());
    assertThat(song.notes()).isGreaterThan(40);
    JsonNode file = JSON.readTree(get("/shows/1/show.json?runs=true").body());
    assertThat(file.get("runs")).hasSize(runs.cards(1).size());
  }

  /** The demo's show has been performed once: the concert, through all sections. */
  @Test
  void theDemoHasARun() {
    RunStore runs = house.bean(RunStore.class);
    RunCard first = runs.cards(1).get(runs.cards(1).size() - 1);
    assertThat(first.sections()).isEqualTo("A B C D");
    assertThat(first.bars()).isEqualTo(29);
    assertThat(runs.find(1, first.id()).history().run().parts()).hasSize(5);
  }

  @Test
  void byCommandToo() throws IOException {
    Path elsewhere = folder.resolve("shows");
    Path out = folder.resolve("out.mid");
    Path json = folder.resolve("out.json");
    House.held(elsewhere, "--ancora.demo=true").close();
    assertThat(run("export", "--data=" + elsewhere, "Lighthouse Night", "--midi", out.toString()))
        .contains("Written: ");
    assertThat(MidiSong.read(Files.readAllBytes(out)).notes()).isGreaterThan(100);
    assertThat(run("import", "--data=" + elsewhere, out.toString())).contains("4 sections");
    assertThat(run("export", "--data=" + elsewhere, "Nowhere", "--json", json.toString()))
        .contains("There is no show “Nowhere”; there are: ");
    assertThat(run("import", "--data=" + elsewhere, "none.mid")).contains("There is no file");
    assertThat(run("export", "1")).contains("usage");
    Path broken = Files.writeString(folder.resolve("broken.mid"), "lamp");
    assertThat(run("import", "--data=" + elsewhere, broken.toString(), out.toString()))
        .as("what is wrong with one is said, the others come in")
        .contains("4 sections came in", "broken.mid: That is no MIDI file");
    Path all = folder.resolve("all");
    assertThat(run("export", "--data=" + elsewhere, "--json", "1", "2", all.toString()))
        .contains("Written: ");
    assertThat(run("export", "--data=" + elsewhere, "--clips", "1", "2", all.toString()))
        .contains("clips.zip");
    assertThat(run("export", "--data=" + elsewhere, "--runs", "1", all.toString()))
        .contains("Lighthouse Night - run 1");
    try (Stream<Path> files = Files.list(all)) {
      assertThat(files.map(file -> file.getFileName().toString()))
          .contains("Lighthouse Night.json", "Lighthouse Night - clips.zip");
    }
  }

  private static String run(String... arguments) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream print = new PrintStream(out, true, StandardCharsets.UTF_8);
    FilesCommand.run(List.of(arguments), print, print);
    return out.toString(StandardCharsets.UTF_8);
  }
}
