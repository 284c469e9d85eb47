package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditReading;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditSchedules;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.ProblemException;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Writes reports, and sends those of scheduled audits. */
@Service
class ReportService {
  private static final Logger LOG = LoggerFactory.getLogger(ReportService.class);

  private final AuditReading reading;
  private final AuditCounts counts;
  private final AuditSchedules schedules;
  private final PrintedAudit printed;
  private final FindingTable table;
  private final JsonReport report;
  private final Sarif sarif;
  private final Evidence evidence;
  private final OutboxService outbox;

  ReportService(
      AuditReading reading,
      AuditCounts counts,
      AuditSchedules schedules,
      PrintedAudit printed,
      FindingTable table,
      JsonReport report,
      Sarif sarif,
      Evidence evidence,
      OutboxService outbox) {
    this.reading = reading;
    this.counts = counts;
    this.schedules = schedules;
    this.printed = printed;
    this.table = table;
    this.report = report;
    this.sarif = sarif;
    this.evidence = evidence;
    this.outbox = outbox;
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
  @Transactional
  public void send() {
    for (AuditRun run : reading.takeUnreported()) {
      send(run);
    }
  }

  private void send(AuditRun run) {
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
    body.append("\nThe report is attached.\n");
    OutboxService.Attachment file =
        new OutboxService.Attachment(name(run, Form.PDF), Form.PDF.type, printed.pdf(run));
    outbox.write(
        recipients.stream()
            .map(
                to ->
                    new OutboxService.Letter(
                            to,
                            name + ": " + open + " open findings",
                            "audit:" + run.id(),
                            body.toString())
                        .with(file))
            .toList(),
        run.startedBy());
  }
}
