package app.uprightwarden.server.ledger;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What a request is about to do, until it is written down. Belongs to one thread. */
final class RequestAuditContext {
  final String act;
  final String object;
  final String objectId;
  final String via;
  final String address;
  final Instant at;
  final @Nullable String who;
  @Nullable Object asked;
  boolean written;

  RequestAuditContext(
      LedgerActions.Act act,
      String objectId,
      @Nullable String who,
      String via,
      String address,
      Instant at) {
    this.act = act.id();
    this.object = act.object();
    this.objectId = objectId;
    this.who = who;
    this.via = via;
    this.address = address;
    this.at = at;
  }

  /** Then it is who is asked for that counts, not who is signed in already. */
  boolean isSignIn() {
    return act.equals("session.opened") || act.equals("session.refused");
  }

  /** The same under another name. */
  RequestAuditContext as(String name) {
    RequestAuditContext other =
        new RequestAuditContext(
            new LedgerActions.Act(name, object, ""), objectId, who, via, address, at);
    other.asked = asked;
    return other;
  }
}
