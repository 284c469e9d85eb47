package app.uprightwarden.server.register;

import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Passcodes of meetings, when the key that seals them changes. */
@Component
class SealedPasscodes implements SealedRows {
  private final MeetingRepository meetings;
  private final Vault vault;

  SealedPasscodes(MeetingRepository meetings, Vault vault) {
    this.meetings = meetings;
    this.vault = vault;
  }

  @Override
  public String table() {
    return "meeting";
  }

  @Override
  public long behind() {
    return meetings.countSealedWithAnother(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<MeetingEntity> rows =
        meetings.lockedSealedWithAnother(
            meetings.sealedWithAnother(vault.current(), most), vault.current());
    for (MeetingEntity row : rows) {
      String passcode = vault.open(row.publicId, SealedRows.sealed(row.passcodeCipher));
      meetings.seal(row.id, vault.seal(row.publicId, passcode), vault.fingerprint(passcode));
    }
    return rows.size();
  }
}
