package app.uprightwarden.server;

import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.classic.spi.ThrowableProxyUtil;
import ch.qos.logback.core.read.ListAppender;
import java.io.IOException;
import java.lang.reflect.Array;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;

/**
 * Secrets that are known here go through the application, and are then looked for everywhere: in
 * our log at its most talkative, in every table, in every answer that is not meant to have them.
 */
public class SecretsScanTest extends ServerTest {
  private static final String PASSCODE = "kelp-Gannet-lantern-57";
  private static final String PASSWORD = "gannet ferry umbrella 31";

  @Autowired private JdbcClient jdbc;

  @Test
  public void noSecretIsWhereItIsNotMeantToBe() throws IOException {
    Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
    Logger ours = (Logger) LoggerFactory.getLogger("app.uprightwarden");
    ListAppender<ILoggingEvent> log = new ListAppender<>();
    log.start();
    Level oursBefore = ours.getLevel();
    root.addAppender(log);
    ours.setLevel(Level.TRACE);
    List<String> secrets = new ArrayList<>(List.of(PASSCODE, PASSWORD));
    String id;
    try {
      id = work(secrets);
    } finally {
      root.detachAppender(log);
      ours.setLevel(oursBefore);
    }
    for (ILoggingEvent event : List.copyOf(log.list)) {
      String line = event.getFormattedMessage();
      if (event.getThrowableProxy() != null) {
        line += ThrowableProxyUtil.asString(event.getThrowableProxy());
      }
      for (String secret : secrets) {
        assertFalse(line.contains(secret), "the log has " + secret + ": " + line);
      }
    }
    assertTrue(
        log.list.stream()
            .anyMatch(
                e -> e.getFormattedMessage().contains("PUT /api/account/password answered 422")),
        "the log was listened to");
    noneInTheDatabase(secrets);
    noneInAnswers(secrets, id);
  }

  /** Schedules, sends, signs in, invites, is refused, and asks for nonsense. */
  private String work(List<String> secrets) {
    String id =
        post(WARDEN, "/api/meetings", body(PASSCODE)).is(200).json().get("id").stringValue();
    // refused: the body is quoted nowhere
    post(WARDEN, "/api/meetings", "{\"passcode\": \"" + PASSCODE + "\"").is(400);
    post(WARDEN, "/api/meetings", Map.of("passcode", PASSCODE)).is(400);
    secrets.add(tokenOf(WARDEN));
    Visitor visitor = new Visitor(port);
    visitor.signIn(WARDEN, PASSWORD).is(401);
    visitor.signIn(WARDEN, "low-water-0642").is(200);
    secrets.add(visitor.cookie("warden-session"));
    visitor
        .send("PUT", "/api/account/password", Map.of("current", PASSWORD, "password", PASSWORD))
        .is(422);
    String offer =
        visitor
            .send("POST", "/api/account/second-factor", Map.of("current", "low-water-0642"))
            .is(200)
            .body()
            .get("secret")
            .stringValue();
    secrets.add(offer);
    secrets.add("low-water-0642");
    String link =
        post(
                WARDEN,
                "/api/accounts",
                Map.of("email", "scan@saltmarsh.example", "name", "Scan", "role", "host"))
            .is(201)
            .json()
            .get("token")
            .stringValue();
    secrets.add(link);
    visitor.send("POST", "/api/welcome", Map.of("token", link, "password", PASSWORD)).is(204);
    new Visitor(port).signIn("scan@saltmarsh.example", PASSWORD).is(200);
    jdbc.sql("delete from account where email = 'scan@saltmarsh.example'").update();
    jdbc.sql("update account set second_factor = null where email = ?").param(WARDEN).update();
    jdbc.sql("delete from sign_in_failure").update();
    return id;
  }

  private static Map<String, Object> body(String passcode) {
    return Map.of(
        "version",
        0,
        "send",
        true,
        "reason",
        "it is looked for",
        "meeting",
        Map.of(
            "title",
            "Scanned",
            "host",
            WARDEN,
            "start",
            LocalDate.now(ZoneOffset.UTC).plusDays(25) + "T10:00",
            "zone",
            "UTC",
            "minutes",
            30,
            "passcode",
            passcode,
            "controls",
            Map.of("passcode", "required", "passcode-in-mail", "shown"),
            "invitees",
            List.of(Map.of("email", HOST))));
  }

  private void noneInTheDatabase(List<String> secrets) {
    List<String> tables =
        jdbc.sql(
                "select table_name from information_schema.tables where table_schema = database()"
                    + " and table_type = 'BASE TABLE'")
            .query(String.class)
            .list();
    assertTrue(tables.size() > 40, tables.toString());
    for (String table : tables) {
      for (Map<String, Object> row :
          jdbc.sql("select * from `" + table + "`").query().listOfRows()) {
        row.forEach(
            (column, value) -> {
              String text = readable(value);
              for (String secret : secrets) {
                assertFalse(text.contains(secret), secret + " in " + table + "." + column);
              }
            });
      }
    }
  }

  private static String readable(Object value) {
    if (value != null && value.getClass().isArray() && Array.getLength(value) > 0) {
      return new String((byte[]) value, StandardCharsets.ISO_8859_1);
    }
    return String.valueOf(value);
  }

  private void noneInAnswers(List<String> secrets, String id) {
    for (String path :
        List.of(
            "/api/meetings?size=500",
            "/api/meetings/" + id,
            "/api/meetings/" + id + "/history",
            "/api/outbox",
            "/api/exchange/bundle",
            "/api/exchange/calendar?id=" + id,
            "/api/exchange/table?of=meetings",
            "/api/ledger?size=100",
            "/api/ledger/file?as=jsonl",
            "/api/ledger/file?as=csv",
            "/api/tokens",
            "/api/accounts",
            "/api/service",
            "/api/service/keys",
            "/api/prometheus",
            "/api/floor/sessions",
            "/api/lookout")) {
      // an auditor reads everything, and no secret
      byte[] seen =
          bytes(
              HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                  .header("Authorization", "Bearer " + tokenOf(AUDITOR))
                  .build());
      String text = new String(seen, StandardCharsets.UTF_8);
      assertTrue(text.length() > 1, path);
      for (String secret : secrets) {
        assertFalse(text.contains(secret), secret + " in " + path);
      }
    }
  }
}
