package ancora.core.control;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.catalogue.Blank;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import ancora.core.catalogue.Group;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** {@code docs/controls.md} is made from the catalogue and the ready map. */
class ControlsSheetTest {

  private static final int MOST_TOLD = 6;

  /** Written anew by {@code -Dancora.write=true}. */
  @Test
  void theTableOfControlsIsTrue() throws IOException {
    Path sheet = Path.of("..", "docs", "controls.md");
    if (Boolean.getBoolean("ancora.write")) {
      Files.writeString(sheet, sheet());
    }
    assertThat(Files.readString(sheet)).isEqualTo(sheet());
  }

  private static String sheet() {
    StringBuilder sheet =
        new StringBuilder(
            """
            # What a control can stand for

            Any pedal, pad, key, knob, or key of the computer: in **Setup**, *Controls*, it is taught by moving it. Where a
            word stands in italics there is a choice. The keys are those of the ready map, by their places on an American
            keyboard. This table is made from `catalogue.Catalogue`, and checked by a test.
            """);
    for (Group group : Group.values()) {
      sheet.append("\n## ").append(group.words()).append("\n\n");
      sheet.append(
          "| what it does | the choices | by | key | pedal or knob |\n|---|---|---|---|---|\n");
      Catalogue.ALL.stream()
          .filter(entry -> entry.group() == group)
          .forEach(entry -> sheet.append(row(entry)));
    }
    return sheet.toString();
  }

  private static String row(Entry entry) {
    String words = entry.words().replaceAll("\\{(\\w+)}", "*$1*");
    String choices =
        entry.blanks().stream()
            .filter(blank -> !List.of("part", "clip").contains(blank.field()))
            .map(ControlsSheetTest::told)
            .collect(Collectors.joining("; "));
    String hold =
        switch (Entry.holdOf(entry.usual())) {
          case PRESSED -> "press";
          case WHILE_HELD -> "hold";
          case TURNED -> "turn";
        };
    return "| %s | %s | %s | %s | %s |\n"
        .formatted(
            words,
            choices,
            hold,
            of(entry, ReadyMap.KEYS),
            of(entry, ReadyMap.STAND_IN.assignments()));
  }

  private static String told(Blank blank) {
    List<String> words = blank.choices().stream().map(Blank.Choice::words).toList();
    String all =
        words.size() <= MOST_TOLD
            ? String.join(", ", words)
            : String.join(", ", words.subList(0, MOST_TOLD - 1))
                + " … "
                + words.get(words.size() - 1);
    return "*" + blank.field() + "*: " + all;
  }

  private static String of(Entry entry, List<Assignment> assignments) {
    return assignments.stream()
        .filter(a -> entry.filled(a.command()).isPresent())
        .filter(a -> !a.control().key().matches("(Alt|Shift) Key[^U]"))
        .map(a -> a.control().key().isEmpty() ? pedal(a) : "`" + a.control().key() + "`")
        .distinct()
        .collect(Collectors.joining(" "));
  }

  private static String pedal(Assignment assignment) {
    boolean knob = assignment.control().device().equals(ReadyMap.KNOBS);
    int number = assignment.control().number() - (knob ? 15 : 79);
    String gesture =
        assignment.gesture() == Assignment.Gesture.SHORT ? "" : ", " + assignment.gesture().words();
    return (knob ? "knob " : "pedal ") + number + gesture;
  }
}
