package app.uprightwarden.server.exchange;

import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;

/**
 * What an import is to do.
 *
 * @param name of the file, by which the import is listed; null lists it not, as with the demo
 * @param progress is told how many rows are done, of how many
 */
record ImportJob(boolean dryRun, String by, @Nullable String name, Progress progress) {
  /** Hears how far an import is. */
  interface Progress {
    void of(int total);

    IntConsumer done();
  }

  static final Progress UNHEARD =
      new Progress() {
        @Override
        public void of(int total) {}

        @Override
        public IntConsumer done() {
          return done -> {};
        }
      };

  static ImportJob unlisted(boolean dryRun, String by) {
    return new ImportJob(dryRun, by, null, UNHEARD);
  }
}
