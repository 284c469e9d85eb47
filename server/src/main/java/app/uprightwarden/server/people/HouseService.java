package app.uprightwarden.server.people;

import app.uprightwarden.server.ledger.Ledger;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The organisation's own settings for this application, and how often its directory has changed.
 */
@Service
public class HouseService {
  private final JdbcClient jdbc;
  private final Ledger ledger;

  HouseService(JdbcClient jdbc, Ledger ledger) {
    this.jdbc = jdbc;
    this.ledger = ledger;
  }

  /**
   * The settings.
   *
   * @param needsConsent an edition is published with a second administrator's consent only
   * @param consentOffBy who asked that consent be no longer needed; takes effect by a second word
   */
  public record House(boolean needsConsent, @Nullable String consentOffBy) {}

  @Transactional(readOnly = true)
  public House house() {
    return jdbc.sql("select needs_consent, consent_off_by from house")
        .query((r, n) -> new House(r.getBoolean(1), r.getString(2)))
        .single();
  }

  /**
   * Asks for consent to be needed, or no longer. It is switched on by one; off by two, or one alone
   * could publish by switching it off first.
   */
  @Transactional
  public House setNeedsConsent(boolean needed, String by) {
    House house = house();
    if (needed) {
      jdbc.sql("update house set needs_consent = true, consent_off_by = null").update();
    } else if (house.needsConsent() && house.consentOffBy() == null) {
      jdbc.sql("update house set consent_off_by = ?").param(by).update();
    } else if (house.needsConsent() && !by.equals(house.consentOffBy())) {
      jdbc.sql("update house set needs_consent = false, consent_off_by = null").update();
    }
    House then = house();
    ledger.changed("house", "consent", "Consent", () -> house, () -> then, by);
    return then;
  }

  /** Goes up whenever units, kinds, people, lists or spaces change. */
  @Transactional(readOnly = true)
  public long directoryRevision() {
    return jdbc.sql("select directory_revision from house").query(Long.class).single();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void directoryChanged() {
    jdbc.sql("update house set directory_revision = directory_revision + 1").update();
  }
}
