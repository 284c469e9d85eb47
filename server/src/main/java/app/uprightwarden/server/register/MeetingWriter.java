package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.vault.Vault;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes meetings, one or a thousand: what was there is kept as a version, who and what belongs to
 * them goes with them, the ledger is told, and they are noted as to be looked at again.
 */
@Component
class MeetingWriter {
  private final MeetingRepository meetings;
  private final MeetingQueries reader;
  private final ControlSets controlSets;
  private final Vault vault;
  private final MeetingVersions versions;
  private final MeetingLines lines;
  private final RegisterChanges due;
  private final Decisions decisions;
  private final PhonePasscodes phones;
  private final Ledger ledger;
  private final JsonMapper json;
  private final Clock clock;

  MeetingWriter(
      MeetingRepository meetings,
      MeetingQueries reader,
      ControlSets controlSets,
      Vault vault,
      MeetingVersions versions,
      MeetingLines lines,
      RegisterChanges due,
      Decisions decisions,
      PhonePasscodes phones,
      Ledger ledger,
      JsonMapper json,
      Clock clock) {
    this.meetings = meetings;
    this.reader = reader;
    this.controlSets = controlSets;
    this.vault = vault;
    this.versions = versions;
    this.lines = lines;
    this.due = due;
    this.decisions = decisions;
    this.phones = phones;
    this.ledger = ledger;
    this.json = json;
    this.clock = clock;
  }

  /**
   * Adds meetings or puts them in place of those with their ids.
   *
   * @param remark why they are changed, or null
   * @return what is stored now, by id
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, StoredMeeting> put(
      List<Scheduled> some, String act, @Nullable String remark, String by) {
    return put(some, act, remark, by, false, Set.of());
  }

  /**
   * The same with controls that are sent to a conference service again, even where they had been
   * decided so before.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, StoredMeeting> put(
      Scheduled one, String act, @Nullable String remark, String by, Set<String> insisted) {
    Map<String, StoredMeeting> put = put(List.of(one), act, remark, by, false, insisted);
    phones.settle(one.meeting());
    return put;
  }

  /** The same with what a conference service said that it holds: it is no decision. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, StoredMeeting> putHeld(
      List<Scheduled> some, String act, @Nullable String remark, String by) {
    return put(some, act, remark, by, true, Set.of());
  }

  private Map<String, StoredMeeting> put(
      List<Scheduled> some,
      String act,
      @Nullable String remark,
      String by,
      boolean isHeld,
      Set<String> insisted) {
    Map<String, MeetingEntity> there = new HashMap<>();
    Map<Long, StoredMeeting> before = new HashMap<>();
    List<String> ids = some.stream().map(scheduled -> scheduled.meeting().id()).toList();
    List<MeetingEntity> found = meetings.among(ids);
    found.forEach(row -> there.put(row.publicId, row));
    reader.assemble(found).forEach(stored -> before.put(stored.row(), stored));
    List<MeetingVersionEntity> replaced = new ArrayList<>();
    Map<MeetingEntity, Meeting> written = new LinkedHashMap<>();
    List<MeetingEntity> changed = new ArrayList<>();
    Set<String> renewed = new HashSet<>();
    Instant now = clock.instant();
    for (Scheduled wanted : some) {
      MeetingEntity row = there.get(wanted.meeting().id());
      StoredMeeting was = row == null ? null : before.get(row.id);
      boolean isDecided = was != null && was.service() != null && !isHeld;
      Scheduled scheduled =
          PhonePasscodes.keepingWeakness(
              isDecided && was != null ? decisions.note(was, wanted, insisted, by) : wanted,
              was == null ? null : was.meeting());
      Meeting meeting = scheduled.meeting();
      MeetingLimits.check(meeting, scheduled.details());
      // the ledger has what was wanted, and who wanted it
      note(
          meeting,
          was,
          isDecided && was != null ? was.decided() : null,
          () -> document(isDecided ? wanted.meeting() : meeting, wanted.details()),
          by);
      if (row == null) {
        row = new MeetingEntity();
      } else if (was != null) {
        replaced.add(versions.version(was, row.passcodeCipher));
        changed.add(row);
      }
      String passcode = scheduled.passcode();
      PasscodeFacts facts = meeting.passcode();
      boolean isSame = facts != null && facts.fingerprint().equals(row.passcodeFingerprint);
      if (was != null && !isSame) {
        renewed.add(meeting.id());
      }
      row.set(
          meeting,
          scheduled.details(),
          passcode == null ? null : vault.seal(meeting.id(), passcode),
          controlSets::idOf,
          json::writeValueAsString);
      row.changed(act, remark, by, now);
      written.put(row, meeting);
      remember(meeting);
    }
    versions.keep(replaced);
    meetings.insert(written.keySet().stream().filter(row -> row.id == 0).toList());
    meetings.update(changed);
    putPeople(written, before.keySet());
    putChanges(written, before.keySet());
    phones.take(some, renewed);
    lines.put(written.values(), there.keySet(), now);
    due.touch(ids);
    Map<String, StoredMeeting> stored = new HashMap<>();
    reader
        .assemble(List.copyOf(written.keySet()))
        .forEach(each -> stored.put(each.meeting().id(), each));
    return stored;
  }

  /** Who has a part in meetings, written where it is not so already. */
  private void putPeople(Map<MeetingEntity, Meeting> written, Set<Long> known) {
    Map<Long, List<MeetingPersonEntity>> were =
        known.isEmpty()
            ? Map.of()
            : meetings.people(known).stream().collect(Collectors.groupingBy(row -> row.meeting));
    List<MeetingPersonEntity> fresh = new ArrayList<>();
    List<Long> stale = new ArrayList<>();
    written.forEach(
        (row, meeting) -> {
          List<MeetingPersonEntity> people = row.people(meeting);
          List<MeetingPersonEntity> had = were.getOrDefault(row.id, List.of());
          if (!areSame(people, had, MeetingPersonEntity::isAs)) {
            fresh.addAll(people);
            stale.add(row.id);
          }
        });
    stale.retainAll(were.keySet());
    if (!stale.isEmpty()) {
      meetings.deletePeople(stale);
    }
    meetings.insertPeople(fresh);
  }

  /** The occurrences of meetings that differ, likewise. */
  private void putChanges(Map<MeetingEntity, Meeting> written, Set<Long> known) {
    Map<Long, List<MeetingChangeEntity>> were =
        known.isEmpty()
            ? Map.of()
            : meetings.changes(known).stream().collect(Collectors.groupingBy(row -> row.meeting));
    List<MeetingChangeEntity> fresh = new ArrayList<>();
    List<Long> stale = new ArrayList<>();
    written.forEach(
        (row, meeting) -> {
          List<MeetingChangeEntity> changes = row.changes(meeting.changes(), controlSets::idOf);
          List<MeetingChangeEntity> had = were.getOrDefault(row.id, List.of());
          if (!areSame(changes, had, MeetingChangeEntity::isAs)) {
            fresh.addAll(changes);
            stale.add(row.id);
          }
        });
    stale.retainAll(were.keySet());
    if (!stale.isEmpty()) {
      meetings.deleteChanges(stale);
    }
    meetings.insertChanges(fresh);
  }

  private static <T> boolean areSame(List<T> some, List<T> others, BiPredicate<T, T> same) {
    return some.size() == others.size()
        && IntStream.range(0, some.size()).allMatch(i -> same.test(some.get(i), others.get(i)));
  }

  /** A number that may be used again becomes its host's own, unless it is somebody's already. */
  private void remember(Meeting meeting) {
    if (meeting.number() != null
        && meeting.controls().get(Control.MEETING_NUMBER) != null
        && meeting.controls().is(Control.MEETING_NUMBER, "reusable")) {
      meetings.remember(meeting.number(), Directory.fold(meeting.host()));
    }
  }

  /** Takes a meeting out of the register; its versions stay, so that it can be put back. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cancel(MeetingEntity row, @Nullable String remark, String by) {
    decisions.cancelled(reader.stored(row), by);
    cancelHeld(row, remark, by);
  }

  /** The same where it is the conference service that has cancelled it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cancelHeld(MeetingEntity row, @Nullable String remark, String by) {
    StoredMeeting stored = reader.stored(row);
    versions.keep(List.of(versions.version(stored, row.passcodeCipher)));
    versions.cancelled(stored, by, remark);
    note(stored.meeting(), stored, null, null, by);
    meetings.delete(row);
    lines.remove(List.of(row.publicId));
    due.touch(row.publicId);
  }

  /** Takes meetings out without a word. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void forget(List<String> ids, String by) {
    List<MeetingEntity> rows = meetings.among(ids);
    reader
        .assemble(rows)
        .forEach(
            stored -> {
              decisions.cancelled(stored, by);
              note(stored.meeting(), stored, null, null, by);
            });
    due.touch(ids);
    meetings.delete(rows.stream().map(row -> row.id).toList());
    lines.remove(ids);
    versions.forget(ids);
  }

  /** Changes controls of a meeting or of one date; see {@link RegisterService#changeControls}. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void changeControls(
      MeetingEntity row,
      long version,
      @Nullable LocalDateTime date,
      Map<Control, @Nullable Value> changes,
      String by) {
    StoredMeeting stored = reader.stored(row);
    RegisterService.checkVersion(stored, version);
    versions.keep(List.of(versions.version(stored, row.passcodeCipher)));
    Meeting wanted = with(stored.decided(), date, changes);
    MeetingLimits.check(wanted, stored.details());
    note(stored.meeting(), stored, stored.decided(), () -> document(wanted, stored.details()), by);
    if (stored.service() != null) {
      String at = date == null ? "" : date.toString();
      decisions.note(
          stored,
          new Scheduled(wanted, stored.details(), null, true),
          changes.keySet().stream()
              .map(control -> HeldMeeting.key(at, control))
              .collect(Collectors.toSet()),
          by);
    } else if (date == null) {
      row.controlSet = controlSets.idOf(wanted.controls());
      row.digitsGo(PhonePasscodes.isNeeded(wanted));
    } else {
      putChanges(Map.of(row, wanted), Set.of(row.id));
    }
    row.changed("controls", null, by, clock.instant());
    meetings.update(List.of(row));
    lines.touch(row.publicId, row.changedAt);
    due.touch(row.publicId);
    phones.settle(wanted);
  }

  private static Meeting with(
      Meeting meeting, @Nullable LocalDateTime date, Map<Control, @Nullable Value> changes) {
    ControlValues values =
        date == null ? meeting.controls() : HeldMeeting.over(meeting, date.toString());
    for (Map.Entry<Control, @Nullable Value> change : changes.entrySet()) {
      values = values.with(change.getKey(), change.getValue());
    }
    return date == null ? meeting.withControls(values) : meeting.withDate(date, values);
  }

  /** Puts into the ledger how a meeting was and how it is, never its passcode. */
  private void note(
      Meeting meeting,
      @Nullable StoredMeeting before,
      @Nullable Meeting decidedBefore,
      @Nullable Supplier<?> after,
      String by) {
    Supplier<?> was =
        before == null
            ? null
            : () ->
                document(
                    decidedBefore == null ? before.meeting() : decidedBefore, before.details());
    ledger.changed("meeting", meeting.id(), meeting.title(), was, after, by);
  }

  private static Map<String, @Nullable Object> document(Meeting meeting, Details details) {
    return MeetingDocument.of(new Scheduled(meeting, details, null));
  }
}
