package ancora.app.store;

import ancora.app.options.Options;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** How much room there is on the disk: the database never meets a full one. */
@Component
public class DiskRoom {

  /** So much is left, in bytes: for journals alone. */
  public static final long LEAST = 64L << 20;

  private final Path folder;

  @Autowired
  DiskRoom(Options options) {
    this(options.data());
  }

  /** Where a folder is. */
  DiskRoom(Path folder) {
    this.folder = folder;
  }

  /** In bytes; endless where it is not known. */
  public long left() {
    try {
      return Files.getFileStore(folder).getUsableSpace();
    } catch (IOException unknown) {
      return Long.MAX_VALUE;
    }
  }

  /** Whether the database may be written to. */
  public boolean isEnough() {
    return left() >= LEAST;
  }
}
