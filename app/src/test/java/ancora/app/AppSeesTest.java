package ancora.app;

import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.assignableTo;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import ancora.core.rules.Command;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** Of the rules the app sees the commands alone: it asks the engine. */
class AppSeesTest {

  @Test
  void theAppAsksTheEngine() {
    noClasses()
        .should()
        .dependOnClassesThat(
            resideInAPackage("ancora.core.rules..").and(not(assignableTo(Command.class))))
        .orShould()
        .dependOnClassesThat(resideInAPackage("ancora.core.planner.."))
        .check(
            new ClassFileImporter()
                .withImportOption(new ImportOption.DoNotIncludeTests())
                .importPackages("ancora.app"));
  }
}
