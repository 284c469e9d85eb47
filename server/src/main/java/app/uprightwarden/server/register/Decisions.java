package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.server.persistence.DatabaseClock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/**
 * The one place where what somebody decided for a meeting in a conference service is written. The
 * meeting itself stays as the service holds it; what was decided is noted beside it, to be sent,
 * and becomes the meeting's own once it was read back.
 */
@Component
class Decisions {
  /** What is ours alone and means nothing to a service. */
  private static final Set<String> OURS =
      Set.of("id", "controls", "occurrences", "number", "uid", "sequence", "foreign", "reminder");

  private final HeldMeetingRepository rows;
  private final HeldRows held;
  private final DatabaseClock clock;
  private final ApplicationEventPublisher events;

  Decisions(
      HeldMeetingRepository rows,
      HeldRows held,
      DatabaseClock clock,
      ApplicationEventPublisher events) {
    this.rows = rows;
    this.held = held;
    this.clock = clock;
    this.events = events;
  }

  /**
   * Notes what somebody wants otherwise.
   *
   * @param was the meeting as it is held
   * @param wanted the meeting as somebody wants it, begun from {@link StoredMeeting#decided}
   * @param insisted controls ({@link HeldMeeting#key}) that somebody has set now, though they may
   *     have been decided so before: they are sent again over whatever is held
   * @return what is to be stored: as it is held, save what only the register knows
   */
  Scheduled note(StoredMeeting was, Scheduled wanted, Set<String> insisted, String by) {
    HeldMeeting of = Objects.requireNonNull(was.service());
    // a reading may be confirming what was decided before: nobody is refused for that
    MeetingHeldEntity row = rows.locked(was.meeting().id()).orElseThrow();
    Meeting from = was.decided();
    Meeting to = wanted.meeting();
    Map<String, ControlValues> decided = new LinkedHashMap<>(held.decided(row));
    Map<String, HeldMeeting.Note> notes = new LinkedHashMap<>(held.notes(row));
    boolean changed = decide(decided, notes, "", from.controls(), to.controls(), insisted);
    for (String date : dates(from, to)) {
      changed |=
          decide(
              decided,
              notes,
              date,
              HeldMeeting.over(from, date),
              HeldMeeting.over(to, date),
              insisted);
    }
    Set<String> fields = new LinkedHashSet<>(HeldRows.fields(row));
    changed |= fields.addAll(differing(was, wanted));
    if (changed) {
      held.set(row, decided, notes);
      row.fields = String.join(",", fields);
      send(row, of.service(), by);
    }
    return asHeld(was, wanted);
  }

  /** Has what was decided sent under a new number, or kept where nothing may be sent. */
  void send(MeetingHeldEntity row, ServiceMeans.Named service, String by) {
    boolean sends = service.level().equals("write");
    row.writing = (sends ? HeldMeeting.Writing.WAITING : HeldMeeting.Writing.KEPT).id();
    row.command = UUID.randomUUID().toString();
    row.tries = 0;
    row.why = null;
    row.late = false;
    row.decidedBy = by;
    row.decidedAt = clock.instant();
    row.sentAt = null;
    row.confirmedAt = null;
    rows.update(row);
    events.publishEvent(new HeldMeetings.Decided(row.service, row.meeting));
  }

  /**
   * A meeting is taken out of the register: where it is held, it is to be cancelled there too. One
   * that was never made there is forgotten.
   */
  void cancelled(StoredMeeting stored, String by) {
    HeldMeeting of = stored.service();
    if (of == null) {
      return;
    }
    MeetingHeldEntity row = rows.locked(stored.meeting().id()).orElseThrow();
    if (of.revision().isEmpty() && !row.writing.equals("sent")) {
      rows.delete(row);
      return;
    }
    row.fields = HeldMeetings.CANCEL;
    send(row, of.service(), by);
  }

  private static Set<String> dates(Meeting from, Meeting to) {
    Set<String> dates = new TreeSet<>();
    from.changes().forEach(change -> dates.add(change.at().toString()));
    to.changes().forEach(change -> dates.add(change.at().toString()));
    return dates;
  }

  private static boolean decide(
      Map<String, ControlValues> decided,
      Map<String, HeldMeeting.Note> notes,
      String date,
      ControlValues from,
      ControlValues to,
      Set<String> insisted) {
    boolean changed = false;
    for (Control control : Control.all()) {
      Value value = to.get(control);
      if (!Objects.equals(from.get(control), value)
          || insisted.contains(HeldMeeting.key(date, control))) {
        // what is taken away is a decision no more; the service always holds something
        decided.put(date, decided.getOrDefault(date, ControlValues.NONE).with(control, value));
        notes.remove(HeldMeeting.key(date, control));
        changed = true;
      }
    }
    return changed;
  }

  private static Set<String> differing(StoredMeeting was, Scheduled wanted) {
    Map<String, @Nullable Object> before =
        MeetingDocument.of(new Scheduled(was.meeting(), was.details(), null));
    Map<String, @Nullable Object> after =
        MeetingDocument.of(new Scheduled(wanted.meeting(), wanted.details(), null));
    Set<String> fields = new TreeSet<>(before.keySet());
    fields.addAll(after.keySet());
    fields.removeIf(
        field -> OURS.contains(field) || Objects.equals(before.get(field), after.get(field)));
    if (!times(was.meeting()).equals(times(wanted.meeting()))) {
      fields.add("occurrences");
    }
    if (!Objects.equals(was.meeting().number(), wanted.meeting().number())) {
      fields.add("number");
    }
    if (!Objects.equals(was.meeting().passcode(), wanted.meeting().passcode())) {
      fields.add("passcode");
    }
    return fields;
  }

  /** When dates differ from their series, whatever their controls. */
  private static List<OccurrenceChange> times(Meeting meeting) {
    return meeting.changes().stream()
        .filter(change -> change.start() != null || change.minutes() != null)
        .map(c -> new OccurrenceChange(c.at(), c.start(), c.minutes(), ControlValues.NONE))
        .toList();
  }

  private static Scheduled asHeld(StoredMeeting was, Scheduled wanted) {
    Meeting to = wanted.meeting();
    List<OccurrenceChange> changes = new ArrayList<>();
    for (OccurrenceChange change : to.changes()) {
      ControlValues over = HeldMeeting.over(was.meeting(), change.at().toString());
      if (change.start() != null || change.minutes() != null || !over.asMap().isEmpty()) {
        changes.add(new OccurrenceChange(change.at(), change.start(), change.minutes(), over));
      }
    }
    Meeting stored =
        to.withControls(was.meeting().controls())
            .withNumber(was.meeting().number())
            .withExceptions(to.exDates(), List.copyOf(changes));
    return new Scheduled(stored, wanted.details(), wanted.passcode(), wanted.passcodeLeftOut());
  }
}
