package app.uprightwarden.server.ledger;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The ledger's oldest entries, where it is not kept for ever. It is cut at its beginning only, and
 * the cut is an entry itself, which names the last entry that went and its hash: from there on the
 * chain still verifies, and nobody else can have cut it.
 */
@Component
class OldEntries implements Keeping {
  private final JdbcClient jdbc;
  private final LedgerChain chain;
  private final Clock clock;

  OldEntries(JdbcClient jdbc, LedgerChain chain, Clock clock) {
    this.jdbc = jdbc;
    this.chain = chain;
    this.clock = clock;
  }

  @Override
  public String what() {
    return "ledger";
  }

  private record Last(long seq, String hash, String act) {}

  @Override
  @Transactional
  public int letGo(Instant before, int most) {
    LocalDateTime utc = LocalDateTime.ofInstant(before, ZoneOffset.UTC);
    // the head is locked before anything else, as whoever writes an entry does
    jdbc.sql("select seq from ledger_head where id = 1 for update").query(Long.class).single();
    List<Last> old =
        jdbc.sql(
                "select seq, hash, act from (select seq, hash, act, at from ledger_entry order by"
                    + " seq limit ?) e where at < ? order by seq desc limit 1")
            .params(most, utc)
            .query((r, n) -> new Last(r.getLong(1), r.getString(2), r.getString(3)))
            .list();
    if (old.isEmpty() || old.get(0).act().equals(LedgerChain.CUT)) {
      return 0; // nothing is left but the last cut itself, which makes room for no other
    }
    Last last = old.get(0);
    jdbc.sql("delete from ledger_touched where seq <= ?").param(last.seq()).update();
    int gone = jdbc.sql("delete from ledger_entry where seq <= ?").param(last.seq()).update();
    chain.cutTo(last.seq(), last.hash());
    chain.append(
        new LedgerChain.Draft(
            clock.instant(),
            "upright-warden",
            "itself",
            "",
            LedgerChain.CUT,
            "ledger",
            Long.toString(last.seq()),
            "entries up to " + last.seq() + " were kept long enough",
            LedgerChain.cutDetails(last.seq(), last.hash())),
        List.of());
    return gone;
  }
}
