package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.testng.annotations.AfterClass;
import org.testng.annotations.Test;

/** A backup by command, put back into an empty place by command: the same comes out of it. */
public class BackupTest {
  private static final String TOKEN = "a token for taking it all out";

  private final Path directory = Path.of(RunningWarden.environment("WARDEN_TEST_DIR"));
  private final Path first = directory.resolve("home-1");
  private final Path second = directory.resolve("home-2");

  private record Ran(int status, String said) {}

  private static Ran warden(Path home, String... arguments) throws Exception {
    List<String> command = new ArrayList<>(List.of("bash", "../warden"));
    command.addAll(List.of(arguments));
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.environment().put("WARDEN_HOME", home.toString());
    builder.redirectErrorStream(true);
    builder.redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()));
    Path log = Files.createTempFile("warden", ".log");
    builder.redirectOutput(log.toFile()); // the database it starts keeps a pipe open
    int status = builder.start().waitFor();
    return new Ran(status, Files.readString(log));
  }

  private record Place(String url, String password) {
    static Place of(String said) {
      String line = said.lines().filter(l -> l.startsWith("jdbc:")).findFirst().orElseThrow();
      return new Place(line.split(" ")[0], line.replaceFirst(".*password=", "").strip());
    }

    Connection connect() throws SQLException {
      return DriverManager.getConnection(url, "warden", password);
    }
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    warden(first, "stop");
    warden(second, "stop");
  }

  /** Everything the server lets a warden take out, passcodes too. */
  private static final Pattern ENTRY = Pattern.compile("\\{\"seq\":(\\d+),");

  private static long newest(String all) {
    Matcher entry = ENTRY.matcher(all);
    assertTrue(entry.find(), "the ledger's newest entry comes first");
    return Long.parseLong(entry.group(1));
  }

  /** To read it all is an act, too: the ledger has it when it is read again. */
  private static String withoutWhatCameSince(String all, long newest) {
    int begin = all.indexOf("{\"seq\":");
    int to = all.indexOf("{\"seq\":" + newest + ",");
    return all.substring(0, begin)
        + all.substring(to).replaceFirst("\"total\":\\d+", "\"total\":" + newest);
  }

  private static String everything(Path home, Place place, boolean demo)
      throws IOException, InterruptedException {
    try (RunningWarden warden =
        RunningWarden.begin(
            "warden",
            home.getFileName().toString(),
            demo,
            0,
            place.url(),
            Map.of(
                "WARDEN_DB_USER",
                "warden",
                "WARDEN_DB_PASSWORD",
                place.password(),
                "WARDEN_SECRET_FILE",
                home.resolve("secret.key").toString()))) {
      warden.await();
      if (demo) {
        try (Connection connection = place.connect()) {
          Tokens.issue(connection, TOKEN);
        } catch (SQLException e) {
          throw new IOException(e);
        }
      }
      StringBuilder all = new StringBuilder();
      for (String path :
          List.of(
              "/api/exchange/bundle",
              "/api/rulebook/editions",
              "/api/ledger?size=500",
              "/api/outbox",
              "/api/waivers",
              "/api/accounts")) {
        HttpResponse<String> answer =
            HttpClient.newHttpClient()
                .send(
                    HttpRequest.newBuilder(URI.create(warden.address() + path))
                        .header("Authorization", "Bearer " + TOKEN)
                        .build(),
                    HttpResponse.BodyHandlers.ofString());
        assertEquals(answer.statusCode(), 200, path + " " + answer.body());
        all.append(answer.body()).append('\n');
      }
      return all.toString();
    }
  }

  @Test
  public void whatWasBackedUpComesOutOfAnEmptyPlaceAgain() throws Exception {
    Ran up = warden(first, "database");
    assertEquals(up.status(), 0, up.said());
    String before = everything(first, Place.of(up.said()), true);
    assertTrue(before.contains("passcode"), "passcodes are in it");

    Path file = directory.resolve("backup.tar");
    Ran backup = warden(first, "backup", file.toString());
    assertEquals(backup.status(), 0, backup.said());
    assertEquals(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)), "rw-------");
    assertNotEquals(warden(first, "backup", file.toString()).status(), 0, "none is overwritten");

    byte[] damaged = Files.readAllBytes(file);
    damaged[damaged.length / 2] ^= 1;
    Path broken = directory.resolve("broken.tar");
    Files.write(broken, damaged);
    Ran refused = warden(second, "restore", broken.toString());
    assertNotEquals(refused.status(), 0);
    assertTrue(refused.said().contains("Nothing was changed"), refused.said());

    Ran restored = warden(second, "restore", file.toString());
    assertEquals(restored.status(), 0, restored.said());
    Ran again = warden(second, "database");
    assertEquals(again.status(), 0, again.said());
    String after = everything(second, Place.of(again.said()), false);
    assertEquals(withoutWhatCameSince(after, newest(before)), before);
  }
}
