package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What may be changed in the controls of a meeting, and of one of its dates alone. */
@Component
class DateControls {
  private final RegisterService register;
  private final OrganisationService organisation;
  private final RulebookService rulebook;

  DateControls(
      RegisterService register, OrganisationService organisation, RulebookService rulebook) {
    this.register = register;
    this.organisation = organisation;
    this.rulebook = rulebook;
  }

  /**
   * Changes what one date has of its own.
   *
   * @param date its original local start
   * @throws ProblemException 400 where the meeting has no such date, its service no values for
   *     single dates, or a host goes beyond a rule
   */
  void change(
      StoredMeeting stored,
      long version,
      String date,
      Map<Control, @Nullable Value> changes,
      SignedIn by) {
    LocalDateTime at = at(stored.decided(), date);
    checkService(stored, changes);
    if (by.role() != Role.WARDEN) {
      checkLimits(stored.decided(), at, changes);
    }
    register.changeControls(stored.meeting().id(), version, at, changes, by);
  }

  private static LocalDateTime at(Meeting meeting, String date) {
    try {
      LocalDateTime at = LocalDateTime.parse(date);
      Instant near = at.atZone(meeting.zone()).toInstant();
      boolean isThere =
          meeting.changes().stream().anyMatch(change -> change.at().equals(at))
              || Occurrences.between(
                      meeting, near.minus(Duration.ofDays(1)), near.plus(Duration.ofDays(1)))
                  .stream()
                  .anyMatch(each -> each.at().equals(at));
      if (isThere) {
        return at;
      }
    } catch (DateTimeParseException e) {
      throw noDate(date);
    }
    throw noDate(date);
  }

  private static ProblemException noDate(String date) {
    return ProblemException.invalid(
        "The meeting has no date of " + date + ".",
        List.of(new Fault("/occurrence", "the original local start of one of its dates")));
  }

  /** Whether one date can have controls of its own. */
  static boolean areApart(StoredMeeting stored) {
    HeldMeeting held = stored.service();
    return held == null
        || Control.all().stream()
            .anyMatch(each -> held.service().means().takes(each, Means.Place.OCCURRENCE));
  }

  private static void checkService(StoredMeeting stored, Map<Control, @Nullable Value> changes) {
    HeldMeeting held = stored.service();
    if (held == null) {
      return;
    }
    List<Fault> faults = new ArrayList<>();
    Means means = held.service().means();
    changes.forEach(
        (control, value) -> {
          if (value != null && !means.takes(control, Means.Place.OCCURRENCE)) {
            faults.add(
                new Fault(
                    "/controls/" + control.id(),
                    held.service().name() + " has it for the whole series alone"));
          }
        });
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          held.service().name() + " cannot hold that for one date. Nothing was changed.", faults);
    }
  }

  /** That a host stays within the rulebook, for all dates or for one. */
  void checkLimits(
      Meeting meeting, @Nullable LocalDateTime date, Map<Control, @Nullable Value> changes) {
    ResolvedRulebook rules =
        Judging.builder(
                organisation.organisation(),
                organisation.directory(),
                rulebook.rulebook(rulebook.inForce()))
            .rulesFor(meeting.host(), meeting.kind());
    ControlValues values =
        date == null ? meeting.controls() : HeldMeeting.over(meeting, date.toString());
    for (Map.Entry<Control, @Nullable Value> change : changes.entrySet()) {
      values = values.with(change.getKey(), change.getValue());
    }
    Meeting wanted = date == null ? meeting.withControls(values) : meeting.withDate(date, values);
    List<Fault> faults =
        Limits.beyond(wanted, meeting, rules, organisation.directory()).stream()
            .filter(b -> changes.containsKey(b.control()))
            .map(Limits.Beyond::fault)
            .toList();
    if (!faults.isEmpty()) {
      throw ProblemException.invalid(
          "That goes beyond what the rulebook allows. Nothing was changed.", faults);
    }
  }
}
