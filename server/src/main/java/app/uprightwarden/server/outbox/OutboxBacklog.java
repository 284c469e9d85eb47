package app.uprightwarden.server.outbox;

import app.uprightwarden.server.live.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What waits to be sent. */
@Configuration
class OutboxBacklog {
  @Bean
  Backlog messagesWaiting(JdbcClient jdbc) {
    return new Backlog(
        "messages", "select count(*) from outbox_message where state = 'waiting'", jdbc);
  }

  @Bean
  Backlog messagesFailed(JdbcClient jdbc) {
    return new Backlog(
        "messages that failed", "select count(*) from outbox_message where state = 'failed'", jdbc);
  }
}
