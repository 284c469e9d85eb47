package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** One change to several meetings: all of them, or none where one of them cannot. */
@Service
class BulkMeetings {
  private final RegisterService register;
  private final ScheduleService schedule;

  BulkMeetings(RegisterService register, ScheduleService schedule) {
    this.register = register;
    this.schedule = schedule;
  }

  /** What was done: to how many, and how many messages went out. */
  record ManyDone(int meetings, int sent) {}

  /** Gives one control a value in several meetings. */
  @Transactional
  public ManyDone control(List<String> ids, Control control, @Nullable Value value, SignedIn who) {
    each(
        ids,
        who,
        stored ->
            register.changeControls(
                stored.meeting().id(),
                stored.version(),
                Collections.singletonMap(control, value),
                who));
    return new ManyDone(ids.size(), 0);
  }

  /** Makes somebody else the host; whoever hosted is invited instead where they were not a host. */
  @Transactional
  public ManyDone handOver(List<String> ids, String to, SignedIn who) {
    each(ids, who, stored -> register.put(handedOver(stored, to), "handed-over", who.email()));
    return new ManyDone(ids.size(), 0);
  }

  /** Everything that one person hosts becomes another's. */
  @Transactional
  public ManyDone handOverAll(String from, String to, SignedIn who) {
    List<String> ids = register.hostedAlone(Directory.fold(from));
    return handOver(ids, to, who);
  }

  @Transactional
  public ManyDone cancel(List<String> ids, boolean send, @Nullable String word, SignedIn who) {
    List<Integer> sent = new ArrayList<>();
    each(
        ids,
        who,
        stored ->
            sent.add(schedule.cancel(stored.meeting().id(), stored.version(), send, word, who)));
    return new ManyDone(ids.size(), sent.stream().mapToInt(Integer::intValue).sum());
  }

  private void each(List<String> ids, SignedIn who, Consumer<StoredMeeting> act) {
    for (String id : ids) {
      StoredMeeting stored = register.find(id).orElse(null);
      if (stored == null || who.isHost() && !RegisterService.hosts(stored.meeting(), who)) {
        throw ProblemException.conflict(
            "meeting-gone",
            "The meeting " + id + " is no longer there. Nothing was changed; choose again.");
      }
      act.accept(stored);
    }
  }

  private Scheduled handedOver(StoredMeeting stored, String to) {
    Meeting m = stored.decided();
    List<String> coHosts =
        m.coHosts().stream()
            .filter(email -> !Directory.fold(email).equals(Directory.fold(to)))
            .toList();
    String passcode = m.passcode() == null ? null : register.passcode(m.id());
    Meeting handed =
        m.withHost(to, coHosts)
            .withPasscode(
                passcode == null ? null : register.judge(passcode, m.title(), m.description(), to));
    return new Scheduled(handed, stored.details(), passcode);
  }
}
