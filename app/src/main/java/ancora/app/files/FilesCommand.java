package ancora.app.files;

import ancora.app.Ancora;
import ancora.app.start.Given;
import ancora.app.store.ShowCard;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.file.MidiFile;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** {@code ./ancora export} and {@code ./ancora import}: files without a page. */
public final class FilesCommand {

  private static final String USAGE =
      """
      usage: ./ancora export [--data=FOLDER] SHOW --midi|--json OUT
             ./ancora import [--data=FOLDER] FILE
      SHOW is a show's name, or its number.""";

  private static final int BAD_INPUT = 2;

  private FilesCommand() {}

  public static void main(String[] arguments) {
    System.exit(run(List.of(arguments), System.out, System.err));
  }

  /**
   * Runs the command.
   *
   * @return the exit code: 0, or 2 if something that was given is not right
   */
  static int run(List<String> arguments, PrintStream out, PrintStream err) {
    try {
      Given given = Given.of(arguments, USAGE, Set.of("midi", "json"));
      List<String> words = given.words();
      boolean midi = given.has("midi");
      boolean exports =
          words.size() == 3 && words.get(0).equals("export") && midi != given.has("json");
      boolean imports =
          words.size() == 2 && words.get(0).equals("import") && !midi && !given.has("json");
      Refusal.unless(imports || exports, USAGE);
      Path data = given.data();
      byte[] read = imports ? read(Path.of(words.get(1))) : new byte[0];
      try (ConfigurableApplicationContext context = open(data)) {
        HouseFiles files = context.getBean(HouseFiles.class);
        if (imports) {
          String name = Path.of(words.get(1)).getFileName().toString();
          CameIn in = files.take(name, read, Optional.empty());
          out.printf("%s (show %d): %s%n", in.title(), in.show(), in.what());
          in.leftOut().forEach(sentence -> out.println("Left out: " + sentence));
        } else {
          export(context, files, words.get(1), midi, Path.of(words.get(2)), out);
        }
      }
      return 0;
    } catch (Refusal refusal) {
      err.println(refusal.getMessage());
    } catch (IOException failure) {
      err.println("That cannot be written or read: " + failure.getMessage() + ".");
    }
    return BAD_INPUT;
  }

  private static void export(
      ConfigurableApplicationContext context,
      HouseFiles files,
      String show,
      boolean midi,
      Path to,
      PrintStream out)
      throws IOException {
    long id = number(context.getBean(ShowStore.class), show);
    if (midi) {
      MidiFile file = files.form(id).midi(MidiFile.Type.TRACKS);
      Files.write(to, file.bytes());
      file.said().forEach(out::println);
    } else {
      try (OutputStream file = Files.newOutputStream(to)) {
        files.show(id, true, file);
      }
    }
    out.println("Written: " + to);
  }

  private static byte[] read(Path file) throws IOException {
    Refusal.unless(Files.isRegularFile(file), "There is no file %s: name one.", file);
    Refusal.unless(
        Files.size(file) <= Kind.MOST_BYTES,
        "That file is larger than %s MB.",
        Kind.MOST_BYTES >> 20);
    return Files.readAllBytes(file);
  }

  private static long number(ShowStore store, String show) {
    List<ShowCard> cards = store.cards();
    return cards.stream()
        .filter(card -> card.title().equals(show) || String.valueOf(card.id()).equals(show))
        .mapToLong(ShowCard::id)
        .findFirst()
        .orElseThrow(
            () ->
                new Refusal(
                    "There is no show “%s”; there are: %s."
                        .formatted(
                            show,
                            String.join(", ", cards.stream().map(ShowCard::title).toList()))));
  }

  /** The house without a page: nobody is told its port. */
  private static ConfigurableApplicationContext open(Path data) {
    try {
      return new SpringApplicationBuilder(Ancora.class)
          .run(
              "--ancora.port=0",
              "--ancora.data=" + data,
              "--ancora.demo=false",
              "--logging.level.root=off",
              "--logging.level.ancora=off",
              "--spring.main.banner-mode=off");
    } catch (RuntimeException closed) {
      throw new Refusal(
          "The shows in %s cannot be opened: if Ancora runs with them, end it, or use its pages."
              .formatted(data));
    }
  }
}
