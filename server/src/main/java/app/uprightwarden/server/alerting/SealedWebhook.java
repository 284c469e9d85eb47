package app.uprightwarden.server.alerting;

import app.uprightwarden.server.vault.FewSealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What events are signed by, when the key that seals it changes. There is one. */
@Component
class SealedWebhook extends FewSealedRows<AlertSettingEntity> {
  private final AlertingRepository rows;

  SealedWebhook(AlertingRepository rows, Vault vault) {
    super("alert_setting", vault);
    this.rows = rows;
  }

  @Override
  protected List<AlertSettingEntity> rows() {
    return rows.setting(AlertSettingEntity.ONE).stream().toList();
  }

  @Override
  protected Optional<AlertSettingEntity> locked(AlertSettingEntity row) {
    return Optional.ofNullable(rows.locked());
  }

  @Override
  protected byte @Nullable [] cipher(AlertSettingEntity row) {
    return row.secretCipher;
  }

  @Override
  protected String owner(AlertSettingEntity row) {
    return Webhook.OWNER;
  }

  @Override
  protected void store(AlertSettingEntity row, byte[] cipher) {
    row.secretCipher = cipher;
    rows.update(row);
  }
}
