package app.uprightwarden.server.outbox;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.jobs.LastRun;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;

/** What waits to be sent. */
@Configuration
class OutboxBacklog {
  @Bean
  Backlog messagesWaiting(OutboxRepository messages) {
    return new Backlog("messages", () -> messages.count("waiting"));
  }

  @Bean
  Backlog messagesFailed(OutboxRepository messages) {
    return new Backlog("messages that failed", () -> messages.count("failed"));
  }

  @Bean
  @Order(3)
  LastRun lastMessage(OutboxRepository messages) {
    return new LastRun("message", messages::lastWritten);
  }
}
