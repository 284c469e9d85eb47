package app.uprightwarden.server.audit;

import app.uprightwarden.core.audit.Register;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Instant;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** One way through everything. */
final class Pass {
  /** Why everything is gone through for the first time: nothing of it is told as new. */
  static final String FIRST = "first";

  private static final int MAX_LOOKED = 20_000;

  MeetingAuditor auditor;
  final int edition;
  final Instant from;
  final Instant to;
  final String cause;
  final boolean isFirst;
  final Register together = new Register();
  final RunWork.Rows rows = new RunWork.Rows();

  /** What meetings share that changed after they were read for this: it ends with these. */
  final CrossMeetingRecheck.Keys meanwhile = new CrossMeetingRecheck.Keys();

  long cursor;

  /** The page after the one that is being stored, and what changed since it was begun to read. */
  @Nullable Future<Page> ahead;

  final Set<String> changedSince = new HashSet<>();

  /**
   * Whether nothing of the audit was stored when this began; then there is nothing to look for
   * before a page is written, but where something was looked at meanwhile.
   */
  boolean isBare;

  final Set<String> looked = new HashSet<>();

  /** How often changes were looked at meanwhile. */
  int rounds;

  Pass(
      MeetingAuditor auditor, int edition, Instant from, Instant to, String cause, boolean isBare) {
    this.auditor = auditor;
    this.edition = edition;
    this.from = from;
    this.to = to;
    this.cause = cause;
    this.isFirst = cause.equals(FIRST);
    this.isBare = isBare;
  }

  void noteLooked(Set<String> meetings) {
    rounds++;
    changedSince.addAll(meetings);
    if (isBare) {
      looked.addAll(meetings);
      isBare = looked.size() <= MAX_LOOKED;
    }
  }

  /** Whether nothing is stored yet of any of some meetings. */
  boolean isNoneStored(Set<String> meetings) {
    return isBare && Collections.disjoint(looked, meetings);
  }

  /** Some meetings in the order in which they were stored, as they were read and judged. */
  record Page(
      MeetingAuditor auditor,
      List<RegisterChanges.Due> due,
      List<StoredMeeting> of,
      List<MeetingAuditor.Inspected> judged) {
    long last() {
      return of.get(of.size() - 1).row();
    }

    Set<String> ids() {
      return of.stream().map(stored -> stored.meeting().id()).collect(Collectors.toSet());
    }
  }
}
