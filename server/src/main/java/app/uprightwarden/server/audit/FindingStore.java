package app.uprightwarden.server.audit;

import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterService;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes audited meetings and findings in batches. */
@Component
class FindingStore {
  private static final int AT_ONCE = 1000;

  private final FindingRepository rows;
  private final RegisterService register;
  private final MeetingLines lines;
  private final ObjectProvider<UndoneRemedies> undone;

  FindingStore(
      FindingRepository rows,
      RegisterService register,
      MeetingLines lines,
      ObjectProvider<UndoneRemedies> undone) {
    this.rows = rows;
    this.register = register;
    this.lines = lines;
    this.undone = undone;
  }

  /** Something done with so many at a time: lists in questions have their limits. */
  private static void inParts(Collection<String> meetings, Consumer<List<String>> part) {
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      part.accept(all.subList(i, Math.min(i + AT_ONCE, all.size())));
    }
  }

  /**
   * A meeting's row as it was judged; scores in tenths.
   *
   * @param open findings that no waiver covers, the worst of them, and how many are waived
   * @param shared what the checks between meetings read of it, as one number; null where they have
   *     not looked at that yet
   */
  record MeetingRow(
      String id,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      int exposure,
      int intrusion,
      int disruption,
      @Nullable Instant next,
      @Nullable Instant nextEnd,
      int invited,
      int open,
      int worst,
      int waived,
      long judgedSet,
      long version,
      @Nullable String number,
      @Nullable String passcode,
      @Nullable Long shared) {
    MeetingRow withSet(long set) {
      return with(open, worst, waived, set, shared);
    }

    MeetingRow withShared(@Nullable Long key) {
      return with(open, worst, waived, judgedSet, key);
    }

    /** With what checks between meetings have found in it besides. */
    MeetingRow withMore(FindingRepository.@Nullable Counted more) {
      return more == null
          ? this
          : with(
              open + Math.toIntExact(more.open()),
              Math.max(worst, more.worst()),
              waived + Math.toIntExact(more.waived()),
              judgedSet,
              shared);
    }

    private MeetingRow with(int open, int worst, int waived, long set, @Nullable Long key) {
      return new MeetingRow(
          id,
          title,
          host,
          unit,
          kind,
          exposure,
          intrusion,
          disruption,
          next,
          nextEnd,
          invited,
          open,
          worst,
          waived,
          set,
          version,
          number,
          passcode,
          key);
    }
  }

  /**
   * A finding's row.
   *
   * @param waiver the waiver that covers it, or null
   * @param seen since when it is known, or null
   * @param detail the whole of it as JSON
   */
  record FindingRow(
      String meeting,
      String occurrence,
      String check,
      String subject,
      String family,
      int severity,
      @Nullable Instant next,
      int invited,
      @Nullable Long waiver,
      @Nullable Instant seen,
      String detail) {
    String identity() {
      return meeting + "|" + occurrence + "|" + check + "|" + subject;
    }

    Old old() {
      return new Old(meeting, occurrence, check, subject, family, severity, seen);
    }

    FindingRow seenSince(@Nullable Instant since) {
      return new FindingRow(
          meeting,
          occurrence,
          check,
          subject,
          family,
          severity,
          next,
          invited,
          waiver,
          since,
          detail);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void write(long audit, List<MeetingRow> meetings, List<FindingRow> findings) {
    add(audit, meetings);
    write(audit, findings);
  }

  /** Writes meetings' rows, of which none is there yet. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void add(long audit, Collection<MeetingRow> meetings) {
    rows.insertMeetings(meetings.stream().map(m -> AuditedMeetingEntity.of(audit, m)).toList());
  }

  /** Whether an audit has neither meetings nor findings. */
  boolean isBare(long audit) {
    return rows.meetingsAfter(audit, "", 1).isEmpty() && rows.someFindings(audit, 1).isEmpty();
  }

  /**
   * Puts meetings' rows in place of what they were. Most of a register is judged as it was: only
   * what differs is written.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void put(long audit, Collection<MeetingRow> meetings) {
    Map<String, MeetingRow> byId = new LinkedHashMap<>();
    meetings.forEach(row -> byId.put(row.id(), row));
    List<AuditedMeetingEntity> changed = new ArrayList<>();
    inParts(
        Set.copyOf(byId.keySet()),
        some -> {
          for (AuditedMeetingEntity stored : rows.audited(audit, some)) {
            MeetingRow now = Objects.requireNonNull(byId.remove(stored.meeting));
            if (!now.equals(stored.row())) {
              stored.set(now);
              changed.add(stored);
            }
          }
        });
    rows.updateMeetings(changed);
    add(audit, byId.values());
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void write(long audit, List<FindingRow> findings) {
    rows.insertFindings(findings.stream().map(f -> FindingEntity.of(audit, f)).toList());
  }

  /**
   * Since when findings were known that went with a remedy which was undone since.
   *
   * @param since when it was undone at the earliest
   * @return by their identity
   */
  @Transactional(readOnly = true)
  public Map<String, Instant> seenBeforeUndo(Collection<String> meetings, Instant since) {
    Map<String, Instant> seen = new HashMap<>();
    inParts(
        meetings,
        some -> {
          Map<String, Instant> asked = undone.getObject().askedAt(some, since);
          if (asked.isEmpty()) {
            return;
          }
          for (FindingEventEntity gone :
              rows.goneSince(asked.keySet(), Collections.min(asked.values()))) {
            Instant known = gone.seenAt;
            if (known != null && !gone.at.isBefore(asked.get(gone.meeting))) {
              seen.merge(
                  String.join("|", gone.meeting, gone.occurrence, gone.checkId, gone.subject),
                  known,
                  (a, b) -> a.isBefore(b) ? a : b);
            }
          }
        });
    return seen;
  }

  /** How many findings are open and waived, and the worst of the open. */
  record Count(int open, int waived, int worst) {
    Count and(Count other) {
      return new Count(open + other.open, waived + other.waived, Math.max(worst, other.worst));
    }
  }

  /**
   * Counts the findings of some meetings of the audit that is always current again, after the
   * checks between meetings.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void recount(long audit, Collection<String> meetings) {
    inParts(
        meetings,
        some -> {
          Map<String, FindingRepository.Counted> counts = new HashMap<>();
          rows.counted(audit, some).forEach(row -> counts.put(row.meeting(), row));
          Map<String, MeetingLines.Count> lined = new HashMap<>();
          Map<Count, List<String>> changed = new HashMap<>();
          for (AuditedMeetingEntity row : rows.audited(audit, some)) {
            FindingRepository.Counted of = counts.get(row.meeting);
            Count count =
                of == null
                    ? new Count(0, 0, 0)
                    : new Count(
                        Math.toIntExact(of.open()), Math.toIntExact(of.waived()), of.worst());
            if (!count.equals(new Count(row.findings, row.waived, row.worst))) {
              changed.computeIfAbsent(count, c -> new ArrayList<>()).add(row.meeting);
            }
            lined.put(row.meeting, new MeetingLines.Count(count.open(), count.worst()));
          }
          changed.forEach((count, of) -> rows.setCounts(audit, of, count));
          lines.counted(lined);
        });
  }

  /**
   * Counts findings in that were written after their meetings were, each for the first time:
   * cheaper than {@link #recount}, which reads all of a meeting's.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void countIn(long audit, List<FindingRow> findings) {
    alike(findings).forEach((count, of) -> inParts(of, some -> rows.addCounts(audit, some, count)));
  }

  /** The same in the audit that is always current, and so in what lists show. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void countInCurrent(long audit, List<FindingRow> findings) {
    countIn(audit, findings);
    alike(findings)
        .forEach(
            (count, of) ->
                inParts(
                    of,
                    some ->
                        lines.countIn(some, new MeetingLines.Count(count.open(), count.worst()))));
  }

  /** Meetings by what was found in each of them. */
  private static Map<Count, List<String>> alike(List<FindingRow> findings) {
    Map<String, Count> counts = new LinkedHashMap<>();
    for (FindingRow finding : findings) {
      boolean isOpen = finding.waiver() == null;
      counts.merge(
          finding.meeting(),
          new Count(isOpen ? 1 : 0, isOpen ? 0 : 1, isOpen ? finding.severity() : 0),
          Count::and);
    }
    Map<Count, List<String>> alike = new LinkedHashMap<>();
    counts.forEach(
        (meeting, count) -> alike.computeIfAbsent(count, c -> new ArrayList<>()).add(meeting));
    return alike;
  }

  /**
   * How much some checks have found in meetings; of one in which they found nothing there is none.
   */
  Map<String, FindingRepository.Counted> counted(
      long audit, Collection<String> meetings, Collection<String> checks) {
    Map<String, FindingRepository.Counted> counts = new HashMap<>();
    inParts(
        meetings,
        some -> rows.countedBy(audit, some, checks).forEach(row -> counts.put(row.meeting(), row)));
    return counts;
  }

  /** The counts that trends are drawn of. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void count(long audit) {
    rows.deleteCounts(audit);
    rows.deleteBands(audit);
    rows.count(audit);
    rows.countBands(audit);
  }

  /** What the checks between meetings need to know of an audited meeting. */
  record Audited(
      String meeting,
      String title,
      String host,
      @Nullable String unit,
      @Nullable Instant next,
      int invited) {}

  Map<String, Audited> audited(long audit, Collection<String> meetings) {
    Map<String, Audited> found = new HashMap<>();
    inParts(
        meetings,
        some ->
            rows.audited(audit, some)
                .forEach(
                    row ->
                        found.put(
                            row.meeting,
                            new Audited(
                                row.meeting,
                                row.title,
                                row.host,
                                row.unit,
                                row.nextStart,
                                row.invited))));
    return found;
  }

  /** A finding that is stored, without its detail. */
  record Old(
      String meeting,
      String occurrence,
      String check,
      String subject,
      String family,
      int severity,
      @Nullable Instant seen) {
    String identity() {
      return meeting + "|" + occurrence + "|" + check + "|" + subject;
    }
  }

  /**
   * The stored findings of some meetings.
   *
   * @param checks only of these
   */
  List<Old> old(long audit, Collection<String> meetings, Collection<String> checks) {
    List<Old> found = new ArrayList<>();
    inParts(meetings, some -> found.addAll(rows.old(audit, some, checks)));
    return found;
  }

  /** Keeps what the checks between meetings have looked at. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void looked(long audit, Map<String, Long> keys) {
    inParts(
        keys.keySet(),
        some -> {
          List<AuditedMeetingEntity> audited = rows.audited(audit, some);
          audited.forEach(row -> row.sharedKey = keys.get(row.meeting));
          rows.updateMeetings(audited);
        });
  }

  /** The stored findings of some meetings by some checks, whole. */
  List<FindingRow> whole(long audit, Collection<String> meetings, Collection<String> checks) {
    List<FindingRow> found = new ArrayList<>();
    inParts(meetings, some -> rows.whole(audit, some, checks).forEach(f -> found.add(f.row())));
    return found;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void deleteFindings(long audit, Collection<String> meetings, Collection<String> checks) {
    inParts(meetings, some -> rows.deleteFindings(audit, some, checks));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void deleteMeetings(long audit, Collection<String> meetings) {
    inParts(meetings, some -> rows.deleteMeetings(audit, some));
  }

  /** The numbers of all stored findings of some checks, whatever their meeting, in order. */
  long[] ids(long audit, Collection<String> checks) {
    return rows.ids(audit, checks);
  }

  /** The numbers of the stored findings of some meetings by a check. */
  List<Long> ids(long audit, Collection<String> meetings, String check) {
    List<Long> found = new ArrayList<>();
    inParts(meetings, some -> found.addAll(rows.ids(audit, some, Set.of(check))));
    return found;
  }

  /** The findings that still are stored under some numbers. */
  List<Old> old(Collection<Long> ids) {
    return rows.old(ids);
  }

  /** Audited meetings that are in the register no more. */
  List<String> gone(long audit) {
    List<String> gone = new ArrayList<>();
    List<String> some = rows.meetingsAfter(audit, "", AT_ONCE);
    while (!some.isEmpty()) {
      Set<String> present = register.present(some);
      some.stream().filter(meeting -> !present.contains(meeting)).forEach(gone::add);
      some = rows.meetingsAfter(audit, some.get(some.size() - 1), AT_ONCE);
    }
    return gone;
  }

  /** Meetings whose next occurrence is over at a time. */
  List<String> over(long audit, Instant until, int most) {
    return rows.over(audit, until, most);
  }

  /** What audited meetings shared with others when they were audited. */
  record Shared(
      String meeting,
      String host,
      @Nullable String number,
      @Nullable String passcode,
      @Nullable Long key) {}

  List<Shared> shared(long audit, Collection<String> meetings) {
    List<Shared> shared = new ArrayList<>();
    inParts(
        meetings,
        some ->
            rows.audited(audit, some)
                .forEach(
                    row ->
                        shared.add(
                            new Shared(
                                row.meeting,
                                row.host,
                                row.number,
                                row.passcodeFingerprint,
                                row.sharedKey))));
    return shared;
  }

  /** What came or went, for the record. */
  record Event(
      String what,
      String cause,
      @Nullable String by,
      String title,
      @Nullable String unit,
      Old finding) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void note(Instant at, List<Event> events) {
    rows.insertEvents(events.stream().map(event -> entity(at, event)).toList());
  }

  private static FindingEventEntity entity(Instant at, Event event) {
    FindingEventEntity row = new FindingEventEntity();
    row.at = at;
    row.what = event.what();
    row.cause = event.cause();
    row.byWhom = event.by();
    row.meeting = event.finding().meeting();
    row.title = event.title();
    row.unit = event.unit();
    row.occurrence = event.finding().occurrence();
    row.checkId = event.finding().check();
    row.subject = event.finding().subject();
    row.family = event.finding().family();
    row.severity = event.finding().severity();
    row.seenAt = event.finding().seen();
    return row;
  }

  /** Notes what one recorded audit had and the next has not, as mended when that was run. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void noteGone(long earlier, AuditRun later) {
    note(
        later.startedAt(),
        rows.gone(earlier, later.id()).stream()
            .map(
                gone ->
                    new Event(
                        "gone",
                        "change",
                        later.startedBy(),
                        gone.title(),
                        gone.unit(),
                        new Old(
                            gone.finding().meeting,
                            gone.finding().occurrence,
                            gone.finding().checkId,
                            gone.finding().subject,
                            gone.finding().family,
                            gone.finding().severity,
                            gone.seen())))
            .toList());
  }
}
