package app.uprightwarden.server.outbox;

import app.uprightwarden.server.problem.Texts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
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

  private final OutboxRepository messages;
  private final MailProperties properties;
  private final MailCarrier carrier;
  private final SealedMail sealed;
  private final TransactionTemplate transaction;
  private final Clock clock;

  MailRound(
      OutboxRepository messages,
      MailProperties properties,
      MailCarrier carrier,
      SealedMail sealed,
      TransactionTemplate transaction,
      Clock clock) {
    this.messages = messages;
    this.properties = properties;
    this.carrier = carrier;
    this.sealed = sealed;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** How long whoever took a message has for it; then another takes it. */
  private static final Duration LEASE = Duration.ofMinutes(5);

  private record Waiting(long id, String to, byte[] raw, int attempts, boolean isSealed) {}

  @Scheduled(fixedDelay = 2000)
  void go() {
    if (!properties.isReal()) {
      return;
    }
    try {
      for (int i = 0; i < AT_ONCE; i++) {
        Optional<Waiting> taken = transaction.execute(status -> take());
        if (taken == null || taken.isEmpty()) {
          return;
        }
        carry(taken.get());
      }
    } catch (DataAccessException | TransactionException e) {
      LOG.info("mail waits for the database: {}", Texts.oneLine(e.getMessage(), 300));
    }
  }

  /**
   * Takes the next message. A transaction can be done again, and a message that went out in one
   * would go out again: so taking it, sending it and noting it are three steps.
   */
  private Optional<Waiting> take() {
    Instant now = clock.instant();
    return messages
        .next(now)
        .map(
            row -> {
              messages.take(row.id, row.attempts + 1, now.plus(LEASE));
              return new Waiting(
                  row.id, row.recipient, row.raw, row.attempts + 1, row.sealed != null);
            });
  }

  private void carry(Waiting message) {
    try {
      byte[] raw = message.isSealed() ? sealed.openRaw(message.to(), message.raw()) : message.raw();
      carrier.carry(raw, message.to());
      note(message, "sent", null);
    } catch (MailCarrier.NotCarried e) {
      refused(message, e.isForGood(), String.valueOf(e.getMessage()));
    } catch (IllegalStateException | IllegalArgumentException e) {
      // one that cannot be opened holds up none behind it
      refused(message, false, String.valueOf(e.getMessage()));
    }
  }

  private void refused(Waiting message, boolean isForGood, String why) {
    boolean over = isForGood || message.attempts() >= MOST_ATTEMPTS;
    LOG.info("message {} was not taken: {}", message.id(), Texts.oneLine(why, 300));
    note(message, over ? "failed" : "waiting", why);
  }

  /** Notes what came of it, unless another took it meanwhile. */
  private void note(Waiting message, String state, @Nullable String trouble) {
    messages.note(
        message.id(),
        message.attempts(),
        state,
        clock.instant().plus(waitAfter(message.attempts() - 1)),
        trouble == null ? null : Texts.cut(trouble, 500));
  }

  /** Twice as long each time. */
  static Duration waitAfter(int attempts) {
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(attempts, 20));
    return wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait;
  }
}
