package app.uprightwarden.server.vault;

import java.nio.charset.StandardCharsets;
import java.nio.file.attribute.FileTime;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
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
    KeyFile.Content known = file.readOrMake();
    keys = Keys.of(known, file.written());
  }

  private record Keys(
      KeyFile.Content content,
      Map<Integer, SecretKey> sealing,
      Map<Integer, SecretKey> ledger,
      int current,
      SecretKey printing,
      FileTime written) {
    List<KeyFile.Numbered> known() {
      return content.keys();
    }

    static Keys of(KeyFile.Content content, FileTime written) {
      List<KeyFile.Numbered> known = content.keys();
      Map<Integer, SecretKey> sealing = new HashMap<>();
      Map<Integer, SecretKey> ledger = new HashMap<>();
      content.ledger().forEach(k -> ledger.put(k.number(), hmacKey(k.key())));
      known.forEach(k -> ledger.put(k.number(), hmacKey(ledgerKey(k))));
      known.forEach(
          k -> sealing.put(k.number(), new SecretKeySpec(derive(k.key(), "seal"), "AES")));
      KeyFile.Numbered last = known.get(known.size() - 1);
      return new Keys(
          content,
          Map.copyOf(sealing),
          Map.copyOf(ledger),
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
  public int addKey() {
    return file.alone(
        () -> {
          KeyFile.Content now = file.readOrMake();
          List<KeyFile.Numbered> all = new ArrayList<>(now.keys());
          int number =
              1
                  + Stream.concat(all.stream(), now.ledger().stream())
                      .mapToInt(KeyFile.Numbered::number)
                      .max()
                      .orElse(0);
          if (number > KeyFile.MAX) {
            throw new IllegalStateException(
                "there were " + KeyFile.MAX + " keys; numbers are used up");
          }
          all.add(file.fresh(number));
          put(new KeyFile.Content(all, now.ledger(), now.ledgerBegan()));
          return number;
        });
  }

  /**
   * Drops every key but the current one. What they sealed cannot be opened any more; the entries of
   * the ledger that were written with them can still be verified.
   */
  public void forgetOld() {
    file.alone(
        () -> {
          KeyFile.Content now = file.readOrMake();
          List<KeyFile.Numbered> all = now.keys();
          List<KeyFile.Numbered> ledger = new ArrayList<>(now.ledger());
          all.subList(0, all.size() - 1)
              .forEach(k -> ledger.add(new KeyFile.Numbered(k.number(), ledgerKey(k))));
          put(
              new KeyFile.Content(
                  all.subList(all.size() - 1, all.size()), ledger, now.ledgerBegan()));
          return true;
        });
  }

  /** Whether the ledger's chain has had a key; the database is not believed on that. */
  public boolean hasLedgerBegun() {
    return now().content().ledgerBegan();
  }

  /** From now on the ledger's chain has a key. */
  public void beginLedger() {
    file.alone(
        () -> {
          KeyFile.Content now = file.readOrMake();
          put(new KeyFile.Content(now.keys(), now.ledger(), true));
          return true;
        });
  }

  private void put(KeyFile.Content content) {
    file.replace(content);
    keys = Keys.of(content, file.written());
  }

  private static byte[] ledgerKey(KeyFile.Numbered key) {
    return derive(key.key(), "ledger");
  }

  private static SecretKey hmacKey(byte[] key) {
    return new SecretKeySpec(key, "HmacSHA256");
  }

  /**
   * The ledger's seal of some bytes (HMAC-SHA-256, RFC 2104), in hexadecimal.
   *
   * @param number the key's; one that was dropped serves here too
   * @return empty where there is no such key
   */
  public Optional<String> ledgerSeal(int number, byte[] bytes) {
    SecretKey key = now().ledger().get(number);
    return key == null ? Optional.empty() : Optional.of(HexFormat.of().formatHex(mac(key, bytes)));
  }

  private static byte[] derive(byte[] key, String purpose) {
    return mac(new SecretKeySpec(key, "HmacSHA256"), "upright-warden/" + purpose);
  }

  private static byte[] mac(SecretKey key, String text) {
    return mac(key, text.getBytes(StandardCharsets.UTF_8));
  }

  private static byte[] mac(SecretKey key, byte[] bytes) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(key);
      return mac.doFinal(bytes);
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
