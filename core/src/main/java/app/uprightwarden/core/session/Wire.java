package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;

/** What goes over the wire between a conference service and us; the guide describes it. */
public final class Wire {
  public static final String SIGNATURE = "Warden-Signature";
  private static final Duration FRESH = Duration.ofMinutes(5);

  private Wire() {}

  /** An event as it is told. */
  public record EventTold(
      String session,
      long seq,
      Instant at,
      Instant happened,
      String kind,
      @Nullable String who,
      Map<String, String> with) {

    public static EventTold of(String session, SessionEvent event) {
      return new EventTold(
          session,
          event.seq(),
          event.at(),
          event.happened(),
          event.kind().id(),
          event.who(),
          event.with());
    }

    /** As the core knows it. */
    public SessionEvent event() {
      return new SessionEvent(seq, at, happened, SessionEvent.Kind.byId(kind), who, with);
    }
  }

  /** Several that were asked for. */
  public record EventsTold(List<EventTold> events) {}

  /**
   * What a service tells of by itself.
   *
   * @param changed whether there is something new among its meetings; left out for no
   */
  public record Told(@Nullable Boolean changed, List<EventTold> events) {}

  /**
   * What it says to an order.
   *
   * @param reason why it was refused, or empty
   */
  public record Answered(boolean done, String reason) {}

  /** An order as it is sent. */
  public record OrderSent(
      String id,
      String by,
      String act,
      List<String> people,
      @Nullable String control,
      @Nullable String value) {

    public static OrderSent of(String id, String by, Order order) {
      Control control = order.control();
      return new OrderSent(
          id,
          by,
          order.act().id(),
          order.people(),
          control == null ? null : control.id(),
          order.value());
    }

    /**
     * As the core knows it.
     *
     * @throws IllegalArgumentException where its act is none
     */
    public Order order() {
      return new Order(
          Order.Act.valueOf(act.toUpperCase(Locale.ROOT).replace('-', '_')),
          people,
          Control.byId(control),
          value);
    }
  }

  /**
   * The signature of a body: HMAC with SHA-256 (RFC 2104, FIPS 180-4) over the seconds since 1970,
   * a full stop and the body.
   */
  public static String sign(String secret, Instant now, byte[] body) {
    long seconds = now.getEpochSecond();
    return "t=" + seconds + ",v1=" + mac(secret, seconds, body);
  }

  /** Whether a signature is right and no older than five minutes, so that none is used again. */
  public static boolean isSigned(
      String secret, Instant now, byte[] body, @Nullable String signature) {
    if (signature == null || !signature.matches("t=\\d{1,12},v1=[0-9a-f]{64}")) {
      return false;
    }
    long seconds = Long.parseLong(signature.substring(2, signature.indexOf(',')));
    String given = signature.substring(signature.indexOf("v1=") + 3);
    boolean isFresh = Math.abs(now.getEpochSecond() - seconds) <= FRESH.toSeconds();
    return MessageDigest.isEqual(
            given.getBytes(StandardCharsets.US_ASCII),
            mac(secret, seconds, body).getBytes(StandardCharsets.US_ASCII))
        && isFresh;
  }

  private static String mac(String secret, long seconds, byte[] body) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
      mac.update((seconds + ".").getBytes(StandardCharsets.US_ASCII));
      return HexFormat.of().formatHex(mac.doFinal(body));
    } catch (NoSuchAlgorithmException | InvalidKeyException e) {
      throw new IllegalStateException(e);
    }
  }
}
