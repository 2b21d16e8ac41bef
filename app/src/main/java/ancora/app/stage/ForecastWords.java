package ancora.app.stage;

import ancora.core.catalogue.Catalogue;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.engine.Effect;
import ancora.core.engine.Forecast;
import ancora.core.record.FirstRecording;
import ancora.core.rules.Command;
import ancora.core.rules.press.PressCommand;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.stage.Stage;
import ancora.core.time.Position;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** A forecast as a sentence for feet: short, with the place where it takes effect. */
final class ForecastWords {

  /** More things than this are counted, not told one by one. */
  private static final int MOST_TOLD = 3;

  private final Stage stage;
  private final List<Effect> effects;

  private ForecastWords(Stage stage, List<Effect> effects) {
    this.stage = stage;
    this.effects = effects;
  }

  /**
   * What a press would do.
   *
   * @param stage as it is before it
   * @param command what the press stands for; a main press stops the transport only to call a
   *     recording off
   */
  static String of(Forecast forecast, Stage stage, Command command) {
    ForecastWords words = new ForecastWords(stage, forecast.effects());
    String told = words.told(command instanceof PressCommand.MainPress);
    if (!told.isEmpty()) {
      return told;
    }
    boolean presses =
        command instanceof PressCommand.MainPress || command instanceof PressCommand.Close;
    return forecast
        .word()
        .map(ForecastWords::lowered)
        .or(() -> presses ? words.byItself() : Optional.empty())
        .orElse(Catalogue.words(command));
  }

  /** What was played last becomes a clip: how long, at which tempo, which. */
  static String kept(Forecast forecast) {
    return forecast.word().orElse("").replaceFirst("^Kept ", "").replaceFirst("\\.$", "");
  }

  private String told(boolean main) {
    Optional<Effect> section =
        effects.stream().filter(Effect.EntersSection.class::isInstance).findFirst();
    if (section.isPresent()) {
      return told(section.get());
    }
    Optional<Effect> ready =
        effects.stream().filter(Effect.StandsReadyAs.class::isInstance).findFirst();
    if (ready.isPresent()) {
      return told(ready.get());
    }
    if (effects.stream().anyMatch(Effect.Stops.class::isInstance)) {
      return main ? "call the recording off" : "stop everything";
    }
    Optional<Effect> takes =
        effects.stream().filter(Effect.EndsTakes.class::isInstance).findFirst();
    if (takes.isPresent()) {
      return told(takes.get());
    }
    Optional<String> handOff = handOff();
    if (handOff.isPresent()) {
      return handOff.get();
    }
    List<String> told = new ArrayList<>();
    for (Effect effect : effects) {
      boolean worthIt = effects.size() == 1 || !(effect instanceof Effect.Arms);
      String words = worthIt ? told(effect) : "";
      if (!words.isEmpty() && !told.contains(words)) {
        told.add(words);
      }
    }
    boolean starts = effects.stream().anyMatch(Effect.Starts.class::isInstance);
    if (starts && told.size() == 1 && told.get(0).equals("start")) {
      return anythingReady() ? "start what is ready" : "start the click";
    }
    return told.size() <= MOST_TOLD
        ? String.join(", then ", told)
        : told.stream().limit(MOST_TOLD - 1).collect(Collectors.joining(", "))
            + " and "
            + (told.size() - MOST_TOLD + 1)
            + " more";
  }

  /** A new part that records is a hand-off: where it takes over is what matters. */
  private Optional<String> handOff() {
    Optional<Effect.MakesPart> made =
        effects.stream()
            .filter(Effect.MakesPart.class::isInstance)
            .map(Effect.MakesPart.class::cast)
            .findFirst();
    return effects.stream()
        .filter(Effect.Records.class::isInstance)
        .map(Effect.Records.class::cast)
        .filter(records -> made.map(m -> m.part().equals(records.part())).orElse(false))
        .map(records -> "record on as " + made.get().name() + " from " + place(records.at()))
        .findFirst();
  }

  private boolean anythingReady() {
    return stage.show().parts().stream().anyMatch(p -> stage.on(p.id()).ready().isPresent());
  }

  private String told(Effect effect) {
    if (effect instanceof Effect.Starts e) {
      long bars = e.countIn() / stage.show().meter().barTicks();
      return bars == 0 ? "start" : "count in " + count(bars, "bar");
    }
    if (effect instanceof Effect.Awaits e) {
      return e.on() ? "wait for the first note, and record from it" : "wait no longer";
    }
    if (effect instanceof Effect.Arms e) {
      return "arm " + name(e.part());
    }
    if (effect instanceof Effect.EntersSection e) {
      return "section " + section(e.section()) + at(e.at());
    }
    if (effect instanceof Effect.StandsReadyAs e) {
      return "section " + section(e.section()) + " stands ready";
    }
    if (effect instanceof Effect.CallsOffSection) {
      return "call the section off";
    }
    if (effect instanceof Effect.Erases e) {
      return e.on() ? "erase while held" : "erase no more";
    }
    if (effect instanceof Effect.Repeats e) {
      return e.on() ? "repeat held keys" : "repeat no more";
    }
    if (effect instanceof Effect.LetsGo) {
      return "let all keys go";
    }
    if (effect instanceof Effect.MakesPart e) {
      return "new part " + e.name();
    }
    if (effect instanceof Effect.RemovesPart e) {
      return "remove " + e.name();
    }
    return toldOfPart(effect);
  }

  private String toldOfPart(Effect effect) {
    if (effect instanceof Effect.Records e) {
      return e.at() == 0 && stage.isStill()
          ? "record " + name(e.part())
          : "record " + name(e.part()) + " from " + place(e.at());
    }
    if (effect instanceof Effect.BeginsAgain e) {
      return "drop what is there, begin again at " + place(e.at());
    }
    if (effect instanceof Effect.DropsRecording) {
      return "call the recording off";
    }
    if (effect instanceof Effect.Closes e) {
      String then =
          switch (e.then()) {
            case VAMP -> "vamp";
            case OVERDUB -> "add to it";
            case TAKES -> "takes";
          };
      return "close the loop" + at(e.at()) + ", then " + then;
    }
    if (effect instanceof Effect.RecordsOn) {
      return "do not close: record on";
    }
    if (effect instanceof Effect.Adds e) {
      return "add to " + clip(e.part(), e.clip());
    }
    if (effect instanceof Effect.StopsAdding e) {
      return "stop adding; " + name(e.part()) + " goes on vamping";
    }
    if (effect instanceof Effect.EndsTakes e) {
      return "end takes; take " + e.heard() + " is heard";
    }
    if (effect instanceof Effect.DropsTake e) {
      return "drop take " + e.take();
    }
    if (effect instanceof Effect.Switches e) {
      return (e.on() ? "" : "end ") + e.way().words() + (e.on() ? " in " + name(e.part()) : "");
    }
    if (effect instanceof Effect.HearsTake e) {
      return "take " + e.take() + " of " + name(e.part()) + at(e.at());
    }
    if (effect instanceof Effect.Stutters e) {
      return e.on() ? "stutter in " + name(e.part()) : "stutter no more";
    }
    if (effect instanceof Effect.Reshapes e) {
      return "change " + clip(e.part(), e.clip()) + at(e.at());
    }
    return toldOfClip(effect);
  }

  private String toldOfClip(Effect effect) {
    if (effect instanceof Effect.Enters e) {
      return clip(e.part(), e.clip()) + at(e.at());
    }
    if (effect instanceof Effect.GoesTacet e) {
      return name(e.part()) + " tacet" + at(e.at());
    }
    if (effect instanceof Effect.CallsOff e) {
      return name(e.part()) + " goes on as it is";
    }
    if (effect instanceof Effect.StandsReady e) {
      return clip(e.part(), e.clip()) + " stands ready";
    }
    if (effect instanceof Effect.StandsTacet e) {
      return name(e.part()) + " stands tacet";
    }
    if (effect instanceof Effect.TakesOff e) {
      return takesOff(e);
    }
    if (effect instanceof Effect.PutsBack e) {
      return "put back layer " + e.layer() + " (" + count(e.notes(), "note") + ")";
    }
    if (effect instanceof Effect.TakesAway e) {
      return "take " + name(e.part()) + " " + e.letter() + " off the shelf";
    }
    if (effect instanceof Effect.BringsIn e) {
      return "bring back " + name(e.part()) + " " + e.letter();
    }
    if (effect instanceof Effect.ChangesClip e) {
      return "change " + clip(e.part(), e.clip());
    }
    return "";
  }

  private static String takesOff(Effect.TakesOff off) {
    String layer = "take off layer " + off.layer();
    String back =
        count(off.comeBack(), "note") + (off.comeBack() == 1 ? " comes" : " come") + " back";
    if (off.comeBack() <= 0) {
      return layer + " (" + count(off.notes(), "note") + ")";
    }
    return off.notes() == 0
        ? layer + ": " + back
        : layer + " (" + count(off.notes(), "note") + "), " + back;
  }

  /** What nothing comes of is what will be anyway. */
  private Optional<String> byItself() {
    return stage
        .armed()
        .flatMap(part -> stage.on(part).first())
        .filter(FirstRecording::isClosing)
        .map(first -> "closes by itself at " + place(first.until()));
  }

  private String name(PartId part) {
    return part(part).map(Part::name).orElse("the new part");
  }

  private String clip(PartId part, ClipId clip) {
    return name(part)
        + part(part).flatMap(p -> p.clip(clip)).map(Clip::letter).map(" "::concat).orElse("");
  }

  private Optional<Part> part(PartId id) {
    return stage.show().parts().stream().filter(p -> p.id().equals(id)).findFirst();
  }

  private String section(SectionId id) {
    Section section = stage.show().section(id);
    return section.name().isEmpty() ? section.letter() : section.letter() + " " + section.name();
  }

  private String at(long tick) {
    return " at " + place(tick);
  }

  private String place(long tick) {
    Position position = Position.of(tick, stage.show().meter());
    return position.beat() == 1 && position.tick() == 0
        ? "bar " + position.bar()
        : "bar " + position.bar() + " beat " + position.beat();
  }

  private static String count(long n, String what) {
    return n + " " + what + (n == 1 ? "" : "s");
  }

  private static String lowered(String sentence) {
    String plain = sentence.endsWith(".") ? sentence.substring(0, sentence.length() - 1) : sentence;
    return plain.isEmpty() ? plain : Character.toLowerCase(plain.charAt(0)) + plain.substring(1);
  }
}
