package app.uprightwarden.server.sources;

import app.uprightwarden.server.vault.FewSealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Passwords of calendars, when the key that seals them changes. There are few. */
@Component
class SealedSources extends FewSealedRows<SourceEntity> {
  private final SourceRepository rows;

  SealedSources(SourceRepository rows, Vault vault) {
    super("calendar_source", vault);
    this.rows = rows;
  }

  @Override
  protected List<SourceEntity> rows() {
    return rows.withSecrets();
  }

  @Override
  protected Optional<SourceEntity> locked(SourceEntity row) {
    return rows.locked(row.id);
  }

  @Override
  protected byte @Nullable [] cipher(SourceEntity row) {
    return row.secretCipher;
  }

  @Override
  protected String owner(SourceEntity row) {
    return Sources.owner(row.id);
  }

  @Override
  protected void store(SourceEntity row, byte[] cipher) {
    row.secretCipher = cipher;
    rows.update(row);
  }
}
