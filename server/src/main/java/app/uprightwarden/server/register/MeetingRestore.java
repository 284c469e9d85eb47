package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Puts an earlier version of a meeting back, cancelled ones too. */
@Service
public class MeetingRestore {
  private final RegisterService register;
  private final MeetingVersions versions;
  private final OrganisationService organisation;

  MeetingRestore(
      RegisterService register, MeetingVersions versions, OrganisationService organisation) {
    this.register = register;
    this.versions = versions;
    this.organisation = organisation;
  }

  /** The version that was kept last of a meeting: what it was before its last change. */
  @Transactional(readOnly = true)
  public long lastKept(String meeting) {
    return Objects.requireNonNull(versions.lastKept(List.of(meeting)).get(meeting));
  }

  /**
   * Puts a version back, with the passcode it had.
   *
   * @throws ProblemException 422 where it refers to a kind, space, list or room that is gone
   */
  @Transactional
  public void restore(String meeting, long version, String act, String by) {
    MeetingVersions.Version old = versions.get(meeting, version);
    List<Fault> faults = new ArrayList<>();
    Scheduled read =
        new MeetingJsonParser(
                faults,
                MeetingJsonParser.Known.of(organisation.organisation()),
                (p, t, d, h) -> register.judge(p, t, d, h))
            .read(Objects.requireNonNull(old.document()), "");
    if (read == null) {
      throw ProblemException.invalid(
          "That version refers to what is no longer there. Nothing was changed.", faults);
    }
    String passcode = versions.passcode(old);
    Meeting was = read.meeting();
    // what goes out next must be newer than anything that went out before
    int sequence = register.find(meeting).map(now -> now.details().sequence()).orElse(0) + 1;
    Meeting whole =
        passcode == null
            ? was
            : was.withPasscode(
                register.judge(passcode, was.title(), was.description(), was.host()));
    register.put(
        new Scheduled(
            whole,
            read.details().withSequence(Math.max(sequence, read.details().sequence() + 1)),
            passcode),
        act,
        by);
  }
}
