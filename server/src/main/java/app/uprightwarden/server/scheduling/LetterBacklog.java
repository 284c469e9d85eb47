package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.jobs.JobKind;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Rounds of letters that are being written. */
@Configuration
class LetterBacklog {
  @Bean
  Backlog lettersWaiting(LetterRoundRepository rounds) {
    return new Backlog("rounds of letters", rounds::count);
  }

  @Bean
  JobKind letterJobs(Letters letters, LetterRoundRepository rounds) {
    return new JobKind(
            Letters.JOB, "letters", JobKind.Lane.HOUSE, Letters.RETRIES, letters::writeAll)
        .named(id -> rounds.find(Long.parseLong(id)).map(row -> row.meeting).orElse(id));
  }
}
