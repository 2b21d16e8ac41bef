package ancora.app.show;

import ancora.app.stage.StageHouse;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The list of shows: the home page. */
@Controller
class ShowsPage {

  private final ShowStore store;
  private final StageHouse house;

  ShowsPage(ShowStore store, StageHouse house) {
    this.store = store;
    this.house = house;
  }

  @GetMapping("/")
  String shows(Model model) {
    model.addAttribute("shows", store.cards());
    return "shows";
  }

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

  private static String home(RedirectAttributes after, String sentence) {
    after.addFlashAttribute("word", sentence);
    return "redirect:/";
  }
}
