package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.vault.Vault;
import java.time.Clock;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The meetings that are scheduled. */
@Service
public class RegisterService {
  private static final int PAGE = 1000;

  private final MeetingRepository meetings;
  private final MeetingReader reader;
  private final ControlSets controlSets;
  private final Vault vault;
  private final MeetingVersions versions;
  private final RegisterChanges due;
  private final Ledger ledger;
  private final UnitScope units;
  private final JsonMapper json;
  private final Clock clock;

  RegisterService(
      MeetingRepository meetings,
      MeetingReader reader,
      ControlSets controlSets,
      Vault vault,
      MeetingVersions versions,
      RegisterChanges due,
      Ledger ledger,
      UnitScope units,
      JsonMapper json,
      Clock clock) {
    this.meetings = meetings;
    this.reader = reader;
    this.controlSets = controlSets;
    this.vault = vault;
    this.versions = versions;
    this.due = due;
    this.ledger = ledger;
    this.units = units;
    this.json = json;
    this.clock = clock;
  }

  @Transactional(readOnly = true)
  public Optional<Stored> find(String id) {
    return reader.find(id);
  }

  /** The meeting, if this person may see it: a host sees their own, a unit's warden the unit's. */
  @Transactional(readOnly = true)
  public Stored get(String id, SignedIn who) {
    return find(id)
        .filter(stored -> !who.isHost() || hosts(stored.meeting(), who))
        .filter(stored -> units.hasHost(who, stored.meeting().host()))
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

  /** The meetings behind a row, in the order in which they were stored. */
  @Transactional(readOnly = true)
  public List<Stored> after(long row, int most) {
    return reader.after(row, most);
  }

  /**
   * The meetings that share something with others: a host, a number or a passcode.
   *
   * @param what of them is shared
   */
  @Transactional(readOnly = true)
  public List<Stored> sharing(Shared what, Collection<String> keys) {
    return reader.sharing(what, keys);
  }

  /** What meetings can have in common. */
  public enum Shared {
    HOST,
    NUMBER,
    PASSCODE
  }

  /** The public ids of rows. */
  @Transactional(readOnly = true)
  public Map<Long, String> publicIds(Collection<Long> rows) {
    Map<Long, String> ids = new HashMap<>();
    if (!rows.isEmpty()) {
      meetings.publicIds(rows).forEach(row -> ids.put(row.id(), row.publicId()));
    }
    return ids;
  }

  /** The number of a set of control values, stored once and never changed. */
  @Transactional(propagation = Propagation.MANDATORY)
  public long setOf(ControlValues values) {
    return controlSets.idOf(values);
  }

  /** The control values of a set. */
  @Transactional(readOnly = true)
  public ControlValues set(long id) {
    return controlSets.values(id);
  }

  /** The titles of those of these meetings that are stored. */
  @Transactional(readOnly = true)
  public Map<String, String> titles(Collection<String> ids) {
    Map<String, String> titles = new HashMap<>();
    if (!ids.isEmpty()) {
      meetings.titles(ids).forEach(row -> titles.put(row.publicId(), row.title()));
    }
    return titles;
  }

  /** Those of these meetings that are stored. */
  @Transactional(readOnly = true)
  public Set<String> present(Collection<String> ids) {
    return ids.isEmpty() ? Set.of() : Set.copyOf(meetings.present(ids));
  }

  @Transactional(readOnly = true)
  public int count() {
    return Math.toIntExact(meetings.count());
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
    byte[] cipher = meetings.find(id).map(row -> row.passcodeCipher).orElse(null);
    return cipher == null ? null : vault.open(id, cipher);
  }

  /** Those of these names in calendars that are stored, by the name. */
  @Transactional(readOnly = true)
  public Map<String, Stored> byUid(List<String> uids) {
    Map<String, Stored> found = new HashMap<>();
    reader.byUid(uids).forEach(stored -> found.put(stored.details().uid(), stored));
    return found;
  }

  /**
   * Adds a meeting or puts it in place of the one with its id, which is kept as a version.
   *
   * @return its version now
   */
  @Transactional
  public long put(Scheduled scheduled, String act, String by) {
    return put(scheduled, act, null, by);
  }

  /**
   * The same with a word on why.
   *
   * @param remark why it is changed, or null
   */
  @Transactional
  public long put(Scheduled scheduled, String act, @Nullable String remark, String by) {
    Meeting meeting = scheduled.meeting();
    String passcode = scheduled.passcode();
    MeetingEntity entity = meetings.find(meeting.id()).orElse(null);
    Stored before = null;
    if (entity != null) {
      before = reader.stored(entity);
      versions.keep(before, entity.passcodeCipher);
    }
    MeetingLimits.check(meeting, scheduled.details());
    checkUid(meeting.id(), scheduled.details().uid(), before);
    note(meeting, before, () -> document(meeting, scheduled.details()), by);
    MeetingEntity row = entity == null ? new MeetingEntity() : entity;
    row.set(
        meeting,
        scheduled.details(),
        passcode == null ? null : vault.seal(meeting.id(), passcode),
        controlSets::idOf,
        json::writeValueAsString);
    row.changed(act, remark, by, clock.instant());
    if (before == null) {
      meetings.insert(row);
    } else {
      meetings.update(row);
    }
    putParts(row, meeting, before == null);
    remember(meeting);
    due.touch(meeting.id());
    return row.version;
  }

  /** Who and what belongs to a meeting, written where it is not so already. */
  private void putParts(MeetingEntity row, Meeting meeting, boolean isNew) {
    List<MeetingPersonEntity> people = row.people(meeting);
    List<MeetingPersonEntity> were = isNew ? List.of() : meetings.people(List.of(row.id));
    if (!areSame(people, were, MeetingPersonEntity::isAs)) {
      if (!were.isEmpty()) {
        meetings.deletePeople(row.id);
      }
      meetings.insertPeople(people);
    }
    List<MeetingChangeEntity> changes = row.changes(meeting.changes(), controlSets::idOf);
    List<MeetingChangeEntity> had = isNew ? List.of() : meetings.changes(List.of(row.id));
    if (!areSame(changes, had, MeetingChangeEntity::isAs)) {
      if (!had.isEmpty()) {
        meetings.deleteChanges(row.id);
      }
      meetings.insertChanges(changes);
    }
  }

  private static <T> boolean areSame(List<T> some, List<T> others, BiPredicate<T, T> same) {
    return some.size() == others.size()
        && IntStream.range(0, some.size()).allMatch(i -> same.test(some.get(i), others.get(i)));
  }

  /** Of two meetings with one name in calendars, each would get the other's answers. */
  private void checkUid(String id, @Nullable String uid, @Nullable Stored before) {
    if (uid != null
        && (before == null || !uid.equals(before.details().uid()))
        && isOthers(id, uid)) {
      throw ProblemException.conflict(
          "uid-taken",
          "Another meeting has the name “%s” in calendars. Nothing was changed."
              .formatted(Texts.cut(uid, 100)));
    }
  }

  /** Whether a name in calendars (UID) is another meeting's, its own or one that was made here. */
  @Transactional(readOnly = true)
  public boolean isOthers(String id, String uid) {
    String made = Details.madeHere(uid);
    return made != null && !made.equals(id) && find(made).isPresent()
        || reader.byUid(List.of(uid)).stream().anyMatch(s -> !s.meeting().id().equals(id));
  }

  /** A number that may be used again becomes its host's own, unless it is somebody's already. */
  private void remember(Meeting meeting) {
    if (meeting.number() != null
        && meeting.controls().get(Control.MEETING_NUMBER) != null
        && meeting.controls().is(Control.MEETING_NUMBER, "reusable")) {
      meetings.remember(meeting.number(), Directory.fold(meeting.host()));
    }
  }

  /** The numbers that a host uses again and again. */
  @Transactional(readOnly = true)
  public List<String> numbersOf(String host) {
    return meetings.numbersOf(Directory.fold(host));
  }

  /** Whether some meeting or host has this number. */
  @Transactional(readOnly = true)
  public boolean hasNumber(String number) {
    return meetings.countWithNumber(number) + meetings.countRemembered(number) > 0;
  }

  /**
   * The meetings that take up some people's time, or a room's.
   *
   * @param people folded addresses
   * @param lists ids of lists that reach them; {@code spaces} likewise
   */
  @Transactional(readOnly = true)
  public List<Stored> concerning(
      Collection<String> people,
      Collection<String> lists,
      Collection<String> spaces,
      Collection<String> rooms) {
    return reader.concerning(people, lists, spaces, rooms);
  }

  /** The ids of all meetings that somebody hosts, however many. */
  @Transactional(readOnly = true)
  public List<String> hostedAlone(String folded) {
    return meetings.hostedAlone(folded);
  }

  /** The ids of the meetings that somebody hosts, or co-hosts. */
  @Transactional(readOnly = true)
  public Set<String> hostedBy(String folded) {
    Set<String> hosted = new HashSet<>(meetings.hostedAlone(folded));
    hosted.addAll(meetings.coHosted(folded));
    return Set.copyOf(hosted);
  }

  /** Refuses a change that was made on an older version. */
  public static void checkVersion(Stored stored, long version) {
    if (stored.version() != version) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody else changed this meeting meanwhile. Look at it again and repeat the change.");
    }
  }

  /** Takes a meeting out of the register; its versions stay, so that it can be put back. */
  @Transactional
  public void cancel(String id, @Nullable String remark, String by) {
    MeetingEntity entity = entity(id);
    Stored stored = reader.stored(entity);
    versions.keep(stored, entity.passcodeCipher);
    versions.cancelled(stored, by, remark);
    note(stored.meeting(), stored, null, by);
    meetings.delete(entity);
    due.touch(id);
  }

  /** Puts into the ledger how a meeting was and how it is, never its passcode. */
  private void note(
      Meeting meeting, @Nullable Stored before, @Nullable Supplier<?> after, String by) {
    Supplier<?> was = before == null ? null : () -> document(before.meeting(), before.details());
    ledger.changed("meeting", meeting.id(), meeting.title(), was, after, by);
  }

  private static Map<String, @Nullable Object> document(Meeting meeting, Details details) {
    return MeetingDocument.of(new Scheduled(meeting, details, null));
  }

  /** Takes a meeting out without a word, as taking back an import does. */
  @Transactional
  public void forget(String id, String by) {
    MeetingEntity entity = entity(id);
    Stored stored = reader.stored(entity);
    note(stored.meeting(), stored, null, by);
    meetings.delete(entity);
    versions.forget(id);
    due.touch(id);
  }

  private MeetingEntity entity(String id) {
    return meetings
        .find(id)
        .orElseThrow(() -> ProblemException.notFound("There is no meeting " + id + "."));
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
    MeetingEntity entity = entity(id);
    Stored stored = reader.stored(entity);
    checkVersion(stored, version);
    versions.keep(stored, entity.passcodeCipher);
    ControlValues values = stored.meeting().controls();
    for (Map.Entry<Control, @Nullable Value> change : changes.entrySet()) {
      values = values.with(change.getKey(), change.getValue());
    }
    ControlValues now = values;
    note(
        stored.meeting(),
        stored,
        () -> document(stored.meeting().withControls(now), stored.details()),
        by.email());
    entity.controlSet = controlSets.idOf(values);
    entity.changed("controls", null, by.email(), clock.instant());
    meetings.update(entity);
    due.touch(id);
  }
}
