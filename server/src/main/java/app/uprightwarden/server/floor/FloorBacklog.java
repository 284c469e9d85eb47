package app.uprightwarden.server.floor;

import app.uprightwarden.server.jobs.Backlog;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What waits on the floor. */
@Configuration
class FloorBacklog {
  @Bean
  Backlog ordersWaiting(FloorOrderRepository orders) {
    return new Backlog("orders", orders::countWaiting);
  }

  @Bean
  Backlog alertsOpen(FloorAlertRepository alerts) {
    return new Backlog("open alerts", alerts::countOpen);
  }
}
