package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.live.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Rounds of letters that are being written, and those that could not be. */
@Configuration
class LetterBacklog {
  @Bean
  Backlog lettersWaiting(JdbcClient jdbc) {
    return new Backlog("rounds of letters", "select count(*) from letter_round", jdbc);
  }

  @Bean
  Backlog lettersFailed(JdbcClient jdbc) {
    return new Backlog(
        "rounds of letters that failed", "select count(*) from letter_round where tries > 7", jdbc);
  }
}
