package app.uprightwarden.server.exchange;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Counts what an import does, row by row. */
final class ImportTally {
  private final List<ImportReport.Row> rows = new ArrayList<>();
  private final List<String> notes = new ArrayList<>();
  private int added;
  private int changed;
  private int unchanged;
  private int refused;

  /** Where a row stands in the file, and what was assumed in reading it. */
  record Place(@Nullable String title, @Nullable Integer line, List<String> remarks) {
    static final Place UNKNOWN = new Place(null, null, List.of());
  }

  void count(String part, String id, boolean fresh, boolean same) {
    count(part, id, fresh, same, Place.UNKNOWN);
  }

  void count(String part, String id, boolean fresh, boolean same, Place place) {
    if (same) {
      unchanged++;
      return;
    }
    if (fresh) {
      added++;
    } else {
      changed++;
    }
    row(part, id, fresh ? "added" : "changed", place);
  }

  void refuse(String part, String id, Place place) {
    refused++;
    row(part, id, "refused", place);
  }

  private void row(String part, String id, String outcome, Place place) {
    rows.add(new ImportReport.Row(part, id, place.title(), outcome, place.line(), place.remarks()));
  }

  void note(String note) {
    notes.add(note);
  }

  boolean changesNothing() {
    return added + changed == 0;
  }

  ImportReport report(boolean dryRun, @Nullable Long batch, String format) {
    return new ImportReport(
        dryRun,
        batch,
        format,
        added,
        changed,
        unchanged,
        refused,
        List.copyOf(rows),
        List.copyOf(notes));
  }
}
