package ancora.app.health;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.PageStandIn;
import ancora.app.stage.StageHouse;
import ancora.app.store.ShowStore;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What is well in a house and what is not, and that a database that is closed stops nobody. */
class HouseHealthTest {

  @TempDir Path data;

  private static HttpResponse<String> get(House house, String path)
      throws IOException, InterruptedException {
    return HttpClient.newHttpClient()
        .send(
            HttpRequest.newBuilder(URI.create(house.url(path))).build(),
            HttpResponse.BodyHandlers.ofString());
  }

  private static String status(House house, String of) throws IOException, InterruptedException {
    JsonNode health = JsonMapper.shared().readTree(get(house, "/actuator/health").body());
    return health.path("components").path(of).path("status").asString();
  }

  @Test
  void withADatabaseThatIsClosedPagesAreWelcomeAndPlayAndItIsSaid() throws Exception {
    try (House house = House.open(data)) {
      long show =
          house
              .bean(ShowStore.class)
              .add(Show.named("Pier").withNewPart("Kit", Sound.STANDARD_KIT), false);
      try (PageStandIn page = new PageStandIn(house.port(), show, "tab")) {
        page.next("welcome");
        assertThat(get(house, "/actuator/health").statusCode()).isEqualTo(200);
        for (String part : new String[] {"engine", "journal", "database", "disk"}) {
          assertThat(status(house, part)).as(part).isEqualTo("UP");
        }
        house.bean(HikariDataSource.class).close();
        page.done("{\"do\":\"setTempo\",\"bpm\":141.5}");
        page.say("{\"clockTo\":[\"Lamp room\"]}");
        page.say("{\"controls\":{\"name\":\"Harbour feet\"}}");
        page.done("{\"do\":\"start\"}");
        try (PageStandIn other = new PageStandIn(house.port(), show, "other")) {
          assertThat(other.next("welcome").path("controls").isObject()).isTrue();
        }
        assertThat(get(house, "/shows/" + show).statusCode()).isEqualTo(200);
        assertThat(get(house, "/shows/" + show + "/help").statusCode()).isEqualTo(200);
        assertThat(get(house, "/").body()).contains("cannot be read just now");
        HttpResponse<String> runs = get(house, "/shows/" + show + "/runs/1.rendering.json");
        assertThat(runs.body()).contains("database cannot be read just now");
        assertThat(get(house, "/actuator/health").statusCode()).isEqualTo(503);
        assertThat(status(house, "database")).isEqualTo("DOWN");
        assertThat(status(house, "engine")).isEqualTo("UP");
        assertThat(status(house, "journal")).isEqualTo("UP");
      }
    }
    // what was acknowledged meanwhile is there
    try (House house = House.open(data)) {
      assertThat(house.bean(StageHouse.class).show(1).tempo().milliBpm()).isEqualTo(141_500);
      assertThat(house.bean(ShowStore.class).clockTo()).containsExactly("Lamp room");
      assertThat(house.bean(ShowStore.class).controls().name()).isEqualTo("Harbour feet");
    }
  }
}
