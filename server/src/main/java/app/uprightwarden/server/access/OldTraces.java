package app.uprightwarden.server.access;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Where people signed in from, and access tokens that ended, are not kept for ever. */
@Configuration
class OldTraces {
  private record Old(String what, String sql, JdbcClient jdbc) implements Keeping {
    @Override
    public int letGo(Instant before, int most) {
      return jdbc.sql(sql)
          .param("before", LocalDateTime.ofInstant(before, ZoneOffset.UTC))
          .param("most", most)
          .update();
    }
  }

  @Bean
  Keeping oldPlaces(JdbcClient jdbc) {
    return new Old("places", "delete from known_place where at < :before limit :most", jdbc);
  }

  @Bean
  Keeping oldTokens(JdbcClient jdbc) {
    return new Old(
        "tokens",
        "delete from access_token where least(expires_at, coalesce(ended_at, expires_at)) <"
            + " :before limit :most",
        jdbc);
  }
}
