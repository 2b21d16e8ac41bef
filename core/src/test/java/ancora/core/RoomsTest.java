package ancora.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** The rooms of the core, as the architecture has them: which may know which. */
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

  private final JavaClasses core =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("ancora.core");

  @Test
  void noRoomKnowsOneThatKnowsIt() {
    slices().matching("ancora.core.(**)").should().beFreeOfCycles().check(core);
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
        .check(core);
  }

  @Test
  void rulesKnowNoEngineAndNoPlayer() {
    noClasses()
        .that()
        .resideInAPackage("ancora.core.rules..")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("ancora.core.planner..", "ancora.core.engine..", "ancora.core.run..")
        .check(core);
  }
}
