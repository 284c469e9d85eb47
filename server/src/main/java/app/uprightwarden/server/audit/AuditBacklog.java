package app.uprightwarden.server.audit;

import app.uprightwarden.server.live.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What waits to be audited. */
@Configuration
class AuditBacklog {
  @Bean
  Backlog auditsWaiting(JdbcClient jdbc) {
    return new Backlog(
        "audits", "select count(*) from audit_run where state in ('waiting', 'running')", jdbc);
  }

  @Bean
  Backlog meetingsDue(JdbcClient jdbc) {
    return new Backlog("meetings to judge", "select count(*) from meeting_due", jdbc);
  }
}
