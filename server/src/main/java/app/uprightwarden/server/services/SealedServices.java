package app.uprightwarden.server.services;

import app.uprightwarden.server.vault.FewSealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Keys of conference services, when the key that seals them changes. There are few. */
@Component
class SealedServices extends FewSealedRows<ServiceEntity> {
  private final ServiceRepository rows;

  SealedServices(ServiceRepository rows, Vault vault) {
    super("conference_service", vault);
    this.rows = rows;
  }

  @Override
  protected List<ServiceEntity> rows() {
    return rows.withSecrets();
  }

  @Override
  protected Optional<ServiceEntity> locked(ServiceEntity row) {
    return rows.locked(row.id);
  }

  @Override
  protected byte @Nullable [] cipher(ServiceEntity row) {
    return row.secretCipher;
  }

  @Override
  protected String owner(ServiceEntity row) {
    return Services.owner(row.id);
  }

  @Override
  protected void store(ServiceEntity row, byte[] cipher) {
    row.secretCipher = cipher;
    rows.update(row);
  }
}
