package ancora.app.journal;

import ancora.core.Refusal;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.util.JsonParserDelegate;

/** Refuses what has more objects and lists than memory is for, before they are made. */
public final class CountingParser extends JsonParserDelegate {

  /** Objects and lists in a show, in a run, or in a line of a journal. */
  private static final long MOST_THINGS = 1_000_000;

  private long things;

  /** A parser that counts what another gives. */
  public CountingParser(JsonParser in) {
    super(in);
  }

  /** Another value begins. */
  public void anew() {
    things = 0;
  }

  @Override
  public JsonToken nextToken() {
    JsonToken token = super.nextToken();
    if (token == JsonToken.START_OBJECT || token == JsonToken.START_ARRAY) {
      Refusal.unless(
          ++things <= MOST_THINGS, "That file has more in it than a show or a run can have.");
    }
    return token;
  }
}
