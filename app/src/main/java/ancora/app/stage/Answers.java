package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.engine.Forecast;
import ancora.core.record.OffsetMeasure;
import ancora.core.rules.Command;
import ancora.core.stage.Stage;
import ancora.core.standin.Concert;
import ancora.core.standin.HumanTiming;
import ancora.core.standin.Pattern;
import ancora.core.standin.StandInPlayer;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** What pages ask for that changes nothing. */
final class Answers {

  private Answers() {}

  /** The messages of the stand-in player, each at its instant. */
  static ObjectNode standIn(Stage stage, JsonNode wish, long now) {
    Pattern pattern = Pattern.named(CommandJson.text(wish, "pattern"));
    HumanTiming timing =
        new HumanTiming(
            CommandJson.whole(wish, "seed"),
            CommandJson.number(wish, "spread"),
            CommandJson.number(wish, "earlyDownbeat"),
            CommandJson.number(wish, "velocitySpread"));
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    for (StandInPlayer.Message message :
        StandInPlayer.joining(stage, pattern, CommandJson.integer(wish, "times"), timing, now)) {
      rows.addArray()
          .add(message.micros())
          .add(message.status())
          .add(message.data1())
          .add(message.data2());
    }
    return Messages.of("standIn", rows);
  }

  /** What a command would do, in words, or why it would be refused. */
  static ObjectNode forecast(Engine engine, JsonNode command, long now) {
    Refusal.unless(command.isObject(), "A forecast is of a command.");
    Command meant = CommandJson.read(command);
    Forecast forecast = engine.forecast(meant, now);
    ObjectNode told = JsonNodeFactory.instance.objectNode();
    told.set("of", command);
    told.put(
        "words",
        forecast
            .refusal()
            .or(forecast::word)
            .orElseGet(() -> ForecastWords.of(forecast, engine.stage(), meant)));
    return Messages.of("forecast", told);
  }

  /** A whole piece of the stand-in: what is done on which tick. */
  static ObjectNode concert(Stage stage) {
    Refusal.unless(stage.isStill(), "Stop first: the concert begins from standstill.");
    List<Concert.Request> steps = Concert.of(stage.show());
    Refusal.unless(
        !steps.isEmpty(), "This show has no sections: make some, then it can be played.");
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    steps.forEach(step -> rows.addArray().add(step.tick()).add(CommandJson.write(step.command())));
    return Messages.of("concert", rows);
  }

  /** How late taps on the armed part have come since an instant. */
  static ObjectNode measured(Engine engine, long since) {
    List<Double> late = engine.lateness(since);
    ObjectNode told = JsonNodeFactory.instance.objectNode().put("taps", late.size());
    OffsetMeasure.of(late)
        .ifPresent(
            m ->
                told.put("offset", m.offset()).put("spread", m.spread()).put("clear", m.isClear()));
    return Messages.of("measured", told);
  }
}
