package app.uprightwarden.server.drafting;

import app.uprightwarden.server.access.SignedIn;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Who has a draft open. An open page says so every few seconds. */
@Component
class DraftPresence {
  private static final Duration SEEN = Duration.ofSeconds(20);

  private final JdbcClient jdbc;
  private final Clock clock;

  DraftPresence(JdbcClient jdbc, Clock clock) {
    this.jdbc = jdbc;
    this.clock = clock;
  }

  /** Somebody with the draft open. */
  record Present(String email, String name) {}

  /** Whether there still was such a draft to be seen at. */
  @Transactional
  boolean seen(long draft, SignedIn who) {
    try {
      jdbc.sql(
              "insert into draft_presence (draft, email, name, seen_at) values (?, ?, ?, ?) on"
                  + " duplicate key update seen_at = values(seen_at)")
          .params(draft, who.email(), who.name(), utc(clock.instant()))
          .update();
      return true;
    } catch (DataIntegrityViolationException e) {
      return false;
    }
  }

  @Transactional(readOnly = true)
  List<Present> at(long draft) {
    return jdbc.sql(
            "select email, name from draft_presence where draft = ? and seen_at > ? order by name")
        .params(draft, utc(clock.instant().minus(SEEN)))
        .query((r, n) -> new Present(r.getString(1), r.getString(2)))
        .list();
  }

  private static LocalDateTime utc(Instant at) {
    return LocalDateTime.ofInstant(at, ZoneOffset.UTC);
  }
}
