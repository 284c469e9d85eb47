package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** Debian's CalDAV server, and a plain client of it. */
final class Radicale implements AutoCloseable {
  static final String ACCOUNT = "marit";
  static final String SECRET = "kelp & <rudder>";

  private final Process process;
  private final int port;

  Radicale() throws IOException, InterruptedException {
    Path home = Files.createTempDirectory("radicale");
    Path accounts = home.resolve("accounts");
    Files.writeString(accounts, ACCOUNT + ":" + SECRET + "\n");
    port = RunningWarden.freePort();
    process =
        new ProcessBuilder(
                List.of(
                    "/usr/bin/radicale",
                    "--config",
                    "",
                    "--server-hosts",
                    "127.0.0.1:" + port,
                    "--auth-type",
                    "htpasswd",
                    "--auth-htpasswd-filename",
                    accounts.toString(),
                    "--auth-htpasswd-encryption",
                    "plain",
                    "--storage-filesystem-folder",
                    home.resolve("collections").toString()))
            .redirectErrorStream(true)
            .redirectOutput(home.resolve("log").toFile())
            .start();
    for (int i = 0; i < 300 && !answers(); i++) {
      TimeUnit.MILLISECONDS.sleep(100);
    }
    String calendar =
        "<mkcalendar xmlns=\"urn:ietf:params:xml:ns:caldav\" xmlns:d=\"DAV:\"><d:set><d:prop>"
            + "<d:displayname>Harbour team</d:displayname></d:prop></d:set></mkcalendar>";
    check(send("MKCALENDAR", calendar(), calendar), 201);
  }

  private boolean answers() throws InterruptedException {
    try {
      send("GET", root(), null);
      return true;
    } catch (IOException e) {
      return false;
    }
  }

  URI root() {
    return URI.create("http://127.0.0.1:" + port + "/");
  }

  URI calendar() {
    return root().resolve("/" + ACCOUNT + "/team/");
  }

  private HttpResponse<String> send(String method, URI at, String body)
      throws IOException, InterruptedException {
    String pair = ACCOUNT + ":" + SECRET;
    HttpRequest.Builder request =
        HttpRequest.newBuilder(at)
            .header(
                "Authorization",
                "Basic "
                    + Base64.getEncoder().encodeToString(pair.getBytes(StandardCharsets.UTF_8)))
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body));
    if (method.equals("PUT")) {
      request.header("Content-Type", "text/calendar");
    }
    // it closes each connection after its answer
    HttpClient http = HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private static void check(HttpResponse<String> answer, int... wanted) {
    for (int each : wanted) {
      if (answer.statusCode() == each) {
        return;
      }
    }
    throw new IllegalStateException(answer.statusCode() + " " + answer.body());
  }

  /** Puts an event there as a calendar program does. */
  void put(String name, String event) throws IOException, InterruptedException {
    String calendar =
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//tests//\r\n" + event + "END:VCALENDAR\r\n";
    check(send("PUT", calendar().resolve(name + ".ics"), calendar), 201, 204);
  }

  @Override
  public void close() {
    process.destroy();
  }
}
