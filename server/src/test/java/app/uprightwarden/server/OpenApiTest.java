package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * The front end's types are generated from {@code web/openapi.json}; here that file is held to what
 * the server says of itself, so that a renamed field breaks the build and not a page.
 */
public class OpenApiTest extends ServerTest {
  private static final Path FILE = Path.of("../web/openapi.json");

  @Test
  public void theFrontEndsDescriptionIsTheServers() throws IOException {
    JsonNode served = get(AUDITOR, "/api/openapi.json").is(200).json();
    if (Boolean.getBoolean("warden.openapi.write")) {
      Files.writeString(
          FILE, json.writerWithDefaultPrettyPrinter().writeValueAsString(served) + "\n");
    }
    assertEquals(
        json.readTree(Files.readString(FILE)),
        served,
        "the API changed: run ./warden openapi and commit what it writes");
  }
}
