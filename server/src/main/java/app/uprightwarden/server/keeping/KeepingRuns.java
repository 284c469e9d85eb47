package app.uprightwarden.server.keeping;

import app.uprightwarden.server.jobs.LastRun;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;

/** When old rows were let go last. */
@Configuration
class KeepingRuns {
  @Bean
  @Order(4)
  LastRun oldRowsLetGo(KeepingRepository rules) {
    return new LastRun("old rows let go", rules::lastRun);
  }
}
