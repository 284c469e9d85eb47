package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Held;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Runs every check. What depends on rules, values and reach alone is judged once and remembered;
 * the rest is looked at meeting by meeting. Not thread-safe: one auditor a run.
 */
public final class Auditor {
  /** Takes findings one by one, without an object for each. */
  @FunctionalInterface
  public interface Sink {
    /**
     * Takes a finding in a meeting: in one occurrence, by its original local start, or in the
     * series where that is null.
     */
    void found(MeetingFacts meeting, @Nullable LocalDateTime occurrence, Detail detail);
  }

  private static final int MAX_REMEMBERED = 50_000;
  private static final String NOT_KNOWN = "not-evidenced";
  private static final List<Check> CATALOGUE = load();

  private final HeldCheck[] heldChecks = select(HeldCheck.class).toArray(HeldCheck[]::new);
  private final List<RegisterCheck> registerChecks = select(RegisterCheck.class);
  private final Map<Subject, Judgement> judged = new HashMap<>();

  /** Every check there is, by id. */
  public static List<Check> catalogue() {
    return CATALOGUE;
  }

  private static List<Check> load() {
    List<Check> checks = new ArrayList<>();
    ServiceLoader.load(Check.class, Check.class.getClassLoader()).forEach(checks::add);
    checks.sort(Comparator.comparing(Check::id));
    return List.copyOf(checks);
  }

  static <T extends Check> List<T> select(Class<T> type) {
    return CATALOGUE.stream().filter(type::isInstance).map(type::cast).toList();
  }

  /** How a meeting's series stands under its rules. */
  public Judgement judge(MeetingFacts meeting) {
    return judge(meeting.subject());
  }

  /** How values stand under rules; equal ones are judged once. */
  public Judgement judge(ResolvedRulebook rules, ControlValues values, Reach reach) {
    return judge(new Subject(rules, values, reach));
  }

  private Judgement judge(Subject subject) {
    Judgement known = judged.get(subject);
    if (known == null) {
      if (judged.size() > MAX_REMEMBERED) {
        judged.clear();
      }
      known = Judgement.of(subject.rules(), subject.values(), subject.reach());
      judged.put(subject, known);
    }
    return known;
  }

  /** Everything that is wrong with a meeting by itself. */
  public void audit(MeetingFacts meeting, Sink sink) {
    List<Detail> ofSeries = judge(meeting).details();
    Held held = meeting.held();
    for (int i = 0; i < ofSeries.size(); i++) {
      Detail detail = ofSeries.get(i);
      if (held == null || !isOfNone(detail, held)) {
        sink.found(meeting, null, detail);
      }
    }
    MeetingChecks.check(meeting, detail -> sink.found(meeting, null, detail));
    if (held != null && !held.differences().isEmpty()) {
      auditHeld(meeting, held, sink);
    }
    if (!meeting.changes().isEmpty()) {
      auditChanges(meeting, ofSeries, sink);
    }
  }

  /** A control that a service does not have is beyond its means, which is said; not unknown. */
  private static boolean isOfNone(Detail detail, Held held) {
    return detail.control() != null
        && detail.check().id().equals(NOT_KNOWN)
        && !held.means().controls().containsKey(detail.control());
  }

  private void auditHeld(MeetingFacts meeting, Held held, Sink sink) {
    for (Held.Difference difference : held.differences()) {
      for (HeldCheck check : heldChecks) {
        check.check(
            meeting,
            held,
            difference,
            detail -> sink.found(meeting, difference.occurrence(), detail));
      }
    }
  }

  /** What is wrong with single occurrences and not with their series in the same way. */
  private void auditChanges(MeetingFacts meeting, List<Detail> ofSeries, Sink sink) {
    Set<String> known = new HashSet<>();
    ofSeries.forEach(detail -> known.add(detail.likeness()));
    for (MeetingFacts.Change change : meeting.changes()) {
      if (!change.values().equals(meeting.values())) {
        for (Detail detail : judge(meeting.rules(), change.values(), meeting.reach()).details()) {
          if (!known.contains(detail.likeness())) {
            sink.found(meeting, change.at(), detail);
          }
        }
      }
    }
  }

  /** Everything that is wrong between meetings. */
  public void auditTogether(Register register, Register.Sink sink) {
    for (RegisterCheck check : registerChecks) {
      check.check(register, sink);
    }
  }
}
