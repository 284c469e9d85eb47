package app.uprightwarden.server.exchange;

import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Begins and ends imports, inside the one transaction that each is. */
@Component
class ImportRuns {
  private final ImportBatches batches;

  ImportRuns(ImportBatches batches) {
    this.batches = batches;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  ImportRun begin(String format, ImportJob job) {
    boolean listed = !job.dryRun() && job.name() != null;
    Long batch = listed ? batches.open(format, String.valueOf(job.name()), job.by()) : null;
    return new ImportRun(job, format, batch);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  ImportReport end(ImportRun run) {
    ImportReport report = run.tally().report(run.job().dryRun(), run.batch(), run.format());
    if (run.batch() != null) {
      batches.close(run.batch(), report);
    }
    return report;
  }
}
