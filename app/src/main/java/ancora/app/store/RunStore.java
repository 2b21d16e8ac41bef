package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.app.store.RunMapper.RunRow;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.run.From;
import ancora.core.run.Run;
import ancora.core.run.RunEdit;
import ancora.core.run.RunHistory;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the runs of shows. */
@Repository
public class RunStore {

  /** So many without a name are kept. */
  static final int KEPT = 100;

  private static final int LONGEST_SECTIONS = 400;
  private static final String NONE = "There is no such run: choose one from the list.";

  private final RunMapper mapper;
  private final HouseJournal house;

  /** The number that was given last, by show. */
  private final Map<Long, Integer> given = new HashMap<>();

  RunStore(RunMapper mapper, HouseJournal house) {
    this.mapper = mapper;
    this.house = house;
  }

  /**
   * A run that was kept.
   *
   * @param card as the list has it
   * @param history as it was performed, and what was done to it
   */
  public record Kept(RunCard card, RunHistory history) {}

  /** All runs of a show that are kept, the newest first. */
  public List<RunCard> all(long showId) {
    return mapper.cards(showId);
  }

  /** The same; of those that go on only what is worth keeping. */
  public List<RunCard> cards(long showId) {
    return all(showId).stream()
        .filter(card -> !card.underway() || card.bars() > Run.LEAST_BARS)
        .toList();
  }

  /** A run; refuses one that is not there. */
  public Kept find(long showId, int id) {
    RunRow row = mapper.run(showId, id);
    Refusal.unless(row != null, NONE);
    RunCard card =
        new RunCard(
            row.id(),
            row.beganUs(),
            row.name(),
            row.bars(),
            row.lastsUs(),
            row.sections(),
            row.underway());
    RunHistory history =
        new RunHistory(
            CoreJson.read(row.performed(), Run.class),
            List.of(CoreJson.read(row.done(), RunEdit[].class)),
            List.of(CoreJson.read(row.undone(), RunEdit[].class)));
    return new Kept(card, history);
  }

  /**
   * Keeps what was performed, and lets go of the oldest without a name where there are too many.
   *
   * @param id its number
   * @param beganUs when it began, in microseconds of server time
   * @param underway whether it goes on
   */
  @Transactional
  public void keep(long showId, int id, long beganUs, Run run, boolean underway) {
    String name = Optional.ofNullable(mapper.nameOf(showId, id)).orElse("");
    mapper.merge(row(showId, id, beganUs, name, RunHistory.of(run), run, underway));
    mapper.forget(showId, KEPT);
  }

  /** Adds a run from elsewhere, with what was done to it. */
  @Transactional
  public void add(long showId, int id, long beganUs, String name, RunHistory history) {
    String checked = Names.checkedOrEmpty("run", name);
    mapper.merge(row(showId, id, beganUs, checked, history, history.run(), false));
  }

  /** A number that no run of a show has, nor was given: what was given one may wait to be kept. */
  public synchronized int nextId(long showId) {
    return given.merge(showId, mapper.nextId(showId), (last, next) -> Math.max(last + 1, next));
  }

  /** The run that goes on, or was broken off, as far as it was kept. */
  public Optional<Kept> underway(long showId) {
    return all(showId).stream()
        .filter(RunCard::underway)
        .findFirst()
        .map(card -> find(showId, card.id()));
  }

  /** Saves what was done to a run. */
  @Transactional
  public void save(long showId, RunCard card, RunHistory history) {
    Refusal.unless(mapper.run(showId, card.id()) != null, NONE);
    mapper.merge(
        row(showId, card.id(), card.beganUs(), card.name(), history, history.run(), false));
  }

  /** Gives a run a name, or takes it away: then it is let go of in its time. */
  public void rename(long showId, int id, String name) {
    String checked = Names.checkedOrEmpty("run", name);
    Refusal.unless(mapper.run(showId, id) != null, NONE);
    house.does(
        HouseJournal.line("nameRun").put("show", showId).put("run", id).put("name", checked));
  }

  public void delete(long showId, int id) {
    Refusal.unless(mapper.delete(showId, id) == 1, NONE);
  }

  /** Forgets one that was under way, and came to nothing. */
  public void letGo(long showId, int id) {
    mapper.delete(showId, id);
  }

  private static RunRow row(
      long showId,
      int id,
      long beganUs,
      String name,
      RunHistory history,
      Run now,
      boolean underway) {
    String sections =
        now.sections().stream().map(From.OfSection::letter).collect(Collectors.joining(" "));
    return new RunRow(
        showId,
        id,
        beganUs,
        name,
        now.bars(),
        (long) now.micros(),
        Names.cut(sections, LONGEST_SECTIONS),
        underway,
        CoreJson.write(history.performed()).toString(),
        CoreJson.write(history.done().toArray(RunEdit[]::new)).toString(),
        CoreJson.write(history.undone().toArray(RunEdit[]::new)).toString());
  }
}
