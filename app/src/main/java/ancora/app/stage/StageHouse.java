package ancora.app.stage;

import ancora.app.store.Copies;
import ancora.app.store.Disk;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.rules.Command;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import jakarta.annotation.PreDestroy;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** The shows that are open. */
@Service
public class StageHouse {

  private static final Logger LOG = LoggerFactory.getLogger(StageHouse.class);

  /** So often it is looked whether there are shows that nobody has open. */
  private static final long LOOKED_EVERY_SECONDS = 30;

  /** A show that was taken off the list can be put back for so long: 30 days, in microseconds. */
  private static final long PUT_BACK_FOR = 30L * 24 * 3600 * 1_000_000;

  private final ShowStore store;
  private final RunStore runs;
  private final Disk disk;
  private final HouseSettings settings;
  private final HouseClock clock;
  private final JsonMapper json;
  private final Map<Long, StageHost> open = new ConcurrentHashMap<>();
  private final ScheduledExecutorService doorkeeper =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread made = new Thread(task, "doorkeeper");
            made.setDaemon(true);
            return made;
          });

  StageHouse(
      ShowStore store,
      RunStore runs,
      Disk disk,
      Copies copies,
      HouseSettings settings,
      HouseClock clock,
      JsonMapper json) {
    this.store = store;
    this.runs = runs;
    this.disk = disk;
    this.settings = settings;
    this.clock = clock;
    this.json = json;
    store.bringUp();
    clock.goOn(store.clock(), store.lastInstant());
    store.forgetDeletedBefore(clock.micros() - PUT_BACK_FOR);
    store.saveClock(clock.anchor());
    settings.read();
    copies.begin();
    doorkeeper.scheduleWithFixedDelay(
        this::tidy, LOOKED_EVERY_SECONDS, LOOKED_EVERY_SECONDS, TimeUnit.SECONDS);
  }

  /**
   * The host of a show, which is opened if it is not open yet; refuses an unknown show. One that
   * takes long to open keeps no other waiting.
   */
  StageHost host(long showId) {
    return open.compute(
        showId,
        (id, host) -> {
          StageHost there =
              host == null ? new StageHost(id, store, runs, disk, settings, clock, json) : host;
          there.isWanted();
          return there;
        });
  }

  /** A stage as it is now; refuses an unknown show. */
  public Stage stage(long showId) {
    return host(showId).stage();
  }

  /** A show as it is now; refuses an unknown one. */
  public Show show(long showId) {
    return stage(showId).show();
  }

  private void tidy() {
    try {
      closeIdle();
    } catch (RuntimeException fault) {
      LOG.error("a show that nobody has open stays open", fault);
    }
  }

  /** Whether every show that is open answers; refuses where one does not. */
  public int open() {
    open.values().forEach(StageHost::stage);
    return open.size();
  }

  /** Closes shows that nobody has open: what they take up is for those that sound. */
  void closeIdle() {
    for (long id : open.keySet()) {
      open.computeIfPresent(
          id,
          (show, host) -> {
            if (!host.isIdle()) {
              return host;
            }
            host.close();
            disk.journals().rest(show);
            return null;
          });
    }
  }

  /** Does something in a show, as if a page had; refuses what cannot be done. */
  public void apply(long showId, Command command) {
    host(showId).apply(command);
  }

  /** Renames a show, be it open or not. */
  public synchronized void rename(long showId, String title) {
    StageHost host = open.get(showId);
    if (host == null) {
      store.rename(showId, title);
    } else {
      host.rename(title);
      store.rename(showId, title);
    }
  }

  /** Takes a show off the list; pages that have it open are told. */
  public synchronized void delete(long showId) {
    store.setDeleted(showId, true);
    StageHost host = open.remove(showId);
    if (host != null) {
      host.close();
    }
  }

  @PreDestroy
  synchronized void closeAll() {
    doorkeeper.shutdown();
    open.values().forEach(StageHost::close);
    open.clear();
  }
}
