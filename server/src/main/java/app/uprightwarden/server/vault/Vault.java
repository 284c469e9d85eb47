package app.uprightwarden.server.vault;

import java.nio.charset.StandardCharsets;
import java.nio.file.attribute.FileTime;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.SecretKey;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/**
 * Seals secrets (AES-256-GCM, bound to what they belong to) and fingerprints them (HMAC-SHA-256),
 * with keys that are not in the database. What is sealed begins with the number of its key, so that
 * keys can be changed while everything stays readable.
 */
@Component
public class Vault {
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BITS = 128;

  private final KeyFile file;
  private final SecureRandom random = new SecureRandom();
  private volatile Keys keys;

  Vault(SecretProperties properties) {
    file = new KeyFile(properties.secretFile());
    List<KeyFile.Numbered> known = file.readOrMake();
    keys = Keys.of(known, file.written());
  }

  private record Keys(
      List<KeyFile.Numbered> known,
      Map<Integer, SecretKey> sealing,
      int current,
      SecretKey printing,
      FileTime written) {
    static Keys of(List<KeyFile.Numbered> known, FileTime written) {
      Map<Integer, SecretKey> sealing = new HashMap<>();
      known.forEach(
          k -> sealing.put(k.number(), new SecretKeySpec(derive(k.key(), "seal"), "AES")));
      KeyFile.Numbered last = known.get(known.size() - 1);
      return new Keys(
          List.copyOf(known),
          Map.copyOf(sealing),
          last.number(),
          new SecretKeySpec(derive(last.key(), "fingerprint"), "HmacSHA256"),
          written);
    }
  }

  /** The keys as the file has them now: another server, or a command, may have changed it. */
  private Keys now() {
    Keys known = keys;
    FileTime written = file.written();
    if (!known.written().equals(written)) {
      known = Keys.of(file.readOrMake(), written);
      keys = known;
    }
    return known;
  }

  /** The number of the key that seals now. */
  public int current() {
    return now().current();
  }

  /** The numbers of all keys that open. */
  public List<Integer> numbers() {
    return now().known().stream().map(KeyFile.Numbered::number).toList();
  }

  /**
   * Puts a new key behind those that are there; from then on it seals.
   *
   * @return its number
   */
  public synchronized int addKey() {
    List<KeyFile.Numbered> all = new ArrayList<>(now().known());
    int number = 1 + all.stream().mapToInt(KeyFile.Numbered::number).max().orElse(0);
    if (number > KeyFile.MOST) {
      throw new IllegalStateException("there were " + KeyFile.MOST + " keys; numbers are used up");
    }
    all.add(file.fresh(number));
    file.replace(all);
    return number;
  }

  /** Drops every key but the current one. What they sealed cannot be opened any more. */
  public synchronized void forgetOld() {
    List<KeyFile.Numbered> all = now().known();
    file.replace(all.subList(all.size() - 1, all.size()));
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

  /** 43 characters, equal for equal texts under one key. */
  public String fingerprint(String text) {
    return Base64.getUrlEncoder().withoutPadding().encodeToString(mac(now().printing(), text));
  }

  /**
   * Seals a text.
   *
   * @param owner what it belongs to; it opens for that alone
   */
  public byte[] seal(String owner, String text) {
    return sealBytes(owner, text.getBytes(StandardCharsets.UTF_8));
  }

  public byte[] sealBytes(String owner, byte[] plain) {
    Keys with = now();
    try {
      byte[] nonce = new byte[NONCE_BYTES];
      random.nextBytes(nonce);
      byte[] sealed =
          cipher(Cipher.ENCRYPT_MODE, with, with.current(), owner, nonce).doFinal(plain);
      byte[] whole = new byte[1 + NONCE_BYTES + sealed.length];
      whole[0] = (byte) with.current();
      System.arraycopy(nonce, 0, whole, 1, NONCE_BYTES);
      System.arraycopy(sealed, 0, whole, 1 + NONCE_BYTES, sealed.length);
      return whole;
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("a secret cannot be sealed", e);
    }
  }

  /**
   * Opens what was sealed for this owner.
   *
   * @throws IllegalStateException where its key is gone, or it was altered
   */
  public String open(String owner, byte[] sealed) {
    return new String(openBytes(owner, sealed), StandardCharsets.UTF_8);
  }

  public byte[] openBytes(String owner, byte[] sealed) {
    try {
      if (sealed.length <= 1 + NONCE_BYTES) {
        throw new GeneralSecurityException("too short");
      }
      byte[] nonce = new byte[NONCE_BYTES];
      System.arraycopy(sealed, 1, nonce, 0, NONCE_BYTES);
      return cipher(Cipher.DECRYPT_MODE, now(), keyOf(sealed), owner, nonce)
          .doFinal(sealed, 1 + NONCE_BYTES, sealed.length - 1 - NONCE_BYTES);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(
          "the secret of " + owner + " was sealed with another key: put the right key file back",
          e);
    }
  }

  /** The number of the key that sealed this. */
  public static int keyOf(byte[] sealed) {
    return sealed[0] & 0xff;
  }

  private static Cipher cipher(int mode, Keys keys, int number, String owner, byte[] nonce)
      throws GeneralSecurityException {
    SecretKey key = keys.sealing().get(number);
    if (key == null) {
      throw new GeneralSecurityException("key " + number + " is not in the key file");
    }
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
    cipher.updateAAD(owner.getBytes(StandardCharsets.UTF_8));
    return cipher;
  }
}
