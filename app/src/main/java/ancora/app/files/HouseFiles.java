package ancora.app.files;

import ancora.app.stage.StageHouse;
import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.file.Arranging;
import ancora.core.file.Choice;
import ancora.core.file.MidiFile;
import ancora.core.file.MidiSong;
import ancora.core.file.SongRun;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunHistory;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.exc.JacksonIOException;
import tools.jackson.databind.JsonNode;

/** What leaves the house as a file, and what comes in. */
@Service
public class HouseFiles {

  /** What is in a ZIP has no time of its own: the earliest that one can say. */
  private static final LocalDateTime ALWAYS = LocalDateTime.of(1980, 1, 1, 0, 0);

  private final ShowStore store;
  private final RunStore runs;
  private final StageHouse house;
  private final HouseClock clock;

  /** What comes in does so wholly, or not at all. */
  private final TransactionTemplate whole;

  HouseFiles(
      ShowStore store,
      RunStore runs,
      StageHouse house,
      HouseClock clock,
      PlatformTransactionManager transactions) {
    this.store = store;
    this.runs = runs;
    this.house = house;
    this.clock = clock;
    this.whole = new TransactionTemplate(transactions);
  }

  /** What a show is called; refuses one that is not there. */
  public String titleOf(long id) {
    return house.show(id).title();
  }

  /** Writes a show as one file, with its runs, one after the other, if that is wished. */
  public void show(long id, boolean withRuns, OutputStream out) throws IOException {
    try (ShowFile.Writing file = new ShowFile.Writing(out, still(id))) {
      for (RunCard card : withRuns ? runs.cards(id) : List.<RunCard>of()) {
        Run run = runs.find(id, card.id()).history().run();
        file.add(new ShowFile.PerformedRun(card.beganUs(), card.name(), run));
      }
    } catch (JacksonIOException notTaken) {
      throw notTaken.getCause();
    }
  }

  /** A show as it is now, in which no key is down. */
  public Show still(long id) {
    return released(house.show(id));
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
  public Piece form(long id) {
    Show show = house.show(id);
    return new Piece(show, "", LaidOut.form(show), 0);
  }

  /** One pass of a clip; refuses one that is not there. */
  public Piece clip(long id, ClipId clip) {
    Show show = house.show(id);
    Part part =
        show.parts().stream()
            .filter(p -> p.clip(clip).isPresent())
            .findFirst()
            .orElseThrow(() -> new Refusal("There is no such clip in this show."));
    return clip(show, part, part.clipOf(clip));
  }

  private static Piece clip(Show show, Part part, Clip clip) {
    String what = (part.name() + " " + clip.letter() + " " + clip.name()).strip();
    return new Piece(show, what, LaidOut.clip(show, part.id(), clip.id()), clip.window().length());
  }

  /** All clips of a show, each as a MIDI file, in a ZIP that is the same each time. */
  public void clips(long id, OutputStream out) throws IOException {
    Show show = still(id);
    Set<String> names = new HashSet<>();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      for (Part part : show.parts()) {
        for (Clip clip : part.shelf()) {
          Piece piece = clip(show, part, clip);
          // two parts of one name may have clips of one letter
          String name = piece.fileName("mid");
          String own = names.add(name) ? name : piece.fileName(clip.id().value() + ".mid");
          ZipEntry entry = new ZipEntry(own);
          entry.setTimeLocal(ALWAYS);
          zip.putNextEntry(entry);
          zip.write(piece.midi(MidiFile.Type.TRACKS).bytes());
          zip.closeEntry();
        }
      }
    }
  }

  /** A run as it is now. */
  public Piece run(long id, int run) {
    Show show = house.show(id);
    RunStore.Kept kept = runs.find(id, run);
    String name = kept.card().name();
    return new Piece(show, ("run " + run + " " + name).strip(), kept.history().run(), 0);
  }

  /**
   * What is in a file. Refuses what cannot come in.
   *
   * @param name of the file; its ending says what it is
   * @param choice of a MIDI file, how it is read
   */
  public Contents look(String name, byte[] bytes, Optional<JsonNode> choice) {
    return switch (Kind.of(name, bytes)) {
      case MIDI -> {
        MidiSong song = ChoiceJson.song(bytes, choice);
        yield Contents.of(song, song.title().isEmpty() ? title(name) : song.title());
      }
      case SHOW -> {
        ShowFile file = ShowFile.read(bytes);
        yield Contents.of("show", file.show(), file.runs().size(), List.of());
      }
      case JOURNAL -> {
        FromJournal from = FromJournal.of(bytes);
        yield Contents.of("journal", from.show(), 0, from.leftOut());
      }
    };
  }

  /** What is in a show of this house. */
  public Contents look(long show) {
    return Contents.of("show", house.show(show), 0, List.of());
  }

  /**
   * What is in a file, heard before it comes in.
   *
   * @param line of a MIDI file, the place of a line, from 0; of a show or a journal, a part
   * @param choice of a MIDI file, how it is read
   */
  public Piece heard(String name, byte[] bytes, int line, Optional<JsonNode> choice) {
    return switch (Kind.of(name, bytes)) {
      case MIDI -> {
        MidiSong song = ChoiceJson.song(bytes, choice);
        yield new Piece(Show.named("Heard"), "", SongRun.heard(song, line), 0);
      }
      case SHOW -> heard(ShowFile.read(bytes).show(), line);
      case JOURNAL -> heard(FromJournal.of(bytes).show(), line);
    };
  }

  /** The first clip of a part of a show of this house. */
  public Piece heard(long show, int part) {
    return heard(house.show(show), part);
  }

  private static Piece heard(Show show, int part) {
    Part one = show.part(new PartId(part));
    Clip first =
        one.shelf().stream()
            .findFirst()
            .orElseThrow(() -> new Refusal("%s has no clip yet.".formatted(one.name())));
    return clip(show, one, first);
  }

  /**
   * Takes in a file as a show of its own: all of it, or nothing.
   *
   * @param name of the file; its ending says what it is
   * @param choice of a MIDI file, what of it, and how; empty for all of it as usual
   */
  public CameIn take(String name, byte[] bytes, Optional<JsonNode> choice) {
    Kind kind = Kind.of(name, bytes);
    CameIn in =
        whole.execute(
            transaction ->
                switch (kind) {
                  case MIDI -> midi(title(name), bytes, choice);
                  case SHOW -> show(bytes);
                  case JOURNAL -> journal(bytes);
                });
    List<Section> form = house.show(in.show()).form();
    if (kind == Kind.MIDI && !form.isEmpty()) {
      // started, a song plays from its first section on
      house.apply(in.show(), new CueCommand.CueSection(form.get(0).id()));
    }
    return in;
  }

  /** Takes a file, or what is chosen of it, into a show that is there. */
  public CameIn takeInto(long into, String name, byte[] bytes, Optional<JsonNode> choice) {
    return switch (Kind.of(name, bytes)) {
      case MIDI -> {
        MidiSong song = ChoiceJson.song(bytes, choice);
        yield into(into, Arranging.of(song, choice(song, choice), house.show(into)));
      }
      case SHOW -> into(into, ShowFile.read(bytes).show(), choice);
      case JOURNAL -> throw new Refusal("A journal comes in as a show of its own.");
    };
  }

  /** Takes what is chosen of a show into another. */
  public CameIn takeInto(long into, long from, Optional<JsonNode> choice) {
    Refusal.unless(into != from, "That is the show itself: choose another.");
    return into(into, house.show(from), choice);
  }

  private CameIn into(long into, Show from, Optional<JsonNode> choice) {
    JsonNode chosen =
        choice.orElseThrow(() -> new Refusal("A show comes in as a show of its own."));
    return into(into, Arranging.of(from, ChoiceJson.parts(chosen)));
  }

  private CameIn into(long id, Arranging arranging) {
    Show before = house.show(id);
    house.apply(id, arranging.bringIn());
    Show after = house.show(id);
    return new CameIn(id, after.title(), what(after, Optional.of(before)), arranging.leftOut());
  }

  private static Choice choice(MidiSong song, Optional<JsonNode> choice) {
    return choice.map(ChoiceJson::lines).orElseGet(() -> Choice.of(song));
  }

  private CameIn midi(String name, byte[] bytes, Optional<JsonNode> choice) {
    MidiSong song = ChoiceJson.song(bytes, choice);
    Show show = Show.named(song.title().isEmpty() ? name : song.title());
    Choice chosen = choice(song, choice);
    Arranging arranging = Arranging.of(song, chosen, show);
    Engine engine = Engine.of(show);
    if (engine.apply(arranging.bringIn(), 0, 0) instanceof Outcome.Refused refused) {
      throw new Refusal(refused.why());
    }
    Show came = engine.stage().show();
    CameIn in = added(came, arranging.leftOut());
    if (choice.filter(node -> ChoiceJson.isOn(node, "asRun")).isPresent()) {
      RunHistory run = RunHistory.of(SongRun.of(song, chosen, came));
      runs.add(in.show(), 1, clock.micros(), came.title(), run);
    }
    return in;
  }

  private CameIn show(byte[] bytes) {
    ShowFile file = ShowFile.read(bytes);
    CameIn in = added(file.show(), List.of());
    int number = 1;
    for (ShowFile.PerformedRun run : file.runs()) {
      runs.add(in.show(), number++, run.began(), run.name(), RunHistory.of(run.run()));
    }
    return in;
  }

  private CameIn journal(byte[] bytes) {
    FromJournal from = FromJournal.of(bytes);
    return added(from.show(), from.leftOut());
  }

  private CameIn added(Show show, List<String> leftOut) {
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
    String within = Names.cut(plain, Names.LONGEST).strip();
    return within.isEmpty() ? "From a file" : within;
  }
}
