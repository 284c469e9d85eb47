package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * 200 sessions with 20,000 joiners within a minute through the bridge, one of them with 60 joiners
 * a second: whether every event is stored, how soon alerts are raised, and how the busy session's
 * page answers meanwhile. Run by {@code ./bench/run floor}.
 */
@Test(groups = "bench")
public class FloorBench {
  private static final int SESSIONS = 200;
  private static final int BUSY = 3_600;
  private static final int JOINERS = 20_000;
  private static final String SCHEMA = "warden_floor_bench";
  private static final String TOKEN = "a token that only this bench knows";

  private final HttpClient http = HttpClient.newHttpClient();

  @Test
  public void measure() throws Exception {
    try (RunningWarden warden = RunningWarden.start(SCHEMA)) {
      token();
      // the demo's own sessions are left out of what is counted
      String before = "'" + String.join("', '", ids("select id from floor_session")) + "'";
      int each = (JOINERS - BUSY) / (SESSIONS - 1);
      int rest = JOINERS - BUSY - each * (SESSIONS - 1);
      String busy = practise(warden, BUSY);
      for (int i = 1; i < SESSIONS; i++) {
        practise(warden, i == 1 ? each + rest : each);
      }
      System.out.printf("%d sessions were opened%n", SESSIONS);
      List<Long> pages = new ArrayList<>();
      try (Browser browser = new Browser(warden.address())) {
        browser.patience(60);
        browser.signIn("m.sachs");
        browser.go("/floor/" + busy);
        browser.sees("At the door");
        look(warden, browser, busy, pages);
      }
      String of = " from floor_event e where e.session not in (" + before + ")";
      until("every event is in its book", before);
      long events = number("select count(*)" + of);
      long gaps =
          number(
              "select count(*) from (select e.session, max(e.seq) m, count(*) c"
                  + of
                  + " group by e.session having m <> c) g");
      long arrived =
          number("select count(*)" + of + " and json_value(e.body, '$.kind') = 'arrived'");
      System.out.printf(
          "%,d events stored, %,d joiners arrived of %,d and those expected, %d sessions with a"
              + " gap%n",
          events, arrived, JOINERS, gaps);
      List<Long> alerts =
          numbers(
              "select timestampdiff(microsecond, happened, raised) div 1000 from floor_alert where"
                  + " session not in ("
                  + before
                  + ")");
      System.out.printf("%,d alerts: %s%n", alerts.size(), spread(alerts));
      System.out.printf("the busy session's page, %d readings: %s%n", pages.size(), spread(pages));
      if (gaps > 0 || arrived < JOINERS) {
        throw new AssertionError("an event was lost");
      }
    }
  }

  /** For 80 s: the page is read every half second, and a key is pressed in the browser. */
  private void look(RunningWarden warden, Browser browser, String busy, List<Long> pages)
      throws Exception {
    List<Long> keys = new ArrayList<>();
    browser.script(
        "window.longest = 0; let last = performance.now();"
            + "const f = t => { window.longest = Math.max(window.longest, t - last); last = t;"
            + " requestAnimationFrame(f); }; requestAnimationFrame(f);"
            + "window.addEventListener('keydown', () => { const at = performance.now();"
            + " requestAnimationFrame(() => requestAnimationFrame(() => { window.took ="
            + " performance.now() - at; })); });");
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(80);
    while (System.nanoTime() < end) {
      long begin = System.nanoTime();
      get(warden, "/api/floor/sessions/" + busy + "?most=60");
      pages.add((System.nanoTime() - begin) / 1_000_000);
      browser.script("window.took = -1");
      browser.keys(keys.size() % 2 == 0 ? "j" : "k");
      browser.until(
          "a frame", b -> ((Number) browser.script("return window.took")).doubleValue() >= 0);
      keys.add(((Number) browser.script("return Math.round(window.took)")).longValue());
      TimeUnit.MILLISECONDS.sleep(500);
    }
    System.out.printf(
        "in the browser, key to frame, %d keys: %s; longest time between two frames %s ms%n",
        keys.size(), spread(keys), browser.script("return Math.round(window.longest)"));
    browser.keys(Keys.ESCAPE);
  }

  private static String spread(List<Long> some) {
    long[] sorted = some.stream().mapToLong(Long::longValue).sorted().toArray();
    if (sorted.length == 0) {
      return "none";
    }
    return "median %d ms, 95th %d ms, 99th %d ms, slowest %d ms"
        .formatted(at(sorted, 0.5), at(sorted, 0.95), at(sorted, 0.99), sorted[sorted.length - 1]);
  }

  private static long at(long[] sorted, double part) {
    return sorted[(int) Math.min(sorted.length - 1, Math.ceil(part * sorted.length) - 1)];
  }

  private String practise(RunningWarden warden, int joiners)
      throws IOException, InterruptedException {
    String body =
        "{\"meeting\":\"m-0001\",\"script\":\"crowd\",\"speed\":1,\"strangers\":" + joiners + "}";
    HttpResponse<String> answer =
        http.send(
            request(warden, "/api/floor/sessions")
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() != 201) {
      throw new IllegalStateException(answer.body());
    }
    return answer.body().replaceAll(".*\"id\":\"([^\"]+)\".*", "$1");
  }

  private void get(RunningWarden warden, String path) throws IOException, InterruptedException {
    HttpResponse<String> answer =
        http.send(request(warden, path).GET().build(), HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() != 200) {
      throw new IllegalStateException(answer.body());
    }
  }

  private static HttpRequest.Builder request(RunningWarden warden, String path) {
    return HttpRequest.newBuilder(URI.create(warden.address() + path))
        .header("Authorization", "Bearer " + TOKEN)
        .header("Content-Type", "application/json");
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  private static void token() throws SQLException {
    try (Connection connection = connect()) {
      Tokens.issue(connection, TOKEN);
    }
  }

  private static List<String> ids(String sql) throws SQLException {
    List<String> found = new ArrayList<>();
    try (Connection connection = connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      while (rows.next()) {
        found.add(rows.getString(1));
      }
    }
    return found;
  }

  private static List<Long> numbers(String sql) throws SQLException {
    return ids(sql).stream().map(Long::valueOf).toList();
  }

  private static long number(String sql) throws SQLException {
    return numbers(sql).get(0);
  }

  private static void until(String what, String before) throws Exception {
    for (int i = 0; i < 600; i++) {
      long behind =
          number(
              "select count(*) from floor_session s where s.id not in ("
                  + before
                  + ") and s.folded <> coalesce((select max(e.seq) from floor_event e where"
                  + " e.session = s.id), -1)");
      if (behind == 0) {
        return;
      }
      TimeUnit.MILLISECONDS.sleep(100);
    }
    throw new AssertionError("in vain: " + what + " " + Arrays.asList(before));
  }
}
