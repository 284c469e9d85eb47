package app.uprightwarden.server.outbox;

import app.uprightwarden.server.retention.Retention;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** Messages that were kept long enough; one that still waits to go out stays. */
@Component
class OldMessages implements Retention {
  private final OutboxRepository messages;

  OldMessages(OutboxRepository messages) {
    this.messages = messages;
  }

  @Override
  public String what() {
    return "messages";
  }

  @Override
  public int letGo(Instant before, int most) {
    List<Long> old = messages.old(before, most);
    return old.isEmpty() ? 0 : messages.delete(old);
  }
}
