package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.passcode.PasscodeMaker;
import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.security.SecureRandom;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Passcodes for telephones. A passcode of letters cannot be typed on a telephone's keys: where
 * phones are allowed, digits stand beside it. They are made anew with the passcode, and go with the
 * need for them.
 */
@Component
class PhonePasscodes implements SealedRows {
  /** What else the same meeting has sealed is another secret. */
  private static final String OWNER = "phone/";

  private final PhonePasscodeRepository rows;
  private final Vault vault;
  private final SecureRandom random = new SecureRandom();

  PhonePasscodes(PhonePasscodeRepository rows, Vault vault) {
    this.rows = rows;
    this.vault = vault;
  }

  /** The digits in clear, or null where there are none. Callers say who may see them. */
  @Transactional(readOnly = true)
  public @Nullable String of(String meeting) {
    return rows.find(meeting).map(row -> vault.open(OWNER + meeting, row.cipher)).orElse(null);
  }

  /** Whether callers could not type a meeting's passcode. */
  static boolean isNeeded(Meeting meeting) {
    ControlValues controls = meeting.controls();
    PasscodeFacts passcode = meeting.passcode();
    return passcode != null
        && controls.is(Control.PASSCODE, "required")
        && controls.effective(Control.AUDIO_ROUTES) instanceof Value.Names routes
        && routes.members().contains("phone")
        && !Control.PASSCODE_MAKEUP.plain(passcode.makeup()).equals("digits");
  }

  /** A passcode as it was judged, where the digits beside it are weak. */
  static PasscodeFacts judged(PasscodeFacts facts, @Nullable String digits) {
    boolean isWeak = digits != null && PasscodeJudge.weakness(digits, "", "") != Weakness.NONE;
    return isWeak && facts.weakness() == Weakness.NONE ? facts.withWeakness(Weakness.PHONE) : facts;
  }

  /** Weak digits stay weak as long as they stay, although nobody says them again. */
  static Scheduled keepingWeakness(Scheduled now, @Nullable Meeting before) {
    PasscodeFacts was = before == null ? null : before.passcode();
    PasscodeFacts facts = now.meeting().passcode();
    boolean isKept =
        was != null
            && facts != null
            && now.phonePasscode() == null
            && was.weakness() == Weakness.PHONE
            && facts.weakness() == Weakness.NONE
            && facts.fingerprint().equals(was.fingerprint())
            && isNeeded(now.meeting());
    return isKept ? now.with(now.meeting().withPasscode(was)) : now;
  }

  /** Makes digits where a meeting needs some, takes away those it no longer needs. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void settle(Meeting meeting) {
    if (!isNeeded(meeting)) {
      rows.forget(Set.of(meeting.id()));
    } else if (rows.find(meeting.id()).isEmpty()) {
      set(meeting.id(), PasscodeMaker.makeDigits(random::nextInt));
    }
  }

  /**
   * Keeps the digits that forms, files and services say, and takes away those of a passcode that is
   * gone: who knew it knew them too.
   *
   * @param renewed the ids of meetings whose passcode is another now
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void take(List<Scheduled> some, Set<String> renewed) {
    if (!renewed.isEmpty()) {
      rows.forget(renewed);
    }
    for (Scheduled each : some) {
      String digits = each.phonePasscode();
      if (digits != null) {
        set(each.meeting().id(), digits);
      }
    }
  }

  /** Keeps digits that a file or a service has said. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void set(String meeting, String digits) {
    if (!digits.equals(of(meeting))) {
      rows.save(new PhonePasscodeEntity(meeting, vault.seal(OWNER + meeting, digits)));
    }
  }

  @Override
  public String table() {
    return "phone_passcode";
  }

  @Override
  public long behind() {
    return rows.countSealedWithAnother(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<PhonePasscodeEntity> found =
        rows.lockedSealedWithAnother(
            rows.sealedWithAnother(vault.current(), most), vault.current());
    for (PhonePasscodeEntity row : found) {
      String owner = OWNER + row.meeting;
      rows.save(
          new PhonePasscodeEntity(row.meeting, vault.seal(owner, vault.open(owner, row.cipher))));
    }
    return found.size();
  }
}
