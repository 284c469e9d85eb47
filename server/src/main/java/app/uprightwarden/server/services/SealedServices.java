package app.uprightwarden.server.services;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Keys of conference services, when the key that seals them changes. There are few. */
@Component
class SealedServices implements SealedRows {
  private final ServiceRepository rows;
  private final Vault vault;

  SealedServices(ServiceRepository rows, Vault vault) {
    this.rows = rows;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "conference_service";
  }

  private List<ServiceEntity> others() {
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
                String owner = Services.owner(id);
                String key = vault.open(owner, SealedRows.sealed(row.secretCipher));
                row.secretCipher = vault.seal(owner, key);
                rows.update(row);
              });
    }
    return ids.size();
  }
}
