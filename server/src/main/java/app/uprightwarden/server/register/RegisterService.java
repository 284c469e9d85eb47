package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.vault.Vault;
import java.time.LocalDateTime;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The meetings that are scheduled. */
@Service
public class RegisterService {
  private static final int PAGE = 1000;

  private final MeetingRepository meetings;
  private final MeetingQueries reader;
  private final MeetingWriter writer;
  private final PhonePasscodes phones;
  private final ControlSets controlSets;
  private final Vault vault;
  private final UnitScope units;

  RegisterService(
      MeetingRepository meetings,
      MeetingQueries reader,
      MeetingWriter writer,
      PhonePasscodes phones,
      ControlSets controlSets,
      Vault vault,
      UnitScope units) {
    this.meetings = meetings;
    this.reader = reader;
    this.writer = writer;
    this.phones = phones;
    this.controlSets = controlSets;
    this.vault = vault;
    this.units = units;
  }

  @Transactional(readOnly = true)
  public Optional<StoredMeeting> find(String id) {
    return reader.find(id);
  }

  /** The meeting, if this person may see it: a host sees their own, a unit's warden the unit's. */
  @Transactional(readOnly = true)
  public StoredMeeting get(String id, SignedIn who) {
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
  public void each(Consumer<List<StoredMeeting>> page) {
    List<StoredMeeting> next = reader.after(0, PAGE);
    while (!next.isEmpty()) {
      page.accept(next);
      next = reader.after(next.get(next.size() - 1).row(), PAGE);
    }
  }

  /** The meetings behind a row, in the order in which they were stored. */
  @Transactional(readOnly = true)
  public List<StoredMeeting> after(long row, int most) {
    return reader.after(row, most);
  }

  /**
   * The meetings that share something with others: a host, a number or a passcode.
   *
   * @param what of them is shared
   */
  @Transactional(readOnly = true)
  public List<StoredMeeting> sharing(Shared what, Collection<String> keys) {
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
  public Map<Long, StoredMeeting> rows(List<Long> rows) {
    Map<Long, StoredMeeting> found = new HashMap<>();
    if (!rows.isEmpty()) {
      reader.rows(rows).forEach(stored -> found.put(stored.row(), stored));
    }
    return found;
  }

  /** Those of these ids that are stored, by id. */
  @Transactional(readOnly = true)
  public Map<String, StoredMeeting> among(List<String> ids) {
    Map<String, StoredMeeting> found = new HashMap<>();
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

  /** A form as it will be kept: what it leaves unsaid of a telephone's digits stays. */
  public static Scheduled keeping(Scheduled form, @Nullable StoredMeeting before) {
    return PhonePasscodes.keepingWeakness(form, before == null ? null : before.meeting());
  }

  /** Whether callers could not type a meeting's passcode, so that digits stand beside it. */
  public static boolean needsPhonePasscode(Meeting meeting) {
    return PhonePasscodes.isNeeded(meeting);
  }

  /** The digits for telephones beside it, or null where there are none. */
  @Transactional(readOnly = true)
  public @Nullable String phonePasscode(String id) {
    return phones.of(id);
  }

  /** Those of these names in calendars that are stored, by the name. */
  @Transactional(readOnly = true)
  public Map<String, StoredMeeting> byUid(List<String> uids) {
    Map<String, StoredMeeting> found = new HashMap<>();
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
    return put(scheduled, act, remark, by, "", Set.of());
  }

  /**
   * The same with controls that somebody has set now: a conference service is told of them again,
   * even where they had been decided so before.
   *
   * @param occurrence the original local start of the date concerned, empty for the series
   */
  @Transactional
  public long put(
      Scheduled scheduled,
      String act,
      @Nullable String remark,
      String by,
      String occurrence,
      Set<Control> insisted) {
    Details details = scheduled.details();
    String id = scheduled.meeting().id();
    String uid = details.uid();
    String known = uid == null ? null : find(id).map(s -> s.details().uid()).orElse(null);
    checkUid(id, uid, known);
    Set<String> keys =
        insisted.stream()
            .map(control -> HeldMeeting.key(occurrence, control))
            .collect(Collectors.toSet());
    return Objects.requireNonNull(writer.put(scheduled, act, remark, by, keys).get(id)).version();
  }

  /**
   * Adds meetings or puts them in place of those with their ids, a thousand at a time at most. The
   * caller has made sure that no name in calendars is another meeting's.
   *
   * @return what is stored now, by id
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, StoredMeeting> putAll(List<Scheduled> some, String act, String by) {
    return writer.put(some, act, null, by);
  }

  /** Of two meetings with one name in calendars, each would get the other's answers. */
  private void checkUid(String id, @Nullable String uid, @Nullable String before) {
    if (uid != null && !uid.equals(before) && isOthers(id, uid)) {
      throw ProblemException.conflict(
          "uid-taken",
          "Another meeting has the name “%s” in calendars. Nothing was changed."
              .formatted(Texts.cut(uid, 100)));
    }
  }

  /**
   * Whose names in calendars (UID) are, of those that are some meeting's: its own, or made here.
   */
  @Transactional(readOnly = true)
  public Map<String, Set<String>> ownersOf(Collection<String> uids) {
    Map<String, Set<String>> owners = new HashMap<>();
    if (uids.isEmpty()) {
      return owners;
    }
    meetings
        .uids(uids)
        .forEach(row -> owners.computeIfAbsent(row.uid(), u -> new HashSet<>()).add(row.id()));
    Map<String, String> made = new HashMap<>();
    for (String uid : uids) {
      String id = Details.madeHere(uid);
      if (id != null) {
        made.put(id, uid);
      }
    }
    present(made.keySet())
        .forEach(id -> owners.computeIfAbsent(made.get(id), u -> new HashSet<>()).add(id));
    return owners;
  }

  /** Whether a name in calendars (UID) is another meeting's, its own or one that was made here. */
  @Transactional(readOnly = true)
  public boolean isOthers(String id, String uid) {
    return ownersOf(List.of(uid)).values().stream()
        .flatMap(Set::stream)
        .anyMatch(owner -> !owner.equals(id));
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
  public List<StoredMeeting> concerning(
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
  public static void checkVersion(StoredMeeting stored, long version) {
    if (stored.version() != version) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody else changed this meeting meanwhile. Look at it again and repeat the change.");
    }
  }

  /** Takes a meeting out of the register; its versions stay, so that it can be put back. */
  @Transactional
  public void cancel(String id, @Nullable String remark, String by) {
    writer.cancel(entity(id), remark, by);
  }

  /** Takes meetings out without a word, a thousand at a time, as taking back an import does. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void forgetAll(List<String> ids, String by) {
    writer.forget(ids, by);
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
    writer.changeControls(entity(id), version, null, changes, by.email());
  }

  /**
   * Changes the controls that one date has of its own.
   *
   * @param date its original local start
   * @param changes null for a control has it as the series does again
   * @throws ProblemException 409 where the meeting was changed since
   */
  @Transactional
  public void changeControls(
      String id,
      long version,
      LocalDateTime date,
      Map<Control, @Nullable Value> changes,
      SignedIn by) {
    writer.changeControls(entity(id), version, date, changes, by.email());
  }
}
