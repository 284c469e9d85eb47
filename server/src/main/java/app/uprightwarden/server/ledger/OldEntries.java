package app.uprightwarden.server.ledger;

import app.uprightwarden.server.retention.Retention;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The ledger's oldest entries, where it is not kept for ever. It is cut at its beginning only, and
 * the cut is an entry itself, which names the last entry that went and its hash: from there on the
 * chain still verifies, and nobody else can have cut it.
 */
@Component
class OldEntries implements Retention {
  private final LedgerRepository ledger;
  private final LedgerChain chain;
  private final Clock clock;

  OldEntries(LedgerRepository ledger, LedgerChain chain, Clock clock) {
    this.ledger = ledger;
    this.chain = chain;
    this.clock = clock;
  }

  @Override
  public String what() {
    return "ledger";
  }

  @Override
  @Transactional
  public int letGo(Instant before, int most) {
    chain.lock();
    LedgerEntryEntity last = null;
    for (LedgerEntryEntity entry : ledger.first(most)) {
      if (entry.at.isBefore(before)) {
        last = entry;
      }
    }
    if (last == null || last.act.equals(LedgerChain.CUT)) {
      return 0; // nothing is left but the last cut itself, which makes room for no other
    }
    ledger.deleteTouchedUpTo(last.seq);
    int gone = ledger.deleteUpTo(last.seq);
    chain.cutTo(last.seq, last.hash);
    chain.append(
        new LedgerChain.Draft(
            clock.instant(),
            "upright-warden",
            "itself",
            "",
            LedgerChain.CUT,
            "ledger",
            Long.toString(last.seq),
            "entries up to " + last.seq + " were kept long enough",
            LedgerChain.cutDetails(last.seq, last.hash)),
        List.of());
    return gone;
  }
}
