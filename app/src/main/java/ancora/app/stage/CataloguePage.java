package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.core.catalogue.Blank;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** All that a performer may put on a control, for pages that let one choose. */
@RestController
class CataloguePage {

  private static final JsonNode ALL = all();

  /** By groups: words with blanks, the command as it usually is, and what each blank may be. */
  @GetMapping("/catalogue.json")
  JsonNode catalogue() {
    return ALL;
  }

  private static JsonNode all() {
    ArrayNode entries = JsonNodeFactory.instance.arrayNode();
    for (Entry entry : Catalogue.ALL) {
      ObjectNode node =
          entries
              .addObject()
              .put("group", entry.group().words())
              .put("words", entry.words())
              .put("hold", Entry.holdOf(entry.usual()).name());
      node.set("command", CommandJson.write(entry.usual()));
      ArrayNode blanks = node.putArray("blanks");
      for (Blank blank : entry.blanks()) {
        ArrayNode choices = blanks.addObject().put("field", blank.field()).putArray("choices");
        for (Blank.Choice choice : blank.choices()) {
          choices.addArray().add(CoreJson.write(choice.value())).add(choice.words());
        }
      }
    }
    return entries;
  }
}
