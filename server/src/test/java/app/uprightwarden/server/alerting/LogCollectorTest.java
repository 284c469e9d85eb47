package app.uprightwarden.server.alerting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.ServerTest;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.jspecify.annotations.Nullable;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The ledger reaches a collector: each entry once and in order, also one that was away. */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_collector",
      "warden.services.local=true",
      "warden.jobs.poll=100ms",
      "warden.jobs.heartbeat=500ms",
      "warden.collector.look=200ms",
      "warden.collector.pause=300ms"
    })
public class LogCollectorTest extends ServerTest {
  private final List<JsonNode> taken = new CopyOnWriteArrayList<>();
  private HttpServer collector;
  private volatile int answers = 204;
  private volatile @Nullable String type;
  private volatile @Nullable String signature;
  private volatile byte[] body = new byte[0];

  @BeforeClass
  public void listen() throws IOException {
    collector = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
    collector.createContext(
        "/",
        exchange -> {
          byte[] bytes = exchange.getRequestBody().readAllBytes();
          if (answers == 204) {
            type = exchange.getRequestHeaders().getFirst("Content-Type");
            signature = exchange.getRequestHeaders().getFirst(Wire.SIGNATURE);
            body = bytes;
            JsonMapper.builder().build().readTree(bytes).forEach(taken::add);
          }
          exchange.sendResponseHeaders(answers, -1);
          exchange.close();
        });
    collector.start();
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    set(null, false);
    collector.stop(0);
  }

  @BeforeMethod
  public void nobodyListens() {
    answers = 204;
    set(null, false).is(200);
    taken.clear();
  }

  private Answer set(@Nullable String address, boolean fromStart) {
    Map<String, Object> wanted = new HashMap<>();
    wanted.put("address", address);
    wanted.put("fromStart", fromStart);
    return send(WARDEN, "PUT", "/api/log-collector", wanted);
  }

  private String address() {
    return "http://127.0.0.1:" + collector.getAddress().getPort() + "/ledger";
  }

  private JsonNode status() {
    return get(WARDEN, "/api/log-collector").is(200).json();
  }

  private long behind() {
    return status().get("behind").longValue();
  }

  private void act(int many) {
    for (int i = 0; i < many; i++) {
      send(
              WARDEN,
              "PUT",
              "/api/host-requests/settings",
              Map.of("remindDays", 1 + i % 5, "applyAfterDays", 6))
          .is(200);
    }
  }

  @Test
  public void whatIsDoneIsSentSignedAndInOrder() {
    String secret = set(address(), false).is(200).json().get("secret").stringValue();
    assertTrue(status().get("secret").isNull(), "said once");
    act(3);
    until("it has all", () -> taken.size() >= 3 && behind() == 0);
    assertEquals(type, "application/cloudevents-batch+json; charset=UTF-8");
    assertTrue(Wire.isSigned(secret, Instant.now(), body, signature));
    JsonNode event = taken.get(taken.size() - 1);
    // CloudEvents 1.0.2, section 3.1: what an event must have
    assertEquals(event.get("specversion").stringValue(), "1.0");
    assertEquals(event.get("source").stringValue(), "/upright-warden/ledger");
    assertEquals(event.get("type").stringValue(), "app.uprightwarden.ledger.entry");
    assertEquals(event.get("id").stringValue(), "ledger-" + event.at("/data/seq").longValue());
    assertFalse(event.at("/data/hash").stringValue().isEmpty());
    assertEquals(event.at("/data/who").stringValue(), WARDEN);
    inOrderAndOnce();
  }

  @Test
  public void whileItIsAwayNothingIsLostAndTheStateSaysSo() {
    set(address(), false).is(200);
    until("it has all", () -> behind() == 0);
    answers = 503;
    act(4);
    until("it says why", () -> status().path("why").stringValue("").contains("answered 503"));
    assertTrue(behind() >= 4);
    assertTrue(status().get("tries").intValue() >= 1);
    taken.clear();
    answers = 204;
    until("it has all", () -> behind() == 0);
    assertTrue(taken.size() >= 4);
    assertTrue(status().get("why").isNull());
    inOrderAndOnce();
  }

  @Test
  public void theWholeLedgerIsSentWhereThatIsAsked() {
    long entries = get(WARDEN, "/api/ledger?size=1").is(200).json().get("total").longValue();
    set(address(), true).is(200);
    until("it has all", () -> behind() == 0);
    assertTrue(taken.size() >= entries, taken.size() + " of " + entries);
    assertEquals(taken.get(0).at("/data/seq").longValue(), 1);
    inOrderAndOnce();
  }

  @Test
  public void whoMayAndWhatAnAddressMayBe() {
    send(AUDITOR, "PUT", "/api/log-collector", Map.of("fromStart", false)).is(403);
    JsonNode fault = set("ftp://collector.example/x", false).is(422).json();
    assertEquals(fault.at("/faults/0/pointer").stringValue(), "/address");
  }

  @Test
  public void anAddressThatSomebodySetMeanwhileIsLookedAtAgain() {
    Map<String, Object> wanted = new HashMap<>(Map.of("address", address(), "fromStart", false));
    wanted.put("seen", "");
    send(WARDEN, "PUT", "/api/log-collector", wanted).is(200);
    // pressed again by somebody who saw it when there was none
    wanted.put("address", null);
    Answer late = send(WARDEN, "PUT", "/api/log-collector", wanted).is(409);
    assertEquals(late.json().get("code").stringValue(), "changed-meanwhile");
    assertEquals(status().get("address").stringValue(), address());
    wanted.put("seen", address());
    assertTrue(
        send(WARDEN, "PUT", "/api/log-collector", wanted).is(200).json().get("address").isNull());
  }

  private void inOrderAndOnce() {
    Set<String> ids = new HashSet<>();
    long last = 0;
    for (JsonNode each : taken) {
      assertTrue(ids.add(each.get("id").stringValue()), "twice: " + each);
      long seq = each.at("/data/seq").longValue();
      assertTrue(seq > last, seq + " after " + last);
      last = seq;
    }
  }
}
