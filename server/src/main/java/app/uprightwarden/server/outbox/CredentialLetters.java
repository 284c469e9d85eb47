package app.uprightwarden.server.outbox;

import app.uprightwarden.server.access.CredentialsSet;
import java.util.List;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Tells both when one sets another's credentials: the one whose account it is, who may know nothing
 * of it, and the one in whose name it was done.
 */
@Component
class CredentialLetters {
  private final OutboxService outbox;

  CredentialLetters(OutboxService outbox) {
    this.outbox = outbox;
  }

  @EventListener
  void set(CredentialsSet event) {
    if (event.by().equals(event.account())) {
      return;
    }
    String about = "account:" + event.account();
    String body =
        "%s (account %s, %s).%n%nFor a week from now, a consent given from this account does not count. If you did not expect this, tell another warden at once: they can end the account's sessions under House, Accounts.%n"
            .formatted(event.how(), event.account(), event.name());
    String subject = "Sign-in of " + event.account() + " was changed by " + event.by();
    outbox.write(
        List.of(
            new OutboxService.Letter(event.account(), subject, about, body),
            new OutboxService.Letter(event.by(), subject, about, body)),
        "upright-warden");
  }
}
