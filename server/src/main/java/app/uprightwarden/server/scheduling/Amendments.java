package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.MeetingRestore;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/** Changes a meeting in what an audit found, and writes to those invited where they must know. */
@Service
public class Amendments {
  /** What goes with an invitation that takes another one's place. */
  static final String RENEWED =
      "How you get in has changed. Use this invitation and throw the old one away.";

  private final RegisterService register;
  private final MeetingVersions versions;
  private final MeetingRestore restore;
  private final ScheduleService schedule;
  private final MeetingForm forms;
  private final Answers answers;
  private final OrganisationService organisation;
  private final RulebookService rulebook;

  Amendments(
      RegisterService register,
      MeetingVersions versions,
      MeetingRestore restore,
      ScheduleService schedule,
      MeetingForm forms,
      Answers answers,
      OrganisationService organisation,
      RulebookService rulebook) {
    this.register = register;
    this.versions = versions;
    this.restore = restore;
    this.schedule = schedule;
    this.forms = forms;
    this.answers = answers;
    this.organisation = organisation;
    this.rulebook = rulebook;
  }

  /**
   * What to change.
   *
   * @param occurrence the original local start of the one concerned, empty for the series
   * @param controls null for a control takes its value away
   * @param newPasscode whether a passcode is made anew, {@code newNumber} a number
   * @param backTo a version whose passcode and number come back, or null
   */
  public record Amendment(
      String occurrence,
      Map<Control, @Nullable Value> controls,
      boolean newPasscode,
      boolean newNumber,
      @Nullable Long backTo) {}

  /**
   * What was done.
   *
   * @param was the version that was replaced
   * @param now the meeting's version
   * @param sent how many were written to
   */
  public record Amended(long was, long now, int sent) {}

  /** Changes a meeting as it is now stored; those invited are written to where they must know. */
  @Transactional
  public Amended amend(String id, Amendment how, String act, String remark, SignedIn by) {
    StoredMeeting before = register.get(id, by);
    Meeting meeting = before.decided();
    ControlValues was = meeting.controls();
    meeting =
        how.occurrence().isEmpty()
            ? meeting.withControls(changed(was, how.controls()))
            : meeting.withExceptions(
                meeting.exDates(),
                at(meeting, LocalDateTime.parse(how.occurrence()), how.controls()));
    ResolvedRulebook rules =
        Judging.builder(
                organisation.organisation(),
                organisation.directory(),
                rulebook.rulebook(rulebook.inForce()))
            .rulesFor(meeting.host(), meeting.kind());
    String passcode = before.meeting().passcode() == null ? null : register.passcode(id);
    MeetingVersions.Version back = how.backTo() == null ? null : versions.get(id, how.backTo());
    if (back != null) {
      passcode = versions.passcode(back);
      JsonNode number = Objects.requireNonNull(back.document()).path("number");
      meeting = meeting.withNumber(number.stringValue(null));
    } else if (how.newPasscode()) {
      passcode = forms.passcode(MeetingForm.atLeast(rules));
    }
    if (how.newNumber()) {
      meeting = meeting.withNumber(forms.number());
    }
    Scheduled whole =
        forms.completed(judged(meeting, before, passcode), rules, before.service() != null);
    long now =
        register.put(whole, act, remark, by.email(), how.occurrence(), how.controls().keySet());
    int sent = mustKnow(before, whole, how) ? send(whole, before, by) : 0;
    return new Amended(restore.lastKept(id), now, sent);
  }

  private Scheduled judged(Meeting meeting, StoredMeeting before, @Nullable String passcode) {
    Meeting whole =
        meeting.withPasscode(
            passcode == null
                ? null
                : register.judge(passcode, meeting.title(), meeting.description(), meeting.host()));
    return new Scheduled(whole, before.details(), passcode);
  }

  private static ControlValues changed(
      ControlValues values, Map<Control, @Nullable Value> changes) {
    ControlValues changed = values;
    for (Map.Entry<Control, @Nullable Value> change : changes.entrySet()) {
      changed = changed.with(change.getKey(), change.getValue());
    }
    return changed;
  }

  private static List<OccurrenceChange> at(
      Meeting meeting, LocalDateTime at, Map<Control, @Nullable Value> controls) {
    List<OccurrenceChange> all = new ArrayList<>();
    boolean found = false;
    for (OccurrenceChange change : meeting.changes()) {
      boolean isIt = change.at().equals(at);
      found |= isIt;
      all.add(
          isIt
              ? new OccurrenceChange(
                  at, change.start(), change.minutes(), changed(change.controls(), controls))
              : change);
    }
    if (!found) {
      all.add(new OccurrenceChange(at, null, null, changed(ControlValues.NONE, controls)));
    }
    return List.copyOf(all);
  }

  /** An old invitation that no longer lets anybody in is replaced. */
  private static boolean mustKnow(StoredMeeting before, Scheduled now, Amendment how) {
    return how.newPasscode()
        || how.newNumber()
        || how.backTo() != null
        || how.controls().containsKey(Control.PASSCODE)
        || !Objects.equals(before.meeting().number(), now.meeting().number());
  }

  private int send(Scheduled whole, StoredMeeting before, SignedIn by) {
    boolean wasSent = !answers.of(whole.meeting().id()).isEmpty();
    return schedule.send(
        whole, before, wasSent ? Invitations.Sort.CHANGED : Invitations.Sort.NEW, RENEWED, by);
  }
}
