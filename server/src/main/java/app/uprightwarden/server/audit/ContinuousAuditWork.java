package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.RegisterCheck;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** What the standing audit does at a time: a page of everything, or what has changed. */
@Component
class ContinuousAuditWork implements DisposableBean {
  private static final int MUCH = 1500;
  private static final int PART = 20;
  private static final int AT_ONCE = 200;
  private static final Set<String> TOGETHER =
      Auditor.catalogue().stream()
          .filter(RegisterCheck.class::isInstance)
          .map(Check::id)
          .collect(Collectors.toUnmodifiableSet());
  private static final Set<String> ALONE =
      Auditor.catalogue().stream()
          .map(Check::id)
          .filter(id -> !TOGETHER.contains(id))
          .collect(Collectors.toUnmodifiableSet());

  private final AuditRuns runs;
  private final FindingStore store;
  private final RegisterService register;
  private final MeetingLines lines;
  private final RegisterChanges changes;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final WaiverService waivers;
  private final Signals signals;
  private final FindingHistory told;
  private final CrossMeetingRecheck shared;
  private final TransactionTemplate transaction;
  private final JsonMapper json;
  private final Clock clock;
  private final int pageSize;
  private final ExecutorService ahead =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "standing-audit-ahead"));

  ContinuousAuditWork(
      AuditRuns runs,
      FindingStore store,
      RegisterService register,
      MeetingLines lines,
      RegisterChanges changes,
      RulebookService rulebook,
      OrganisationService organisation,
      WaiverService waivers,
      Signals signals,
      FindingHistory told,
      CrossMeetingRecheck shared,
      TransactionTemplate transaction,
      JsonMapper json,
      Clock clock,
      @Value("${warden.audit.standing-page:500}") int pageSize) {
    this.runs = runs;
    this.store = store;
    this.register = register;
    this.lines = lines;
    this.changes = changes;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.waivers = waivers;
    this.signals = signals;
    this.told = told;
    this.shared = shared;
    this.transaction = transaction;
    this.json = json;
    this.clock = clock;
    this.pageSize = pageSize;
  }

  MeetingAuditor inspection(int edition, Instant from, Instant to) {
    return new MeetingAuditor(
        register,
        organisation,
        rulebook.rulebook(rulebook.edition(edition)),
        waivers.inForce(),
        json,
        from,
        to);
  }

  Pass begin(long id, int edition, String cause, Instant from, Instant to) {
    return new Pass(inspection(edition, from, to), edition, from, to, cause, store.isBare(id));
  }

  /** Has the rest of a way through everything judged by the directory as it is now. */
  void lookAnew(Pass pass) {
    pass.inspection = inspection(pass.edition, pass.from, pass.to);
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
        pass.inspection.addOnly(pass.together, stored);
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

  /** Judges what is due for lists alone: there is no edition yet, and so no audit. */
  boolean judgeLines(Instant from, Instant to) {
    MeetingAuditor inspection = inspection(0, from, to);
    Boolean more =
        transaction.execute(
            status -> {
              List<RegisterChanges.Due> due = changes.next(pageSize);
              List<String> ids = due.stream().map(RegisterChanges.Due::meeting).distinct().toList();
              lines.judged(
                  register.among(ids).values().stream()
                      .map(stored -> inspection.inspect(stored).line())
                      .toList());
              changes.done(due);
              if (!due.isEmpty()) {
                signals.send(Signals.Topic.STANDING);
              }
              return due.size() == pageSize;
            });
    return Boolean.TRUE.equals(more);
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
    MeetingAuditor inspection = pass.inspection;
    // the next page is read and judged while this one is stored
    pass.ahead = ahead.isShutdown() ? null : ahead.submit(() -> read(inspection, last));
    int occurrences = page.judged().stream().mapToInt(each -> each.starts().length).sum();
    transaction.executeWithoutResult(
        status -> {
          replace(
              id,
              inspection,
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

  private Pass.Page read(MeetingAuditor inspection, long after) {
    // before the meetings are read: what comes later is looked at once more
    List<RegisterChanges.Due> due = changes.ofRows(after, pageSize);
    List<StoredMeeting> some = register.after(after, pageSize);
    return new Pass.Page(inspection, due, some, some.stream().map(inspection::inspect).toList());
  }

  /** The next page; one that was read ahead only if all in it still is as it was then. */
  private Pass.Page next(Pass pass) {
    Future<Pass.Page> begun = pass.ahead;
    pass.ahead = null;
    if (begun != null) {
      Pass.Page page = RunWork.await(begun);
      if (page.inspection() == pass.inspection
          && page.of().stream().noneMatch(m -> pass.changedSince.contains(m.meeting().id()))) {
        return page;
      }
    }
    return read(pass.inspection, pass.cursor);
  }

  @Override
  public void destroy() {
    ahead.shutdownNow();
  }

  /**
   * Puts what meetings are found to be by themselves in place of what they were.
   *
   * @param inspected what they are found to be now, in the same order
   * @param cause of what came and went; null where that is not to be told
   * @param looked by meeting, what the checks between meetings have looked at: another key than
   *     that is kept only once they have. Null where they look at everything afterwards.
   * @param isNew whether nothing of them is stored: nothing is looked for then
   */
  private void replace(
      long id,
      MeetingAuditor inspection,
      List<StoredMeeting> meetings,
      List<MeetingAuditor.Inspected> inspected,
      @Nullable String cause,
      @Nullable Map<String, FindingStore.Shared> looked,
      boolean isNew) {
    Map<String, StoredMeeting> byId = new LinkedHashMap<>();
    meetings.forEach(stored -> byId.put(stored.meeting().id(), stored));
    List<FindingStore.FindingRow> before =
        isNew ? List.of() : store.whole(id, byId.keySet(), ALONE);
    Map<String, FindingStore.Old> old =
        FindingHistory.byIdentity(before.stream().map(FindingStore.FindingRow::old).toList());
    List<FindingStore.FindingRow> fresh =
        inspected.stream().flatMap(i -> i.findings().stream()).toList();
    // most is found as it was: an edition changes some rules, a day moves some dates
    Set<String> differing = CrossMeetingRecheck.differing(before, fresh);
    store.deleteFindings(id, CrossMeetingRecheck.withAny(before, differing), ALONE);
    store.write(
        id, told.dated(fresh.stream().filter(f -> differing.contains(f.meeting())).toList(), old));
    Map<String, FindingRepository.Counted> sharing =
        isNew ? Map.of() : store.counted(id, byId.keySet(), TOGETHER);
    List<FindingStore.MeetingRow> rows =
        inspection.rows(inspected).stream()
            .map(row -> row.withMore(sharing.get(row.id())))
            .map(
                row ->
                    looked == null || same(looked.get(row.id()), row) ? row : row.withShared(null))
            .toList();
    if (isNew) {
      store.add(id, rows);
    } else {
      store.put(id, rows);
    }
    List<MeetingLines.Judged> judged = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      judged.add(MeetingAuditor.line(rows.get(i), inspected.get(i).starts().length));
    }
    lines.judged(judged);
    if (cause != null) {
      told.note(
          old,
          fresh,
          meeting -> {
            StoredMeeting stored = Objects.requireNonNull(byId.get(meeting));
            return new FindingHistory.Because(
                cause,
                cause.equals("change") ? stored.changedBy() : null,
                stored.meeting().title(),
                inspection.unitOf(stored.meeting().host()));
          });
    }
  }

  /** Judges meetings and puts what they are found to be in place of what they were. */
  private List<MeetingAuditor.Inspected> judge(
      long id,
      MeetingAuditor inspection,
      Collection<StoredMeeting> meetings,
      @Nullable String cause,
      Map<String, FindingStore.Shared> looked) {
    List<StoredMeeting> all = List.copyOf(meetings);
    List<MeetingAuditor.Inspected> inspected = all.stream().map(inspection::inspect).toList();
    replace(id, inspection, all, inspected, cause, looked, false);
    return inspected;
  }

  private static boolean same(FindingStore.@Nullable Shared was, FindingStore.MeetingRow is) {
    return was != null && was.key() != null && was.key().equals(is.shared());
  }

  private record Found(long row, Detail detail) {}

  /**
   * The checks between meetings over everything, some findings at a time: whoever writes meanwhile
   * waits for one step and not for all of them.
   */
  private void finish(long id, Pass pass, Runnable between) {
    inSteps(id, store.gone(id), between, some -> remove(id, some));
    Unmet unmet = new Unmet(store.ids(id, TOGETHER));
    int rounds = pass.rounds;
    Consumer<List<Found>> step =
        some -> {
          // looked at meanwhile is what was found between meetings, too
          boolean isNew = unmet.isEmpty() && pass.rounds == rounds;
          write(id, pass.inspection, some, isNew ? null : unmet);
        };
    runs.hold(id, true);
    List<Found> waiting = new ArrayList<>();
    pass.inspection.auditTogether(
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
    MeetingAuditor now = inspection(pass.edition, clock.instant(), pass.to);
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
    for (String check : TOGETHER) {
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
  private void write(long id, MeetingAuditor inspection, List<Found> found, @Nullable Unmet unmet) {
    Map<Long, String> ids = register.publicIds(found.stream().map(Found::row).distinct().toList());
    Map<String, FindingStore.Audited> audited = store.audited(id, Set.copyOf(ids.values()));
    Map<String, List<FindingStore.FindingRow>> byCheck = new HashMap<>();
    for (Found each : found) {
      FindingStore.Audited meeting = audited.get(String.valueOf(ids.get(each.row())));
      if (meeting != null) {
        FindingStore.FindingRow row = inspection.together(meeting, each.detail());
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

  /** Takes out meetings that are in the register no more; their findings are over. */
  private void remove(long id, List<String> gone) {
    if (gone.isEmpty()) {
      return;
    }
    Set<String> every = new HashSet<>(ALONE);
    every.addAll(TOGETHER);
    Map<String, FindingStore.Audited> audited = store.audited(id, gone);
    List<FindingStore.Event> events =
        store.old(id, gone, every).stream()
            .map(
                finding -> {
                  FindingStore.Audited meeting = audited.get(finding.meeting());
                  return FindingHistory.event(
                      "gone",
                      new FindingHistory.Because(
                          "over",
                          null,
                          meeting == null ? finding.meeting() : meeting.title(),
                          meeting == null ? null : meeting.unit()),
                      finding);
                })
            .toList();
    store.note(clock.instant(), events);
    store.deleteFindings(id, gone, every);
    store.deleteMeetings(id, gone);
  }

  boolean isAnythingDue() {
    return changes.count(1) > 0;
  }

  /** Whether what is due is so much of the register that it need not be looked at first. */
  boolean isMostDue() {
    return changes.count() > register.count() / 4;
  }

  /** So much that going through everything costs less than looking at what each shares. */
  boolean isMuchDue() {
    return changes.count(MUCH + 1) > MUCH && changes.count() > register.count() / PART;
  }

  /** Begins to go through everything: what is due by now will have been looked at then. */
  void renew(long id, int edition, long directory, Instant from, Instant to, String cause) {
    transaction.executeWithoutResult(
        status -> {
          changes.doneAll();
          runs.renew(id, edition, directory, from, to, register.count(), cause);
        });
  }

  /** Looks at everything that is due, each by itself; what they share waits for the whole. */
  void refreshAlone(long id, MeetingAuditor inspection) {
    List<RegisterChanges.Due> due =
        Objects.requireNonNull(transaction.execute(status -> changes.next(Integer.MAX_VALUE)));
    List<String> ids = due.stream().map(RegisterChanges.Due::meeting).distinct().toList();
    for (int i = 0; i < ids.size(); i += pageSize) {
      List<String> some = ids.subList(i, Math.min(i + pageSize, ids.size()));
      transaction.executeWithoutResult(
          status -> {
            runs.hold(id, false);
            judge(id, inspection, register.among(some).values(), "change", Map.of());
            signals.send(Signals.Topic.STANDING);
          });
    }
  }

  /**
   * Looks again at some meetings whose next occurrence is over: there may be another, or none. That
   * can end what was found between meetings, and begins nothing there; what comes into the window
   * at its far end is found when everything is gone through.
   *
   * @return what is to be looked at again between meetings; empty where no meeting was over
   */
  Optional<CrossMeetingRecheck.Keys> passTime(long id, MeetingAuditor inspection, Instant until) {
    Optional<CrossMeetingRecheck.Keys> keys =
        transaction.execute(status -> timePassed(id, inspection, until));
    return Objects.requireNonNull(keys);
  }

  private Optional<CrossMeetingRecheck.Keys> timePassed(
      long id, MeetingAuditor inspection, Instant until) {
    List<String> over = store.over(id, until, AT_ONCE);
    if (over.isEmpty()) {
      return Optional.empty();
    }
    runs.hold(id, false);
    Set<String> sharing = new HashSet<>();
    store.old(id, over, TOGETHER).forEach(finding -> sharing.add(finding.meeting()));
    Map<String, StoredMeeting> now = register.among(over);
    judge(id, inspection, now.values(), "time", Map.of());
    remove(id, over.stream().filter(meeting -> !now.containsKey(meeting)).toList());
    CrossMeetingRecheck.Keys keys = new CrossMeetingRecheck.Keys();
    if (!sharing.isEmpty()) {
      store.shared(id, sharing).forEach(keys::add);
    }
    signals.send(Signals.Topic.STANDING);
    return Optional.of(keys);
  }

  /** Looks again at one of the things that meetings share: a host may have a thousand of them. */
  void passTimeBetween(long id, MeetingAuditor inspection, CrossMeetingRecheck.Keys one) {
    transaction.executeWithoutResult(
        status -> {
          runs.hold(id, false);
          shared.lookAgain(id, inspection, one, Set.of(), "time");
          signals.send(Signals.Topic.STANDING);
        });
  }

  /**
   * Looks at meetings that changed: first at each by itself, then at what they share with others.
   *
   * @param pass that is under way meanwhile, or null
   */
  void refresh(long id, MeetingAuditor inspection, int most, @Nullable Pass pass) {
    List<RegisterChanges.Due> due =
        Objects.requireNonNull(transaction.execute(status -> changes.next(most)));
    Set<String> ids = new LinkedHashSet<>();
    due.forEach(d -> ids.add(d.meeting()));
    if (pass != null) {
      pass.noteLooked(ids);
    }
    CrossMeetingRecheck.Keys keys = new CrossMeetingRecheck.Keys();
    Map<String, Long> moved = new HashMap<>();
    Set<String> gone = new HashSet<>();
    transaction.executeWithoutResult(
        status -> {
          runs.hold(id, false);
          Map<String, FindingStore.Shared> before = new HashMap<>();
          store.shared(id, ids).forEach(was -> before.put(was.meeting(), was));
          Map<String, StoredMeeting> now = register.among(List.copyOf(ids));
          for (MeetingAuditor.Inspected each :
              judge(id, inspection, now.values(), "change", before)) {
            FindingStore.MeetingRow row = each.row();
            if (!same(before.get(row.id()), row)) {
              moved.put(row.id(), Objects.requireNonNull(row.shared()));
              keys.add(Objects.requireNonNull(now.get(row.id())));
            }
          }
          ids.stream().filter(m -> !now.containsKey(m)).forEach(gone::add);
          remove(id, List.copyOf(gone));
          before.values().stream()
              .filter(was -> moved.containsKey(was.meeting()) || gone.contains(was.meeting()))
              .forEach(keys::add);
          signals.send(Signals.Topic.STANDING);
        });
    transaction.executeWithoutResult(
        status -> {
          runs.hold(id, false);
          Set<String> changed = new HashSet<>(moved.keySet());
          changed.addAll(gone);
          shared.lookAgain(id, inspection, keys, changed, "change");
          if (pass != null) {
            pass.meanwhile.addAll(keys);
          }
          store.looked(id, moved);
          changes.done(due);
          signals.send(Signals.Topic.STANDING);
        });
  }
}
