package app.uprightwarden.server.floor;

import app.uprightwarden.server.keeping.Keeping;
import java.time.Instant;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sessions that were kept long enough. First who was there is let go (events, orders, alerts), and
 * that it took place stays; later that too, with what was written of it.
 */
@Configuration
class OldSessions {
  private static final String OVER = "state in ('ended', 'lost') and ends < ?";

  private record Old(
      String what, String which, List<String> sql, JdbcClient jdbc, TransactionTemplate transaction)
      implements Keeping {
    @Override
    public int letGo(Instant before, int most) {
      Integer gone =
          transaction.execute(
              status -> {
                List<String> ids =
                    jdbc.sql(
                            "select id from floor_session where "
                                + which
                                + " order by ends limit ? for update skip locked")
                        .params(FloorStore.utc(before), Math.min(most, 50))
                        .query(String.class)
                        .list();
                if (!ids.isEmpty()) {
                  sql.forEach(s -> jdbc.sql(s).param("ids", ids).update());
                }
                return ids.size();
              });
      return gone == null ? 0 : gone;
    }
  }

  @Bean
  Keeping sessionPeopleLetGo(JdbcClient jdbc, TransactionTemplate transaction) {
    return new Old(
        "session-people",
        OVER + " and folded > 0",
        List.of(
            "delete from floor_event where session in (:ids)",
            "delete from floor_alert where session in (:ids)",
            "delete from floor_order where session in (:ids)",
            "update floor_session set folded = 0, co_hosts = '[]', host = '', made_by = '' where"
                + " id in (:ids)"),
        jdbc,
        transaction);
  }

  @Bean
  Keeping sessionsLetGo(JdbcClient jdbc, TransactionTemplate transaction) {
    return new Old(
        "sessions",
        OVER,
        List.of(
            "delete from floor_event where session in (:ids)",
            "delete from floor_alert where session in (:ids)",
            "delete from floor_order where session in (:ids)",
            "delete from floor_incident where session in (:ids)",
            "delete from floor_session where id in (:ids)"),
        jdbc,
        transaction);
  }
}
