package app.uprightwarden.server.watch;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.vault.Rotation;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;

/** The service watched, and its keys changed. */
public class WatchTest extends ServerTest {
  @Autowired private JdbcClient jdbc;
  @Autowired private Rotation rotation;

  @Test
  public void theServiceTellsOfItself() {
    // as a machine that slept
    jdbc.sql("update node set seen_at = seen_at - interval 1 minute").update();
    var service = get(AUDITOR, "/api/service").is(200).json();
    assertTrue(service.get("database").stringValue().contains("MariaDB"), service.toString());
    assertTrue(service.get("schema").stringValue().matches("\\d+ \\w+.*"), service.toString());
    assertTrue(service.get("nodes").valueStream().anyMatch(n -> n.get("thisOne").booleanValue()));
    assertTrue(Math.abs(service.get("clockSkewSeconds").doubleValue()) < 60);
    assertTrue(service.get("backlog").size() >= 6);
    assertTrue(service.get("tables").size() > 5);
  }

  @Test
  public void metricsAreForThoseWhoLookAfterIt() {
    String metrics = get(AUDITOR, "/api/prometheus").is(200).body();
    assertTrue(metrics.contains("warden_backlog{of=\"audits\"}"), metrics);
    assertTrue(metrics.contains("hikaricp_connections_active"));
    assertTrue(metrics.contains("warden_clock_skew_seconds"));
    assertFalse(metrics.contains("saltmarsh"), "nobody is named in them");
  }

  private HttpResponse<Void> withId(String id) throws Exception {
    return HttpClient.newHttpClient()
        .send(
            HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/health"))
                .header("X-Request-Id", id)
                .build(),
            HttpResponse.BodyHandlers.discarding());
  }

  @Test
  public void aProxysRequestIdIsKeptAndAForgedOneIsNot() throws Exception {
    assertEquals(
        withId("abcdef-12345").headers().firstValue("X-Request-Id").orElse(""), "abcdef-12345");
    String made = withId("short").headers().firstValue("X-Request-Id").orElse("");
    assertNotEquals(made, "short");
    assertEquals(made.length(), 36);
    assertNotEquals(
        withId("x\tforged line {}").headers().firstValue("X-Request-Id").orElse(""),
        "x\tforged line {}");
  }

  @Test
  public void keysChangeWhileEverythingStaysReadable() throws Exception {
    String passcode =
        get(WARDEN, "/api/meetings/m-0001/passcode").is(200).json().get("passcode").stringValue();
    int before = rotation.standing().current();
    List<String> shared =
        jdbc.sql(
                "select group_concat(public_id order by public_id) from meeting where"
                    + " passcode_fingerprint is not null group by passcode_fingerprint having"
                    + " count(*) > 1 order by 1")
            .query(String.class)
            .list();
    var begun = post(WARDEN, "/api/service/keys", null).is(202).json();
    assertEquals(begun.get("current").intValue(), before + 1);
    // asked for again before it is through, it goes on with the same key
    if (!rotation.standing().isDone()) {
      post(WARDEN, "/api/service/keys", null).is(202);
    }
    for (int i = 0; i < 600 && !rotation.standing().isDone(); i++) {
      Thread.onSpinWait();
      java.util.concurrent.locks.LockSupport.parkNanos(50_000_000);
    }
    assertTrue(rotation.standing().isDone(), rotation.standing().toString());
    assertEquals(
        get(WARDEN, "/api/meetings/m-0001/passcode").is(200).json().get("passcode").stringValue(),
        passcode);
    assertEquals(
        jdbc.sql(
                "select group_concat(public_id order by public_id) from meeting where"
                    + " passcode_fingerprint is not null group by passcode_fingerprint having"
                    + " count(*) > 1 order by 1")
            .query(String.class)
            .list(),
        shared,
        "what shares a passcode still does");
    send(WARDEN, "DELETE", "/api/service/keys/old", null).is(200);
    assertEquals(get(WARDEN, "/api/service/keys").json().get("numbers").size(), 1);
    assertEquals(
        get(WARDEN, "/api/meetings/m-0001/passcode").is(200).json().get("passcode").stringValue(),
        passcode);
  }
}
