package ancora.app.bank;

import ancora.app.options.Options;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.sound.BankFile;
import ancora.core.sound.BankFile.Preset;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.function.LongSupplier;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * The sound banks that musicians have brought: files of their own beside the database, each with
 * what is in it. They are known by what they are, so that the same bank is kept once, and a show
 * finds it in another house.
 */
@Component
public class Banks {

  private static final int MOST = 32;

  /** So much room is left on the disk for what is played, in bytes. */
  private static final long LEFT = 64L << 20;

  private static final Pattern DIGEST = Pattern.compile("[0-9a-f]{64}");
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String SOUNDS = ".json";
  private static final String BANK = ".bank";
  private static final String COMING = ".coming";

  private final Path folder;
  private final long most;
  private final LongSupplier room;

  /**
   * A bank that is here.
   *
   * @param bank the SHA-256 of its file
   * @param file what it is called
   * @param bytes how large it is
   * @param presets what is in it
   */
  public record Bank(String bank, String file, long bytes, List<Preset> presets) {}

  @Autowired
  Banks(Options options) {
    this(
        options.data(), BankFile.MOST_BYTES, () -> options.data().toFile().getUsableSpace() - LEFT);
  }

  /**
   * @param most the largest bank that is taken, in bytes
   * @param room how many bytes the disk takes
   */
  Banks(Path data, long most, LongSupplier room) {
    folder = data.resolve("banks");
    this.most = most;
    this.room = room;
  }

  /** All that are here, by name. */
  public List<Bank> all() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    List<Bank> banks = new ArrayList<>();
    try (Stream<Path> files = Files.list(folder)) {
      for (Path file : files.filter(f -> f.toString().endsWith(SOUNDS)).toList()) {
        read(file).filter(bank -> Files.exists(file(bank.bank()))).ifPresent(banks::add);
      }
    }
    banks.sort(Comparator.comparing(Bank::file).thenComparing(Bank::bank));
    return banks;
  }

  /** What is kept of a bank; empty if it is damaged: brought in again, the bank is there again. */
  private static Optional<Bank> read(Path sounds) throws IOException {
    try {
      return Optional.of(JSON.readValue(Files.readAllBytes(sounds), Bank.class));
    } catch (JacksonException damaged) {
      return Optional.empty();
    }
  }

  /** The file of a bank; empty if it is not here. */
  public Optional<Path> find(String bank) {
    return DIGEST.matcher(bank).matches()
        ? Optional.of(file(bank)).filter(Files::exists)
        : Optional.empty();
  }

  /**
   * Keeps a bank, once it has come whole and been found to be one.
   *
   * @param name what it is called
   * @param in its file
   */
  public synchronized Bank keep(String name, InputStream in) throws IOException {
    String called = Names.checked("sound bank", name);
    Refusal.unless(all().size() < MOST, "There are %s sound banks: delete one first.", MOST);
    Files.createDirectories(folder);
    Path coming = Files.createTempFile(folder, "", COMING);
    try {
      String digest = take(in, coming);
      List<Preset> presets;
      try (SeekableByteChannel channel = Files.newByteChannel(coming)) {
        presets = BankFile.presets(channel);
      }
      Bank bank = new Bank(digest, called, Files.size(coming), presets);
      Files.move(coming, file(digest), StandardCopyOption.REPLACE_EXISTING);
      Path sounds = folder.resolve(digest + SOUNDS);
      Path next = Files.createTempFile(folder, "", COMING);
      Files.write(next, JSON.writeValueAsBytes(bank));
      Files.move(next, sounds, StandardCopyOption.REPLACE_EXISTING);
      return bank;
    } finally {
      Files.deleteIfExists(coming);
    }
  }

  /** Writes what comes, as far as there is room for it. */
  private String take(InputStream in, Path to) throws IOException {
    MessageDigest digest = sha256();
    long free = room.getAsLong();
    byte[] piece = new byte[1 << 16];
    long bytes = 0;
    try (DigestInputStream from = new DigestInputStream(in, digest);
        OutputStream out = Files.newOutputStream(to)) {
      for (int count = from.read(piece); count >= 0; count = from.read(piece)) {
        bytes += count;
        Refusal.unless(
            bytes <= most, "A sound bank has 512 MB at most: take one with fewer sounds.");
        Refusal.unless(
            bytes <= free, "The disk has no room for that sound bank: delete something first.");
        out.write(piece, 0, count);
      }
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  /** Deletes a bank; shows that have sounds of it fall back on others. */
  public synchronized void delete(String bank) throws IOException {
    Path file = find(bank).orElseThrow(() -> new Refusal("There is no such sound bank here."));
    Files.delete(file);
    Files.deleteIfExists(folder.resolve(bank + SOUNDS));
  }

  private Path file(String bank) {
    return folder.resolve(bank + BANK);
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException(impossible);
    }
  }
}
