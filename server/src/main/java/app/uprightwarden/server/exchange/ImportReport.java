package app.uprightwarden.server.exchange;

import app.uprightwarden.server.problem.Worded;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an import did, or would do.
 *
 * @param dryRun nothing was stored
 * @param batch by which it can be taken back; null where nothing was stored
 * @param format what the file was taken for, such as {@code calendar}
 * @param rows each thing that was added, changed or refused; what was left alone is counted only
 * @param notes about the file as a whole
 */
record ImportReport(
    boolean dryRun,
    @Nullable Long batch,
    String format,
    int added,
    int changed,
    int unchanged,
    int refused,
    List<Row> rows,
    @Worded List<String> notes) {
  /**
   * @param part {@code organisation}, {@code units}, {@code people}, {@code rulebook} …
   * @param outcome {@code added}, {@code changed} or {@code refused}
   * @param line where it begins in the file, from 1, where that is known
   * @param remarks what was assumed, or why it was refused
   */
  record Row(
      String part,
      String id,
      @Nullable String title,
      String outcome,
      @Nullable Integer line,
      @Worded List<String> remarks) {}
}
