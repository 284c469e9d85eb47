package app.uprightwarden.server.intruder;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.server.ServerTest;
import java.net.URI;
import java.net.http.HttpRequest;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.Test;

/** A proxy that the operator named is believed on where a request comes from. */
@DirtiesContext
@TestPropertySource(properties = {"test.schema=warden_proxies", "warden.proxies=127.0.0.1"})
public class ProxiesTest extends ServerTest {
  private String addressOf(String... headers) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(
                URI.create("http://127.0.0.1:" + port + "/api/people/groups/lists/by-proxy"))
            .header("Authorization", "Bearer " + tokenOf(WARDEN))
            .header("Content-Type", "application/json")
            .PUT(HttpRequest.BodyPublishers.ofString("{\"name\":\"x\",\"members\":[]}"));
    for (int i = 0; i < headers.length; i += 2) {
      request.header(headers[i], headers[i + 1]);
    }
    exchange(request.build()).is(200);
    return get(AUDITOR, "/api/ledger?act=group.changed&size=1")
        .json()
        .at("/items/0/address")
        .stringValue();
  }

  @Test
  public void whatItSaysIsTaken() {
    assertEquals(addressOf("X-Forwarded-For", "203.0.113.9"), "203.0.113.9");
    // only the last word is the proxy's own: what was there before it, anybody wrote
    assertEquals(addressOf("X-Forwarded-For", "198.51.100.1, 203.0.113.9"), "203.0.113.9");
    // a private address on the way is nobody who was named
    assertEquals(addressOf("X-Forwarded-For", "203.0.113.9, 10.0.0.5"), "10.0.0.5");
    assertEquals(addressOf(), "127.0.0.1");
  }
}
