package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.openqa.selenium.json.Json;
import org.testng.annotations.Test;

/**
 * What ships is what was looked at: every library, its version and its SHA-256, as the build's bill
 * of materials (CycloneDX) has them, is in docs/bill-of-materials.txt. A library that changes by
 * itself, or comes along with another, is seen here first.
 */
public class BillOfMaterialsTest {
  private static final Path LOOKED_AT = Path.of("../docs/bill-of-materials.txt");
  private static final Path BUILT =
      Path.of("../server/target/classes/META-INF/sbom/application.cdx.json");

  private static String sum(Map<?, ?> component) {
    return ((List<?>) component.get("hashes"))
        .stream()
            .map(h -> (Map<?, ?>) h)
            .filter(h -> "SHA-256".equals(h.get("alg")))
            .map(h -> String.valueOf(h.get("content")))
            .findFirst()
            .orElse("none");
  }

  @Test
  public void whatShipsIsWhatWasLookedAt() throws IOException {
    Map<?, ?> bom = new Json().toType(Files.readString(BUILT), Map.class);
    List<Map<?, ?>> parts =
        ((List<?>) bom.get("components"))
            .stream().<Map<?, ?>>map(c -> (Map<?, ?>) c).collect(Collectors.toList());
    String found =
        parts.stream()
                .filter(c -> !"app.uprightwarden".equals(c.get("group")))
                .map(
                    c ->
                        c.get("group")
                            + ":"
                            + c.get("name")
                            + ":"
                            + c.get("version")
                            + " "
                            + sum(c))
                .sorted()
                .collect(Collectors.joining("\n"))
            + "\n";
    assertTrue(parts.size() > 80, "they are found: " + parts.size());
    if (Boolean.getBoolean("warden.bom.write")) {
      Files.writeString(LOOKED_AT, found);
    }
    assertEquals(
        found,
        Files.readString(LOOKED_AT),
        "look at what changed, then write it down: ./warden bom");
  }
}
