package app.uprightwarden.server.register;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What meetings once were, with whom was invited; those cancelled long ago among them. */
@Component
class OldVersions implements Keeping {
  private final JdbcClient jdbc;

  OldVersions(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  @Override
  public String what() {
    return "versions";
  }

  @Override
  public int letGo(Instant before, int most) {
    return jdbc.sql("delete from meeting_version where at < ? limit ?")
        .params(LocalDateTime.ofInstant(before, ZoneOffset.UTC), most)
        .update();
  }
}
