package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.app.journal.FirstRules;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.function.UnaryOperator;
import org.flywaydb.core.api.migration.BaseJavaMigration;
import org.flywaydb.core.api.migration.Context;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Bodies, origins, settings and histories are brought from the first rules to the second. */
@Component
class V7__takes_alike extends BaseJavaMigration {

  private static final JsonMapper JSON = JsonMapper.shared();

  @Override
  public void migrate(Context context) throws SQLException {
    Connection connection = context.getConnection();
    rewrite(connection, "clips", "body", text -> write(FirstRules.clip(object(text))));
    rewrite(connection, "shows", "origin", text -> write(FirstRules.show(object(text))));
    rewrite(
        connection,
        "edits",
        "body",
        text -> CoreJson.write(FirstRules.step(object(text))).toString());
  }

  /** Each text of a column is replaced, in place. */
  private static void rewrite(
      Connection connection, String table, String column, UnaryOperator<String> change)
      throws SQLException {
    try (Statement select = connection.createStatement();
        ResultSet rows = select.executeQuery("select _rowid_, " + column + " from " + table);
        PreparedStatement update =
            connection.prepareStatement(
                "update " + table + " set " + column + " = ? where _rowid_ = ?")) {
      while (rows.next()) {
        String text = rows.getString(2);
        if (text != null) {
          update.setString(1, change.apply(text));
          update.setLong(2, rows.getLong(1));
          update.executeUpdate();
        }
      }
    }
  }

  private static ObjectNode object(String text) {
    try {
      return (ObjectNode) JSON.readTree(text);
    } catch (JacksonException malformed) {
      throw new IllegalStateException(malformed);
    }
  }

  private static String write(ObjectNode node) {
    return node.toString();
  }
}
