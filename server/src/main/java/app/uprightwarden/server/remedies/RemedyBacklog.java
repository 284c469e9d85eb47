package app.uprightwarden.server.remedies;

import app.uprightwarden.server.jobs.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What waits to be mended. */
@Configuration
class RemedyBacklog {
  @Bean
  Backlog remediesWaiting(RemedyRepository remedies) {
    return new Backlog("remedies", remedies::countWaiting);
  }
}
