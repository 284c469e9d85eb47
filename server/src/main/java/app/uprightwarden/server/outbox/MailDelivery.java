package app.uprightwarden.server.outbox;

import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.problem.Texts;
import java.time.Duration;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Takes messages to the mail service, each an item of work: where that is away it is tried again
 * after a while. A message goes out at least once, always with the same Message-ID, so that whoever
 * gets it twice can tell.
 */
@Configuration
class MailDelivery {
  /** What the work is called. */
  static final String JOB = "mail";

  static final JobKind.Retries RETRIES =
      new JobKind.Retries(10, Duration.ofSeconds(15), Duration.ofHours(2));

  private final OutboxRepository messages;
  private final MailCarrier carrier;
  private final SealedMail sealed;

  MailDelivery(OutboxRepository messages, MailCarrier carrier, SealedMail sealed) {
    this.messages = messages;
    this.carrier = carrier;
    this.sealed = sealed;
  }

  @Bean
  JobKind mailJobs() {
    return new JobKind(JOB, "Message", JobKind.Lane.OUTWARD, RETRIES, this::carry)
        .named(this::subject)
        .telling(
            (id, why) -> note(id, "failed", why), id -> messages.note(number(id), "waiting", null));
  }

  private static long number(String id) {
    return Long.parseLong(id);
  }

  private String subject(String id) {
    return messages.find(number(id)).map(row -> row.subject + " to " + row.recipient).orElse(id);
  }

  private void note(String id, String state, String trouble) {
    messages.note(number(id), state, Texts.cut(trouble, 500));
  }

  /** No transaction is open meanwhile: it could be done again, and the message go out again. */
  private void carry(String id) {
    Optional<OutboxMessageEntity> found =
        messages.find(number(id)).filter(row -> !row.state.equals("sent"));
    if (found.isEmpty()) {
      return; // it went out, or was kept long enough
    }
    OutboxMessageEntity message = found.get();
    String trouble = null;
    try {
      byte[] raw =
          message.sealed == null ? message.raw : sealed.openRaw(message.recipient, message.raw);
      carrier.carry(raw, message.recipient);
      messages.note(message.id, "sent", null);
    } catch (MailCarrier.NotCarried e) {
      trouble = String.valueOf(e.getMessage());
      note(id, "waiting", trouble);
      if (e.isForGood()) {
        throw new JobKind.Refused(trouble);
      }
      throw new IllegalStateException(trouble, e);
    } catch (IllegalStateException | IllegalArgumentException e) {
      trouble = String.valueOf(e.getMessage());
      note(id, "waiting", trouble);
      throw e;
    }
  }
}
