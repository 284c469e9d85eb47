package app.uprightwarden.server.floor;

import app.uprightwarden.server.retention.Retention;
import java.time.Instant;
import java.util.List;
import java.util.function.Consumer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sessions that were kept long enough. First who was there is let go (events, orders, alerts), and
 * that it took place stays; later that too, with what was written of it.
 */
@Configuration
class OldSessions {
  private static final int AT_ONCE = 50;

  private record Old(
      String what,
      boolean withPeople,
      Consumer<List<String>> letGo,
      FloorRepository sessions,
      TransactionTemplate transaction)
      implements Retention {
    @Override
    public int letGo(Instant before, int most) {
      Integer gone =
          transaction.execute(
              status -> {
                List<String> ids =
                    sessions.old(before, withPeople, Math.min(most, AT_ONCE)).stream()
                        .map(row -> row.id)
                        .toList();
                if (!ids.isEmpty()) {
                  sessions.deleteEvents(ids);
                  sessions.deleteAlerts(ids);
                  sessions.deleteOrders(ids);
                  sessions.deleteAllowances(ids);
                  letGo.accept(ids);
                }
                return ids.size();
              });
      return gone == null ? 0 : gone;
    }
  }

  @Bean
  Retention sessionPeopleLetGo(FloorRepository sessions, TransactionTemplate transaction) {
    return new Old("session-people", true, sessions::forgetPeople, sessions, transaction);
  }

  @Bean
  Retention sessionsLetGo(FloorRepository sessions, TransactionTemplate transaction) {
    return new Old(
        "sessions",
        false,
        ids -> {
          sessions.deleteIncidents(ids);
          sessions.deleteSessions(ids);
        },
        sessions,
        transaction);
  }
}
