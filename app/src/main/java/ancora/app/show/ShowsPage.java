package ancora.app.show;

import ancora.app.journal.JournalFile;
import ancora.app.stage.StageHouse;
import ancora.app.store.JournalRow;
import ancora.app.store.ShowStore;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The list of shows: the home page. */
@Controller
class ShowsPage {

  private final ShowStore store;
  private final StageHouse house;
  private final ObjectMapper json;

  ShowsPage(ShowStore store, StageHouse house, ObjectMapper json) {
    this.store = store;
    this.house = house;
    this.json = json;
  }

  @GetMapping("/")
  String shows(Model model) {
    model.addAttribute("shows", store.cards());
    return "shows";
  }

  /** What shows there are. */
  @GetMapping("/shows.json")
  @ResponseBody
  List<Listed> list() {
    return store.cards().stream().map(card -> new Listed(card.id(), card.title())).toList();
  }

  /** A show, by name. */
  record Listed(long id, String title) {}

  /** A new show has one part, so that there is something to play at once. */
  @PostMapping("/shows")
  String make(@RequestParam String title, RedirectAttributes after) {
    try {
      Show show = Show.named(title).withNewPart("Kit", Sound.STANDARD_KIT);
      return "redirect:/shows/" + store.add(show, false);
    } catch (Refusal refusal) {
      return home(after, refusal.getMessage());
    }
  }

  /** A show once more, with all but its runs. */
  @PostMapping("/shows/{id}/duplicate")
  String duplicate(@PathVariable long id, RedirectAttributes after) {
    try {
      Show show = house.show(id);
      store.add(show.withTitle(Names.again(show.title())), false);
      return "redirect:/";
    } catch (Refusal refusal) {
      return home(after, refusal.getMessage());
    }
  }

  @PostMapping("/shows/{id}/rename")
  String rename(@PathVariable long id, @RequestParam String title, RedirectAttributes after) {
    try {
      house.rename(id, title);
      return "redirect:/";
    } catch (Refusal refusal) {
      return home(after, refusal.getMessage());
    }
  }

  @PostMapping("/shows/{id}/delete")
  String delete(@PathVariable long id, RedirectAttributes after) {
    try {
      house.delete(id);
      after.addFlashAttribute("deleted", id);
      return "redirect:/";
    } catch (Refusal refusal) {
      return home(after, refusal.getMessage());
    }
  }

  @PostMapping("/shows/{id}/undelete")
  String undelete(@PathVariable long id, RedirectAttributes after) {
    try {
      store.setDeleted(id, false);
      return "redirect:/";
    } catch (Refusal refusal) {
      return home(after, refusal.getMessage());
    }
  }

  /** The journal of a show, from when it was made, to be kept or sent in with a fault. */
  @GetMapping("/shows/{id}/journal")
  ResponseEntity<String> journal(@PathVariable long id) throws JsonProcessingException {
    Show now =
        store
            .find(id)
            .orElseThrow(() -> new Refusal("There is no such show: choose one from the list."))
            .stage()
            .show();
    StringBuilder text = new StringBuilder();
    List<JournalRow> rows = store.journalAfter(id, 0);
    int rules = rows.stream().mapToInt(JournalRow::rules).min().orElse(Engine.RULES);
    text.append(JournalFile.head(JournalFile.show(store.origin(id)), rules)).append('\n');
    for (JournalRow row : rows) {
      ObjectNode command = (ObjectNode) json.readTree(row.command());
      text.append(JournalFile.line(row.appliedUs(), row.stampUs(), command)).append('\n');
    }
    String name = now.title().replaceAll("[^A-Za-z0-9]+", "-");
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType("application/jsonl;charset=UTF-8"))
        .header("Content-Disposition", "attachment; filename=\"" + name + ".jsonl\"")
        .body(text.toString());
  }

  private static String home(RedirectAttributes after, String sentence) {
    after.addFlashAttribute("word", sentence);
    return "redirect:/";
  }
}
