package app.uprightwarden.server;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.core.importer.Location;
import java.util.regex.Pattern;

/**
 * The compiled classes that we wrote. Packing the application puts others beside them, which Spring
 * writes for quick starts ({@code __} and {@code $$} in their names): whoever has started it before
 * the tests has them.
 */
final class WrittenByUs {
  private static final Pattern WRITTEN_BY_SPRING = Pattern.compile(".*/[^/]*(__|\\$\\$)[^/]*");

  private WrittenByUs() {}

  /** Those in a package and below, without tests. */
  static JavaClasses in(String packageName) {
    return new ClassFileImporter()
        .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
        .withImportOption(WrittenByUs::wrote)
        .importPackages(packageName);
  }

  private static boolean wrote(Location location) {
    return !location.matches(WRITTEN_BY_SPRING);
  }
}
