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
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.Test;

/**
 * 200 sessions: how soon what their hosts loosen in the service is set back, how soon one lockdown
 * of all of them is answered and holds, and how soon an order beyond a rule is refused. Run by
 * {@code ./bench/run limits}.
 */
@Test(groups = "bench")
public class LimitsBench {
  private static final int SESSIONS = 200;
  private static final String SCHEMA = "warden_limits_bench";
  private static final String TOKEN = "a token that only this bench knows";

  private final HttpClient http = HttpClient.newHttpClient();

  @Test
  public void measure() throws Exception {
    try (RunningWarden warden = RunningWarden.start(SCHEMA)) {
      try (Connection connection = connect()) {
        Tokens.issue(connection, TOKEN);
      }
      setBack(warden);
      List<String> ids = open(warden, "usual", 1);
      long begin = System.nanoTime();
      send(
          warden,
          "POST",
          "/api/floor/lockdowns",
          "{\"sessions\":[\"" + String.join("\",\"", ids) + "\"]}",
          201);
      long answered = millis(begin);
      until(
          ids,
          "exists (select 1 from floor_event e where e.session = floor_session.id and e.seq <="
              + " floor_session.folded and json_value(e.body, '$.kind') = 'locked')");
      System.out.printf(
          "lockdown of %d sessions: answered after %d ms, all locked in their books after %d ms%n",
          SESSIONS, answered, millis(begin));
      List<Long> refusals = new ArrayList<>();
      for (int i = 0; i < SESSIONS; i++) {
        long at = System.nanoTime();
        send(
            warden,
            "POST",
            "/api/floor/sessions/" + ids.get(i) + "/orders",
            "{\"key\":\"k-%d\",\"act\":\"set\",\"people\":[],\"control\":\"waiting-room\",\"value\":\"off\"}"
                .formatted(i),
            422);
        refusals.add(millis(at));
      }
      refusals.sort(null);
      System.out.printf(
          "refusal of an order, %d of them: median %d ms, 99th %d ms, slowest %d ms%n",
          SESSIONS,
          refusals.get(SESSIONS / 2),
          refusals.get(SESSIONS * 99 / 100 - 1),
          refusals.get(SESSIONS - 1));
    }
  }

  private List<String> open(RunningWarden warden, String script, int speed) throws Exception {
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < SESSIONS; i++) {
      String body =
          "{\"meeting\":\"m-%04d\",\"script\":\"%s\",\"speed\":%d,\"strangers\":0}"
              .formatted(1 + i % 100, script, speed);
      String answer = send(warden, "POST", "/api/floor/sessions", body, 201);
      ids.add(answer.replaceAll(".*\"id\":\"([^\"]+)\".*", "$1"));
    }
    until(ids, "state = 'open'");
    return ids;
  }

  /**
   * The hosts of 200 sessions let everybody share, in the service itself; the times are the
   * service's own, from there until it holds the old value again.
   */
  private void setBack(RunningWarden warden) throws Exception {
    send(warden, "PUT", "/api/floor/set-back", "{\"rules\":\"all\"}", 200);
    List<String> ids = open(warden, "strangers", 10);
    // each host is inside and loosens it five minutes after the start, which is half a minute here
    TimeUnit.SECONDS.sleep(90);
    String sql =
        "select session, json_value(body, '$.happened') from"
            + " floor_event where json_value(body, '$.kind') = 'setting' and"
            + " json_value(body, '$.with.control') = 'screen-share' order by session, seq";
    Map<String, Instant> loosened = new HashMap<>();
    List<Long> took = new ArrayList<>();
    try (Connection connection = connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      while (rows.next()) {
        Instant happened = Instant.parse(rows.getString(2));
        Instant first = loosened.putIfAbsent(rows.getString(1), happened);
        if (first != null) {
          took.add(Duration.between(first, happened).toMillis());
        }
      }
    }
    took.sort(null);
    System.out.printf(
        "loosened in %d sessions, set back in %d: median %d ms, 99th %d ms, slowest %d ms%n",
        loosened.size(),
        took.size(),
        took.get(took.size() / 2),
        took.get((int) Math.ceil(took.size() * 0.99) - 1),
        took.get(took.size() - 1));
    for (String id : ids) {
      String end = "{\"key\":\"end-%s\",\"act\":\"end\",\"people\":[]}".formatted(id);
      send(warden, "POST", "/api/floor/sessions/" + id + "/orders", end, 200);
    }
  }

  private static long millis(long begin) {
    return (System.nanoTime() - begin) / 1_000_000;
  }

  private String send(RunningWarden warden, String method, String path, String body, int status)
      throws IOException, InterruptedException {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(warden.address() + path))
                .header("Authorization", "Bearer " + TOKEN)
                .header("Content-Type", "application/json")
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() != status) {
      throw new IllegalStateException(path + ": " + answer.body());
    }
    return answer.body();
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  /** Waits until something holds of all these sessions. */
  private static void until(List<String> ids, String what) throws Exception {
    String sql =
        "select count(*) from floor_session where id in ('"
            + String.join("', '", ids)
            + "') and "
            + what;
    try (Connection connection = connect()) {
      for (int i = 0; i < 2_000; i++) {
        try (ResultSet rows = connection.createStatement().executeQuery(sql)) {
          rows.next();
          if (rows.getInt(1) == ids.size()) {
            return;
          }
        }
        TimeUnit.MILLISECONDS.sleep(20);
      }
    }
    throw new AssertionError("in vain: " + what);
  }
}
