package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The meetings that are scheduled. */
@Service
public class RegisterService {
  private static final int PAGE = 1000;

  private final MeetingRepository meetings;
  private final MeetingReader reader;
  private final EntityManager entities;
  private final ControlSets controlSets;
  private final PasscodeVault vault;
  private final JdbcClient jdbc;
  private final JsonMapper json;
  private final Clock clock;

  RegisterService(
      MeetingRepository meetings,
      MeetingReader reader,
      EntityManager entities,
      ControlSets controlSets,
      PasscodeVault vault,
      JdbcClient jdbc,
      JsonMapper json,
      Clock clock) {
    this.meetings = meetings;
    this.reader = reader;
    this.entities = entities;
    this.controlSets = controlSets;
    this.vault = vault;
    this.jdbc = jdbc;
    this.json = json;
    this.clock = clock;
  }

  @Transactional(readOnly = true)
  public Optional<Stored> find(String id) {
    return reader.find(id);
  }

  /** The meeting, if this person may see it: a host sees their own. */
  @Transactional(readOnly = true)
  public Stored get(String id, SignedIn who) {
    return find(id)
        .filter(stored -> !who.isHost() || hosts(stored.meeting(), who))
        .orElseThrow(() -> ProblemException.notFound("There is no meeting " + id + " for you."));
  }

  /** Whether somebody is host or co-host of a meeting. */
  public static boolean hosts(Meeting meeting, SignedIn who) {
    String address = Directory.fold(who.email());
    return Directory.fold(meeting.host()).equals(address)
        || meeting.coHosts().stream().anyMatch(e -> Directory.fold(e).equals(address));
  }

  /** All meetings in the order in which they were stored, a page at a time. */
  public void each(Consumer<List<Stored>> page) {
    List<Stored> next = reader.after(0, PAGE);
    while (!next.isEmpty()) {
      page.accept(next);
      next = reader.after(next.get(next.size() - 1).row(), PAGE);
    }
  }

  @Transactional(readOnly = true)
  public int count() {
    return jdbc.sql("select count(*) from meeting").query(Integer.class).single();
  }

  /** The meetings in these rows, by row. */
  @Transactional(readOnly = true)
  public Map<Long, Stored> rows(List<Long> rows) {
    Map<Long, Stored> found = new HashMap<>();
    if (!rows.isEmpty()) {
      reader.rows(rows).forEach(stored -> found.put(stored.row(), stored));
    }
    return found;
  }

  /** Those of these ids that are stored, by id. */
  @Transactional(readOnly = true)
  public Map<String, Stored> among(List<String> ids) {
    Map<String, Stored> found = new HashMap<>();
    reader.among(ids).forEach(stored -> found.put(stored.meeting().id(), stored));
    return found;
  }

  /** What the audit may know of a passcode. */
  public PasscodeFacts judge(String passcode, String title, String description, String host) {
    return PasscodeJudge.judge(passcode, title, description, host, vault.fingerprint(passcode));
  }

  /** The passcode in clear, or null where the meeting has none. Callers say who may see it. */
  @Transactional(readOnly = true)
  public @Nullable String passcode(String id) {
    byte[] cipher =
        jdbc.sql("select passcode_cipher from meeting where public_id = ?")
            .param(id)
            .query((r, n) -> Optional.ofNullable(r.getBytes(1)))
            .optional()
            .flatMap(c -> c)
            .orElse(null);
    return cipher == null ? null : vault.open(id, cipher);
  }

  /** Adds a meeting or puts it in place of the one with its id. */
  @Transactional
  public void put(Scheduled scheduled, String by) {
    Meeting meeting = scheduled.meeting();
    String passcode = scheduled.passcode();
    MeetingEntity entity = meetings.findByPublicId(meeting.id()).orElseGet(MeetingEntity::new);
    entity.set(
        meeting,
        passcode == null ? null : vault.seal(meeting.id(), passcode),
        controlSets::idOf,
        json::writeValueAsString);
    entity.changed(by, clock.instant());
    // an import puts thousands in one transaction: what stays attached is looked at again each time
    entities.detach(meetings.saveAndFlush(entity));
  }

  /**
   * Changes controls of a meeting.
   *
   * @param version the one the change was made on
   * @param changes null for a control takes its value away
   * @throws ProblemException 409 where the meeting was changed since
   */
  @Transactional
  public void changeControls(
      String id, long version, Map<Control, @Nullable Value> changes, SignedIn by) {
    MeetingEntity entity =
        meetings
            .findByPublicId(id)
            .orElseThrow(() -> ProblemException.notFound("There is no meeting " + id + "."));
    if (entity.version() != version) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody else changed this meeting meanwhile. Look at it again and repeat the change.");
    }
    ControlValues values =
        Objects.requireNonNull(reader.find(id).orElse(null)).meeting().controls();
    for (Map.Entry<Control, @Nullable Value> change : changes.entrySet()) {
      values = values.with(change.getKey(), change.getValue());
    }
    entity.setControlSet(controlSets.idOf(values));
    entity.changed(by.email(), clock.instant());
    meetings.saveAndFlush(entity);
  }
}
