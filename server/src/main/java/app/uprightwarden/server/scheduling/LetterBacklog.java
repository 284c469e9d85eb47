package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.jobs.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Rounds of letters that are being written, and those that could not be. */
@Configuration
class LetterBacklog {
  @Bean
  Backlog lettersWaiting(LetterRoundRepository rounds) {
    return new Backlog("rounds of letters", rounds::count);
  }

  @Bean
  Backlog lettersFailed(LetterRoundRepository rounds) {
    return new Backlog(
        "rounds of letters that failed", () -> rounds.countTried(Letters.MOST_TRIES));
  }
}
