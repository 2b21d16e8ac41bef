package ancora.app.files;

import ancora.app.Ancora;
import ancora.app.start.Given;
import ancora.app.store.RunCard;
import ancora.app.store.RunStore;
import ancora.app.store.ShowCard;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.file.MidiFile;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** {@code ./ancora export} and {@code ./ancora import}: files without a page. */
public final class FilesCommand {

  private static final String USAGE =
      """
      usage: ./ancora export [--data=FOLDER] --midi|--json|--clips|--runs SHOW … OUT
             ./ancora import [--data=FOLDER] FILE …
      SHOW is a show's name, or its number. --midi writes its form, --json all of it as one file,
      --clips each clip as MIDI in a ZIP, --runs each run as MIDI. OUT is the file; for several
      shows, and for runs, it is a folder, in which each file has its own name.""";

  private static final Set<String> WHAT = Set.of("midi", "json", "clips", "runs");

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
      Given given = Given.of(arguments, USAGE, WHAT);
      List<String> words = given.words();
      List<String> what = WHAT.stream().filter(given::has).toList();
      boolean imports = words.size() >= 2 && words.get(0).equals("import") && what.isEmpty();
      boolean exports = words.size() >= 3 && words.get(0).equals("export") && what.size() == 1;
      Refusal.unless(imports || exports, USAGE);
      List<String> named = words.subList(1, words.size());
      if (imports) {
        for (String file : named) {
          check(Path.of(file));
        }
      }
      try (ConfigurableApplicationContext context = open(given.data())) {
        if (imports) {
          take(context.getBean(HouseFiles.class), named, out);
        } else {
          List<String> shows = named.subList(0, named.size() - 1);
          new Exporting(context, what.get(0), Path.of(named.get(named.size() - 1)), out)
              .write(shows);
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

  private static void check(Path file) throws IOException {
    Refusal.unless(Files.isRegularFile(file), "There is no file %s: name one.", file);
    Refusal.unless(
        Files.size(file) <= Kind.MOST_BYTES,
        "%s is larger than %s MB.",
        file,
        Kind.MOST_BYTES >> 20);
  }

  /** Each file by itself: what is wrong with one is said, and the others come in. */
  private static void take(HouseFiles files, List<String> named, PrintStream out)
      throws IOException {
    List<String> refused = new ArrayList<>();
    for (String file : named) {
      try {
        String name = Path.of(file).getFileName().toString();
        CameIn in = files.take(name, Files.readAllBytes(Path.of(file)), Optional.empty());
        out.printf("%s (show %d): %s%n", in.title(), in.show(), in.what());
        in.leftOut().forEach(sentence -> out.println("Left out: " + sentence));
      } catch (Refusal refusal) {
        refused.add(named.size() == 1 ? refusal.getMessage() : file + ": " + refusal.getMessage());
      }
    }
    Refusal.unless(refused.isEmpty(), String.join(System.lineSeparator(), refused));
  }

  /** Shows that are being written. */
  private record Exporting(
      ConfigurableApplicationContext context, String what, Path to, PrintStream out) {

    void write(List<String> shows) throws IOException {
      List<Long> ids = new ArrayList<>();
      for (String show : shows) {
        ids.add(number(context.getBean(ShowStore.class), show));
      }
      boolean several = ids.size() > 1 || what.equals("runs");
      if (several) {
        Files.createDirectories(to);
      }
      HouseFiles files = context.getBean(HouseFiles.class);
      for (long id : ids) {
        if (what.equals("runs")) {
          for (RunCard card : context.getBean(RunStore.class).cards(id)) {
            midi(files.run(id, card.id()), true);
          }
        } else if (what.equals("midi")) {
          midi(files.form(id), several);
        } else {
          String ending = what.equals("json") ? "json" : "zip";
          String name = FileName.of(files.titleOf(id), ending.equals("zip") ? "clips" : "", ending);
          Path path = several ? to.resolve(name) : to;
          try (OutputStream file = Files.newOutputStream(path)) {
            if (what.equals("json")) {
              files.show(id, true, file);
            } else {
              files.clips(id, file);
            }
          }
          out.println("Written: " + path);
        }
      }
    }

    private void midi(Piece piece, boolean several) throws IOException {
      MidiFile file = piece.midi(MidiFile.Type.TRACKS);
      Path path = several ? to.resolve(piece.fileName("mid")) : to;
      Files.write(path, file.bytes());
      file.said().forEach(out::println);
      out.println("Written: " + path);
    }
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
          .main(Ancora.class)
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
