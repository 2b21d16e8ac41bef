package ancora.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** What {@code ./ancora test --long} found, a row each, for the table at its end. */
public final class LongTable {

  private LongTable() {}

  /** Adds a row, if a table is asked for by {@code -Dancora.table=FILE}. */
  public static void row(String what, String found) {
    String file = System.getProperty("ancora.table");
    if (file == null) {
      return;
    }
    try {
      Files.writeString(
          Path.of(file),
          "%-64s %s%n".formatted(what, found),
          StandardOpenOption.CREATE,
          StandardOpenOption.APPEND);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }
}
