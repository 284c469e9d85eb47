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
 * 200 sessions: how soon one lockdown of all of them is answered and holds, and how soon an order
 * beyond a rule is refused. Run by {@code ./bench/run limits}.
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
    }
  }

  private static long millis(long begin) {
    return (System.nanoTime() - begin) / 1_000_000;
  }

  private String post(RunningWarden warden, String path, String body, int status)
      throws IOException, InterruptedException {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(warden.address() + path))
                .header("Authorization", "Bearer " + TOKEN)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(body))
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
