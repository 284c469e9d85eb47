package app.uprightwarden.server.remedies;

import app.uprightwarden.server.live.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What waits to be mended. */
@Configuration
class RemedyBacklog {
  @Bean
  Backlog remediesWaiting(JdbcClient jdbc) {
    return new Backlog(
        "remedies", "select count(*) from remedy_item where state in ('waiting', 'sending')", jdbc);
  }
}
