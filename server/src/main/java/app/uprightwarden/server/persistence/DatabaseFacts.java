package app.uprightwarden.server.persistence;

import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What the database says of itself. Its own tables are no entities of ours. */
@Component
public class DatabaseFacts {
  private final StatelessSession session;

  DatabaseFacts(StatelessSession session) {
    this.session = session;
  }

  /** A table's size; the rows are the database's own estimate. */
  public record TableSize(String table, long rows, double megabytes) {}

  /**
   * The largest tables first.
   *
   * @param most how many
   */
  @Transactional(readOnly = true)
  public List<TableSize> tables(int most) {
    return session
        .createNativeQuery(
            "select table_name, coalesce(table_rows, 0), (data_length + index_length) / 1048576"
                + " from information_schema.tables where table_schema = database() and table_type ="
                + " 'BASE TABLE' order by 3 desc",
            Object[].class)
        .setMaxResults(most)
        .getResultList()
        .stream()
        .map(
            row ->
                new TableSize(
                    String.valueOf(row[0]),
                    ((Number) row[1]).longValue(),
                    ((Number) row[2]).doubleValue()))
        .toList();
  }

  /** The database's version, as it says it. */
  @Transactional(readOnly = true)
  public String version() {
    return session.createNativeQuery("select version()", String.class).getSingleResult();
  }

  /** The last migration that the schema has had. */
  @Transactional(readOnly = true)
  public String schema() {
    return session
        .createNativeQuery(
            "select concat(version, ' ', description) from flyway_schema_history where success = 1"
                + " order by installed_rank desc limit 1",
            String.class)
        .getSingleResult();
  }
}
