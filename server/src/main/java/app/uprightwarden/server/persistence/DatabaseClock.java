package app.uprightwarden.server.persistence;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The database's clock, for times that servers compare: their own may differ by hours. */
@Component
public class DatabaseClock {
  private final StatelessSession session;

  DatabaseClock(StatelessSession session) {
    this.session = session;
  }

  /** The time now, to the millisecond. */
  @Transactional(readOnly = true)
  public Instant instant() {
    return session
        .createNativeQuery("select utc_timestamp(3)", LocalDateTime.class)
        .getSingleResult()
        .toInstant(ZoneOffset.UTC);
  }
}
