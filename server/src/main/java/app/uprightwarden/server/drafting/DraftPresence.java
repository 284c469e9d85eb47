package app.uprightwarden.server.drafting;

import app.uprightwarden.server.access.SignedIn;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Who has a draft open. An open page says so every few seconds. */
@Component
class DraftPresence {
  private static final Duration SEEN = Duration.ofSeconds(20);

  private final DraftRepository drafts;
  private final Clock clock;

  DraftPresence(DraftRepository drafts, Clock clock) {
    this.drafts = drafts;
    this.clock = clock;
  }

  /** Somebody with the draft open. */
  record Present(String email, String name) {}

  /**
   * Whether there still was such a draft to be seen at. The write has a transaction of its own: one
   * around both would be lost with it, whatever is caught in here.
   */
  boolean seen(long draft, SignedIn who) {
    if (drafts.find(draft).isEmpty()) {
      return false;
    }
    DraftPresenceEntity row = new DraftPresenceEntity();
    row.draft = draft;
    row.email = who.email();
    row.name = who.name();
    row.seenAt = clock.instant();
    try {
      drafts.save(row);
      return true;
    } catch (DataIntegrityViolationException e) {
      return false; // it went away between our look and our write
    }
  }

  @Transactional(readOnly = true)
  List<Present> at(long draft) {
    return drafts.present(draft, clock.instant().minus(SEEN)).stream()
        .map(row -> new Present(row.email, row.name))
        .toList();
  }
}
