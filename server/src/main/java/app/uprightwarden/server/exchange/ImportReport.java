package app.uprightwarden.server.exchange;

import java.util.List;

/**
 * What an import did, or would do.
 *
 * @param dryRun nothing was stored
 * @param rows each thing that was added or changed; what was left alone is counted only
 */
record ImportReport(boolean dryRun, int added, int changed, int unchanged, List<Row> rows) {
  /**
   * @param part {@code organisation}, {@code people}, {@code rulebook} or {@code meetings}
   * @param outcome {@code added} or {@code changed}
   */
  record Row(String part, String id, String outcome) {}
}
