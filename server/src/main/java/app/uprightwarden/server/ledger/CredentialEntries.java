package app.uprightwarden.server.ledger;

import app.uprightwarden.server.access.CredentialsSet;
import java.util.Map;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Puts into the ledger with whose help somebody's credentials were set. */
@Component
class CredentialEntries {
  private final Ledger ledger;

  CredentialEntries(Ledger ledger) {
    this.ledger = ledger;
  }

  @EventListener
  void set(CredentialsSet event) {
    ledger.changed(
        "account",
        event.account(),
        event.name(),
        null,
        () -> Map.of("credentialsSetBy", event.by()),
        event.by());
  }
}
