package app.uprightwarden.core.meeting;

import app.uprightwarden.core.control.ControlValues;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A meeting or series as it was scheduled. Its passcode appears as {@link PasscodeFacts} only.
 *
 * @param start local start of the first occurrence, in {@code zone}
 * @param recurrence an RFC 5545 RRULE value, or null for a single meeting
 * @param number the number people join by, or null where not known
 */
public record Meeting(
    String id,
    String title,
    String description,
    @Nullable String kind,
    String host,
    List<String> coHosts,
    List<String> presenters,
    List<Invitee> invitees,
    List<String> lists,
    @Nullable String space,
    LocalDateTime start,
    ZoneId zone,
    int minutes,
    @Nullable String recurrence,
    List<LocalDateTime> exDates,
    List<LocalDateTime> rDates,
    @Nullable String number,
    @Nullable PasscodeFacts passcode,
    ControlValues controls,
    List<OccurrenceChange> changes) {

  /** This meeting with other facts of its passcode. */
  public Meeting withPasscode(@Nullable PasscodeFacts facts) {
    return with(description, host, coHosts, invitees, number, facts, controls);
  }

  /** This meeting with other controls. */
  public Meeting withControls(ControlValues controls) {
    return with(description, host, coHosts, invitees, number, passcode, controls);
  }

  /** This meeting with another number. */
  public Meeting withNumber(@Nullable String number) {
    return with(description, host, coHosts, invitees, number, passcode, controls);
  }

  /** This meeting with another description. */
  public Meeting withDescription(String description) {
    return with(description, host, coHosts, invitees, number, passcode, controls);
  }

  /**
   * The same with other values of its own for one date.
   *
   * @param at the date's original local start
   * @param over laid over the series' values; none takes away what the date had
   */
  public Meeting withDate(LocalDateTime at, ControlValues over) {
    List<OccurrenceChange> dates = new ArrayList<>();
    OccurrenceChange was = new OccurrenceChange(at, null, null, ControlValues.NONE);
    for (OccurrenceChange change : changes) {
      if (change.at().equals(at)) {
        was = change;
      } else {
        dates.add(change);
      }
    }
    if (was.start() != null || was.minutes() != null || !over.asMap().isEmpty()) {
      dates.add(new OccurrenceChange(at, was.start(), was.minutes(), over));
    }
    dates.sort(Comparator.comparing(OccurrenceChange::at));
    return withDates(recurrence, exDates, rDates, List.copyOf(dates));
  }

  /** This meeting with other exceptions to its series. */
  public Meeting withExceptions(List<LocalDateTime> exDates, List<OccurrenceChange> changes) {
    return withDates(recurrence, exDates, rDates, changes);
  }

  /** This meeting with another host, and these co-hosts. */
  public Meeting withHost(String host, List<String> coHosts) {
    return with(description, host, coHosts, invitees, number, passcode, controls);
  }

  /** This meeting with other invitees. */
  public Meeting withInvitees(List<Invitee> invitees) {
    return with(description, host, coHosts, invitees, number, passcode, controls);
  }

  private Meeting with(
      String description,
      String host,
      List<String> coHosts,
      List<Invitee> invitees,
      @Nullable String number,
      @Nullable PasscodeFacts passcode,
      ControlValues controls) {
    return new Meeting(
        id,
        title,
        description,
        kind,
        host,
        coHosts,
        presenters,
        invitees,
        lists,
        space,
        start,
        zone,
        minutes,
        recurrence,
        exDates,
        rDates,
        number,
        passcode,
        controls,
        changes);
  }

  /** This meeting with other dates. */
  public Meeting withDates(
      @Nullable String recurrence,
      List<LocalDateTime> exDates,
      List<LocalDateTime> rDates,
      List<OccurrenceChange> changes) {
    return new Meeting(
        id,
        title,
        description,
        kind,
        host,
        coHosts,
        presenters,
        invitees,
        lists,
        space,
        start,
        zone,
        minutes,
        recurrence,
        exDates,
        rDates,
        number,
        passcode,
        controls,
        changes);
  }
}
