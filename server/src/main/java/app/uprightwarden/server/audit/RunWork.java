package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * One run's work. Meetings come from the store a page at a time, and each page's findings are
 * stored with how far the run has come in one transaction; a run that goes on reads what came
 * before once more, for the checks between meetings, and writes nothing of it again.
 */
@Component
class RunWork implements DisposableBean {
  private static final int BATCH = 500;

  private final AuditRuns runs;
  private final FindingStore store;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final WaiverService waivers;
  private final Signals signals;
  private final ApplicationEventPublisher events;
  private final TransactionTemplate transaction;
  private final JsonMapper json;
  private final int pageSize;
  private final ExecutorService writer =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "audit-writing"));
  private final ExecutorService ahead =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "audit-reading"));

  RunWork(
      AuditRuns runs,
      FindingStore store,
      RegisterService register,
      RulebookService rulebook,
      OrganisationService organisation,
      WaiverService waivers,
      Signals signals,
      ApplicationEventPublisher events,
      TransactionTemplate transaction,
      JsonMapper json,
      @Value("${warden.audit.page:500}") int pageSize) {
    this.runs = runs;
    this.store = store;
    this.register = register;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.waivers = waivers;
    this.signals = signals;
    this.events = events;
    this.transaction = transaction;
    this.json = json;
    this.pageSize = pageSize;
  }

  void go(long id) {
    AuditRun run = runs.get(id);
    MeetingAuditor auditor =
        new MeetingAuditor(
            register,
            organisation,
            rulebook.rulebook(rulebook.edition(run.edition())),
            waivers.inForce(),
            json,
            run.from(),
            run.to());
    Rows rows = new Rows();
    Register together = new Register();
    long at = again(id, auditor, together, rows);
    Future<?> writing = CompletableFuture.completedFuture(null);
    try {
      List<StoredMeeting> page = register.after(at, pageSize);
      while (!page.isEmpty()) {
        long last = page.get(page.size() - 1).row();
        // the next page is read and this one judged while the one before is being stored
        Future<List<StoredMeeting>> next = ahead.submit(() -> register.after(last, pageSize));
        Judged judged = judge(run, last, page, auditor, together, rows);
        await(writing);
        writing = writer.submit(() -> store(id, judged, auditor));
        page = await(next);
      }
      await(writing);
    } finally {
      // whatever happened: nothing is on its way to the store when this is tried again
      settle(writing);
    }
    finish(id, auditor, together, rows);
  }

  private static void settle(Future<?> writing) {
    try {
      writing.get();
    } catch (ExecutionException e) {
      // told where it was waited for
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /**
   * Waits for what another thread was given.
   *
   * @throws AuditRuns.LeaseLost where this server is going down
   */
  static <T> T await(Future<T> something) {
    try {
      return something.get();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException because) {
        throw because;
      }
      throw new IllegalStateException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new AuditRuns.LeaseLost(); // the server is going down; it goes on elsewhere
    }
  }

  @Override
  public void destroy() {
    ahead.shutdownNow();
    writer.shutdownNow();
  }

  /** Goes through what was done before a stop, for what lies between meetings only. */
  private long again(long id, MeetingAuditor auditor, Register together, Rows rows) {
    long until = runs.cursor(id);
    long at = 0;
    while (at < until) {
      List<StoredMeeting> page = register.after(at, pageSize);
      if (page.isEmpty()) {
        return until;
      }
      for (StoredMeeting stored : page) {
        if (stored.row() <= until) {
          auditor.addOnly(together, stored);
          rows.add(stored.row());
        }
      }
      at = page.get(page.size() - 1).row();
      runs.hold(id, false);
    }
    return until;
  }

  /** A page as it was judged, and how far that is. */
  private record Judged(
      long cursor, int scanned, int occurrences, List<MeetingAuditor.Inspected> of) {}

  private static Judged judge(
      AuditRun run,
      long cursor,
      List<StoredMeeting> page,
      MeetingAuditor auditor,
      Register together,
      Rows rows) {
    int before = together.size();
    List<MeetingAuditor.Inspected> judged = new ArrayList<>();
    for (StoredMeeting stored : page) {
      var meeting = stored.meeting();
      List<String> units = auditor.path(auditor.unitOf(meeting.host()));
      if (run.scope().has(meeting.host(), meeting.kind(), units)) {
        MeetingAuditor.Inspected inspected = auditor.inspect(stored);
        together.add(inspected.facts(), inspected.starts(), inspected.ends());
        judged.add(inspected);
      } else {
        auditor.addOnly(together, stored);
      }
      rows.add(stored.row());
    }
    return new Judged(cursor, page.size(), together.size() - before, judged);
  }

  private void store(long id, Judged judged, MeetingAuditor auditor) {
    List<FindingStore.FindingRow> findings =
        judged.of().stream().flatMap(i -> i.findings().stream()).toList();
    transaction.executeWithoutResult(
        status -> {
          store.write(id, auditor.rows(judged.of()), findings);
          runs.step(
              id,
              new AuditRuns.Step(
                  judged.cursor(),
                  judged.scanned(),
                  judged.of().size(),
                  judged.occurrences(),
                  findings.size()));
          signals.send(Signals.Topic.RUNS);
        });
  }

  /** The rows of the meetings added, by their place. */
  static final class Rows {
    private long[] rows = new long[1024];
    private int size;

    void add(long row) {
      if (size == rows.length) {
        rows = Arrays.copyOf(rows, size + size / 2);
      }
      rows[size++] = row;
    }

    long at(int place) {
      return rows[place];
    }
  }

  private record Found(long row, Detail detail) {}

  private void finish(long id, MeetingAuditor auditor, Register together, Rows rows) {
    runs.hold(id, true);
    transaction.executeWithoutResult(
        status -> {
          List<Found> waiting = new ArrayList<>();
          int[] written = new int[1];
          auditor.auditTogether(
              together,
              (meeting, detail) -> {
                waiting.add(new Found(rows.at(meeting), detail));
                if (waiting.size() == BATCH) {
                  written[0] += write(id, auditor, waiting);
                  waiting.clear();
                }
              });
          written[0] += write(id, auditor, waiting);
          store.count(id);
          runs.addFindings(id, written[0]);
          runs.end(id, "done", null);
          events.publishEvent(new AuditService.AuditDone(runs.get(id)));
        });
  }

  void noteGone(AuditRun earlier, AuditRun later) {
    transaction.executeWithoutResult(status -> store.noteGone(earlier.id(), later));
  }

  /** Those in the run's scope; the others have no row of theirs. */
  private int write(long id, MeetingAuditor auditor, List<Found> found) {
    Map<Long, String> ids = register.publicIds(found.stream().map(Found::row).distinct().toList());
    Map<String, FindingStore.Audited> audited = store.audited(id, Set.copyOf(ids.values()));
    List<FindingStore.FindingRow> rows = new ArrayList<>();
    for (Found each : found) {
      FindingStore.Audited meeting = audited.get(String.valueOf(ids.get(each.row())));
      if (meeting != null) {
        rows.add(auditor.together(meeting, each.detail()));
      }
    }
    store.write(id, rows);
    store.countIn(id, rows);
    return rows.size();
  }
}
