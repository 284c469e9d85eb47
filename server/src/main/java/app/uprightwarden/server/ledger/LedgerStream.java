package app.uprightwarden.server.ledger;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The ledger one entry after the other, for whoever passes it on. */
@Service
public class LedgerStream {
  private final LedgerRepository rows;
  private final JsonMapper json;

  LedgerStream(LedgerRepository rows, JsonMapper json) {
    this.rows = rows;
    this.json = json;
  }

  /**
   * An entry as it is passed on.
   *
   * @param via {@code session}, {@code token} or the program itself
   * @param details what was before and after
   * @param hash by which the chain goes on
   */
  public record Passed(
      long seq,
      Instant at,
      String who,
      String via,
      @Nullable String address,
      String act,
      String object,
      String objectId,
      String title,
      JsonNode details,
      String hash) {}

  /** What comes behind an entry, in the chain's order. */
  @Transactional(readOnly = true)
  public List<Passed> after(long seq, int most) {
    return rows.after(seq, most).stream().map(LedgerChain::entry).map(this::passed).toList();
  }

  private Passed passed(LedgerChain.Entry entry) {
    LedgerChain.Draft of = entry.of();
    return new Passed(
        entry.seq(),
        of.at(),
        of.who(),
        of.via(),
        of.address(),
        of.act(),
        of.object(),
        of.objectId(),
        of.title(),
        json.readTree(of.details()),
        entry.hash());
  }

  /** The number of the last entry. */
  @Transactional(readOnly = true)
  public long last() {
    return rows.head().seq;
  }
}
