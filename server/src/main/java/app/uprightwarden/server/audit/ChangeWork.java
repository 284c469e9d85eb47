package app.uprightwarden.server.audit;

import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What has changed, or is over, looked at by itself and then with what it shares with others. */
@Component
class ChangeWork {
  private static final int MUCH = 1500;
  private static final int PART = 20;
  private static final int AT_ONCE = 200;

  private final AuditWriter writer;
  private final AuditRuns runs;
  private final FindingStore store;
  private final RegisterService register;
  private final MeetingLines lines;
  private final RegisterChanges changes;
  private final Signals signals;
  private final CrossMeetingRecheck shared;
  private final TransactionTemplate transaction;
  private final int pageSize;

  ChangeWork(
      AuditWriter writer,
      AuditRuns runs,
      FindingStore store,
      RegisterService register,
      MeetingLines lines,
      RegisterChanges changes,
      Signals signals,
      CrossMeetingRecheck shared,
      TransactionTemplate transaction,
      @Value("${warden.audit.standing-page:500}") int pageSize) {
    this.writer = writer;
    this.runs = runs;
    this.store = store;
    this.register = register;
    this.lines = lines;
    this.changes = changes;
    this.signals = signals;
    this.shared = shared;
    this.transaction = transaction;
    this.pageSize = pageSize;
  }

  /** Judges what is due for lists alone: there is no edition yet, and so no audit. */
  boolean judgeLines(Instant from, Instant to) {
    MeetingAuditor auditor = writer.auditor(0, from, to);
    Boolean more =
        transaction.execute(
            status -> {
              List<RegisterChanges.Due> due = changes.next(pageSize);
              List<String> ids = due.stream().map(RegisterChanges.Due::meeting).distinct().toList();
              lines.judged(
                  register.among(ids).values().stream()
                      .map(stored -> auditor.inspect(stored).line())
                      .toList());
              changes.done(due);
              if (!due.isEmpty()) {
                signals.send(Signals.Topic.STANDING);
              }
              return due.size() == pageSize;
            });
    return Boolean.TRUE.equals(more);
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

  /** Looks at everything that is due, each by itself; what they share waits for the whole. */
  void refreshAlone(long id, MeetingAuditor auditor) {
    List<RegisterChanges.Due> due =
        Objects.requireNonNull(transaction.execute(status -> changes.next(Integer.MAX_VALUE)));
    List<String> ids = due.stream().map(RegisterChanges.Due::meeting).distinct().toList();
    for (int i = 0; i < ids.size(); i += pageSize) {
      List<String> some = ids.subList(i, Math.min(i + pageSize, ids.size()));
      transaction.executeWithoutResult(
          status -> {
            runs.hold(id, false);
            writer.judge(id, auditor, register.among(some).values(), "change", Map.of());
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
  Optional<CrossMeetingRecheck.Keys> passTime(long id, MeetingAuditor auditor, Instant until) {
    Optional<CrossMeetingRecheck.Keys> keys =
        transaction.execute(status -> timePassed(id, auditor, until));
    return Objects.requireNonNull(keys);
  }

  private Optional<CrossMeetingRecheck.Keys> timePassed(
      long id, MeetingAuditor auditor, Instant until) {
    List<String> over = store.over(id, until, AT_ONCE);
    if (over.isEmpty()) {
      return Optional.empty();
    }
    runs.hold(id, false);
    Set<String> sharing = new HashSet<>();
    store.old(id, over, AuditWriter.TOGETHER).forEach(finding -> sharing.add(finding.meeting()));
    Map<String, StoredMeeting> now = register.among(over);
    writer.judge(id, auditor, now.values(), "time", Map.of());
    writer.remove(id, over.stream().filter(meeting -> !now.containsKey(meeting)).toList());
    CrossMeetingRecheck.Keys keys = new CrossMeetingRecheck.Keys();
    if (!sharing.isEmpty()) {
      store.shared(id, sharing).forEach(keys::add);
    }
    signals.send(Signals.Topic.STANDING);
    return Optional.of(keys);
  }

  /** Looks again at one of the things that meetings share: a host may have a thousand of them. */
  void passTimeBetween(long id, MeetingAuditor auditor, CrossMeetingRecheck.Keys one) {
    transaction.executeWithoutResult(
        status -> {
          runs.hold(id, false);
          shared.lookAgain(id, auditor, one, Set.of(), "time");
          signals.send(Signals.Topic.STANDING);
        });
  }

  /**
   * Looks at meetings that changed: first at each by itself, then at what they share with others.
   *
   * @param pass that is under way meanwhile, or null
   */
  void refresh(long id, MeetingAuditor auditor, int most, @Nullable Pass pass) {
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
              writer.judge(id, auditor, now.values(), "change", before)) {
            FindingStore.MeetingRow row = each.row();
            if (!AuditWriter.isSame(before.get(row.id()), row)) {
              moved.put(row.id(), Objects.requireNonNull(row.shared()));
              keys.add(Objects.requireNonNull(now.get(row.id())));
            }
          }
          ids.stream().filter(m -> !now.containsKey(m)).forEach(gone::add);
          writer.remove(id, List.copyOf(gone));
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
          shared.lookAgain(id, auditor, keys, changed, "change");
          if (pass != null) {
            pass.meanwhile.addAll(keys);
          }
          store.looked(id, moved);
          changes.done(due);
          signals.send(Signals.Topic.STANDING);
        });
  }
}
