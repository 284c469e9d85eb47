package app.uprightwarden.server.register;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.server.problem.Fault;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What of a meeting's controls goes beyond what its host may choose. */
public final class Limits {
  private Limits() {}

  /**
   * One control that does.
   *
   * @param occurrence the one it stands at, or null for the series
   * @param value null where the control has none
   * @param looser than the limit; else it differs from a fix without being looser
   */
  public record Beyond(
      Control control,
      @Nullable LocalDateTime occurrence,
      @Nullable Value value,
      ResolvedRule rule,
      boolean looser) {
    /** What the rule allows, in words. */
    public String words() {
      Value limit = Objects.requireNonNull(rule.limit());
      String allowed = "“" + rule.control().label(limit) + "”";
      return rule.mode() == Mode.FIX
          ? "the rulebook fixes it at " + allowed
          : "the rulebook allows no looser than " + allowed;
    }

    /** As a fault of a meeting's document. */
    public Fault fault() {
      String where = occurrence == null ? "" : " (occurrence of " + occurrence + ")";
      return new Fault("/controls/" + control.id(), words() + where);
    }
  }

  /**
   * The controls that were not so before: what stood already stays the audit's business, so that
   * one can mend a title without mending all.
   *
   * @param before the meeting as it is stored, or null
   */
  public static List<Beyond> beyond(
      Meeting meeting, @Nullable Meeting before, ResolvedRulebook rules, Directory directory) {
    Reach reach = reach(meeting, directory);
    List<Beyond> found = new ArrayList<>();
    ControlValues values = FactsBuilder.judged(meeting.controls(), meeting.passcode());
    ControlValues was =
        before == null ? null : FactsBuilder.judged(before.controls(), before.passcode());
    add(found, values, was, rules, reach, null);
    Map<LocalDateTime, ControlValues> old = new HashMap<>();
    if (before != null) {
      FactsBuilder.changesOf(before).forEach(c -> old.put(c.at(), c.values()));
    }
    for (MeetingFacts.Change change : FactsBuilder.changesOf(meeting)) {
      ControlValues base = old.getOrDefault(change.at(), values);
      add(found, change.values(), base, rules, reach, change.at());
    }
    return List.copyOf(found);
  }

  private static Reach reach(Meeting meeting, Directory directory) {
    return Reach.of(
        meeting.host(), meeting.coHosts(), meeting.presenters(), meeting.invitees(), directory);
  }

  private static void add(
      List<Beyond> found,
      ControlValues values,
      @Nullable ControlValues was,
      ResolvedRulebook rules,
      Reach reach,
      @Nullable LocalDateTime occurrence) {
    boolean blocked = values.is(Control.FORWARDING, "blocked");
    boolean wasBlocked = was != null && was.is(Control.FORWARDING, "blocked");
    for (ResolvedRule rule : rules.rules()) {
      Value limit = rule.limit();
      Control control = rule.control();
      Value value = values.get(control);
      if (limit == null || value == null && !rule.notEvidencedIn(values)) {
        continue;
      }
      boolean looser = value == null || !reach.within(control, value, limit, blocked);
      boolean off = looser || rule.mode() == Mode.FIX && !limit.equals(value);
      boolean stood =
          was != null
              && Objects.equals(was.get(control), value)
              && (blocked == wasBlocked || control != Control.LOBBY_BYPASS);
      if (off && !stood) {
        found.add(new Beyond(control, occurrence, value, rule, looser));
      }
    }
  }
}
