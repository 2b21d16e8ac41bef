package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.core.record.Played;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.flywaydb.core.api.migration.BaseJavaMigration;
import org.flywaydb.core.api.migration.Context;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What was known of a stage at standstill becomes what is known of any; what was played goes to its
 * own rows.
 */
@Component
class V9__whole_rests extends BaseJavaMigration {

  private static final JsonMapper JSON = JsonMapper.shared();
  private static final int PAGE = 64;

  @Override
  public void migrate(Context context) throws SQLException {
    Connection connection = context.getConnection();
    try (Statement select = connection.createStatement();
        ResultSet rows = select.executeQuery("select id, rest from shows where rest is not null");
        PreparedStatement update =
            connection.prepareStatement("update shows set rest = ? where id = ?")) {
      while (rows.next()) {
        JsonNode old = JSON.readTree(rows.getString(2));
        update.setString(1, whole(old).toString());
        update.setLong(2, rows.getLong(1));
        update.executeUpdate();
        keepHindsight(connection, rows.getLong(1), old.path("hindsight"));
      }
    } catch (JacksonException malformed) {
      throw new IllegalStateException(malformed);
    }
  }

  /** The rest as it is written today. */
  private static ObjectNode whole(JsonNode old) {
    ObjectNode rest = JsonNodeFactory.instance.objectNode().put("rules", 2);
    rest.putObject("transport").put("is", "standing");
    ObjectNode parts = rest.putObject("parts");
    old.path("hindsight")
        .propertyNames()
        .forEach(
            part -> {
              ObjectNode on = (ObjectNode) CoreJson.write(PartStage.TACET);
              on.set(
                  "ready",
                  old.path("ready").path(part).isNumber()
                      ? old.get("ready").get(part)
                      : JsonNodeFactory.instance.nullNode());
              parts.set(part, on);
            });
    rest.set("armed", old.get("armed"));
    rest.putArray("alongside");
    rest.putNull("armsNext");
    ObjectNode hands = rest.putObject("hands");
    for (String none : List.of("keys", "erases", "sustained", "handOvers")) {
      hands.putArray(none);
    }
    hands.putNull("repeat");
    rest.putObject("taps").putArray("stamps");
    rest.set("delayMicros", old.get("delayMicros"));
    ObjectNode form = rest.putObject("form").put("since", 0);
    form.set("now", old.path("section").isNumber() ? old.get("section") : null);
    form.putNull("next");
    rest.putNull("firstPress");
    return rest;
  }

  private static void keepHindsight(Connection connection, long show, JsonNode hindsight)
      throws SQLException {
    try (PreparedStatement insert =
        connection.prepareStatement("insert into hindsight values (?, ?, ?, ?)")) {
      for (var part : hindsight.properties()) {
        List<Played> page = new ArrayList<>();
        for (JsonNode note : part.getValue()) {
          page.add(CoreJson.read(note, Played.class));
          if (page.size() == PAGE) {
            insertPage(insert, show, part.getKey(), page);
          }
        }
        insertPage(insert, show, part.getKey(), page);
      }
    }
  }

  private static void insertPage(
      PreparedStatement insert, long show, String part, List<Played> page) throws SQLException {
    if (page.isEmpty()) {
      return;
    }
    insert.setLong(1, show);
    insert.setInt(2, new PartId(Integer.parseInt(part)).value());
    insert.setLong(3, page.get(0).noteId());
    insert.setString(4, Rests.page(page));
    insert.executeUpdate();
    page.clear();
  }
}
