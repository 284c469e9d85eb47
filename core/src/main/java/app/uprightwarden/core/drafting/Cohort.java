package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Meetings that no rulebook tells apart: the same layers apply to them, and they have the same
 * values and reach.
 *
 * @param unit of the host, or null
 * @param values as judged
 * @param changes single occurrences that differ
 */
public record Cohort(
    @Nullable String unit,
    @Nullable String kind,
    ControlValues values,
    Reach reach,
    List<MeetingFacts.Change> changes) {

  public Cohort {
    changes = List.copyOf(changes);
  }

  /** The cohort of a meeting, with its host's unit by the directory. */
  public static Cohort of(Meeting meeting, Directory directory) {
    Person host = directory.find(meeting.host());
    ControlValues values = FactsBuilder.judged(meeting.controls(), meeting.passcode());
    List<MeetingFacts.Change> changes = FactsBuilder.changesOf(meeting);
    Reach reach = Reach.of(meeting, directory);
    return new Cohort(
        host == null ? null : host.unit(),
        meeting.kind(),
        values,
        changes.isEmpty() ? asked(reach, values) : reach,
        changes);
  }

  /**
   * The reach without what no rule can ask of these values, so that more meetings share a cohort.
   */
  private static Reach asked(Reach reach, ControlValues values) {
    boolean lobby = named(values, Control.LOBBY_BYPASS);
    boolean presenters = named(values, Control.PRESENTER_ROLE);
    return new Reach(
        lobby && reach.named(),
        lobby ? reach.namedWidest() : Standing.MEMBER,
        !presenters || reach.presentersMembers(),
        !presenters || reach.presentersHosts());
  }

  private static boolean named(ControlValues values, Control control) {
    return values.get(control) != null && values.is(control, "named");
  }
}
