package app.uprightwarden.server.floor;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** A quarter of an hour before the start the host has the link, once for each date. */
@Component
class HostReminders {
  private static final Duration BEFORE = Duration.ofMinutes(15);
  private static final Duration KEPT = Duration.ofDays(2);
  private static final int AT_ONCE = 500;
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);

  private final ContinuousAudit audit;
  private final FindingQueries audits;
  private final RegisterService register;
  private final HostReminderRepository rows;
  private final OutboxService outbox;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;

  HostReminders(
      ContinuousAudit audit,
      FindingQueries audits,
      RegisterService register,
      HostReminderRepository rows,
      OutboxService outbox,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.audit = audit;
    this.audits = audits;
    this.register = register;
    this.rows = rows;
    this.outbox = outbox;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** The work of it. */
  @Configuration
  static class Work {
    @Bean
    RecurringJob remindingHosts(
        HostReminders reminders, @Value("${warden.reminders.look:30s}") Duration look) {
      return new RecurringJob("host-reminders", "Reminding hosts", look, reminders::remind);
    }
  }

  void remind() {
    Long standing = audit.now().map(AuditRun::id).orElse(null);
    if (standing == null) {
      return;
    }
    Instant now = clock.instant();
    List<FindingQueries.Audited> page;
    for (int from = 0; ; from += AT_ONCE) {
      page = audits.due(standing, now.plus(BEFORE), from, AT_ONCE);
      Map<String, StoredMeeting> there =
          register.among(page.stream().map(FindingQueries.Audited::meeting).toList());
      for (StoredMeeting stored : there.values()) {
        HeldMeeting of = stored.service();
        if (of != null && of.link() != null) {
          remind(stored.meeting(), of.link(), now);
        }
      }
      if (page.size() < AT_ONCE) {
        break;
      }
    }
    transaction.executeWithoutResult(status -> rows.forget(now.minus(KEPT)));
  }

  private void remind(Meeting meeting, String link, Instant now) {
    for (Occurrence each : Occurrences.between(meeting, now, now.plus(BEFORE))) {
      if (each.start().isAfter(now)) {
        transaction.executeWithoutResult(
            status -> {
              String at = each.at().toString();
              if (rows.countOf(meeting.id(), at) == 0) {
                rows.insert(new HostReminderEntity(meeting.id(), at, now));
                outbox.write(List.of(letter(meeting, each, link)), "upright-warden");
              }
            });
      }
    }
  }

  private static OutboxService.Letter letter(Meeting meeting, Occurrence at, String link) {
    String time =
        TIME.format(at.start().atZone(meeting.zone())) + " (" + meeting.zone().getId() + ")";
    return new OutboxService.Letter(
        meeting.host(),
        "At " + time + ": " + Texts.oneLine(meeting.title(), 200),
        "meeting:" + meeting.id(),
        "You host “"
            + meeting.title()
            + "”, which begins at "
            + time
            + ".\n\nJoin at:  "
            + link
            + "\n\nIts page in Upright Warden has *Start now*, should you want to begin before.\n");
  }
}
