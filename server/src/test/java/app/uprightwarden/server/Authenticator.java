package app.uprightwarden.server;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.security.InvalidKeyException;
import java.time.Instant;
import java.util.Locale;
import javax.crypto.spec.SecretKeySpec;

/** What somebody's authenticator shows. */
public final class Authenticator {
  private static final String BASE32 = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

  private Authenticator() {}

  /** The code of a moment for a secret in Base32. */
  public static String code(String secret, Instant at) {
    byte[] key = new byte[20];
    for (int i = 0; i < 160; i++) {
      int bit = BASE32.indexOf(secret.charAt(i / 5)) >> (4 - i % 5) & 1;
      key[i / 8] |= (byte) (bit << (7 - i % 8));
    }
    try {
      TimeBasedOneTimePasswordGenerator codes = new TimeBasedOneTimePasswordGenerator();
      return codes.generateOneTimePasswordString(
          new SecretKeySpec(key, codes.getAlgorithm()), at, Locale.ROOT);
    } catch (InvalidKeyException e) {
      throw new IllegalStateException(e);
    }
  }
}
