package app.uprightwarden.server.register;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.SecretKey;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/**
 * Seals passcodes (AES-256-GCM, bound to their meeting) and fingerprints them (HMAC-SHA-256), with
 * keys that are not in the database.
 */
@Component
class PasscodeVault {
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BITS = 128;

  private final SecretKey sealing;
  private final SecretKey printing;
  private final SecureRandom random = new SecureRandom();

  PasscodeVault(SecretProperties properties) {
    byte[] key = readOrMake(properties.secretFile());
    sealing = new SecretKeySpec(derive(key, "seal"), "AES");
    printing = new SecretKeySpec(derive(key, "fingerprint"), "HmacSHA256");
  }

  private byte[] readOrMake(Path file) {
    try {
      if (Files.exists(file)) {
        byte[] key = Base64.getDecoder().decode(Files.readString(file).strip());
        if (key.length != KEY_BYTES) {
          throw new IllegalStateException(
              file + " does not hold a key of " + KEY_BYTES + " bytes; put the right one back");
        }
        return key;
      }
      byte[] key = new byte[KEY_BYTES];
      random.nextBytes(key);
      Path parent = file.toAbsolutePath().getParent();
      Files.createDirectories(parent);
      Files.createFile(
          file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      Files.writeString(
          file,
          Base64.getEncoder().encodeToString(key) + "\n",
          StandardOpenOption.TRUNCATE_EXISTING);
      return key;
    } catch (IOException e) {
      throw new UncheckedIOException("cannot read or make the key file " + file, e);
    }
  }

  private static byte[] derive(byte[] key, String purpose) {
    return mac(new SecretKeySpec(key, "HmacSHA256"), "upright-warden/" + purpose);
  }

  private static byte[] mac(SecretKey key, String text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(key);
      return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java has HmacSHA256", e);
    }
  }

  /** 43 characters, equal for equal passcodes. */
  String fingerprint(String passcode) {
    return Base64.getUrlEncoder().withoutPadding().encodeToString(mac(printing, passcode));
  }

  byte[] seal(String meeting, String passcode) {
    try {
      byte[] nonce = new byte[NONCE_BYTES];
      random.nextBytes(nonce);
      byte[] sealed =
          cipher(Cipher.ENCRYPT_MODE, meeting, nonce)
              .doFinal(passcode.getBytes(StandardCharsets.UTF_8));
      byte[] both = Arrays.copyOf(nonce, NONCE_BYTES + sealed.length);
      System.arraycopy(sealed, 0, both, NONCE_BYTES, sealed.length);
      return both;
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("a passcode cannot be sealed", e);
    }
  }

  String open(String meeting, byte[] sealed) {
    try {
      byte[] nonce = Arrays.copyOf(sealed, NONCE_BYTES);
      byte[] plain =
          cipher(Cipher.DECRYPT_MODE, meeting, nonce)
              .doFinal(sealed, NONCE_BYTES, sealed.length - NONCE_BYTES);
      return new String(plain, StandardCharsets.UTF_8);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(
          "the passcode of meeting "
              + meeting
              + " was sealed with another key: put the right key file back",
          e);
    }
  }

  private Cipher cipher(int mode, String meeting, byte[] nonce) throws GeneralSecurityException {
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(mode, sealing, new GCMParameterSpec(TAG_BITS, nonce));
    cipher.updateAAD(meeting.getBytes(StandardCharsets.UTF_8));
    return cipher;
  }
}
