package app.uprightwarden.server.ledger;

import app.uprightwarden.server.vault.Vault;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What makes the chain hold. An entry's hash is HMAC-SHA-256 (RFC 2104, FIPS 180-4) with a key from
 * the key file over the hash of the one before, the entry's fields and what it touched, each with
 * its length before it, so that no two entries read alike. The chain's end is sealed the same way.
 * Entries from before the chain had a key have SHA-256 of their fields.
 */
@Component
class LedgerSeal {
  private final Vault vault;

  LedgerSeal(Vault vault) {
    this.vault = vault;
  }

  /** The number of the key that seals now. */
  int current() {
    return vault.current();
  }

  boolean hasBegun() {
    return vault.hasLedgerBegun();
  }

  void begin() {
    vault.beginLedger();
  }

  /**
   * An entry's hash.
   *
   * @param key the number of its key, or null for one from before there was one
   * @return empty where there is no such key
   */
  String hash(
      long seq,
      @Nullable Integer key,
      LedgerChain.Draft of,
      List<LedgerChain.Touched> touched,
      String previous) {
    List<String> fields = new ArrayList<>(fields(seq, of, previous));
    if (key == null) {
      return sha256(joined(fields));
    }
    fields.add(Integer.toString(key));
    for (LedgerChain.Touched each : touched.stream().sorted(LedgerChain.Touched.ORDER).toList()) {
      fields.add(each.object());
      fields.add(each.id());
    }
    return vault.ledgerSeal(key, joined(fields)).orElse("");
  }

  private static List<String> fields(long seq, LedgerChain.Draft d, String previous) {
    return List.of(
        previous,
        Long.toString(seq),
        d.at().toString(),
        d.who(),
        d.via(),
        d.address(),
        d.act(),
        d.object(),
        d.objectId(),
        d.title(),
        d.details());
  }

  /** The seal of a chain's end, with where it begins and since when it has a key. */
  String head(int key, LedgerChain.Head head) {
    List<String> fields =
        List.of(
            "head",
            Long.toString(head.seq()),
            head.hash(),
            Long.toString(head.fromSeq()),
            head.fromHash(),
            String.valueOf(head.keyedFrom()),
            Integer.toString(key));
    return vault.ledgerSeal(key, joined(fields)).orElse("");
  }

  /** Whether a chain's end is the one that was sealed. */
  boolean isSealed(LedgerChain.Head head) {
    Integer key = head.keyNo();
    String mac = head.mac();
    return key != null
        && mac != null
        && !mac.isEmpty()
        && MessageDigest.isEqual(
            mac.getBytes(StandardCharsets.US_ASCII),
            head(key, head).getBytes(StandardCharsets.US_ASCII));
  }

  private static byte[] joined(List<String> fields) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (String field : fields) {
      byte[] text = field.getBytes(StandardCharsets.UTF_8);
      bytes.writeBytes((text.length + ":").getBytes(StandardCharsets.UTF_8));
      bytes.writeBytes(text);
    }
    return bytes.toByteArray();
  }

  static String sha256(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
