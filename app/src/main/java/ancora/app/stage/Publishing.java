package ancora.app.stage;

import ancora.core.engine.Engine;
import ancora.core.engine.Lit;
import ancora.core.plan.Plan;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** What pages know of a show, and what they have to be told for them to know it as it is now. */
final class Publishing {

  private Stage stage;
  private Optional<Plan> plan = Optional.empty();
  private Optional<Plan> run = Optional.empty();
  private Map<String, String> words = Map.of();
  private Map<String, Lit> lit = Map.of();

  /** Nothing has been told yet. */
  Publishing(Stage stage) {
    this.stage = stage;
  }

  /**
   * What has changed since it was asked last, as messages.
   *
   * @param ofRun what is to sound instead of the stage, while that stands still
   */
  List<ObjectNode> changes(Engine engine, Optional<Plan> ofRun) {
    Stage now = engine.stage();
    boolean otherRun = !ofRun.equals(run);
    if (now == stage && !otherRun) {
      return List.of();
    }
    List<ObjectNode> messages = new ArrayList<>();
    ObjectNode changes = StateJson.changes(stage, now);
    stage = now;
    run = ofRun;
    if (!changes.isEmpty()) {
      messages.add(Messages.of("state", changes));
    }
    if (!changes.isEmpty() || otherRun || now.map().isPresent()) {
      Plan next = ofRun.orElseGet(engine::plan);
      if (!plan.equals(Optional.of(next))) {
        messages.add(Messages.of("plan", PlanJson.changes(plan, next)));
        plan = Optional.of(next);
      }
    }
    return messages;
  }

  /** The words of pedals, if they are others than were told last. */
  Optional<ObjectNode> words(Map<String, String> now) {
    if (now.equals(words)) {
      return Optional.empty();
    }
    words = now;
    return Optional.of(Messages.of("press", now));
  }

  /** How controls light, if it is otherwise than was told last. */
  Optional<ObjectNode> lit(Map<String, Lit> now) {
    if (now.equals(lit)) {
      return Optional.empty();
    }
    lit = now;
    return Optional.of(Messages.of("lit", now));
  }

  /** The whole state and plan, for a page that comes in; what has changed has been told. */
  ObjectNode whole(Engine engine) {
    if (plan.isEmpty()) {
      plan = Optional.of(engine.plan());
    }
    ObjectNode whole = JsonNodeFactory.instance.objectNode();
    whole.set("state", StateJson.whole(stage));
    whole.set("plan", PlanJson.whole(plan.get()));
    return whole;
  }
}
