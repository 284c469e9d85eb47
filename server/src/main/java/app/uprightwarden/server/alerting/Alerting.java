package app.uprightwarden.server.alerting;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.services.ServiceAddresses;
import app.uprightwarden.server.vault.Vault;
import java.security.SecureRandom;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Whom alerts of sessions reach, and how. */
@Service
class Alerting {
  private static final int SECRET_BYTES = 32;
  private static final int MAX_SHOWN = 30;

  private final AlertingRepository rows;
  private final Telling telling;
  private final ServiceAddresses addresses;
  private final Vault vault;
  private final Ledger ledger;
  private final DatabaseClock clock;
  private final JsonMapper json;
  private final SecureRandom random = new SecureRandom();

  Alerting(
      AlertingRepository rows,
      Telling telling,
      ServiceAddresses addresses,
      Vault vault,
      Ledger ledger,
      DatabaseClock clock,
      JsonMapper json) {
    this.rows = rows;
    this.telling = telling;
    this.addresses = addresses;
    this.vault = vault;
    this.ledger = ledger;
    this.clock = clock;
    this.json = json;
  }

  /**
   * Whom alerts reach.
   *
   * @param onCall addresses, in the order in which they are told
   * @param nextMinutes after how many without acknowledgement the next one is told
   * @param leastSeverity 1 to 5: what is milder reaches nobody by mail or webhook
   * @param quietFrom {@code 22:00}, or null for no quiet hours, in which only the gravest are told
   * @param webhook where events are sent to, or null
   */
  record AlertSettings(
      List<String> onCall,
      int nextMinutes,
      int leastSeverity,
      @Nullable String quietFrom,
      @Nullable String quietTo,
      String quietZone,
      @Nullable String webhook) {}

  /**
   * The same, and what was sent lately.
   *
   * @param version which of their states the settings are; {@link #NEVER_SET} where nobody set any
   * @param secret what events are signed by; said once, when the webhook is set
   */
  record AlertingView(
      AlertSettings settings,
      long version,
      @Nullable String secret,
      List<DeliveryView> deliveries) {}

  private static final long NEVER_SET = -1;

  /** An event on its way to the webhook; {@code state} is waiting, sent or failed. */
  record DeliveryView(
      long id,
      String subject,
      String state,
      int tries,
      @Worded @Nullable String why,
      Instant madeAt,
      @Nullable Instant sentAt) {}

  /** Whether anybody is to be told at all. */
  @Transactional(readOnly = true)
  public boolean isOn() {
    return rows.setting(AlertSettingEntity.ONE)
        .filter(row -> !row.onCall.equals("[]") || row.webhook != null)
        .isPresent();
  }

  @Transactional(readOnly = true)
  public AlertingView view() {
    return view(null);
  }

  private AlertingView view(@Nullable String secret) {
    Optional<AlertSettingEntity> there = rows.setting(AlertSettingEntity.ONE);
    return new AlertingView(
        settings(there.orElseGet(AlertSettingEntity::new)),
        there.map(row -> row.version).orElse(NEVER_SET),
        secret,
        rows.newest(MAX_SHOWN).stream()
            .map(
                each ->
                    new DeliveryView(
                        each.id,
                        each.subject,
                        each.state,
                        each.tries,
                        each.why,
                        each.madeAt,
                        each.sentAt))
            .toList());
  }

  private AlertSettings settings(AlertSettingEntity row) {
    return new AlertSettings(
        telling.onCall(row),
        row.nextMinutes,
        row.leastSeverity,
        row.quietFrom,
        row.quietTo,
        row.quietZone,
        row.webhook);
  }

  /**
   * Sets whom alerts reach.
   *
   * @param seen the version that was looked at; null does not ask
   * @throws ProblemException 409 where somebody set them since
   */
  @Transactional
  public AlertingView set(AlertSettings wanted, @Nullable Long seen, SignedIn by) {
    try {
      ZoneId.of(wanted.quietZone());
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          "There is no such time zone. Write it like Europe/Dublin.",
          List.of(new Fault("/quietZone", "is no time zone")));
    }
    if ((wanted.quietFrom() == null) != (wanted.quietTo() == null)) {
      throw ProblemException.invalid(
          "Quiet hours have a beginning and an end, or neither.",
          List.of(new Fault("/quietTo", "is missing, or the beginning is")));
    }
    String fault = wanted.webhook() == null ? null : addresses.fault(wanted.webhook());
    if (fault != null) {
      throw ProblemException.invalid(
          "The webhook’s address " + fault, List.of(new Fault("/webhook", fault)));
    }
    AlertSettingEntity there = rows.locked();
    if (seen != null && seen != (there == null ? NEVER_SET : there.version)) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed these settings since you opened them. Look at what they are now,"
              + " and change them again. Nothing was saved.");
    }
    AlertSettingEntity row = there == null ? new AlertSettingEntity() : there;
    Map<String, Object> before = document(row);
    String secret = null;
    if (!Objects.equals(row.webhook, wanted.webhook())) {
      row.webhook = wanted.webhook();
      row.secretCipher = null;
      if (wanted.webhook() != null) {
        byte[] bytes = new byte[SECRET_BYTES];
        random.nextBytes(bytes);
        secret = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        row.secretCipher = vault.seal(Webhook.OWNER, secret);
      }
    }
    row.onCall = json.writeValueAsString(wanted.onCall());
    row.nextMinutes = wanted.nextMinutes();
    row.leastSeverity = wanted.leastSeverity();
    row.quietFrom = wanted.quietFrom();
    row.quietTo = wanted.quietTo();
    row.quietZone = wanted.quietZone();
    row.changedBy = by.email();
    row.changedAt = clock.instant();
    if (there == null) {
      rows.insert(row);
    } else {
      rows.update(row);
    }
    ledger.changed("alerting", "alerts", "Alerts", () -> before, () -> document(row), by.email());
    return view(secret);
  }

  private Map<String, Object> document(AlertSettingEntity row) {
    return InOrder.map(
        "onCall",
        telling.onCall(row),
        "nextMinutes",
        row.nextMinutes,
        "leastSeverity",
        row.leastSeverity,
        "quiet",
        row.quietFrom == null ? "" : row.quietFrom + "-" + row.quietTo,
        "webhook",
        row.webhook == null ? "" : row.webhook);
  }

  /** The ways a test message goes. */
  record TestSent(@Worded List<String> ways) {}

  @Transactional
  public TestSent test(SignedIn by) {
    AlertSettingEntity row =
        rows.setting(AlertSettingEntity.ONE).orElseGet(AlertSettingEntity::new);
    List<String> ways = telling.test(row, by.email());
    if (ways.isEmpty()) {
      throw ProblemException.conflict(
          "nobody-to-tell",
          "Nobody is on call and there is no webhook. Enter one first, and save.");
    }
    return new TestSent(ways);
  }
}
