package app.uprightwarden.server.access;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.security.spec.InvalidKeySpecException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The second factor: codes by time (RFC 6238: SHA-1, 30 s, six digits, as authenticator programs
 * expect), and codes to get in without the device. The secret is sealed; recovery codes are kept as
 * hashes; every code is good once.
 */
@Component
class SecondFactor implements SealedRows {
  static final Duration STEP = Duration.ofSeconds(30);
  private static final int DIGITS = 6;
  private static final int SECRET_BYTES = 20;
  private static final int RECOVERY_CODES = 10;

  private static final int SALT_BYTES = 16;
  private static final int HASH_BITS = 256;

  /** A tenth of what passwords want: codes are random, of 31^10, so that none is guessed first. */
  private static final int RECOVERY_ROUNDS = 60_000;

  /** Letters and digits that are not taken for one another. */
  private static final String SAYABLE = "abcdefghjkmnpqrstuvwxyz23456789";

  private static final String BASE32 = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

  private final Vault vault;
  private final AccountRepository accounts;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();
  private final TimeBasedOneTimePasswordGenerator codes =
      new TimeBasedOneTimePasswordGenerator(STEP, DIGITS);

  SecondFactor(Vault vault, AccountRepository accounts, Clock clock) {
    this.vault = vault;
    this.accounts = accounts;
    this.clock = clock;
  }

  /** A secret to be put into an authenticator, in Base32 and as an address it can read. */
  record Offer(String secret, String address) {
    @Override
    public String toString() {
      return "a secret that is shown this once";
    }
  }

  private static String owner(String email) {
    return "second factor of " + email;
  }

  /** A new secret, sealed, for an account. */
  byte[] make(String email) {
    byte[] secret = new byte[SECRET_BYTES];
    random.nextBytes(secret);
    return vault.sealBytes(owner(email), secret);
  }

  Offer offer(String email, byte[] sealed) {
    String secret = base32(vault.openBytes(owner(email), sealed));
    String label = URLEncoder.encode("Upright Warden:" + email, StandardCharsets.UTF_8);
    return new Offer(
        secret,
        "otpauth://totp/%s?secret=%s&issuer=Upright%%20Warden&digits=%d&period=%d"
            .formatted(label.replace("+", "%20"), secret, DIGITS, STEP.toSeconds()));
  }

  private static String base32(byte[] bytes) {
    StringBuilder text = new StringBuilder();
    int buffer = 0;
    int bits = 0;
    for (byte b : bytes) {
      buffer = (buffer << 8) | (b & 0xff);
      for (bits += 8; bits >= 5; bits -= 5) {
        text.append(BASE32.charAt((buffer >> (bits - 5)) & 31));
      }
    }
    return text.toString();
  }

  /**
   * Takes a code: of this moment, or one step of the clock earlier or later; or a recovery code.
   *
   * @return whether it was right; then it is used up
   */
  boolean take(AccountEntity account, String given) {
    String code = given.replaceAll("[\\s-]", "");
    byte[] sealed = account.secondFactor();
    if (sealed == null) {
      return false;
    }
    if (code.length() != DIGITS) {
      return takeRecoveryCode(account.id(), code);
    }
    long step = stepOf(vault.openBytes(owner(account.email()), sealed), code, clock.instant());
    // in one statement: of two who send it at once, one is late
    return step >= 0 && accounts.useStep(account.id(), step) == 1;
  }

  private boolean takeRecoveryCode(long account, String code) {
    boolean right = false;
    for (String salt : accounts.salts(account)) {
      right |= accounts.useRecoveryCode(account, salt, recoveryHash(salt, code)) == 1;
    }
    return right;
  }

  /**
   * What is kept of a recovery code: PBKDF2 (RFC 8018) with HMAC-SHA-256. The salt is one for a set
   * of codes, so that a try costs one such round; codes from before there was one have none.
   */
  private static String recoveryHash(String salt, String code) {
    if (salt.isEmpty()) {
      return AccessHash.sha256(code);
    }
    try {
      PBEKeySpec spec =
          new PBEKeySpec(
              code.toCharArray(), HexFormat.of().parseHex(salt), RECOVERY_ROUNDS, HASH_BITS);
      return HexFormat.of()
          .formatHex(
              SecretKeyFactory.getInstance("PBKDF2WithHmacSHA256")
                  .generateSecret(spec)
                  .getEncoded());
    } catch (NoSuchAlgorithmException | InvalidKeySpecException e) {
      throw new IllegalStateException("every Java has PBKDF2", e);
    }
  }

  /** The step of the clock whose code this is, near a moment; -1 where it is none. */
  long stepOf(byte[] secret, String code, Instant at) {
    try {
      SecretKeySpec key = new SecretKeySpec(secret, codes.getAlgorithm());
      for (int off : new int[] {0, -1, 1}) {
        Instant then = at.plus(STEP.multipliedBy(off));
        byte[] right =
            codes.generateOneTimePasswordString(key, then).getBytes(StandardCharsets.US_ASCII);
        if (java.security.MessageDigest.isEqual(right, code.getBytes(StandardCharsets.UTF_8))) {
          return then.getEpochSecond() / STEP.toSeconds();
        }
      }
      return -1;
    } catch (InvalidKeyException e) {
      throw new IllegalStateException("a key of bytes is never invalid here", e);
    }
  }

  /** New recovery codes in place of the old; they are shown this once. */
  List<String> recoveryCodes(long account) {
    accounts.deleteRecoveryCodes(account);
    byte[] bytes = new byte[SALT_BYTES];
    random.nextBytes(bytes);
    String salt = HexFormat.of().formatHex(bytes);
    List<String> made = new ArrayList<>();
    List<RecoveryCodeEntity> rows = new ArrayList<>();
    for (int i = 0; i < RECOVERY_CODES; i++) {
      StringBuilder code = new StringBuilder();
      for (int n = 0; n < 10; n++) {
        code.append(SAYABLE.charAt(random.nextInt(SAYABLE.length())));
      }
      RecoveryCodeEntity row = new RecoveryCodeEntity();
      row.account = account;
      row.codeHash = recoveryHash(salt, code.toString());
      row.salt = salt;
      rows.add(row);
      made.add(code.insert(5, '-').toString());
    }
    accounts.insertCodes(rows);
    return made;
  }

  void forget(long account) {
    accounts.deleteRecoveryCodes(account);
  }

  int recoveryCodesLeft(long account) {
    return Math.toIntExact(accounts.countRecoveryCodes(account));
  }

  @Override
  public String table() {
    return "account";
  }

  @Override
  public long behind() {
    return accounts.countSealedWithAnother(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<AccountEntity> rows =
        accounts.lockedSealedWithAnother(
            accounts.sealedWithAnother(vault.current(), most), vault.current());
    for (AccountEntity row : rows) {
      byte[] secret = vault.openBytes(owner(row.email()), SealedRows.sealed(row.secondFactor()));
      accounts.seal(row.id(), vault.sealBytes(owner(row.email()), secret));
    }
    return rows.size();
  }
}
