package ancora.app.stage;

import ancora.app.store.Copies;
import ancora.app.store.Disk;
import ancora.app.store.RunStore;
import ancora.app.store.ShowStore;
import ancora.app.time.HouseClock;
import ancora.core.rules.Command;
import ancora.core.show.Show;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.annotation.PreDestroy;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;

/** The shows that are open. */
@Service
public class StageHouse {

  private final ShowStore store;
  private final RunStore runs;
  private final Disk disk;
  private final HouseClock clock;
  private final ObjectMapper json;
  private final Map<Long, StageHost> open = new ConcurrentHashMap<>();

  StageHouse(
      ShowStore store,
      RunStore runs,
      Disk disk,
      Copies copies,
      HouseClock clock,
      ObjectMapper json) {
    this.store = store;
    this.runs = runs;
    this.disk = disk;
    this.clock = clock;
    this.json = json;
    store.bringUp();
    store.forgetDeleted();
    clock.goOn(store.clock(), store.lastInstant());
    store.saveClock(clock.anchor());
    copies.begin();
  }

  /**
   * The host of a show, which is opened if it is not open yet; refuses an unknown show. One that
   * takes long to open keeps no other waiting.
   */
  StageHost host(long showId) {
    return open.computeIfAbsent(showId, id -> new StageHost(id, store, runs, disk, clock, json));
  }

  /** A show as it is now; refuses an unknown one. */
  public Show show(long showId) {
    return host(showId).show();
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
    StageHost host = open.remove(showId);
    if (host != null) {
      host.close();
    }
    store.setDeleted(showId, true);
  }

  @PreDestroy
  synchronized void closeAll() {
    open.values().forEach(StageHost::close);
    open.clear();
  }
}
