package app.uprightwarden.server.register;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Passcodes of meetings' earlier versions, when the key that seals them changes. */
@Component
class SealedVersions implements SealedRows {
  private final MeetingVersionRepository versions;
  private final Vault vault;

  SealedVersions(MeetingVersionRepository versions, Vault vault) {
    this.versions = versions;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "meeting_version";
  }

  @Override
  public long behind() {
    return versions.countSealedWithAnother(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<MeetingVersionEntity> rows =
        versions.lockedSealedWithAnother(
            versions.sealedWithAnother(vault.current(), most), vault.current());
    for (MeetingVersionEntity row : rows) {
      String passcode = vault.open(row.meeting, SealedRows.sealed(row.passcodeCipher));
      versions.seal(row.id, vault.seal(row.meeting, passcode));
    }
    return rows.size();
  }
}
