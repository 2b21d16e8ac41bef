package ancora.app.bank;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.House;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.sound.BankSound;
import ancora.core.sound.Sound;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Sound banks of one's own, and what is none, at the door and on the disk. */
class BanksTest {

  private static final JsonMapper JSON = JsonMapper.shared();

  /** The bank that ships is one, whatever its ending says. */
  private static final String LACKS = "Not in this house: ";

  private static final Path BANK = Path.of("target/classes/static/built/general-midi.sf3");

  @TempDir Path data;

  private List<String> files() throws IOException {
    Path folder = data.resolve("banks");
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files.map(file -> file.getFileName().toString()).sorted().toList();
    }
  }

  @Test
  void aBankIsBroughtKeptGivenAndDeleted() throws Exception {
    try (House house = House.open(data)) {
      HttpClient visitor = HttpClient.newBuilder().cookieHandler(new CookieManager()).build();
      JsonNode came = JSON.readTree(post(house, visitor, Files.readAllBytes(BANK), 200));
      String bank = came.get("bank").asString();
      assertThat(bank).matches("[0-9a-f]{64}");
      assertThat(came.get("file").asString()).isEqualTo("Fog & horn.sf2");
      assertThat(came.get("presets").size()).isGreaterThan(128);
      assertThat(JSON.readTree(get(house, visitor, "/banks.json").body())).hasSize(1);
      // the same once more is the same
      post(house, visitor, Files.readAllBytes(BANK), 200);
      assertThat(files()).containsExactly(bank + ".bank", bank + ".json");
      // what is kept of it is damaged: the house goes on, and it can be brought again
      Files.writeString(data.resolve("banks").resolve(bank + ".json"), "{\"bank\":");
      assertThat(JSON.readTree(get(house, visitor, "/banks.json").body())).isEmpty();
      post(house, visitor, Files.readAllBytes(BANK), 200);
      assertThat(JSON.readTree(get(house, visitor, "/banks.json").body())).hasSize(1);
      HttpResponse<byte[]> given = get(house, visitor, "/banks/" + bank);
      assertThat(given.body()).isEqualTo(Files.readAllBytes(BANK));
      assertThat(given.headers().firstValue("cache-control").orElse("")).contains("immutable");

      byte[] cut = new byte[2000];
      System.arraycopy(Files.readAllBytes(BANK), 0, cut, 0, cut.length);
      assertThat(why(post(house, visitor, cut, 422))).contains("cut off");
      assertThat(why(post(house, visitor, new byte[100], 422))).contains("no sound bank");
      assertThat(files()).as("what was refused leaves nothing").hasSize(2);
      assertThat(get(house, visitor, "/banks/../secret").statusCode()).isBetween(400, 404);
      assertThat(get(house, visitor, "/banks/" + "0".repeat(64)).statusCode()).isEqualTo(404);

      Sound own =
          Sound.of(60).withOwn(Optional.of(new BankSound(bank, "Fog & horn.sf2", 0, "Horn")));
      house.bean(ShowStore.class).add(Show.named("Gale").withNewPart("Horn", own), false);
      assertThat(new String(get(house, visitor, "/").body()))
          .contains("Gale")
          .doesNotContain(LACKS);
      ask(house, visitor, "/banks/" + bank, "DELETE", new byte[0], 204);
      assertThat(files()).isEmpty();
      assertThat(new String(get(house, visitor, "/").body()))
          .contains(LACKS + "<b>Fog &amp; horn.sf2</b>");
      assertThat(why(ask(house, visitor, "/banks/" + bank, "DELETE", new byte[0], 422)))
          .contains("no such sound bank");
    }
  }

  private static String why(byte[] answer) throws IOException {
    return JSON.readTree(answer).get("why").asString();
  }

  private static HttpResponse<byte[]> get(House house, HttpClient visitor, String path)
      throws Exception {
    HttpRequest ask = HttpRequest.newBuilder(URI.create(house.url(path))).build();
    return visitor.send(ask, HttpResponse.BodyHandlers.ofByteArray());
  }

  private static byte[] post(House house, HttpClient visitor, byte[] body, int status)
      throws Exception {
    return ask(house, visitor, "/banks?file=Fog%20%26%20horn.sf2", "POST", body, status);
  }

  private static byte[] ask(
      House house, HttpClient visitor, String path, String how, byte[] body, int status)
      throws Exception {
    JsonNode token = JSON.readTree(get(house, visitor, "/token").body());
    HttpRequest ask =
        HttpRequest.newBuilder(URI.create(house.url(path)))
            .header(token.get("header").asString(), token.get("token").asString())
            .header("content-type", "application/octet-stream")
            .header("accept", "application/json")
            .method(how, HttpRequest.BodyPublishers.ofByteArray(body))
            .build();
    HttpResponse<byte[]> answer = visitor.send(ask, HttpResponse.BodyHandlers.ofByteArray());
    assertThat(answer.statusCode()).as(new String(answer.body())).isEqualTo(status);
    return answer.body();
  }

  /** As much as a disk has, or a bank may have, and no more; nothing of it stays. */
  @Test
  void whatIsTooLargeIsRefusedWithoutBeingKept() throws IOException {
    Banks banks = new Banks(data, 1000, () -> 5000);
    assertThatThrownBy(() -> banks.keep("endless", endless()))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("at most");
    Banks full = new Banks(data, 100_000, () -> 500);
    assertThatThrownBy(() -> full.keep("endless", endless()))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("no room");
    assertThatThrownBy(() -> banks.keep("x".repeat(61), new ByteArrayInputStream(new byte[0])))
        .isInstanceOf(Refusal.class);
    assertThat(files()).isEmpty();
  }

  private static InputStream endless() {
    return new InputStream() {
      @Override
      public int read() {
        return 0;
      }
    };
  }
}
