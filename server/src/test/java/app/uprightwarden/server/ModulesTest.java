package app.uprightwarden.server;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.core.domain.properties.HasName.Predicates.nameMatching;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.methods;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.planted.Planted;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import jakarta.persistence.Entity;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.springframework.modulith.core.ApplicationModules;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.testng.annotations.Test;

/** Where the walls of the house stand: a wrong import fails here. */
public class ModulesTest {
  private final JavaClasses server = WrittenByUs.in("app.uprightwarden.server");

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

  private static final ArchRule ENTITIES_STAY =
      classes()
          .that()
          .areAnnotatedWith(Entity.class)
          .should()
          .bePackagePrivate()
          .because("another package goes through the service, never through the table");

  private static final ArchRule THROUGH_HIBERNATE =
      noClasses()
          .that()
          .haveNameNotMatching(".*\\.(DatabaseHealth|SessionConfig|JobRunner)(\\$.*)?")
          .should()
          .dependOnClassesThat(
              resideInAnyPackage("javax.sql..", "org.springframework.jdbc.core..")
                  .or(
                      nameMatching(
                          "java\\.sql\\.(Connection|.*Statement|ResultSet|DriverManager)")))
          .because(
              "tables are entities, and go through repositories; whether the database answers at"
                  + " all is asked of it without them, and the session library keeps its own");

  @Test
  public void entitiesStayInTheirPackage() {
    ENTITIES_STAY.check(server);
  }

  @Test
  public void everythingIsKeptThroughHibernate() {
    THROUGH_HIBERNATE.check(server);
  }

  @Test
  public void aPlantedBreachIsFound() throws IOException {
    JavaClasses planted = new ClassFileImporter().importClasses(Planted.class);
    expectThrows(AssertionError.class, () -> ENTITIES_STAY.check(planted));
    expectThrows(AssertionError.class, () -> THROUGH_HIBERNATE.check(planted));
    Path elsewhere = Path.of("src/main/java/app/uprightwarden/server/watch/Planted.java");
    assertEquals(
        breaches(Map.of(elsewhere, "@HQL(\"select title from MeetingEntity\")"), owners()),
        List.of(elsewhere + " names MeetingEntity"));
  }

  @Test
  public void anEntityIsUsedInItsOwnPackageAlone() {
    classes()
        .that()
        .areAnnotatedWith(Entity.class)
        .should(beUsedInTheirPackageAlone())
        .check(server);
  }

  private static ArchCondition<JavaClass> beUsedInTheirPackageAlone() {
    return new ArchCondition<>("be used in their own package alone") {
      @Override
      public void check(JavaClass entity, ConditionEvents events) {
        entity.getDirectDependenciesToSelf().stream()
            .filter(use -> !use.getOriginClass().getPackage().equals(entity.getPackage()))
            .forEach(use -> events.add(SimpleConditionEvent.violated(use, use.getDescription())));
      }
    };
  }

  /** Queries name entities in texts, which no compiler holds to a package. */
  @Test
  public void aQueryAsksForItsOwnPackagesEntitiesAlone() throws IOException {
    Map<Path, String> texts = new TreeMap<>();
    for (Path file : sources()) {
      texts.put(file, Files.readString(file));
    }
    Map<String, Path> owners = owners();
    assertTrue(owners.size() > 50, "the entities were looked for and not found");
    assertEquals(breaches(texts, owners), List.of());
  }

  private static List<Path> sources() throws IOException {
    try (Stream<Path> all = Files.walk(Path.of("src/main/java"))) {
      return all.filter(file -> file.toString().endsWith(".java")).toList();
    }
  }

  /** The entities' names, and the packages that own them. */
  private static Map<String, Path> owners() throws IOException {
    Map<String, Path> owners = new HashMap<>();
    for (Path file : sources()) {
      String name = file.getFileName().toString().replace(".java", "");
      if (name.endsWith("Entity")) {
        owners.put(name, file.getParent());
      }
    }
    return owners;
  }

  private static List<String> breaches(Map<Path, String> texts, Map<String, Path> owners) {
    List<String> breaches = new ArrayList<>();
    texts.forEach(
        (file, text) -> {
          Matcher named = Pattern.compile("\\b\\w+Entity\\b").matcher(text);
          while (named.find()) {
            Path owner = owners.get(named.group());
            if (owner != null && !owner.equals(file.getParent())) {
              breaches.add(file + " names " + named.group());
            }
          }
        });
    return breaches;
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
