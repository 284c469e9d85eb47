package app.uprightwarden.server.alerting;

import app.uprightwarden.server.vault.FewSealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What the log collector's batches are signed by, when the key that seals it changes. */
@Component
class SealedCollector extends FewSealedRows<LogCollectorEntity> {
  private final LogCollectorRepository rows;

  SealedCollector(LogCollectorRepository rows, Vault vault) {
    super("log_collector", vault);
    this.rows = rows;
  }

  @Override
  protected List<LogCollectorEntity> rows() {
    return rows.find(LogCollectorEntity.ONE).stream().toList();
  }

  @Override
  protected Optional<LogCollectorEntity> locked(LogCollectorEntity row) {
    return Optional.ofNullable(rows.locked());
  }

  @Override
  protected byte @Nullable [] cipher(LogCollectorEntity row) {
    return row.secretCipher;
  }

  @Override
  protected String owner(LogCollectorEntity row) {
    return LogCollector.OWNER;
  }

  @Override
  protected void store(LogCollectorEntity row, byte[] cipher) {
    row.secretCipher = cipher;
    rows.save(row);
  }
}
