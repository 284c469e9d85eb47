package app.uprightwarden.server.jobs;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What failed for good, among what waits. */
@Configuration
class JobsBacklog {
  @Bean
  Backlog jobsFailed(Jobs jobs) {
    return new Backlog("failed work", jobs::countFailed);
  }
}
