package ancora.app.store;

import ancora.app.journal.ControlsJson;
import ancora.app.journal.CoreJson;
import ancora.app.journal.JournalFile;
import ancora.app.store.Rows.ClipRow;
import ancora.app.store.Rows.EditRow;
import ancora.app.store.Rows.PageRow;
import ancora.app.store.Rows.PartRow;
import ancora.app.time.HouseClock;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.control.ControlMap;
import ancora.core.control.ReadyMap;
import ancora.core.engine.Engine;
import ancora.core.history.History;
import ancora.core.history.Step;
import ancora.core.record.Hindsight;
import ancora.core.record.Played;
import ancora.core.show.Click;
import ancora.core.show.Master;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/** Keeps shows, and the journal of what was done to them. */
@Repository
public class ShowStore {

  private static final Logger LOG = LoggerFactory.getLogger(ShowStore.class);

  private static final String CLOCK = "clock";

  private static final String LOST =
      "The database lacked a show: it is had from its journal. Look whether all its runs are there.";

  /** So many pages are remembered by what they had accepted; the others say it themselves. */
  public static final int MOST_CLIENTS = 200;

  private static final int MOVED_AT_A_TIME = 5_000;

  private final ShowMapper mapper;
  private final Journals journals;
  private final HouseJournal house;
  private final DiskRoom room;
  private final DataSource source;
  private final HouseNews news;

  ShowStore(
      ShowMapper mapper,
      Journals journals,
      HouseJournal house,
      DiskRoom room,
      DataSource source,
      HouseNews news) {
    this.mapper = mapper;
    this.journals = journals;
    this.house = house;
    this.room = room;
    this.source = source;
    this.news = news;
  }

  private void needsRoom() {
    Refusal.unless(
        room.isEnough(), "There is too little room on the disk: free some, then do that again.");
  }

  /**
   * Lets go of connections: a full disk closes the database behind them for good, and the next one
   * opens it anew.
   */
  void reopen() {
    if (source instanceof HikariDataSource pool && pool.getHikariPoolMXBean() != null) {
      pool.getHikariPoolMXBean().softEvictConnections();
    }
  }

  /** What a show is set to. */
  record Settings(Click click, RecordingSettings recording, Master master, List<Section> form) {}

  /**
   * A show as it was saved last.
   *
   * @param stage the show, and what was done with it at that moment
   * @param seq the journal leads on after this
   * @param clients the highest number accepted from each page by then, of the pages seen last;
   *     those seen last come last
   */
  public record Saved(Stage stage, long seq, Map<String, Long> clients) {}

  /** All shows, last opened first. */
  public List<ShowCard> cards() {
    return mapper.cards(false);
  }

  /** Shows that were taken off the list, and can be put back. */
  public List<ShowCard> deletedCards() {
    return mapper.cards(true);
  }

  /**
   * What tells a show from others at a glance.
   *
   * @param sections in their order
   * @param pennants of its parts
   * @param banks the sound banks of its parts and clips by their digests, with what they are called
   */
  public record Look(List<Section> sections, List<Integer> pennants, Map<String, String> banks) {}

  /** How a show looks; empty lists where what is kept of it cannot be read. */
  public Look look(long id) {
    try {
      List<JsonNode> parts =
          mapper.parts(id).stream().map(row -> CoreJson.read(row.body(), JsonNode.class)).toList();
      Map<String, String> banks = new TreeMap<>();
      Stream<JsonNode> clips =
          mapper.clipsWithBanks(id).stream().map(clip -> CoreJson.read(clip, JsonNode.class));
      Stream.concat(parts.stream(), clips)
          .flatMap(one -> one.findParents("bank").stream())
          .filter(sound -> sound.get("bank").isString())
          .forEach(
              sound -> banks.put(sound.get("bank").asString(""), sound.path("file").asString("")));
      return new Look(
          CoreJson.read(mapper.settings(id), Settings.class).form(),
          parts.stream().map(part -> part.path("pennant").asInt(0)).toList(),
          banks);
    } catch (RuntimeException damaged) {
      LOG.warn("show {} cannot be drawn: {}", id, damaged.getMessage());
      return new Look(List.of(), List.of(), Map.of());
    }
  }

  public boolean hasDemo() {
    return mapper.hasDemo();
  }

  /** Adds a show and gives its number. It is in the journals before it is in the database. */
  @Transactional
  public synchronized long add(Show show, boolean demo) {
    needsRoom();
    long id =
        1 + Math.max(mapper.lastId(), journals.shows().stream().mapToLong(n -> n).max().orElse(0));
    try {
      journals.begin(id, show, Engine.RULES);
    } catch (IOException full) {
      throw new Refusal(HouseJournal.FULL);
    }
    insert(id, show);
    try {
      house.does(HouseJournal.line("newShow").put("show", id).put("demo", demo));
    } catch (RuntimeException refused) {
      letGo(id);
      throw refused;
    }
    return id;
  }

  private void insert(long id, Show show) {
    mapper.insertShow(row(id, show, 0));
    mapper.saveOrigin(id, CoreJson.write(show).toString());
    saveParts(id, show, List.of());
  }

  /**
   * Brings the database up to the journals: what a database of before them holds of journals
   * becomes files, what the house did that it does not know is done, and a show that it has lost is
   * there again, as its journal begins; opened, that leads on.
   */
  @Transactional
  public synchronized void bringUp() {
    for (long id : mapper.all()) {
      if (!journals.has(id)) {
        moveJournal(id);
      }
    }
    List<Long> there = mapper.all();
    for (long id : journals.shows()) {
      if (!there.contains(id)) {
        LOG.warn("show {} is not in the database: it is had from its journal", id);
        journals.head(id).ifPresent(head -> insert(id, JournalFile.headShow(head)));
        if (news.sentences().isEmpty()) {
          news.say(LOST);
        }
      }
    }
    house.bringUp();
  }

  /** The lines that the database has of a show's journal become its files. */
  private void moveJournal(long id) {
    try {
      journals.clear(id);
      long last = 0;
      int rules = Engine.RULES;
      for (List<JournalRow> rows = mapper.oldJournal(id, last, MOVED_AT_A_TIME);
          !rows.isEmpty();
          rows = mapper.oldJournal(id, last, MOVED_AT_A_TIME)) {
        journals.append(id, rows);
        rules = Math.min(rules, rows.stream().mapToInt(JournalRow::rules).min().orElse(rules));
        last = rows.get(rows.size() - 1).seq();
      }
      Map<String, Long> clients = new LinkedHashMap<>();
      mapper
          .lastOfEachClient(id)
          .forEach(
              row ->
                  clients.put((String) row.get("client"), ((Number) row.get("last")).longValue()));
      mapper.saveClients(id, clientsText(clients));
      String origin = mapper.origin(id);
      Show begins = Rows.isNothing(origin) ? read(mapper.showOf(id)) : JournalFile.show(origin);
      journals.begin(id, begins, rules);
      journals.rest(id);
      mapper.deleteOldJournal(id);
    } catch (IOException full) {
      throw new UncheckedIOException(full);
    }
  }

  private static String clientsText(Map<String, Long> clients) {
    Map<String, Long> newest = new LinkedHashMap<>(clients);
    Iterator<String> oldest = newest.keySet().iterator();
    for (int more = newest.size() - MOST_CLIENTS; more > 0; more--) {
      oldest.next();
      oldest.remove();
    }
    return CoreJson.write(newest).toString();
  }

  /** The show with a number, if there is one. */
  @Transactional
  public Optional<Saved> find(long id) {
    ShowRow row = mapper.show(id);
    if (row == null) {
      return Optional.empty();
    }
    Stage stage = rested(id, read(row)).withHistory(new History(edits(id, false), edits(id, true)));
    for (PageRow page : mapper.pages(id)) {
      stage =
          stage.mapOn(
              new PartId(page.partId()),
              on -> on.withHindsight(Rests.with(on.hindsight(), page.body())));
    }
    return Optional.of(new Saved(stage, row.baseSeq(), clients(id)));
  }

  /** Whether a show is on the list. */
  public boolean isThere(long id) {
    return title(id).isPresent();
  }

  /** What a show on the list is called, whatever the rest of it is like. */
  public Optional<String> title(long id) {
    return mapper.cards(false).stream()
        .filter(card -> card.id() == id)
        .findFirst()
        .map(ShowCard::title);
  }

  private Map<String, Long> clients(long id) {
    String text = mapper.clients(id);
    Map<String, Long> clients = new LinkedHashMap<>();
    if (!Rows.isNothing(text)) {
      CoreJson.read(text, JsonNode.class)
          .properties()
          .forEach(of -> clients.put(of.getKey(), of.getValue().longValue()));
    }
    return clients;
  }

  /** A show opens, whatever is wrong with what was being done with it. */
  private Stage rested(long id, Show show) {
    try {
      return Rests.stage(show, mapper.rest(id));
    } catch (Refusal unreadable) {
      LOG.error("show {} opens at standstill: {}", id, unreadable.getMessage());
      return Stage.of(show);
    }
  }

  /**
   * Saves a stage, at standstill or while it rolls.
   *
   * @param before what was saved last, if that is known: only what differs from it is written
   * @param seq the last command that is in it
   * @param clients the highest number accepted from each page by then; those seen last come last
   */
  @Transactional
  public void save(
      long id, Stage stage, Optional<Stage> before, long seq, Map<String, Long> clients) {
    if (mapper.updateShow(row(id, stage.show(), seq)) == 0) {
      throw new IllegalStateException("show %s is not in the database".formatted(id));
    }
    mapper.saveClients(id, clientsText(clients));
    mapper.saveRest(id, Rests.json(stage));
    if (before.isEmpty()) {
      mapper.deleteParts(id);
      mapper.deletePages(id);
    }
    saveParts(id, stage.show(), before.map(b -> b.show().parts()).orElse(List.of()));
    saveHindsight(id, stage, before);
    Optional<History> old = before.map(Stage::history);
    saveEdits(id, false, stage.history().done(), old.map(History::done));
    saveEdits(id, true, stage.history().undone(), old.map(History::undone));
  }

  /** Brings to the disk itself all that has been written; what is then told is not lost. */
  public void sync() {
    mapper.sync();
  }

  /** Gives a show that is not open another name. */
  public void rename(long id, String title) {
    String checked = Names.checked("show", title);
    needsRoom();
    house.does(HouseJournal.line("rename").put("show", id).put("title", checked));
  }

  /** Takes a show off the list, or puts it back; refuses if there is none. */
  public void setDeleted(long id, boolean deleted) {
    Refusal.unless(mapper.showOf(id) != null, "There is no such show: choose one from the list.");
    needsRoom();
    house.does(HouseJournal.line(deleted ? "delete" : "putBack").put("show", id));
  }

  /**
   * Lets go for good of shows that were taken off the list before an instant, with their journals.
   *
   * @param micros since 1970
   */
  public void forgetDeletedBefore(long micros) {
    for (long id : mapper.deletedBefore(micros)) {
      letGo(id);
      mapper.forget(id);
    }
  }

  private void letGo(long id) {
    try {
      journals.delete(id);
    } catch (IOException stays) {
      LOG.warn("the journal of show {}, which is no more, stays", id, stays);
    }
  }

  public void opened(long id, long micros) {
    mapper.opened(id, micros);
  }

  /** Notes that a page has the show open at an instant. */
  public void seen(long id, long micros) {
    mapper.seen(id, micros);
  }

  public long seenAt(long id) {
    return mapper.seenAt(id);
  }

  /** Which controls stand for which actions, in every show. */
  public ControlMap controls() {
    String body = mapper.fromHouse(HouseJournal.CONTROLS);
    return Rows.isNothing(body)
        ? ReadyMap.ALL
        : ControlsJson.kept(CoreJson.read(body, JsonNode.class));
  }

  /** The outside devices that are sent MIDI clock. */
  public List<String> clockTo() {
    String body = mapper.fromHouse(HouseJournal.CLOCK_TO);
    return Rows.isNothing(body) ? List.of() : List.of(CoreJson.read(body, String[].class));
  }

  /** How server time stood when the house was opened last. */
  public Optional<HouseClock.Anchor> clock() {
    String body = mapper.fromHouse(CLOCK);
    return Rows.isNothing(body)
        ? Optional.empty()
        : Optional.of(CoreJson.read(body, HouseClock.Anchor.class));
  }

  public void saveClock(HouseClock.Anchor anchor) {
    mapper.keepInHouse(CLOCK, CoreJson.write(anchor).toString());
    mapper.sync();
  }

  /** The latest instant at which anything went on, in microseconds of server time. */
  public long lastInstant() {
    return Math.max(mapper.lastSeen(), journals.lastInstant().orElse(0));
  }

  private void saveParts(long showId, Show show, List<Part> before) {
    Map<PartId, Part> old =
        before.stream().collect(Collectors.toMap(Part::id, Function.identity()));
    for (int place = 0; place < show.parts().size(); place++) {
      Part part = show.parts().get(place);
      boolean samePlace = place < before.size() && before.get(place).id().equals(part.id());
      Optional<Part> was = Optional.ofNullable(old.remove(part.id()));
      Part bare = part.withShelf(List.of());
      if (!samePlace || was.filter(w -> w.withShelf(List.of()).equals(bare)).isEmpty()) {
        mapper.mergePart(
            new PartRow(showId, part.id().value(), place, CoreJson.write(bare).toString()));
      }
      saveShelf(showId, part, was.map(Part::shelf).orElse(List.of()));
    }
    old.keySet().forEach(gone -> mapper.deletePart(showId, gone.value()));
  }

  private void saveShelf(long showId, Part part, List<Clip> before) {
    for (Clip clip : before) {
      if (part.clip(clip.id()).isEmpty()) {
        mapper.deleteClip(showId, part.id().value(), clip.id().value());
      }
    }
    for (int place = 0; place < part.shelf().size(); place++) {
      Clip clip = part.shelf().get(place);
      Clip was = place < before.size() ? before.get(place) : null;
      if (clip != was && !clip.equals(was)) {
        mapper.mergeClip(
            new ClipRow(
                showId,
                clip.id().value(),
                part.id().value(),
                place,
                CoreJson.write(clip).toString()));
      }
    }
  }

  /** Writes the pages in which something was played, and lets go of those that are forgotten. */
  private void saveHindsight(long showId, Stage stage, Optional<Stage> before) {
    Set<PartId> parts = new TreeSet<>(stage.partStages().keySet());
    before.ifPresent(b -> parts.addAll(b.partStages().keySet()));
    for (PartId part : parts) {
      Hindsight is = stage.on(part).hindsight();
      Optional<Hindsight> was = before.map(b -> b.on(part).hindsight());
      savePages(
          showId,
          part,
          is.played().pages(),
          was.map(h -> h.played().pages()).orElse(List.of()),
          ShowStore::firstNote,
          Rests::page);
      // instants lie far above the ids of notes: pages of moves have keys of their own
      savePages(
          showId,
          part,
          is.moves().pages(),
          was.map(h -> h.moves().pages()).orElse(List.of()),
          page -> page.get(0).micros(),
          Rests::movePage);
    }
  }

  private <T> void savePages(
      long showId,
      PartId part,
      List<List<T>> pages,
      List<List<T>> old,
      ToLongFunction<List<T>> key,
      Function<List<T>, String> text) {
    if (pages == old) {
      return;
    }
    Map<Long, List<T>> known =
        old.stream().collect(Collectors.toMap(key::applyAsLong, Function.identity()));
    for (List<T> page : pages) {
      long first = key.applyAsLong(page);
      if (known.remove(first) != page) {
        mapper.mergePage(new PageRow(showId, part.value(), first, text.apply(page)));
      }
    }
    known.keySet().forEach(gone -> mapper.deletePage(showId, part.value(), gone));
  }

  private static long firstNote(List<Played> page) {
    return page.get(0).noteId();
  }

  /**
   * Writes the steps that differ from what was saved. Their places go on rising: where the oldest
   * are forgotten the others stay where they are.
   */
  private void saveEdits(
      long showId, boolean undone, List<Step> edits, Optional<List<Step>> before) {
    List<Step> old = before.orElse(List.of());
    int forgotten = edits.isEmpty() ? 0 : placeOf(edits.get(0), old);
    int same = 0;
    while (same < edits.size()
        && forgotten + same < old.size()
        && edits.get(same) == old.get(forgotten + same)) {
      same++;
    }
    if (before.isPresent() && same == edits.size() && same == old.size()) {
      return;
    }
    int first = mapper.firstEdit(showId, undone) + forgotten;
    mapper.deleteEdits(showId, undone, first, first + same);
    for (int i = same; i < edits.size(); i++) {
      mapper.insertEdit(
          new EditRow(showId, undone, first + i, CoreJson.write(edits.get(i)).toString()));
    }
  }

  private static int placeOf(Step step, List<Step> old) {
    for (int i = 0; i < old.size(); i++) {
      if (old.get(i) == step) {
        return i;
      }
    }
    return 0;
  }

  private List<Step> edits(long showId, boolean undone) {
    return mapper.edits(showId, undone).stream()
        .map(row -> CoreJson.read(row.body(), Step.class))
        .toList();
  }

  private Show read(ShowRow row) {
    Map<Integer, List<Clip>> shelves =
        mapper.clips(row.id()).stream()
            .collect(
                Collectors.groupingBy(
                    ClipRow::partId,
                    Collectors.mapping(
                        clip -> CoreJson.read(clip.body(), Clip.class), Collectors.toList())));
    List<Part> parts =
        mapper.parts(row.id()).stream()
            .map(
                part ->
                    CoreJson.read(part.body(), Part.class)
                        .withShelf(shelves.getOrDefault(part.id(), List.of())))
            .toList();
    Settings settings = CoreJson.read(row.settings(), Settings.class);
    return new Show(
        row.title(),
        new Tempo(row.milliBpm()),
        Meter.of(row.meterBeats(), row.meterUnit()),
        settings.click(),
        settings.recording(),
        settings.master(),
        parts,
        settings.form(),
        row.nextId());
  }

  private static ShowRow row(long id, Show show, long seq) {
    Settings settings = new Settings(show.click(), show.recording(), show.master(), show.form());
    return new ShowRow(
        id,
        show.title(),
        show.tempo().milliBpm(),
        show.meter().beats(),
        show.meter().unit(),
        CoreJson.write(settings).toString(),
        show.nextId(),
        seq);
  }
}
