package ancora.app.files;

import ancora.app.journal.JournalFile;
import ancora.app.stage.StageHouse;
import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.file.Arranging;
import ancora.core.file.Choice;
import ancora.core.file.MidiFile;
import ancora.core.file.MidiSong;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunHistory;
import ancora.core.show.Part;
import ancora.core.show.Show;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** What leaves the house as a file, and what comes in. */
@Service
public class HouseFiles {

  /** No file that comes in is longer, in bytes; a MIDI file has a bound of its own. */
  static final int MOST_BYTES = 16 << 20;

  private final ShowStore store;
  private final RunStore runs;
  private final StageHouse house;

  HouseFiles(ShowStore store, RunStore runs, StageHouse house) {
    this.store = store;
    this.runs = runs;
    this.house = house;
  }

  /** A show as one file, with its runs if that is wished. */
  public byte[] show(long id, boolean withRuns) {
    Show show = released(house.show(id));
    List<ShowFile.PerformedRun> performed = new ArrayList<>();
    for (RunCard card : withRuns ? runs.cards(id) : List.<RunCard>of()) {
      Run run = runs.find(id, card.id()).history().run();
      performed.add(new ShowFile.PerformedRun(card.beganUs(), card.name(), run));
    }
    return new ShowFile(show, performed).bytes();
  }

  /** Keys that are still down have the length known so far. */
  private static Show released(Show show) {
    return show.withParts(
        show.parts().stream()
            .map(
                part ->
                    part.withShelf(
                        part.shelf().stream()
                            .map(
                                clip -> clip.mapTakes(take -> take.mapLayers(HouseFiles::released)))
                            .toList()))
            .toList());
  }

  private static Layer released(Layer layer) {
    return layer.withNotes(
        layer.notes().stream()
            .map(note -> note.held() ? note.released(note.length()) : note)
            .toList());
  }

  /** The form of a show, laid out as a piece. */
  public MidiFile form(long id, MidiFile.Type type) {
    Show show = house.show(id);
    return MidiFile.of(show.title(), LaidOut.form(show), type);
  }

  /** One pass of a clip; refuses one that is not there. */
  public MidiFile clip(long id, ClipId clip, MidiFile.Type type) {
    Show show = house.show(id);
    Part part =
        show.parts().stream()
            .filter(p -> p.clip(clip).isPresent())
            .findFirst()
            .orElseThrow(() -> new Refusal("There is no such clip in this show."));
    String title = part.name() + " " + part.clipOf(clip).letter();
    return MidiFile.of(title, LaidOut.clip(show, part.id(), clip), type);
  }

  /** A run as it is now. */
  public MidiFile run(long id, int run, MidiFile.Type type) {
    RunStore.Kept kept = runs.find(id, run);
    String title = kept.card().name().isEmpty() ? house.show(id).title() : kept.card().name();
    return MidiFile.of(title, kept.history().run(), type);
  }

  /**
   * Takes in a file: as a show of its own, or a MIDI file into one that is there.
   *
   * @param name of the file; its ending says what it is
   * @param into a show, for a MIDI file
   * @param choice what of it, and how; empty for all of it as usual
   */
  public CameIn take(String name, byte[] bytes, Optional<Long> into, Optional<Choice> choice) {
    Refusal.unless(bytes.length > 0, "That file is empty: choose another.");
    Refusal.unless(bytes.length <= MOST_BYTES, "That file is larger than %s MB.", MOST_BYTES >> 20);
    String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    switch (ending) {
      case "mid", "midi", "smf":
        return into.isPresent()
            ? midiInto(into.get(), bytes, choice)
            : midi(title(name), bytes, choice);
      case "json":
        Refusal.unless(into.isEmpty(), "A show comes in as a show of its own.");
        return show(bytes);
      case "jsonl":
        Refusal.unless(into.isEmpty(), "A journal comes in as a show of its own.");
        return journal(bytes);
      default:
        throw new Refusal("A file ends in .mid, .json or .jsonl: choose one that does.");
    }
  }

  private CameIn midi(String name, byte[] bytes, Optional<Choice> choice) {
    MidiSong song = MidiSong.read(bytes);
    Show show = Show.named(song.title().isEmpty() ? name : song.title());
    Arranging arranging = Arranging.of(song, choice.orElseGet(() -> Choice.of(song)), show);
    Engine engine = Engine.of(show);
    if (engine.apply(arranging.bringIn(), 0, 0) instanceof Outcome.Refused refused) {
      throw new Refusal(refused.why());
    }
    Show made = engine.stage().show();
    return new CameIn(
        store.add(made, false), made.title(), what(made, Optional.empty()), arranging.leftOut());
  }

  private CameIn midiInto(long id, byte[] bytes, Optional<Choice> choice) {
    MidiSong song = MidiSong.read(bytes);
    Show before = house.show(id);
    Arranging arranging = Arranging.of(song, choice.orElseGet(() -> Choice.of(song)), before);
    house.apply(id, arranging.bringIn());
    Show after = house.show(id);
    return new CameIn(id, after.title(), what(after, Optional.of(before)), arranging.leftOut());
  }

  private CameIn show(byte[] bytes) {
    ShowFile file = ShowFile.read(bytes);
    long id = store.add(file.show(), false);
    int number = 1;
    for (ShowFile.PerformedRun run : file.runs()) {
      runs.add(id, number++, run.began(), run.name(), RunHistory.of(run.run()));
    }
    return new CameIn(id, file.show().title(), what(file.show(), Optional.empty()), List.of());
  }

  /** A journal is done again, as far as its show goes. */
  private CameIn journal(byte[] bytes) {
    String text = new String(bytes, StandardCharsets.UTF_8);
    JournalFile journal = JournalFile.read(text.lines().toList());
    Engine engine = Engine.of(journal.show());
    long last = 0;
    int refused = 0;
    for (JournalFile.Line line : journal.lines()) {
      last = line.at();
      if (engine.apply(line.command(), line.stamp(), last) instanceof Outcome.Refused) {
        refused++;
      }
    }
    engine.apply(new CueCommand.Stop(), last, last);
    Show show = engine.stage().show();
    List<String> leftOut = new ArrayList<>();
    if (refused > 0) {
      leftOut.add(refused + " of " + journal.lines().size() + " lines were refused.");
    }
    if (journal.rules() < Engine.RULES) {
      leftOut.add("It was made under older rules: it was done again under today's.");
    }
    long id = store.add(show, false);
    return new CameIn(id, show.title(), what(show, Optional.empty()), leftOut);
  }

  private static String what(Show show, Optional<Show> before) {
    int parts = show.parts().size() - before.map(b -> b.parts().size()).orElse(0);
    long clips = clips(show) - before.map(HouseFiles::clips).orElse(0L);
    int sections = show.form().size() - before.map(b -> b.form().size()).orElse(0);
    String in = many(parts, "part") + ", " + many(clips, "clip");
    return (sections == 0 ? in : in + ", " + many(sections, "section")) + " came in.";
  }

  private static long clips(Show show) {
    return show.parts().stream().mapToLong(part -> part.shelf().size()).sum();
  }

  private static String many(long count, String what) {
    return count + " " + what + (count == 1 ? "" : "s");
  }

  /** What a show is called that comes of a file without a title. */
  private static String title(String name) {
    String bare = name.substring(name.lastIndexOf('/') + 1).replaceAll("\\.[^.]*$", "");
    String plain = bare.replaceAll("\\p{Cntrl}", "").strip();
    String within = plain.substring(0, Math.min(plain.length(), Names.LONGEST)).strip();
    return within.isEmpty() ? "From a file" : within;
  }
}
