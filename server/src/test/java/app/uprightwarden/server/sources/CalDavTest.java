package app.uprightwarden.server.sources;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** What CalDAV servers may answer besides what the one in Debian does. */
public class CalDavTest {
  /** What it answers to whoever says this, the first that fits. */
  private record Reply(String method, String says, int status, String body) {}

  private final List<Reply> replies = new CopyOnWriteArrayList<>();
  private final Map<String, String> redirects = new ConcurrentHashMap<>();
  private HttpServer server;

  @BeforeMethod
  public void begin() throws IOException {
    replies.clear();
    redirects.clear();
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
    server.createContext("/", this::answer);
    server.start();
  }

  @AfterMethod(alwaysRun = true)
  public void end() {
    server.stop(0);
  }

  private void answer(HttpExchange exchange) throws IOException {
    String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
    String to = redirects.get(exchange.getRequestURI().getPath());
    if (to != null) {
      exchange.getResponseHeaders().set("Location", to);
      exchange.sendResponseHeaders(301, -1);
      exchange.close();
      return;
    }
    String asked = exchange.getRequestURI().getPath() + " " + body;
    Reply reply =
        replies.stream()
            .filter(r -> r.method().equals(exchange.getRequestMethod()))
            .filter(r -> asked.contains(r.says()))
            .findFirst()
            .orElse(new Reply("", "", 405, ""));
    byte[] bytes = reply.body().getBytes(StandardCharsets.UTF_8);
    exchange.sendResponseHeaders(reply.status(), bytes.length == 0 ? -1 : bytes.length);
    exchange.getResponseBody().write(bytes);
    exchange.close();
  }

  private CalDav at(String path) {
    URI root = URI.create("http://127.0.0.1:" + server.getAddress().getPort());
    SourceHttp http = new SourceHttp(new SourceAddresses(Set.of("127.0.0.1")));
    return new CalDav(http, root.resolve(path), null);
  }

  private static String status(String inside) {
    return "<d:multistatus xmlns:d=\"DAV:\" xmlns:c=\"urn:ietf:params:xml:ns:caldav\">"
        + inside
        + "</d:multistatus>";
  }

  private static String changed(String href, String etag) {
    return "<d:response><d:href>%s</d:href><d:propstat><d:prop><d:getetag>%s</d:getetag></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>"
        .formatted(href, etag);
  }

  private static String answered(String href, int status) {
    return "<d:response><d:href>%s</d:href><d:status>HTTP/1.1 %d x</d:status></d:response>"
        .formatted(href, status);
  }

  private void report(String says, int status, String body) {
    replies.add(new Reply("REPORT", says, status, body));
  }

  /** RFC 6578 section 3.6: a server may answer in parts, each with a token of its own. */
  @Test
  public void whatComesInPartsIsReadToTheEnd() throws SourceTrouble {
    report(
        "<sync-token></sync-token>",
        207,
        status(
            changed("/c/a.ics", "1") + answered("/c/", 507) + "<d:sync-token>t-1</d:sync-token>"));
    report(
        "<sync-token>t-1</sync-token>",
        207,
        status(
            changed("http://127.0.0.1/c/b%20b.ics", "2")
                + answered("/c/gone.ics", 404)
                + "<d:sync-token>t-2</d:sync-token>"));
    CalDav.Changes changes = at("/c/").changes(null);
    assertEquals(
        new ArrayList<>(changes.marks().keySet()),
        List.of("/c/a.ics", "/c/b b.ics", "/c/gone.ics"));
    assertNull(changes.marks().get("/c/gone.ics"));
    assertEquals(changes.token(), "t-2");
    assertTrue(changes.isWhole());
    assertTrue(!at("/c/").changes("t-1").isWhole());
  }

  @Test
  public void aTokenThatDoesNotGoOnIsNotAskedForEver() {
    report("sync-token", 207, status(answered("/c/", 507) + "<d:sync-token>t</d:sync-token>"));
    assertThrows(SourceTrouble.class, () -> at("/c/").changes("t"));
  }

  /** RFC 6578 section 3.2, the precondition DAV:valid-sync-token, with 403 as with 409. */
  @Test
  public void aTokenThatIsForgottenIsSaidToBe() {
    for (int status : new int[] {403, 409}) {
      replies.clear();
      report("sync-token", status, "<d:error xmlns:d=\"DAV:\"><d:valid-sync-token/></d:error>");
      try {
        at("/c/").changes("old");
        throw new AssertionError("it was taken");
      } catch (SourceTrouble e) {
        assertEquals(e.kind(), SourceTrouble.Kind.MARKER_GONE);
      }
    }
  }

  @Test
  public void aServerThatCannotSayWhatChangedIsListed() throws SourceTrouble {
    replies.add(
        new Reply(
            "PROPFIND", "getetag", 207, status(changed("/c/", "x") + changed("/c/a.ics", "1"))));
    CalDav.Changes changes = at("/c/").changes("some");
    assertEquals(changes.marks(), Map.of("/c/a.ics", "1"));
    assertTrue(changes.isWhole(), "what it does not list is gone");
    assertNull(changes.token());
  }

  /** RFC 4791 section 7.10. */
  @Test
  public void freeAndBusyIsAskedOnlyWhereItIsKnown() throws SourceTrouble {
    Instant now = Instant.parse("2027-01-04T00:00:00Z");
    try {
      at("/c/").freeBusy(now, now.plusSeconds(60));
      throw new AssertionError("it was answered");
    } catch (SourceTrouble e) {
      assertEquals(e.kind(), SourceTrouble.Kind.UNABLE);
    }
    report(
        "start=\"20270104T000000Z\" end=\"20270104T000100Z\"",
        200,
        "BEGIN:VCALENDAR\r\nBEGIN:VFREEBUSY\r\nEND:VFREEBUSY\r\nEND:VCALENDAR\r\n");
    assertTrue(at("/c/").freeBusy(now, now.plusSeconds(60)).contains("VFREEBUSY"));
  }

  /**
   * RFC 6764 section 5 (where a host sends to), RFC 5397 section 3 (who one is) and RFC 4791
   * section 6.2.1 (where their calendars are), one after the other.
   */
  @Test
  public void calendarsAreFoundFromTheHostAlone() throws SourceTrouble {
    redirects.put("/.well-known/caldav", "/dav/");
    replies.add(
        new Reply(
            "PROPFIND",
            "/dav/ ",
            207,
            found(
                "/dav/",
                "<d:current-user-principal><d:href>/who/m/</d:href></d:current-user-principal>")));
    replies.add(
        new Reply(
            "PROPFIND",
            "/who/m/ ",
            207,
            found(
                "/who/m/",
                "<c:calendar-home-set><d:href>/home/m/</d:href></c:calendar-home-set>")));
    String calendar =
        "<d:displayname>Mine</d:displayname><d:resourcetype><d:collection/><c:calendar/></d:resourcetype>";
    String tasks =
        calendar.replace("Mine", "Tasks")
            + "<c:supported-calendar-component-set><c:comp name=\"VTODO\"/></c:supported-calendar-component-set>";
    replies.add(
        new Reply(
            "PROPFIND",
            "/home/m/ ",
            207,
            status(response("/home/m/cal/", calendar) + response("/home/m/tasks/", tasks))));
    List<CalDav.Collection> found = at("/").collections();
    assertEquals(found.size(), 1, "tasks are no events");
    assertEquals(found.get(0).name(), "Mine");
    assertEquals(found.get(0).address().getPath(), "/home/m/cal/");
  }

  private static String response(String href, String properties) {
    return "<d:response><d:href>%s</d:href><d:propstat><d:prop>%s</d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>"
        .formatted(href, properties);
  }

  private static String found(String href, String properties) {
    return status(response(href, properties));
  }
}
