package app.uprightwarden.server.reports;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccountLanguages;
import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditSchedules;
import app.uprightwarden.server.audit.AuditService;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.transaction.support.TransactionTemplate;

/** Sends the reports of scheduled audits. */
@Configuration(proxyBeanMethods = false)
class ReportService {
  private static final Logger LOG = LoggerFactory.getLogger(ReportService.class);

  private static final String JOB = "report";
  private static final JobKind.Retries RETRIES =
      new JobKind.Retries(4, Duration.ofSeconds(5), Duration.ofMinutes(5));

  private final FindingQueries reading;
  private final AuditCounts counts;
  private final AuditSchedules schedules;
  private final PrintedAudit printed;
  private final OutboxService outbox;
  private final AccountLanguages languages;
  private final Jobs jobs;
  private final TransactionTemplate transaction;

  ReportService(
      FindingQueries reading,
      AuditCounts counts,
      AuditSchedules schedules,
      PrintedAudit printed,
      OutboxService outbox,
      AccountLanguages languages,
      Jobs jobs,
      TransactionTemplate transaction) {
    this.reading = reading;
    this.counts = counts;
    this.schedules = schedules;
    this.printed = printed;
    this.outbox = outbox;
    this.languages = languages;
    this.jobs = jobs;
    this.transaction = transaction;
  }

  @Bean
  JobKind reportJobs() {
    return new JobKind(JOB, "Report", JobKind.Lane.HOUSE, RETRIES, this::send)
        .named(id -> "audit " + id)
        .telling(
            (id, why) -> write(reading.run(Long.parseLong(id)), false),
            id -> {}); // who tries it again sends it with the file after all
  }

  /** The report is owed as soon as the audit is done, and not before. */
  @EventListener
  void done(AuditService.AuditDone done) {
    if (done.run().schedule() != null) {
      jobs.give(JOB, done.run().id());
    }
  }

  private String paper(AuditRun run) {
    return schedule(run).map(AuditSchedules.Schedule::paper).orElse("a4");
  }

  private void send(String id) {
    AuditRun run;
    try {
      run = reading.run(Long.parseLong(id));
    } catch (ProblemException e) {
      return; // it was kept long enough
    }
    write(run, !recipients(run).isEmpty());
  }

  private List<String> recipients(AuditRun run) {
    return schedule(run).map(AuditSchedules.Schedule::recipients).orElse(List.of());
  }

  private Optional<AuditSchedules.Schedule> schedule(AuditRun run) {
    try {
      return Optional.of(schedules.get(run.schedule() == null ? 0 : run.schedule()));
    } catch (ProblemException e) {
      LOG.info("the schedule of audit {} is gone; its report goes to nobody", run.id());
      return Optional.empty();
    }
  }

  /**
   * Writes the letters, once, each in its reader's language.
   *
   * @param isWhole whether with the report; without, they say that it could not be made
   */
  private void write(AuditRun run, boolean isWhole) {
    List<String> recipients = recipients(run);
    if (recipients.isEmpty()) {
      return;
    }
    String name = schedule(run).map(AuditSchedules.Schedule::name).orElse("Audit");
    Map<Integer, Integer> counts = this.counts.tally(run.id(), null).open();
    Map<String, Locale> others = languages.others();
    Map<Locale, byte[]> files = new HashMap<>();
    List<OutboxService.Letter> letters = new ArrayList<>();
    for (String to : recipients) {
      Locale language = others.getOrDefault(Directory.fold(to), Locale.ENGLISH);
      OutboxService.Letter letter =
          Languages.in(language, () -> letter(run, name, to, counts, isWhole));
      letters.add(
          isWhole
              ? letter.with(
                  new OutboxService.Attachment(
                      printed.fileName(run),
                      printed.mediaType(),
                      files.computeIfAbsent(language, in -> printed.pdf(run, paper(run), in))))
              : letter);
    }
    transaction.executeWithoutResult(
        status -> {
          // a letter that says that it could not be made leaves the report owed
          if (!isWhole || reading.noteReported(run.id())) {
            outbox.write(letters, run.startedBy());
          }
        });
  }

  private static OutboxService.Letter letter(
      AuditRun run, String name, String to, Map<Integer, Integer> counts, boolean isWhole) {
    int open = counts.values().stream().mapToInt(Integer::intValue).sum();
    StringBuilder body = new StringBuilder(name + ": audit " + run.id() + " is done.\n\n");
    counts.forEach(
        (severity, count) ->
            body.append("  ")
                .append(PrintedAudit.severity(severity))
                .append(": ")
                .append(count)
                .append('\n'));
    body.append(
        isWhole
            ? "\nThe report is attached.\n"
            : "\nThe report could not be made. Open the audit in Upright Warden.\n");
    return new OutboxService.Letter(
        to, name + ": " + open + " open findings", "audit:" + run.id(), body.toString());
  }
}
