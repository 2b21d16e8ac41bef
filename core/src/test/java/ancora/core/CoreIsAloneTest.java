package ancora.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** The core depends on the JDK alone, and knows no thread, no clock and no file. */
class CoreIsAloneTest {

  private final JavaClasses core =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("ancora.core");

  @Test
  void dependsOnTheJdkAlone() {
    classes()
        .should()
        .onlyDependOnClassesThat()
        .resideInAnyPackage("java..", "javax.sound.midi..", "ancora.core..")
        .check(core);
  }

  @Test
  void hasNoClockNoThreadAndNoSocket() {
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
        .check(core);
  }
}
