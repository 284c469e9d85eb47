package app.uprightwarden.server.ledger;

import app.uprightwarden.server.jobs.LastRun;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;

/** When something was written down last. */
@Configuration
class LedgerRuns {
  @Bean
  @Order(5)
  LastRun lastEntry(LedgerRepository ledger) {
    return new LastRun("ledger entry", ledger::lastAt);
  }
}
