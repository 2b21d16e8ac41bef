package ancora.app.safety;

import static java.nio.charset.StandardCharsets.UTF_8;

import ancora.core.Refusal;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * What others in the room say to be let in: four words each, drawn once and kept with the shows.
 *
 * @param perform who says it does all that can be done on this machine
 * @param watch who says it sees what sounds, and no more
 */
record PassPhrases(String perform, String watch) {

  static final String FILE = "pass-phrases.txt";

  /** So many that it takes longer than anyone stays to try them: 256 to the fourth. */
  private static final int WORDS = 4;

  /** The phrases of a folder, drawn if it has none. */
  static PassPhrases of(Path folder) {
    Path file = folder.resolve(FILE);
    try {
      if (Files.exists(file)) {
        return read(file);
      }
      PassPhrases drawn = drawn(new SecureRandom());
      Files.createDirectories(folder);
      OwnerOnly.write(
          file, "perform: %s%nwatch: %s%n".formatted(drawn.perform, drawn.watch).getBytes(UTF_8));
      return drawn;
    } catch (IOException failure) {
      throw new Refusal(
          "The pass phrases in %s cannot be read: delete that file, and there will be new ones."
              .formatted(file));
    }
  }

  private static PassPhrases read(Path file) throws IOException {
    List<String> lines = Files.readAllLines(file, UTF_8);
    Optional<PassPhrases> read =
        phrase(lines, "perform:").flatMap(p -> phrase(lines, "watch:").map(w -> both(p, w)));
    return read.filter(both -> !both.perform.equals(both.watch))
        .orElseThrow(() -> new IOException("not two phrases"));
  }

  private static PassPhrases both(String perform, String watch) {
    return new PassPhrases(perform, watch);
  }

  private static Optional<String> phrase(List<String> lines, String before) {
    return lines.stream()
        .filter(line -> line.startsWith(before))
        .map(line -> plain(line.substring(before.length())))
        .filter(phrase -> phrase.split(" ").length >= WORDS)
        .findFirst();
  }

  static PassPhrases drawn(SecureRandom random) {
    List<String> words = words();
    String perform = draw(words, random);
    String watch = draw(words, random);
    return perform.equals(watch) ? drawn(random) : new PassPhrases(perform, watch);
  }

  private static String draw(List<String> words, SecureRandom random) {
    return IntStream.range(0, WORDS)
        .mapToObj(i -> words.get(random.nextInt(words.size())))
        .collect(Collectors.joining(" "));
  }

  static List<String> words() {
    try (InputStream in = PassPhrases.class.getResourceAsStream("/words.txt")) {
      return new String(in.readAllBytes(), UTF_8).lines().toList();
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** What somebody who says a phrase may do. */
  Optional<Role> role(String said) {
    String phrase = plain(said);
    boolean performs = isSame(phrase, perform);
    boolean watches = isSame(phrase, watch);
    return performs
        ? Optional.of(Role.PERFORM)
        : watches ? Optional.of(Role.WATCH) : Optional.empty();
  }

  /** In a time that tells nothing of how much of it was right. */
  private static boolean isSame(String said, String phrase) {
    return MessageDigest.isEqual(said.getBytes(UTF_8), phrase.getBytes(UTF_8));
  }

  /** In small letters, with one space between words, however it was typed. */
  private static String plain(String phrase) {
    return phrase.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", " ").strip();
  }
}
