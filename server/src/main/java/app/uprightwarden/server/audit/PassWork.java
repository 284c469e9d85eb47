package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** One way through everything: a page at a time, and then what lies between meetings. */
@Component
class PassWork implements DisposableBean {
  private final AuditWriter writer;
  private final AuditRuns runs;
  private final FindingStore store;
  private final RegisterService register;
  private final RegisterChanges changes;
  private final Signals signals;
  private final FindingHistory told;
  private final CrossMeetingRecheck shared;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final int pageSize;
  private final ExecutorService ahead =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "standing-audit-ahead"));

  PassWork(
      AuditWriter writer,
      AuditRuns runs,
      FindingStore store,
      RegisterService register,
      RegisterChanges changes,
      Signals signals,
      FindingHistory told,
      CrossMeetingRecheck shared,
      TransactionTemplate transaction,
      Clock clock,
      @Value("${warden.audit.standing-page:500}") int pageSize) {
    this.writer = writer;
    this.runs = runs;
    this.store = store;
    this.register = register;
    this.changes = changes;
    this.signals = signals;
    this.told = told;
    this.shared = shared;
    this.transaction = transaction;
    this.clock = clock;
    this.pageSize = pageSize;
  }

  /** Begins to go through everything: what is due by now will have been looked at then. */
  void renew(long id, int edition, long directory, Instant from, Instant to, String cause) {
    transaction.executeWithoutResult(
        status -> {
          changes.doneAll();
          runs.renew(id, edition, directory, from, to, register.count(), cause);
        });
  }

  Pass begin(long id, int edition, String cause, Instant from, Instant to) {
    return new Pass(writer.auditor(edition, from, to), edition, from, to, cause, store.isBare(id));
  }

  /** Has the rest of a way through everything judged by the directory as it is now. */
  void lookAnew(Pass pass) {
    pass.auditor = writer.auditor(pass.edition, pass.from, pass.to);
  }

  /**
   * A way through everything that another server, or this one before it was stopped, left half
   * done: what was judged is read once more for what lies between meetings.
   */
  Pass resume(long id, AuditRuns.Known known, Instant from) {
    String cause = known.cause() == null ? "change" : known.cause();
    Pass pass = begin(id, known.edition(), cause, from, known.to());
    while (pass.cursor < known.cursor()) {
      List<StoredMeeting> page = register.after(pass.cursor, pageSize);
      List<StoredMeeting> before =
          page.stream().filter(stored -> stored.row() <= known.cursor()).toList();
      for (StoredMeeting stored : before) {
        pass.auditor.addOnly(pass.together, stored);
        pass.rows.add(stored.row());
      }
      pass.cursor =
          before.size() < page.size() || page.isEmpty()
              ? known.cursor()
              : page.get(page.size() - 1).row();
      runs.hold(id, false);
    }
    return pass;
  }

  /**
   * Looks at a page.
   *
   * @param between is done between two steps: what changes meanwhile does not wait for the end
   * @return whether that was all
   */
  boolean page(long id, Pass pass, Runnable between) {
    Pass.Page page = next(pass);
    if (page.of().isEmpty()) {
      finish(id, pass, between);
      return true;
    }
    long last = page.last();
    pass.changedSince.clear();
    MeetingAuditor auditor = pass.auditor;
    // the next page is read and judged while this one is stored
    pass.ahead = ahead.isShutdown() ? null : ahead.submit(() -> read(auditor, last));
    int occurrences = page.judged().stream().mapToInt(each -> each.starts().length).sum();
    transaction.executeWithoutResult(
        status -> {
          writer.replace(
              id,
              auditor,
              page.of(),
              page.judged(),
              pass.isFirst ? null : pass.cause,
              null,
              pass.isNoneStored(page.ids()));
          changes.done(page.due());
          runs.step(
              id, new AuditRuns.Step(last, page.of().size(), page.of().size(), occurrences, 0));
          signals.send(Signals.Topic.STANDING);
        });
    // a transaction may be tried again: what is remembered of it is so once it is committed
    for (int i = 0; i < page.of().size(); i++) {
      MeetingAuditor.Inspected each = page.judged().get(i);
      pass.together.add(each.facts(), each.starts(), each.ends());
      pass.rows.add(page.of().get(i).row());
    }
    pass.cursor = last;
    return false;
  }

  private Pass.Page read(MeetingAuditor auditor, long after) {
    // before the meetings are read: what comes later is looked at once more
    List<RegisterChanges.Due> due = changes.ofRows(after, pageSize);
    List<StoredMeeting> some = register.after(after, pageSize);
    return new Pass.Page(auditor, due, some, some.stream().map(auditor::inspect).toList());
  }

  /** The next page; one that was read ahead only if all in it still is as it was then. */
  private Pass.Page next(Pass pass) {
    Future<Pass.Page> begun = pass.ahead;
    pass.ahead = null;
    if (begun != null) {
      Pass.Page page = RunWork.await(begun);
      if (page.auditor() == pass.auditor
          && page.of().stream().noneMatch(m -> pass.changedSince.contains(m.meeting().id()))) {
        return page;
      }
    }
    return read(pass.auditor, pass.cursor);
  }

  @Override
  public void destroy() {
    ahead.shutdownNow();
  }

  private record Found(long row, Detail detail) {}

  /**
   * The checks between meetings over everything, some findings at a time: whoever writes meanwhile
   * waits for one step and not for all of them.
   */
  private void finish(long id, Pass pass, Runnable between) {
    inSteps(id, store.gone(id), between, some -> writer.remove(id, some));
    Unmet unmet = new Unmet(store.ids(id, AuditWriter.TOGETHER));
    int rounds = pass.rounds;
    Consumer<List<Found>> step =
        some -> {
          // looked at meanwhile is what was found between meetings, too
          boolean isNew = unmet.isEmpty() && pass.rounds == rounds;
          write(id, pass.auditor, some, isNew ? null : unmet);
        };
    runs.hold(id, true);
    List<Found> waiting = new ArrayList<>();
    pass.auditor.auditTogether(
        pass.together,
        (meeting, detail) -> {
          waiting.add(new Found(pass.rows.at(meeting), detail));
          if (waiting.size() == pageSize) {
            inSteps(id, waiting, between, step);
            waiting.clear();
          }
        });
    inSteps(id, waiting, between, step);
    for (List<Long> some = unmet.next(pageSize); !some.isEmpty(); some = unmet.next(pageSize)) {
      inSteps(id, some, between, ids -> over(id, store.old(ids)));
    }
    // read for this before they changed: found as they were then, under the waivers of then
    MeetingAuditor now = writer.auditor(pass.edition, clock.instant(), pass.to);
    for (CrossMeetingRecheck.Keys one : pass.meanwhile.apart()) {
      transaction.executeWithoutResult(
          status -> {
            runs.hold(id, false);
            shared.lookAgain(id, now, one, Set.of(), "change");
            signals.send(Signals.Topic.STANDING);
          });
      between.run();
    }
    transaction.executeWithoutResult(
        status -> {
          runs.hold(id, false);
          runs.renewed(id);
          signals.send(Signals.Topic.STANDING);
        });
  }

  private void over(long id, List<FindingStore.Old> gone) {
    for (String check : AuditWriter.TOGETHER) {
      Set<String> of = new HashSet<>();
      gone.stream().filter(f -> f.check().equals(check)).forEach(f -> of.add(f.meeting()));
      store.deleteFindings(id, of, Set.of(check));
      store.recount(id, of);
    }
  }

  private <T> void inSteps(long id, List<T> all, Runnable between, Consumer<List<T>> step) {
    for (int i = 0; i < all.size(); i += pageSize) {
      List<T> some = all.subList(i, Math.min(i + pageSize, all.size()));
      transaction.executeWithoutResult(
          status -> {
            runs.hold(id, false);
            step.accept(some);
            // counts of lines change with each step, and lists keep how many there are until told
            signals.send(Signals.Topic.STANDING);
          });
      between.run();
    }
  }

  /**
   * Writes what was found between meetings, each meeting by a check once at most.
   *
   * @param unmet what was found before, or null where nothing was
   */
  private void write(long id, MeetingAuditor auditor, List<Found> found, @Nullable Unmet unmet) {
    Map<Long, String> ids = register.publicIds(found.stream().map(Found::row).distinct().toList());
    Map<String, FindingStore.Audited> audited = store.audited(id, Set.copyOf(ids.values()));
    Map<String, List<FindingStore.FindingRow>> byCheck = new HashMap<>();
    for (Found each : found) {
      FindingStore.Audited meeting = audited.get(String.valueOf(ids.get(each.row())));
      if (meeting != null) {
        FindingStore.FindingRow row = auditor.together(meeting, each.detail());
        byCheck.computeIfAbsent(row.check(), c -> new ArrayList<>()).add(row);
      }
    }
    if (unmet == null) {
      List<FindingStore.FindingRow> all = byCheck.values().stream().flatMap(List::stream).toList();
      store.write(id, told.dated(all, Map.of()));
      store.countInCurrent(id, all);
      return;
    }
    byCheck.forEach(
        (check, fresh) -> {
          Set<String> meetings = new HashSet<>();
          fresh.forEach(row -> meetings.add(row.meeting()));
          List<FindingStore.FindingRow> before = store.whole(id, meetings, Set.of(check));
          Map<String, FindingStore.Old> old =
              FindingHistory.byIdentity(before.stream().map(FindingStore.FindingRow::old).toList());
          shared.replace(id, check, before, fresh, old);
          store.ids(id, meetings, check).forEach(unmet::meet);
        });
  }
}
