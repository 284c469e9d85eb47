package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** What goes over the wire, and its signature. */
public class WireTest {
  private static final byte[] BODY = "{\"events\":[]}".getBytes(StandardCharsets.UTF_8);
  private static final Instant NOW = Instant.ofEpochSecond(1_700_000_000L);

  /**
   * The value was made with another implementation: {@code printf '1700000000.{"events":[]}' |
   * openssl dgst -sha256 -hmac secret} (OpenSSL 3).
   */
  private static final String SIGNED =
      "t=1700000000,v1=3947de27ec923573170fccda604ddfb25583ff98dc51e96cca2e11c59545026a";

  @Test
  public void theSignatureIsWhatOthersMake() {
    assertEquals(Wire.sign("secret", NOW, BODY), SIGNED);
    assertTrue(Wire.isSigned("secret", NOW.plusSeconds(300), BODY, SIGNED), "the whole 5 minutes");
    assertTrue(
        Wire.isSigned("secret", NOW.minusSeconds(300), BODY, SIGNED), "their clock may lead");
  }

  @Test
  public void nothingElseIsTaken() {
    assertFalse(Wire.isSigned("secret", NOW, BODY, null));
    assertFalse(Wire.isSigned("secret", NOW, BODY, ""));
    assertFalse(Wire.isSigned("secret", NOW, BODY, "t=,v1="));
    assertFalse(Wire.isSigned("secret", NOW, BODY, SIGNED.toUpperCase(java.util.Locale.ROOT)));
    assertFalse(Wire.isSigned("other", NOW, BODY, SIGNED));
    assertFalse(Wire.isSigned("secret", NOW.plusSeconds(301), BODY, SIGNED), "too old");
    assertFalse(Wire.isSigned("secret", NOW.minusSeconds(301), BODY, SIGNED), "from tomorrow");
    assertFalse(Wire.isSigned("secret", NOW, "{}".getBytes(StandardCharsets.UTF_8), SIGNED));
    assertFalse(Wire.isSigned("secret", NOW, BODY, SIGNED.replace("t=17", "t=16")));
  }

  @Test
  public void everyEventAndOrderComesBackAsItWent() {
    for (SessionEvent.Kind kind : SessionEvent.Kind.values()) {
      SessionEvent event =
          new SessionEvent(7, NOW, NOW.plusMillis(3), kind, "p-1", Map.of("name", "A"));
      assertEquals(Wire.EventTold.of("s", event).event(), event);
    }
    for (Order.Act act : Order.Act.values()) {
      Order order = new Order(act, List.of("a", "b"), Control.CHAT, "off");
      assertEquals(Wire.OrderSent.of("1", "x", order).order(), order);
    }
    Order lock = new Order(Order.Act.values()[0], List.of(), null, null);
    assertEquals(Wire.OrderSent.of("1", "x", lock).order(), lock, "of no control");
    assertThrows(
        IllegalArgumentException.class,
        () -> new Wire.OrderSent("1", "x", "dance", List.of(), null, null).order());
  }
}
