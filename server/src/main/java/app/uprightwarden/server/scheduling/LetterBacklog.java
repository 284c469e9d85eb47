package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.register.RegisterService;
import java.util.List;
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
  JobKind letterJobs(Letters letters, LetterRoundRepository rounds, RegisterService register) {
    return new JobKind(
            Letters.JOB, "Letters", JobKind.Lane.HOUSE, Letters.RETRIES, letters::writeAll)
        .named(
            id ->
                rounds
                    .find(Long.parseLong(id))
                    .map(row -> register.titles(List.of(row.meeting)).get(row.meeting))
                    .orElse("a meeting that is no more"));
  }
}
