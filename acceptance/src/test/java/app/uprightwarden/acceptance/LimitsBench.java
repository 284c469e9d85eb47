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
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.Test;

/**
 * 200 sessions: how soon one lockdown of all of them is answered and holds, how soon an order
 * beyond a rule is refused, and how soon what is loosened in the service is set back. Run by {@code
 * ./bench/run limits}.
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
      List<String> ids = new ArrayList<>();
      for (int i = 0; i < SESSIONS; i++) {
        String body =
            "{\"meeting\":\"m-%04d\",\"script\":\"usual\",\"speed\":1,\"strangers\":0}"
                .formatted(1 + i % 100);
        String answer = post(warden, "/api/floor/sessions", body, 201);
        ids.add(answer.replaceAll(".*\"id\":\"([^\"]+)\".*", "$1"));
      }
      until(ids, "state = 'open'");
      long begin = System.nanoTime();
      post(
          warden,
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
        post(
            warden,
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
      measureSettingBack(warden);
    }
  }

  /** In each of 200 other sessions the host loosens sharing in the service itself. */
  private void measureSettingBack(RunningWarden warden) throws Exception {
    send(warden, "PUT", "/api/floor/set-back", "{\"rules\":\"all\"}", 200);
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < SESSIONS; i++) {
      String body =
          "{\"meeting\":\"m-%04d\",\"script\":\"strangers\",\"speed\":10,\"strangers\":0}"
              .formatted(1 + i % 100);
      String answer = post(warden, "/api/floor/sessions", body, 201);
      ids.add(answer.replaceAll(".*\"id\":\"([^\"]+)\".*", "$1"));
    }
    until(
        ids,
        "exists (select 1 from floor_event e where e.session = floor_session.id and json_value("
            + "e.body, '$.kind') = 'ended') or exists (select 1 from floor_event e where e.session ="
            + " floor_session.id and json_value(e.body, '$.kind') = 'setting' and e.body like"
            + " '%everyone%' and floor_session.folded > e.seq + 20)");
    List<Long> took = new ArrayList<>();
    String sql =
        "select timestampdiff(microsecond, a.at, b.at) from (select session, seq,"
            + " cast(replace(replace(json_value(body, '$.happened'), 'T', ' '), 'Z', '') as"
            + " datetime(6)) at from floor_event where body like '%screen-share%' and body like"
            + " '%everyone%' and json_value(body, '$.kind') = 'setting') a join (select session,"
            + " seq, cast(replace(replace(json_value(body, '$.happened'), 'T', ' '), 'Z', '') as"
            + " datetime(6)) at from floor_event where body like '%screen-share%' and body not"
            + " like '%everyone%' and json_value(body, '$.kind') = 'setting') b on b.session ="
            + " a.session and b.seq > a.seq where a.session in ('"
            + String.join("', '", ids)
            + "') order by 1";
    try (Connection connection = connect();
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      while (rows.next()) {
        took.add(rows.getLong(1) / 1000);
      }
    }
    System.out.printf(
        "set back in %d sessions of %d: median %d ms, 99th %d ms, slowest %d ms%n",
        took.size(),
        SESSIONS,
        took.get(took.size() / 2),
        took.get(took.size() * 99 / 100 - 1),
        took.get(took.size() - 1));
  }

  private static long millis(long begin) {
    return (System.nanoTime() - begin) / 1_000_000;
  }

  private String post(RunningWarden warden, String path, String body, int status)
      throws IOException, InterruptedException {
    return send(warden, "POST", path, body, status);
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
