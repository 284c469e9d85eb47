package app.uprightwarden.server.sources;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Passwords of calendars, when the key that seals them changes. There are few. */
@Component
class SealedSources implements SealedRows {
  private final SourceRepository rows;
  private final Vault vault;

  SealedSources(SourceRepository rows, Vault vault) {
    this.rows = rows;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "calendar_source";
  }

  private List<SourceEntity> others() {
    return rows.withSecrets().stream()
        .filter(row -> Vault.keyOf(SealedRows.sealed(row.secretCipher)) != vault.current())
        .toList();
  }

  @Override
  @Transactional(readOnly = true)
  public long behind() {
    return others().size();
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<Long> ids = others().stream().limit(most).map(row -> row.id).toList();
    for (long id : ids) {
      rows.locked(id)
          .filter(row -> row.secretCipher != null)
          .ifPresent(
              row -> {
                String owner = Sources.owner(id);
                String secret = vault.open(owner, SealedRows.sealed(row.secretCipher));
                row.secretCipher = vault.seal(owner, secret);
                rows.update(row);
              });
    }
    return ids.size();
  }
}
