package app.uprightwarden.server.floor;

import app.uprightwarden.server.live.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What waits on the floor. */
@Configuration
class FloorBacklog {
  @Bean
  Backlog ordersWaiting(JdbcClient jdbc) {
    return new Backlog("orders", "select count(*) from floor_order where state = 'waiting'", jdbc);
  }

  @Bean
  Backlog alertsOpen(JdbcClient jdbc) {
    return new Backlog(
        "open alerts",
        "select count(*) from floor_alert a join floor_session s on s.id = a.session where a.state"
            + " = 'open' and s.state = 'open'",
        jdbc);
  }
}
