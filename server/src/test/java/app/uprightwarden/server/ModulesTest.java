package app.uprightwarden.server;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.properties.HasName.Predicates.nameMatching;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.methods;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.springframework.modulith.core.ApplicationModules;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.testng.annotations.Test;

/** Where the walls of the house stand: a wrong import fails here. */
public class ModulesTest {
  private final JavaClasses server =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages("app.uprightwarden.server");

  @Test
  public void packagesTalkThroughWhatTheyShowAndNotInCircles() {
    ApplicationModules.of(WardenApplication.class).verify();
  }

  @Test
  public void controllersHoldNoStore() {
    noClasses()
        .that()
        .areAnnotatedWith(RestController.class)
        .should()
        .dependOnClassesThat(
            resideInAPackage("app.uprightwarden..").and(nameMatching(".*(Repository|Entity)")))
        .because("controllers parse, authorise and answer; services keep")
        .check(server);
  }

  @Test
  public void everyEndpointSaysWhoMay() {
    methods()
        .that()
        .areDeclaredInClassesThat()
        .areAnnotatedWith(RestController.class)
        .and()
        .areMetaAnnotatedWith(RequestMapping.class)
        .and()
        .areDeclaredInClassesThat()
        .doNotHaveSimpleName("SessionController") // signing in is for everybody
        .should()
        .beAnnotatedWith(PreAuthorize.class)
        .check(server);
  }

  @Test
  public void entitiesStayInTheirPackage() {
    classes()
        .that()
        .haveSimpleNameEndingWith("Entity")
        .should()
        .bePackagePrivate()
        .because("another package goes through the service, never through the table")
        .check(server);
  }

  @Test
  public void nothingReadsTheClockByItself() {
    noClasses()
        .should()
        .callMethod(java.time.Instant.class, "now")
        .orShould()
        .callMethod(java.time.LocalDate.class, "now")
        .orShould()
        .callMethod(System.class, "currentTimeMillis")
        .because("a Clock is handed in, so that a test can hold it")
        .check(server);
  }
}
