package ancora.app.store;

import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArraySet;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Says whether the disk does not take what is to be written, be it journals or saved shows. */
@Component
public class DiskLamp {

  private final Set<Consumer<Boolean>> listeners = new CopyOnWriteArraySet<>();
  private final Set<String> troubled = ConcurrentHashMap.newKeySet();

  /** Whether anything waits for the disk. */
  public boolean isLit() {
    return !troubled.isEmpty();
  }

  /** Whether what is played waits for the disk, and not only what is saved behind it. */
  public boolean isLitByJournal() {
    return troubled.contains(JournalWriter.NAME);
  }

  /**
   * Tells when the disk takes nothing, and when it does again.
   *
   * @return ends it
   */
  public Runnable listen(Consumer<Boolean> listener) {
    listeners.add(listener);
    return () -> listeners.remove(listener);
  }

  /** Something waits for the disk, or no more. */
  synchronized void set(String who, boolean trouble) {
    boolean before = isLit();
    if (trouble) {
      troubled.add(who);
    } else {
      troubled.remove(who);
    }
    if (before != isLit()) {
      listeners.forEach(listener -> listener.accept(isLit()));
    }
  }
}
