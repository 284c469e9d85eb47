package app.uprightwarden.server.live;

import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Work that waits to be done. Whoever does it says how much there is.
 *
 * @param name as it is shown: {@code audits}
 * @param sql counts it in the package's own table
 */
public record Backlog(String name, String sql, JdbcClient jdbc) {
  /** How much waits now. */
  public long waiting() {
    return jdbc.sql(sql).query(Long.class).single();
  }
}
