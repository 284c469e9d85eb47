package app.uprightwarden.server.alerting;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What events are signed by, when the key that seals it changes. There is one. */
@Component
class SealedWebhook implements SealedRows {
  private final AlertingRepository rows;
  private final Vault vault;

  SealedWebhook(AlertingRepository rows, Vault vault) {
    this.rows = rows;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "alert_setting";
  }

  private boolean isOther(@Nullable AlertSettingEntity row) {
    return row != null
        && row.secretCipher != null
        && Vault.keyOf(SealedRows.sealed(row.secretCipher)) != vault.current();
  }

  @Override
  @Transactional(readOnly = true)
  public long behind() {
    return isOther(rows.setting(AlertSettingEntity.ONE).orElse(null)) ? 1 : 0;
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    AlertSettingEntity row = rows.locked();
    if (row == null || !isOther(row)) {
      return 0;
    }
    String secret = vault.open(Webhook.OWNER, SealedRows.sealed(row.secretCipher));
    row.secretCipher = vault.seal(Webhook.OWNER, secret);
    rows.update(row);
    return 1;
  }
}
