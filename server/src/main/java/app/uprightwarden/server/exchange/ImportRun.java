package app.uprightwarden.server.exchange;

import org.jspecify.annotations.Nullable;

/** An import under way: its job, its tally, and its batch where it can be taken back. */
final class ImportRun {
  private final ImportJob job;
  private final String format;
  private final @Nullable Long batch;
  private final ImportTally tally = new ImportTally();
  private int items;

  ImportRun(ImportJob job, String format, @Nullable Long batch) {
    this.job = job;
    this.format = format;
    this.batch = batch;
  }

  ImportJob job() {
    return job;
  }

  String format() {
    return format;
  }

  /** Null for a dry run, and for an import that is not listed. */
  @Nullable Long batch() {
    return batch;
  }

  ImportTally tally() {
    return tally;
  }

  int nextItem() {
    return nextItems(1);
  }

  /** The position of the first of some items. */
  int nextItems(int many) {
    int first = items;
    items += many;
    return first;
  }
}
