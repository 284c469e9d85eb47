package app.uprightwarden.server.alerting;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What the log collector's batches are signed by, when the key that seals it changes. */
@Component
class SealedCollector implements SealedRows {
  private final LogCollectorRepository rows;
  private final Vault vault;

  SealedCollector(LogCollectorRepository rows, Vault vault) {
    this.rows = rows;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "log_collector";
  }

  private boolean isOther(@Nullable LogCollectorEntity row) {
    return row != null
        && row.secretCipher != null
        && Vault.keyOf(SealedRows.sealed(row.secretCipher)) != vault.current();
  }

  @Override
  @Transactional(readOnly = true)
  public long behind() {
    return isOther(rows.find(LogCollectorEntity.ONE).orElse(null)) ? 1 : 0;
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    LogCollectorEntity row = rows.locked();
    if (row == null || !isOther(row)) {
      return 0;
    }
    String secret = vault.open(LogCollector.OWNER, SealedRows.sealed(row.secretCipher));
    row.secretCipher = vault.seal(LogCollector.OWNER, secret);
    rows.save(row);
    return 1;
  }
}
