package ancora.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** The rooms of the core, as the architecture has them: which may know which, and what none may. */
class RoomsTest {

  private static final String[] VALUES = {
    "ancora.core.time..",
    "ancora.core.note..",
    "ancora.core.sound..",
    "ancora.core.clip..",
    "ancora.core.show..",
    "ancora.core.record..",
    "ancora.core.vamp..",
    "ancora.core.history..",
    "ancora.core.stage.."
  };

  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("ancora.core");

  @Test
  void theCoreDependsOnTheJdkAlone() {
    classes()
        .should()
        .onlyDependOnClassesThat()
        .resideInAnyPackage("java..", "javax.sound.midi..", "ancora.core..")
        .check(CORE);
  }

  @Test
  void theCoreHasNoClockNoThreadAndNoSocket() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.util.concurrent..", "java.net..", "java.sql..")
        .orShould()
        .dependOnClassesThat()
        .haveNameMatching("java\\.lang\\.Thread|java\\.time\\.Clock|java\\.util\\.Timer")
        .orShould()
        .callMethod(System.class, "currentTimeMillis")
        .orShould()
        .callMethod(System.class, "nanoTime")
        .check(CORE);
  }

  @Test
  void noRoomKnowsOneThatKnowsIt() {
    slices().matching("ancora.core.(**)").should().beFreeOfCycles().check(CORE);
  }

  @Test
  void valuesKnowNoRules() {
    noClasses()
        .that()
        .resideInAnyPackage(VALUES)
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "ancora.core.rules..",
            "ancora.core.planner..",
            "ancora.core.engine..",
            "ancora.core.run..")
        .check(CORE);
  }

  @Test
  void rulesKnowNoEngineAndNoPlayer() {
    noClasses()
        .that()
        .resideInAPackage("ancora.core.rules..")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("ancora.core.planner..", "ancora.core.engine..", "ancora.core.run..")
        .check(CORE);
  }

  /** The drawing in the architecture is what the imports say. */
  @Test
  void theDrawingIsTrue() throws IOException {
    String document = Files.readString(Path.of("..", "docs", "architecture.md"));
    String drawn = document.split("```rooms\n", 2)[1].split("```", 2)[0];
    assertThat(drawn).isEqualTo(drawing());
  }

  private String drawing() {
    Map<String, Set<String>> knows = new TreeMap<>();
    for (JavaClass one : CORE) {
      Set<String> others = knows.computeIfAbsent(room(one), name -> new TreeSet<>());
      one.getDirectDependenciesFromSelf().stream()
          .map(dependency -> dependency.getTargetClass().getBaseComponentType())
          .filter(other -> other.getPackageName().startsWith("ancora.core."))
          .map(RoomsTest::room)
          .filter(other -> !other.equals(room(one)))
          .forEach(others::add);
    }
    knows.remove("core");
    Map<String, Set<String>> all = new TreeMap<>();
    knows.keySet().forEach(name -> reach(name, knows, all));
    return knows.keySet().stream()
        .sorted(Comparator.comparingInt((String name) -> depth(name, knows)).thenComparing(n -> n))
        .map(name -> line(name, knows, all))
        .collect(Collectors.joining());
  }

  private static String line(
      String name, Map<String, Set<String>> knows, Map<String, Set<String>> all) {
    String nearest =
        knows.get(name).stream()
            .filter(
                other ->
                    knows.get(name).stream()
                        .noneMatch(o -> !o.equals(other) && all.get(o).contains(other)))
            .collect(Collectors.joining(" "));
    return String.format("%-16s%s", name, nearest.isEmpty() ? "" : "→ " + nearest).stripTrailing()
        + "\n";
  }

  private static Set<String> reach(
      String name, Map<String, Set<String>> knows, Map<String, Set<String>> all) {
    if (!all.containsKey(name)) {
      Set<String> found = new TreeSet<>(knows.get(name));
      knows.get(name).forEach(other -> found.addAll(reach(other, knows, all)));
      all.put(name, found);
    }
    return all.get(name);
  }

  private static int depth(String name, Map<String, Set<String>> knows) {
    return knows.get(name).stream().mapToInt(other -> 1 + depth(other, knows)).max().orElse(0);
  }

  private static String room(JavaClass one) {
    String name = one.getPackageName();
    return name.equals("ancora.core") ? "core" : name.substring("ancora.core.".length());
  }
}
