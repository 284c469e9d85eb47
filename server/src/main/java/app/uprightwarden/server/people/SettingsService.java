package app.uprightwarden.server.people;

import app.uprightwarden.server.ledger.Ledger;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The organisation's own settings for this application, and how often its directory has changed.
 */
@Service
public class SettingsService {
  private final SettingsRepository settings;
  private final Ledger ledger;

  SettingsService(SettingsRepository settings, Ledger ledger) {
    this.settings = settings;
    this.ledger = ledger;
  }

  /**
   * Whether an edition needs a second administrator.
   *
   * @param needsConsent an edition is published with a second administrator's consent only
   * @param consentOffBy who asked that consent be no longer needed; takes effect by a second word
   */
  public record ConsentSetting(boolean needsConsent, @Nullable String consentOffBy) {}

  @Transactional(readOnly = true)
  public ConsentSetting consent() {
    SettingsEntity row = settings.row();
    return new ConsentSetting(row.needsConsent, row.consentOffBy);
  }

  /**
   * Asks for consent to be needed, or no longer. It is switched on by one; off by two, or one alone
   * could publish by switching it off first.
   */
  @Transactional
  public ConsentSetting setNeedsConsent(boolean needed, String by) {
    ConsentSetting before = consent();
    if (needed) {
      settings.setConsent(true, null);
    } else if (before.needsConsent() && before.consentOffBy() == null) {
      settings.setConsent(true, by);
    } else if (before.needsConsent() && !by.equals(before.consentOffBy())) {
      settings.setConsent(false, null);
    }
    ConsentSetting then = consent();
    ledger.changed("house", "consent", "Consent", () -> before, () -> then, by);
    return then;
  }

  /** Goes up whenever units, kinds, people, lists or spaces change. */
  @Transactional(readOnly = true)
  public long directoryRevision() {
    return settings.directoryRevision();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void directoryChanged() {
    settings.directoryChanged();
  }

  /**
   * Whether waivers take two administrators.
   *
   * @param oneAskedBy who asked to go back to one; takes effect by a second word
   */
  public record WaiverConsent(boolean byTwo, @Nullable String oneAskedBy) {}

  @Transactional(readOnly = true)
  public WaiverConsent waiverConsent() {
    SettingsEntity row = settings.row();
    return new WaiverConsent(row.waiversByTwo, row.oneWaiverBy);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void setWaiverConsent(WaiverConsent wanted) {
    settings.setWaivers(wanted.byTwo(), wanted.oneAskedBy());
  }

  /** From how many people on announcing each coming and going is said to disturb. */
  @Transactional(readOnly = true)
  public int announceMost() {
    return settings.row().announceMost;
  }

  /** Says from how many people on. */
  @Transactional
  public int setAnnounceMost(int people, String by) {
    int before = announceMost();
    settings.setAnnounceMost(people);
    ledger.changed("house", "announcing", "Announcing arrivals", () -> before, () -> people, by);
    return people;
  }

  /** Up to which severity a unit's warden waives; 0 for none. */
  @Transactional(readOnly = true)
  public int unitWaiverSeverity() {
    return settings.row().unitWaiverSeverity;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void setUnitWaiverSeverity(int severity) {
    settings.setUnitWaiverSeverity(severity);
  }

  /** After how many days hosts are reminded, and after how many the administrator may apply. */
  public record Asking(int remindDays, int applyAfterDays) {}

  @Transactional(readOnly = true)
  public Asking asking() {
    SettingsEntity row = settings.row();
    return new Asking(row.remindDays, row.applyAfterDays);
  }

  /** Sets what of it is given. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void setAsking(@Nullable Integer remindDays, @Nullable Integer applyAfterDays) {
    if (remindDays != null) {
      settings.setRemindDays(remindDays);
    }
    if (applyAfterDays != null) {
      settings.setApplyAfterDays(applyAfterDays);
    }
  }

  /** Which rules a session is set back to by itself when somebody loosens it in the service. */
  public enum SetBack {
    NONE,
    SEALED,
    ALL;

    /** As it is written in answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  @Transactional(readOnly = true)
  public SetBack setBack() {
    return SetBack.valueOf(settings.row().setBack.toUpperCase(Locale.ROOT));
  }

  /** Says which rules sessions are set back to. */
  @Transactional
  public SetBack setSetBack(SetBack wanted, String by) {
    SetBack before = setBack();
    settings.setSetBack(wanted.id());
    ledger.changed("house", "set-back", "Set back in sessions", before::id, wanted::id, by);
    return wanted;
  }

  /** The newest edition that an audit was begun for after its publication. */
  @Transactional(readOnly = true)
  public int auditedEdition() {
    return settings.row().auditedEdition;
  }

  /**
   * Takes it that an edition has been audited.
   *
   * @return false where somebody else did already
   */
  @Transactional
  public boolean noteAudited(int edition) {
    return settings.setAudited(edition) > 0;
  }
}
