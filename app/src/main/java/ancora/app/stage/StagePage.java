package ancora.app.stage;

import ancora.app.options.Options;
import ancora.core.control.Assignment;
import ancora.core.note.Grid;
import ancora.core.show.Click;
import ancora.core.show.LengthRule;
import ancora.core.show.PartInput;
import ancora.core.sound.GeneralMidi;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.standin.Pattern;
import ancora.core.time.EntryUnit;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The Stage, the main view. */
@Controller
class StagePage {

  private static final long MEBIBYTE = 1024 * 1024;

  private static final Set<String> VIEWS = Set.of("footboard", "workshop", "runs");

  private final StageHouse house;
  private final HouseSettings settings;
  private final Path folder;

  StagePage(StageHouse house, HouseSettings settings, Options options) {
    this.house = house;
    this.settings = settings;
    this.folder = options.data();
  }

  /** A family of sounds, as the chooser shows it. */
  record Family(String name, List<Choice> sounds) {}

  /** A sound to choose. */
  record Choice(boolean drums, int program, String name) {}

  @GetMapping("/shows/{id}")
  String stage(
      @PathVariable long id, @RequestParam(defaultValue = "play") String view, Model model) {
    return view.equals(StageSocket.WATCH) ? watch(id, model) : stage(id, view, "", model);
  }

  /** What sounds, with nothing to press. */
  private String watch(long id, Model model) {
    Stage stage = house.stage(id);
    model.addAttribute("id", id);
    model.addAttribute("show", stage.show());
    model.addAttribute("saved", StateJson.outline(stage).toString());
    return "watch";
  }

  /** The Stage with its setup open. */
  @GetMapping("/shows/{id}/setup")
  String setup(@PathVariable long id, Model model) {
    return stage(id, "play", "setup", model);
  }

  private String stage(long id, String view, String open, Model model) {
    model.addAttribute("id", id);
    Stage stage = house.stage(id);
    model.addAttribute("show", stage.show());
    model.addAttribute("saved", StateJson.outline(stage).toString());
    model.addAttribute("controls", new Controlling(settings).controls().toString());
    model.addAttribute("open", open);
    model.addAttribute("storage", storage());
    model.addAttribute("view", VIEWS.contains(view) ? view : "play");
    model.addAttribute("gestures", Assignment.Gesture.values());
    model.addAttribute("keys", KeySheet.of(settings.controls()));
    model.addAttribute("lamps", List.of("nothing", "ready", "sounding", "cued", "recording", "on"));
    model.addAttribute("monitorings", PartInput.Monitoring.values());
    model.addAttribute("grids", Grid.values());
    model.addAttribute("units", EntryUnit.values());
    model.addAttribute("clickSounds", Click.Sound.values());
    model.addAttribute("clickWhens", Click.When.values());
    model.addAttribute("lengthRules", LengthRule.values());
    model.addAttribute("patterns", Pattern.ALL);
    model.addAttribute("families", families());
    return "stage";
  }

  /** Stand-in devices, to be opened in a second window or on a tablet. */
  @GetMapping("/shows/{id}/devices")
  String devices(@PathVariable long id, Model model) {
    model.addAttribute("id", id);
    model.addAttribute("show", house.show(id));
    return "devices";
  }

  /** The first five minutes, keys, controls and words, to be printed. */
  @GetMapping("/shows/{id}/help")
  String help(@PathVariable long id, Model model) {
    model.addAttribute("id", id);
    model.addAttribute("show", house.show(id));
    model.addAttribute("map", settings.controls());
    model.addAttribute("keys", KeySheet.of(settings.controls()));
    return "help";
  }

  /** Where everything is kept, and how much room is left there. */
  private String storage() {
    long free = folder.toFile().getUsableSpace() / MEBIBYTE;
    return "Everything is kept in %s; there is room for %,d MiB more.".formatted(folder, free);
  }

  /** The names of drums by key, for pads and drum staves. */
  @GetMapping("/sounds/drums")
  @ResponseBody
  Map<Integer, String> drums() {
    return GeneralMidi.DRUMS;
  }

  private static List<Family> families() {
    List<Family> families = new ArrayList<>();
    families.add(
        new Family(
            GeneralMidi.DRUM_KITS,
            GeneralMidi.KITS.stream()
                .map(kit -> new Choice(true, kit.program(), kit.name()))
                .toList()));
    for (int family = 0; family < GeneralMidi.FAMILIES.size(); family++) {
      List<Choice> sounds =
          IntStream.range(family * 8, family * 8 + 8)
              .mapToObj(program -> new Choice(false, program, Sound.of(program).name()))
              .toList();
      families.add(new Family(GeneralMidi.FAMILIES.get(family), sounds));
    }
    return families;
  }
}
