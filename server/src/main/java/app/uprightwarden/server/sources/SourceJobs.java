package app.uprightwarden.server.sources;

import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.RecurringJob;
import java.time.Duration;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The reading of calendars in the background. */
@Configuration
class SourceJobs {
  /** Trouble with a calendar is its state; what fails here is a fault of ours. */
  @Bean
  static JobKind readingCalendars(SourceWork work) {
    return new JobKind(
        Sources.JOB,
        "Reading a calendar",
        JobKind.Lane.SOURCE,
        new JobKind.Retries(Integer.MAX_VALUE, Duration.ofSeconds(2), Duration.ofMinutes(5)),
        work::read);
  }

  @Bean
  static RecurringJob lookingAfterCalendars(
      Sources sources, @Value("${warden.sources.look:5s}") Duration look) {
    return new RecurringJob("sources", "Looking which calendars are due", look, sources::wake);
  }
}
