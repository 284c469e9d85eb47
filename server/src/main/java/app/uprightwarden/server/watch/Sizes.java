package app.uprightwarden.server.watch;

import app.uprightwarden.server.persistence.DatabaseFacts;
import app.uprightwarden.server.problem.Worded;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How large the database is, and when the service last did what it does by itself. */
@Component
class Sizes {
  private static final int MAX_TABLES = 12;

  private final DatabaseFacts facts;
  private final List<app.uprightwarden.server.jobs.LastRun> runs;

  Sizes(DatabaseFacts facts, List<app.uprightwarden.server.jobs.LastRun> runs) {
    this.facts = facts;
    this.runs = runs;
  }

  /** A table's size; the rows are the database's own estimate. */
  record TableSize(String table, long rows, double megabytes) {}

  /** When something last ran; null where it never did. */
  record LastRun(@Worded String what, @Nullable Instant at) {}

  List<TableSize> tables() {
    return facts.tables(MAX_TABLES).stream()
        .map(size -> new TableSize(size.table(), size.rows(), size.megabytes()))
        .toList();
  }

  String database() {
    return facts.version();
  }

  String schema() {
    return facts.schema();
  }

  List<LastRun> lastRuns() {
    return runs.stream()
        .map(run -> new LastRun(run.what(), run.when().get().orElse(null)))
        .toList();
  }
}
