package app.uprightwarden.server.retention;

import app.uprightwarden.server.jobs.LastRun;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;

/** When old rows were let go last. */
@Configuration
class RetentionRuns {
  @Bean
  @Order(4)
  LastRun oldRowsLetGo(RetentionRepository rules) {
    return new LastRun("old rows let go", rules::lastRun);
  }
}
