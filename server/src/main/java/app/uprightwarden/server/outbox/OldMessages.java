package app.uprightwarden.server.outbox;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Messages that were kept long enough; one that still waits to go out stays. */
@Component
class OldMessages implements Keeping {
  private final JdbcClient jdbc;

  OldMessages(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  @Override
  public String what() {
    return "messages";
  }

  @Override
  public int letGo(Instant before, int most) {
    return jdbc.sql(
            "delete from outbox_message where written_at < ? and state <> 'waiting' limit ?")
        .params(LocalDateTime.ofInstant(before, ZoneOffset.UTC), most)
        .update();
  }
}
