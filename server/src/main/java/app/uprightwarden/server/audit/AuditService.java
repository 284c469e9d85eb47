package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.AssessService;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Stored;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/**
 * Runs audits, one after the other, in the background. Meetings come from the store a page at a
 * time, and each page's findings are stored with the run's progress in one transaction.
 */
@Service
public class AuditService implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(AuditService.class);
  private static final Duration LONGEST_WINDOW = Duration.ofDays(366);

  private final AuditStore store;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final Clock clock;
  private final ExecutorService worker =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "audit"));

  AuditService(
      AuditStore store,
      RegisterService register,
      RulebookService rulebook,
      OrganisationService organisation,
      Clock clock) {
    this.store = store;
    this.register = register;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.clock = clock;
  }

  @EventListener(ApplicationStartedEvent.class)
  void afterStart() {
    store.failUnfinished("The server stopped while this audit ran. Run it again.", clock.instant());
  }

  @Override
  public void destroy() {
    worker.shutdownNow();
  }

  /**
   * Begins an audit of everything against the edition in force.
   *
   * @throws ProblemException 409 where there is no edition yet, 422 for a window that is none
   */
  public AuditRun start(Instant from, Instant to, SignedIn by) {
    if (!to.isAfter(from) || Duration.between(from, to).compareTo(LONGEST_WINDOW) > 0) {
      throw ProblemException.invalid(
          "The window ends after it begins, and lasts a year at most.", List.of());
    }
    RulebookService.Edition edition = rulebook.inForce();
    if (edition.number() == 0) {
      throw ProblemException.conflict(
          "no-edition", "There is no rulebook yet. Publish the first edition, then audit.");
    }
    long id =
        store.create(edition.number(), from, to, by.email(), clock.instant(), register.count());
    worker.execute(() -> run(id, from, to, rulebook.rulebook(edition)));
    return store.get(id);
  }

  private void run(long id, Instant from, Instant to, Rulebook rules) {
    try {
      store.begin(id);
      new Run(id, from, to, rules).go();
      store.finish(id, clock.instant());
    } catch (RuntimeException e) {
      LOG.error("audit {} failed", id, e);
      String reason =
          e instanceof IllegalArgumentException ? String.valueOf(e.getMessage()) : "a fault here";
      store.fail(id, "The audit stopped: " + reason, clock.instant());
    }
  }

  /** One run's state. */
  private final class Run {
    private final long id;
    private final Instant from;
    private final Instant to;
    private final FactsBuilder builder;
    private final Auditor auditor = new Auditor();
    private final Register occurrences = new Register();
    private final Map<String, String> units = new HashMap<>();
    private final Map<String, Instant> next = new HashMap<>();
    private List<AuditStore.FindingRow> found = new ArrayList<>();

    Run(long id, Instant from, Instant to, Rulebook rules) {
      this.id = id;
      this.from = from;
      this.to = to;
      Organisation all = organisation.organisation();
      List<Person> people = organisation.people();
      for (Person person : people) {
        if (person.unit() != null) {
          units.put(Directory.fold(person.email()), person.unit());
        }
      }
      builder = Judging.builder(all, people, rules);
    }

    void go() {
      register.each(this::page);
      auditor.auditTogether(occurrences, this::keep);
      store.append(id, List.of(), found, 0);
    }

    private void page(List<Stored> page) {
      List<AuditStore.MeetingRow> rows = new ArrayList<>();
      int before = occurrences.size();
      for (Stored stored : page) {
        Meeting meeting = stored.meeting();
        MeetingFacts facts = builder.build(meeting);
        int first = occurrences.size();
        AssessService.addOccurrences(occurrences, facts, meeting, from, to);
        if (occurrences.size() > first) {
          next.put(meeting.id(), Instant.ofEpochSecond(60L * occurrences.start(first)));
        }
        auditor.audit(facts, this::keep);
        rows.add(row(meeting, facts));
      }
      store.append(id, rows, found, occurrences.size() - before);
      found = new ArrayList<>();
    }

    private AuditStore.MeetingRow row(Meeting meeting, MeetingFacts facts) {
      Exposure exposure = auditor.judge(facts).basis().exposure();
      return new AuditStore.MeetingRow(
          meeting.id(),
          meeting.title(),
          meeting.host(),
          units.get(facts.host()),
          meeting.kind(),
          exposure.scoreTenths(),
          exposure.intrusionTenths(),
          exposure.disruptionTenths(),
          next.get(meeting.id()),
          facts.invited());
    }

    private void keep(MeetingFacts meeting, @Nullable LocalDateTime occurrence, Detail detail) {
      found.add(
          new AuditStore.FindingRow(
              meeting.id(),
              detail.subject(),
              next.get(meeting.id()),
              meeting.invited(),
              FindingView.of(detail, occurrence, meeting.values())));
    }
  }
}
