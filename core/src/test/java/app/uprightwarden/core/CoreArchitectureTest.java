package app.uprightwarden.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.Architectures.LayeredArchitecture;
import java.util.List;
import org.testng.annotations.Test;

/** The core's packages know only those before them, and nothing of the outside. */
public class CoreArchitectureTest {
  private static final List<String> ORDER =
      List.of(
          "control",
          "people",
          "meeting",
          "rulebook",
          "service",
          "door",
          "exposure",
          "audit",
          "remedy",
          "passcode",
          "calendar",
          "session",
          "drafting");

  private final JavaClasses core =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages("app.uprightwarden.core");

  @Test
  public void aPackageKnowsOnlyThoseBeforeIt() {
    LayeredArchitecture layers = layeredArchitecture().consideringOnlyDependenciesInLayers();
    for (String name : ORDER) {
      layers = layers.layer(name).definedBy("app.uprightwarden.core." + name + "..");
    }
    for (int i = 0; i < ORDER.size(); i++) {
      List<String> after = ORDER.subList(i + 1, ORDER.size());
      layers =
          after.isEmpty()
              ? layers.whereLayer(ORDER.get(i)).mayNotBeAccessedByAnyLayer()
              : layers
                  .whereLayer(ORDER.get(i))
                  .mayOnlyBeAccessedByLayers(after.toArray(String[]::new));
    }
    layers.check(core);
  }

  @Test
  public void noFrameworkNoDatabaseNoClockOfItsOwn() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "org.springframework..",
            "jakarta..",
            "org.hibernate..",
            "java.sql..",
            "tools.jackson..")
        .check(core);
    noClasses()
        .should()
        .callMethod(java.time.Instant.class, "now")
        .orShould()
        .callMethod(java.time.LocalDateTime.class, "now")
        .orShould()
        .callMethod(System.class, "currentTimeMillis")
        .orShould()
        .callMethod(System.class, "nanoTime")
        .check(core);
  }
}
