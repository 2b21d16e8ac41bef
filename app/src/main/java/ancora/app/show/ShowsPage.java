package ancora.app.show;

import ancora.app.bank.Banks;
import ancora.app.files.HouseFiles;
import ancora.app.safety.Invitation;
import ancora.app.safety.Visitor;
import ancora.app.stage.StageHouse;
import ancora.app.store.HouseNews;
import ancora.app.store.Journals;
import ancora.app.store.ShowCard;
import ancora.app.store.ShowStore;
import ancora.app.store.ShowStore.Look;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.TransactionException;
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
  private final Journals journals;
  private final HouseNews news;
  private final HouseFiles files;
  private final Banks banks;
  private final Invitation invitation;

  ShowsPage(
      ShowStore store,
      StageHouse house,
      Journals journals,
      HouseNews news,
      HouseFiles files,
      Banks banks,
      Invitation invitation) {
    this.store = store;
    this.house = house;
    this.journals = journals;
    this.news = news;
    this.files = files;
    this.banks = banks;
    this.invitation = invitation;
  }

  @GetMapping("/")
  String shows(Model model, HttpServletRequest request) {
    List<String> sentences = new ArrayList<>(news.sentences());
    try {
      List<ShowCard> cards = store.cards();
      model.addAttribute("shows", cards);
      model.addAttribute("deletedShows", store.deletedCards());
      Map<Long, Look> looks =
          cards.stream().collect(Collectors.toMap(ShowCard::id, card -> store.look(card.id())));
      model.addAttribute("looks", looks);
      model.addAttribute(
          "lacking",
          looks.entrySet().stream()
              .collect(Collectors.toMap(Map.Entry::getKey, look -> lacking(look.getValue()))));
    } catch (DataAccessException | TransactionException closed) {
      model.addAttribute("shows", List.of());
      model.addAttribute("deletedShows", List.of());
      sentences.add(
          "The list of shows cannot be read just now: look at the disk, then reload this page.");
    }
    model.addAttribute("news", sentences);
    if (Visitor.of(request).watches()) {
      return "watched-shows";
    }
    boolean isHere = Visitor.of(request).isHere();
    model.addAttribute("isOpen", isHere && invitation.isOpen());
    model.addAttribute("card", isHere ? invitation.card().orElse(null) : null);
    return "shows";
  }

  /** The sound banks of a show that are not in this house, by name. */
  private String lacking(Look look) {
    return look.banks().entrySet().stream()
        .filter(bank -> banks.find(bank.getKey()).isEmpty())
        .map(Map.Entry::getValue)
        .distinct()
        .sorted()
        .collect(Collectors.joining(", "));
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
      Show show = files.still(id);
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
  void journal(@PathVariable long id, HttpServletResponse answer) throws IOException {
    String title =
        store
            .title(id)
            .orElseThrow(() -> new Refusal("There is no such show: choose one from the list."));
    String name = title.replaceAll("[^A-Za-z0-9]+", "-");
    answer.setContentType("application/jsonl;charset=UTF-8");
    answer.setHeader("Content-Disposition", "attachment; filename=\"" + name + ".jsonl\"");
    journals.copyTo(id, answer.getOutputStream());
  }

  private static String home(RedirectAttributes after, String sentence) {
    after.addFlashAttribute("word", sentence);
    return "redirect:/";
  }
}
