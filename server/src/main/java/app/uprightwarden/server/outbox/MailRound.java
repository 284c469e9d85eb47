package app.uprightwarden.server.outbox;

import java.time.Clock;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes waiting messages to the mail service, each again after a while where it is away. A message
 * is taken under a lock on its row, so that of two servers one does.
 */
@Component
class MailRound {
  private static final Logger LOG = LoggerFactory.getLogger(MailRound.class);
  private static final int AT_ONCE = 50;
  private static final int MOST_ATTEMPTS = 10;
  private static final Duration FIRST_WAIT = Duration.ofSeconds(15);
  private static final Duration LONGEST_WAIT = Duration.ofHours(2);

  private final JdbcClient jdbc;
  private final MailProperties properties;
  private final MailCarrier carrier;
  private final SealedMail sealed;
  private final TransactionTemplate transaction;
  private final Clock clock;

  MailRound(
      JdbcClient jdbc,
      MailProperties properties,
      MailCarrier carrier,
      SealedMail sealed,
      TransactionTemplate transaction,
      Clock clock) {
    this.jdbc = jdbc;
    this.properties = properties;
    this.carrier = carrier;
    this.sealed = sealed;
    this.transaction = transaction;
    this.clock = clock;
  }

  private record Waiting(long id, String to, byte[] raw, int attempts) {}

  private Waiting waiting(java.sql.ResultSet r) throws java.sql.SQLException {
    byte[] raw = r.getBytes(3);
    String to = r.getString(2);
    return new Waiting(
        r.getLong(1), to, r.getBoolean(5) ? sealed.openRaw(to, raw) : raw, r.getInt(4));
  }

  @Scheduled(fixedDelay = 2000)
  void go() {
    if (!properties.isReal()) {
      return;
    }
    for (int i = 0; i < AT_ONCE; i++) {
      if (!Boolean.TRUE.equals(transaction.execute(status -> next()))) {
        return;
      }
    }
  }

  /** Whether there was one to take. */
  private boolean next() {
    LocalDateTime now = LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
    List<Waiting> waiting =
        jdbc.sql(
                "select id, recipient, raw, attempts, sealed is not null from outbox_message where state = 'waiting'"
                    + " and next_try <= ? order by next_try, id limit 1 for update skip locked")
            .param(now)
            .query((r, n) -> waiting(r))
            .list();
    if (waiting.isEmpty()) {
      return false;
    }
    Waiting message = waiting.get(0);
    try {
      carrier.carry(message.raw(), message.to());
      jdbc.sql(
              "update outbox_message set state = 'sent', attempts = attempts + 1, trouble = null"
                  + " where id = ?")
          .param(message.id())
          .update();
    } catch (MailCarrier.NotCarried e) {
      boolean over = e.isForGood() || message.attempts() + 1 >= MOST_ATTEMPTS;
      String why = String.valueOf(e.getMessage());
      LOG.info("message {} was not taken: {}", message.id(), why.replaceAll("\\s+", " "));
      jdbc.sql(
              "update outbox_message set state = ?, attempts = attempts + 1, next_try = ?,"
                  + " trouble = ? where id = ?")
          .params(
              over ? "failed" : "waiting",
              now.plus(waitAfter(message.attempts())),
              why.length() > 500 ? why.substring(0, 500) : why,
              message.id())
          .update();
    }
    return true;
  }

  /** Twice as long each time. */
  static Duration waitAfter(int attempts) {
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(attempts, 20));
    return wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait;
  }
}
