package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditReading;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditSchedules;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** Writes reports, and sends those of scheduled audits. */
@Service
class ReportService {
  private static final Logger LOG = LoggerFactory.getLogger(ReportService.class);

  /** Reports that are made in one round; each is a PDF. */
  private static final int AT_ONCE = 10;

  private final AuditReading reading;
  private final AuditCounts counts;
  private final AuditSchedules schedules;
  private final PrintedAudit printed;
  private final FindingTable table;
  private final JsonReport report;
  private final Sarif sarif;
  private final Evidence evidence;
  private final OutboxService outbox;
  private final TransactionTemplate transaction;

  ReportService(
      AuditReading reading,
      AuditCounts counts,
      AuditSchedules schedules,
      PrintedAudit printed,
      FindingTable table,
      JsonReport report,
      Sarif sarif,
      Evidence evidence,
      OutboxService outbox,
      TransactionTemplate transaction) {
    this.reading = reading;
    this.counts = counts;
    this.schedules = schedules;
    this.printed = printed;
    this.table = table;
    this.report = report;
    this.sarif = sarif;
    this.evidence = evidence;
    this.outbox = outbox;
    this.transaction = transaction;
  }

  /** What a report is written as. */
  enum Form {
    PDF("application/pdf", ".pdf"),
    CSV("text/csv; charset=UTF-8", ".csv"),
    JSON("application/json", ".json"),
    SARIF("application/sarif+json", ".sarif"),
    EVIDENCE("application/zip", "-evidence.zip");

    final String type;
    final String ending;

    Form(String type, String ending) {
      this.type = type;
      this.ending = ending;
    }
  }

  static String name(AuditRun run, Form form) {
    String which = run.state().equals("standing") ? "now" : String.valueOf(run.id());
    return "audit-" + which + form.ending;
  }

  void write(AuditRun run, Form form, OutputStream out) {
    switch (form) {
      case PDF -> {
        try {
          out.write(printed.pdf(run));
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      }
      case CSV -> table.write(run.id(), out);
      case JSON -> report.write(run, out);
      case SARIF -> sarif.write(run, out);
      case EVIDENCE -> evidence.write(run, out);
    }
  }

  /** Sends what scheduled audits found, each once: taken and written in one transaction. */
  @Scheduled(fixedDelay = 3000, initialDelay = 4000)
  void sendAll() {
    try {
      for (int i = 0; i < AT_ONCE && sendNext(); i++) {
        // one after the other
      }
    } catch (DataAccessException | TransactionException e) {
      LOG.info("reports wait for the database: {}", Texts.oneLine(e.getMessage(), 300));
    }
  }

  /** Whether there was one. One that cannot be made is told of instead, and holds up no other. */
  private boolean sendNext() {
    AtomicReference<@Nullable AuditRun> taken = new AtomicReference<>();
    try {
      transaction.executeWithoutResult(
          status ->
              reading
                  .takeUnreported()
                  .forEach(
                      run -> {
                        taken.set(run);
                        send(run, true);
                      }));
    } catch (DataAccessException | TransactionException e) {
      throw e;
    } catch (RuntimeException e) {
      AuditRun run = taken.get();
      if (run == null) {
        throw e;
      }
      LOG.error("the report of audit {} cannot be made", run.id(), e);
      transaction.executeWithoutResult(
          status -> reading.takeUnreported().forEach(again -> send(again, again.id() != run.id())));
    }
    return taken.get() != null;
  }

  /**
   * Writes the letters.
   *
   * @param withFile without, they say that the report could not be made
   */
  private void send(AuditRun run, boolean withFile) {
    List<String> recipients;
    String name;
    try {
      AuditSchedules.Schedule schedule = schedules.get(run.schedule() == null ? 0 : run.schedule());
      recipients = schedule.recipients();
      name = schedule.name();
    } catch (ProblemException e) {
      LOG.info("the schedule of audit {} is gone; its report goes to nobody", run.id());
      return;
    }
    if (recipients.isEmpty()) {
      return;
    }
    Map<Integer, Integer> counts = this.counts.tally(run.id(), null).open();
    int open = counts.values().stream().mapToInt(Integer::intValue).sum();
    StringBuilder body = new StringBuilder(name + ": audit " + run.id() + " is done.\n\n");
    counts.forEach(
        (severity, count) ->
            body.append("  ")
                .append(PrintedAudit.SEVERITIES.get(severity))
                .append(": ")
                .append(count)
                .append('\n'));
    body.append(
        withFile
            ? "\nThe report is attached.\n"
            : "\nThe report could not be made. Open the audit in Upright Warden.\n");
    OutboxService.Attachment file =
        withFile
            ? new OutboxService.Attachment(name(run, Form.PDF), Form.PDF.type, printed.pdf(run))
            : null;
    outbox.write(
        recipients.stream()
            .map(
                to ->
                    new OutboxService.Letter(
                        to,
                        name + ": " + open + " open findings",
                        "audit:" + run.id(),
                        body.toString()))
            .map(letter -> file == null ? letter : letter.with(file))
            .toList(),
        run.startedBy());
  }
}
