package ancora.app.safety;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermissions;

/** Files that nobody reads but who runs Ancora. */
final class OwnerOnly {

  private OwnerOnly() {}

  /** Writes one whole, or not at all. */
  static void write(Path file, byte[] content) throws IOException {
    Path part = file.resolveSibling(file.getFileName() + ".part");
    Files.deleteIfExists(part);
    Files.createFile(part);
    close(part);
    Files.write(part, content);
    Files.move(part, file, StandardCopyOption.REPLACE_EXISTING);
  }

  /** Where the file system knows whose a file is, others are kept from reading it. */
  static void close(Path file) throws IOException {
    if (Files.getFileAttributeView(file, PosixFileAttributeView.class) != null) {
      Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    }
  }
}
