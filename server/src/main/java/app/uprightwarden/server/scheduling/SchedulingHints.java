package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** What breaks no rule and will still not go as it is meant, said while it is being chosen. */
final class SchedulingHints {
  private SchedulingHints() {}

  /**
   * The hints.
   *
   * @param many from so many on, a sound at each coming and going disturbs
   */
  static List<String> of(Meeting meeting, int invited, int many, Instant now) {
    List<String> hints = new ArrayList<>();
    ControlValues values = meeting.controls();
    boolean isPast = meeting.start().atZone(meeting.zone()).toInstant().isBefore(now);
    if (isPast && meeting.recurrence() == null && meeting.rDates().isEmpty()) {
      hints.add("It begins in the past: nobody will come. Choose a later start.");
    }
    Set<String> hosts = meeting.coHosts().stream().map(Directory::fold).collect(Collectors.toSet());
    hosts.add(Directory.fold(meeting.host()));
    boolean hasOther =
        meeting.presenters().stream().anyMatch(each -> !hosts.contains(Directory.fold(each)));
    if (hasOther && is(values, Control.PRESENTER_ROLE, "hosts")) {
      hints.add(
          "Presenters are named, and only hosts present. Let those named present, or make them"
              + " co-hosts.");
    }
    boolean areSilent = is(values, Control.ATTENDEE_MICROPHONE, "off");
    if (areSilent && is(values, Control.PRESENTER_ROLE, "members") && hasOther) {
      hints.add(
          "Microphones of attendees are off, and who presents may have to speak: presenters can"
              + " switch theirs on, attendees cannot.");
    }
    taskHints(meeting, values, hints);
    if (invited >= many && is(values, Control.ARRIVAL_NOTICE, "announced")) {
      hints.add(
          "Each coming and going is announced, with "
              + invited
              + " invited. Below "
              + many
              + " that helps; above, it disturbs.");
    }
    return hints;
  }

  private static void taskHints(Meeting meeting, ControlValues values, List<String> hints) {
    if (has(meeting, Invitee.Task.CONTRIBUTOR) && !is(values, Control.JOINER_MODE, "onlooker")) {
      hints.add(
          "Contributors are named, and everybody takes part anyway. Let the rest only watch, or"
              + " name nobody.");
    }
    if (has(meeting, Invitee.Task.CAPTIONER) && !is(values, Control.CAPTIONS, "on")) {
      hints.add("A captioner is named, and captions are off. Switch captions on.");
    }
    if (has(meeting, Invitee.Task.INTERPRETER) && !is(values, Control.INTERPRETATION, "on")) {
      hints.add("An interpreter is named, and interpretation is off. Switch interpretation on.");
    }
    if (has(meeting, Invitee.Task.INTERPRETER) && is(values, Control.ATTENDEE_MICROPHONE, "off")) {
      hints.add(
          "Microphones of attendees are off, and an interpreter has to be heard. Make them a"
              + " presenter, or allow microphones.");
    }
  }

  private static boolean has(Meeting meeting, Invitee.Task task) {
    return meeting.invitees().stream().anyMatch(i -> i.task() == task);
  }

  private static boolean is(ControlValues values, Control control, String word) {
    return values.get(control) != null && values.is(control, word);
  }
}
