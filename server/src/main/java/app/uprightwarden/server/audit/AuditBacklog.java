package app.uprightwarden.server.audit;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.jobs.LastRun;
import app.uprightwarden.server.register.RegisterChanges;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;

/** What waits to be audited, and when something was last. */
@Configuration
class AuditBacklog {
  @Bean
  Backlog auditsWaiting(AuditRunRepository runs) {
    return new Backlog("audits", runs::countWaiting);
  }

  @Bean
  Backlog meetingsDue(RegisterChanges changes) {
    return new Backlog("meetings to judge", changes::count);
  }

  @Bean
  @Order(1)
  LastRun lastAudit(AuditRunRepository runs) {
    return new LastRun("audit", runs::lastDone);
  }

  @Bean
  @Order(2)
  LastRun lastScheduledAudit(AuditRunRepository runs) {
    return new LastRun("scheduled audit", runs::lastScheduled);
  }
}
