package app.uprightwarden.server.access;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Codes by time. */
public class SecondFactorTest extends ServerTest {
  /** The secret of RFC 6238, appendix B, for SHA-1. */
  private static final byte[] SECRET = "12345678901234567890".getBytes(StandardCharsets.US_ASCII);

  @Autowired private SecondFactor factor;

  /** RFC 6238, appendix B: the last six of the eight digits there, as RFC 4226 shortens them. */
  @DataProvider
  public Object[][] published() {
    return new Object[][] {
      {59L, "287082"},
      {1111111109L, "081804"},
      {1111111111L, "050471"},
      {1234567890L, "005924"},
      {2000000000L, "279037"},
      {20000000000L, "353130"},
    };
  }

  @Test(dataProvider = "published")
  public void theCodesAreThePublishedOnes(long second, String code) {
    Instant at = Instant.ofEpochSecond(second);
    assertEquals(factor.stepOf(SECRET, code, at), second / 30);
    assertEquals(factor.stepOf(SECRET, code, at.plusSeconds(30)), second / 30, "a step late");
    assertEquals(factor.stepOf(SECRET, code, at.minusSeconds(30)), second / 30, "a step early");
    assertEquals(factor.stepOf(SECRET, code, at.plusSeconds(90)), -1, "too late");
    assertEquals(factor.stepOf(SECRET, "000000", at), -1);
  }

  @Test
  public void anAuthenticatorCanReadTheOffer() {
    byte[] sealed = factor.make("a@x.example");
    SecondFactor.Offer offer = factor.offer("a@x.example", sealed);
    assertTrue(offer.secret().matches("[A-Z2-7]{32}"), offer.secret());
    assertTrue(
        offer
            .address()
            .startsWith("otpauth://totp/Upright%20Warden%3Aa%40x.example?secret=" + offer.secret()),
        offer.address());
  }
}
