package app.uprightwarden.server.watch;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How large the database is, and when the service last did what it does by itself. */
@Component
class Sizes {
  private static final int MOST_TABLES = 12;

  private final JdbcClient jdbc;

  Sizes(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  /** A table's size; the rows are the database's own estimate. */
  record TableSize(String table, long rows, double megabytes) {}

  /** When something last ran; null where it never did. */
  record LastRun(String what, @Nullable Instant at) {}

  List<TableSize> tables() {
    return jdbc.sql(
            "select table_name, coalesce(table_rows, 0), (data_length + index_length) / 1048576"
                + " from information_schema.tables where table_schema = database() and table_type ="
                + " 'BASE TABLE' order by 3 desc limit ?")
        .param(MOST_TABLES)
        .query((r, n) -> new TableSize(r.getString(1), r.getLong(2), r.getDouble(3)))
        .list();
  }

  String database() {
    return jdbc.sql("select version()").query(String.class).single();
  }

  String schema() {
    return jdbc.sql(
            "select concat(version, ' ', description) from flyway_schema_history where success ="
                + " 1 order by installed_rank desc limit 1")
        .query(String.class)
        .single();
  }

  List<LastRun> lastRuns() {
    return List.of(
        last("audit", "select max(finished_at) from audit_run where state = 'done'"),
        last("scheduled audit", "select max(started_at) from audit_run where cause = 'schedule'"),
        last("message", "select max(written_at) from outbox_message"),
        last("old rows let go", "select max(ran_at) from keeping_rule"),
        last("ledger entry", "select max(at) from ledger_entry"));
  }

  private LastRun last(String what, String sql) {
    LocalDateTime at =
        jdbc.sql(sql)
            .query((r, n) -> java.util.Optional.ofNullable(r.getObject(1, LocalDateTime.class)))
            .single()
            .orElse(null);
    return new LastRun(what, at == null ? null : at.toInstant(ZoneOffset.UTC));
  }
}
