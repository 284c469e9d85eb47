package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Two servers speak with a conference service; whichever does is killed (signal 9) at a step of
 * reading or writing, before the service has heard of it or before its answer is heard. What was
 * decided is done all the same, and once.
 */
public class KilledAtEveryStepTest {
  private static final String SCHEMA = "warden_killed";
  private static final String TOKEN = "a token for this test";
  private static final String MEETING = "m-0032";
  private static final long PATIENCE_NANOS = 150_000_000_000L;

  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private final List<RunningWarden> servers = new CopyOnWriteArrayList<>();
  private final Map<String, String> environment = new HashMap<>();
  private StandIns standIns;
  private HttpServer relay;
  private String url;
  private String there;
  private volatile Step armed;
  private volatile boolean isWritten;

  /** Where the server that speaks is killed. */
  private enum Step {
    READ_UNHEARD("GET", false, false),
    READ("GET", false, true),
    WRITTEN_UNHEARD("PATCH", false, false),
    WRITTEN("PATCH", false, true),
    READ_BACK_UNHEARD("GET", true, false),
    READ_BACK("GET", true, true);

    private final String method;
    private final boolean isAfterWriting;
    private final boolean isHeard;

    /** {@code isHeard}: by the service, whose answer is then not heard here. */
    Step(String method, boolean isAfterWriting, boolean isHeard) {
      this.method = method;
      this.isAfterWriting = isAfterWriting;
      this.isHeard = isHeard;
    }
  }

  @BeforeClass
  public void start() throws Exception {
    standIns = new StandIns();
    relay = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    relay.setExecutor(Executors.newCachedThreadPool());
    relay.createContext("/", this::relay);
    relay.start();
    environment.putAll(standIns.environment());
    environment.put("WARDEN_STANDINS_REDSHANK", "http://127.0.0.1:" + relay.getAddress().getPort());
    environment.put("WARDEN_JOBS_HEARTBEAT", "500ms");
    url =
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA)
            + "?createDatabaseIfNotExist=true";
    servers.add(begin("killed-1"));
    servers.get(0).await();
    servers.add(begin("killed-2"));
    servers.get(1).await();
    try (Connection connection = connect()) {
      Tokens.issue(connection, TOKEN);
    }
    until(
        "the demo is as it was decided",
        "select count(*) from meeting_held where writing in ('waiting', 'sent')",
        "0");
    there = text("select there from meeting_held where meeting = '" + MEETING + "'");
    assertTrue(there.length() > 3, "Redshank holds it");
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    servers.forEach(RunningWarden::close);
    if (relay != null) {
      relay.stop(0);
    }
    if (standIns != null) {
      standIns.close();
    }
  }

  private RunningWarden begin(String name) throws IOException, InterruptedException {
    return RunningWarden.begin(SCHEMA, name, true, 0, url, environment);
  }

  private void relay(HttpExchange exchange) throws IOException {
    try (exchange) {
      Step step = armed;
      boolean kills =
          step != null
              && exchange.getRequestMethod().equals(step.method)
              && exchange.getRequestURI().getPath().startsWith("/v2/meetings")
              && (isWritten || !step.isAfterWriting);
      isWritten |= exchange.getRequestMethod().equals("PATCH");
      if (kills) {
        armed = null;
        if (!step.isHeard) {
          kill(exchange.getRemoteAddress().getPort());
          return;
        }
      }
      byte[] body = exchange.getRequestBody().readAllBytes();
      HttpRequest.Builder request =
          HttpRequest.newBuilder(
                  URI.create(standIns.address("redshank") + exchange.getRequestURI()))
              .method(exchange.getRequestMethod(), HttpRequest.BodyPublishers.ofByteArray(body));
      Set<String> own = Set.of("host", "connection", "content-length", "upgrade", "http2-settings");
      exchange
          .getRequestHeaders()
          .forEach(
              (name, values) -> {
                if (!own.contains(name.toLowerCase(java.util.Locale.ROOT))) {
                  request.header(name, values.get(0));
                }
              });
      HttpResponse<byte[]> answer =
          http.send(request.build(), HttpResponse.BodyHandlers.ofByteArray());
      if (kills) {
        kill(exchange.getRemoteAddress().getPort());
        return;
      }
      answer
          .headers()
          .firstValue("Retry-After")
          .ifPresent(after -> exchange.getResponseHeaders().set("Retry-After", after));
      exchange.sendResponseHeaders(
          answer.statusCode(), answer.body().length == 0 ? -1 : answer.body().length);
      exchange.getResponseBody().write(answer.body());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** Kills the server to whose end of a connection this port belongs. */
  private void kill(int port) throws IOException, InterruptedException {
    String inode = inode(port);
    for (RunningWarden server : servers) {
      if (holds(server.pid(), inode)) {
        servers.remove(server);
        server.kill();
        return;
      }
    }
    throw new IOException("no server has the connection from port " + port);
  }

  /** As the kernel tells of connections: the local address is the second word, hexadecimal. */
  private static String inode(int port) throws IOException {
    String end = String.format(":%04X", port);
    for (String file : List.of("/proc/net/tcp", "/proc/net/tcp6")) {
      for (String line : Files.readAllLines(Path.of(file))) {
        String[] words = line.strip().split("\\s+");
        if (words.length > 9 && words[1].endsWith(end) && !words[9].equals("0")) {
          return words[9];
        }
      }
    }
    throw new IOException("nobody has the port " + port);
  }

  private static boolean holds(long pid, String inode) throws IOException {
    try (Stream<Path> open = Files.list(Path.of("/proc/" + pid + "/fd"))) {
      for (Path each : open.toList()) {
        try {
          if (Files.readSymbolicLink(each).toString().equals("socket:[" + inode + "]")) {
            return true;
          }
        } catch (IOException e) {
          // it was closed meanwhile
        }
      }
    }
    return false;
  }

  private Connection connect() throws SQLException {
    return DriverManager.getConnection(
        url,
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  private String text(String sql) throws SQLException {
    try (Connection connection = connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      return rows.next() ? String.valueOf(rows.getString(1)) : "";
    }
  }

  private void until(String what, String sql, String value) throws Exception {
    long end = System.nanoTime() + PATIENCE_NANOS;
    for (String now = text(sql); !now.equals(value); now = text(sql)) {
      assertTrue(System.nanoTime() < end, "in vain: " + what + "; it is " + now);
      TimeUnit.MILLISECONDS.sleep(100);
    }
  }

  private String ask(String key, String address, String method, String body) throws Exception {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(address))
                .header("Authorization", "Bearer " + key)
                .header("Content-Type", "application/json")
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    assertEquals(answer.statusCode(), 200, answer.body());
    return answer.body();
  }

  private static String found(String regex, String in) {
    Matcher matcher = Pattern.compile(regex).matcher(in);
    assertTrue(matcher.find(), regex + " is not in " + in);
    return matcher.group(1);
  }

  private String held() throws Exception {
    return ask(
        standIns.environment().get("WARDEN_STANDINS_KEY"),
        standIns.address("redshank") + "/v2/meetings/" + there,
        "GET",
        "");
  }

  /** Each change there, of whichever meeting, has the next number. */
  private long lastChange() throws Exception {
    String all =
        ask(
            standIns.environment().get("WARDEN_STANDINS_KEY"),
            standIns.address("redshank") + "/v2/meetings?limit=500",
            "GET",
            "");
    return Pattern.compile("\"revision\":\"(\\d+)\"")
        .matcher(all)
        .results()
        .mapToLong(each -> Long.parseLong(each.group(1)))
        .max()
        .orElseThrow();
  }

  @DataProvider
  public Object[][] steps() {
    return Stream.of(Step.values()).map(step -> new Object[] {step}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "steps")
  public void whatWasDecidedIsDoneOnceAllTheSame(Step step) throws Exception {
    String writing = "select writing from meeting_held where meeting = '" + MEETING + "'";
    String before = held();
    String wanted = found("\"waiting-room\":\"(on|off)\"", before).equals("on") ? "off" : "on";
    long last = lastChange();
    String meeting = ask(TOKEN, servers.get(0).address() + "/api/meetings/" + MEETING, "GET", "");
    isWritten = false;
    armed = step;
    String version = found("\"version\":(\\d+)", meeting);
    String change =
        "{\"version\":%s,\"controls\":{\"waiting-room\":\"%s\"}}".formatted(version, wanted);
    try {
      ask(
          TOKEN,
          servers.get(0).address() + "/api/meetings/" + MEETING + "/controls",
          "PATCH",
          change);
    } catch (IOException e) {
      // the one that was asked was killed: it may have heard, or the other is asked again
      String now = ask(TOKEN, servers.get(0).address() + "/api/meetings/" + MEETING, "GET", "");
      if (found("\"version\":(\\d+)", now).equals(version)) {
        ask(
            TOKEN,
            servers.get(0).address() + "/api/meetings/" + MEETING + "/controls",
            "PATCH",
            change);
      }
    }
    long end = System.nanoTime() + PATIENCE_NANOS;
    while (armed != null || servers.size() > 1) {
      assertTrue(System.nanoTime() < end, "in vain: one is killed at " + step);
      TimeUnit.MILLISECONDS.sleep(50);
    }
    until("it is confirmed", writing, "confirmed");
    String after = held();
    assertEquals(found("\"waiting-room\":\"(on|off)\"", after), wanted);
    assertEquals(lastChange(), last + 1, "once");
    RunningWarden again = begin("killed-" + step);
    again.await();
    servers.add(again);
    until("it stays so", writing, "confirmed");
    assertEquals(held(), after, "and nothing older is written over it");
  }
}
