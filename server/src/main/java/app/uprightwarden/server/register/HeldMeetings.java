package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.time.Duration;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Meetings that conference services hold: what was read of them, and what is to be written. */
@Service
public class HeldMeetings {
  /** Instead of fields: the meeting is to be cancelled there. */
  static final String CANCEL = "cancel";

  /** Before a meeting has been made there, its revision is empty. */
  private static final String NOT_MADE = "";

  private static final int TOUCHED_AT_ONCE = 1000;

  private final HeldMeetingRepository rows;
  private final HeldRows held;
  private final MeetingQueries reader;
  private final Decisions decisions;
  private final RegisterChanges due;
  private final DatabaseClock clock;
  private final ApplicationEventPublisher events;

  HeldMeetings(
      HeldMeetingRepository rows,
      HeldRows held,
      MeetingQueries reader,
      Decisions decisions,
      RegisterChanges due,
      DatabaseClock clock,
      ApplicationEventPublisher events) {
    this.rows = rows;
    this.held = held;
    this.reader = reader;
    this.decisions = decisions;
    this.due = due;
    this.clock = clock;
    this.events = events;
  }

  /** Said where what was decided of meetings was confirmed, refused, or changed there. */
  public record Settled(List<String> meetings) {}

  /** Said with a decision: there is something to send to a service. */
  public record Decided(long service, String meeting) {}

  /**
   * What is to be written to a service.
   *
   * @param meeting its id in the register, {@code there} in the service
   * @param scheduled as it is stored, without its passcode; null where it is to be cancelled
   * @param held what was decided
   * @param isNew it has to be made there
   */
  public record ToWrite(
      String meeting,
      String there,
      String revision,
      String command,
      String by,
      boolean isSent,
      boolean isNew,
      boolean isCancel,
      List<String> fields,
      @Nullable StoredMeeting stored,
      int tries) {}

  /** What waits to be written to a service, and what was sent and not read back; oldest first. */
  @Transactional(readOnly = true)
  public List<ToWrite> toWrite(long service, int most) {
    List<MeetingHeldEntity> some = rows.toWrite(service, most);
    Map<String, StoredMeeting> stored = new HashMap<>();
    reader
        .among(some.stream().map(row -> row.meeting).toList())
        .forEach(each -> stored.put(each.meeting().id(), each));
    return some.stream()
        .map(
            row ->
                new ToWrite(
                    row.meeting,
                    row.there,
                    row.revision,
                    String.valueOf(row.command),
                    row.decidedBy == null ? "" : row.decidedBy,
                    row.writing.equals("sent"),
                    row.revision.equals(NOT_MADE),
                    row.fields.equals(CANCEL),
                    HeldRows.fields(row),
                    stored.get(row.meeting),
                    row.tries))
        .toList();
  }

  /** A command was answered as done, and is to be read back. */
  @Transactional
  public void sent(String meeting, String command, @Nullable String there) {
    change(
        meeting,
        command,
        row -> {
          row.writing = HeldMeeting.Writing.SENT.id();
          row.sentAt = clock.instant();
          if (there != null) {
            row.there = there;
          }
        });
  }

  /** A cancellation was answered as done: the meeting is there no more. */
  @Transactional
  public void cancelled(String meeting, String command) {
    rows.locked(meeting).filter(row -> command.equals(row.command)).ifPresent(rows::delete);
  }

  /** The service does not take it, for a reason. */
  @Transactional
  public void refused(String meeting, String command, String why) {
    change(
        meeting,
        command,
        row -> {
          row.writing = HeldMeeting.Writing.REFUSED.id();
          row.why = Texts.oneLine(why, 500);
          row.late = false;
        });
    due.touch(meeting);
    events.publishEvent(new Settled(List.of(meeting)));
  }

  private interface Change {
    void to(MeetingHeldEntity row);
  }

  /** A later decision has another number, and an answer to the one before is none to it. */
  private void change(String meeting, String command, Change change) {
    // an answer that was not noted, since something else was being changed, would be asked for
    // again
    MeetingHeldEntity row = rows.locked(meeting).orElse(null);
    if (row != null && command.equals(row.command)) {
      change.to(row);
      rows.update(row);
    }
  }

  /** A meeting is to be held by a service: it is made there. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void hold(StoredMeeting stored, ServiceMeans.Named service, String by) {
    MeetingHeldEntity there = rows.find(stored.meeting().id()).orElse(null);
    if (there != null && held.read(there) != null) {
      throw ProblemException.conflict(
          "held-already", "A conference service holds this meeting already.");
    }
    if (there != null) {
      rows.delete(there); // its service was unlinked
    }
    MeetingHeldEntity row = new MeetingHeldEntity();
    row.meeting = stored.meeting().id();
    row.service = service.id();
    row.there = stored.meeting().id();
    row.readAt = clock.instant();
    row.writing = HeldMeeting.Writing.NONE.id();
    Map<String, ControlValues> decided = new LinkedHashMap<>();
    Means means = service.means();
    decided.put("", within(means, stored.meeting().controls(), Means.Place.MEETING));
    stored
        .meeting()
        .changes()
        .forEach(
            change ->
                decided.put(
                    change.at().toString(),
                    within(means, change.controls(), Means.Place.OCCURRENCE)));
    held.set(row, decided, Map.of());
    rows.insert(List.of(row));
    decisions.send(row, service, by);
    due.touch(row.meeting);
  }

  /** What a service can hold of some values; what it cannot is nobody's decision for it. */
  private static ControlValues within(Means means, ControlValues values, Means.Place place) {
    Map<Control, Value> within = new EnumMap<>(Control.class);
    values
        .asMap()
        .forEach(
            (control, value) -> {
              if (means.takes(control, place) && means.valueFor(control, value) != null) {
                within.put(control, value);
              }
            });
    return ControlValues.of(within);
  }

  /**
   * Has what was decided sent once more, whatever the service holds now.
   *
   * @throws ProblemException 409 where nothing differs
   */
  @Transactional
  public void setBack(StoredMeeting seen, String by) {
    MeetingHeldEntity row = locked(seen);
    StoredMeeting stored = reader.find(row.meeting).orElse(seen);
    HeldMeeting of = service(stored);
    if (of.held(stored.meeting()).differences().isEmpty() && of.fields().isEmpty()) {
      throw ProblemException.conflict(
          "nothing-differs", of.service().name() + " holds what was decided. Look again.");
    }
    held.set(row, held.decided(row), Map.of());
    decisions.send(row, of.service(), by);
    if (of.service().level().equals("suggest")) {
      row.writing = HeldMeeting.Writing.WAITING.id(); // somebody has just released it
      rows.update(row);
    }
    due.touch(row.meeting);
  }

  /** Decides that it may be as the service holds it, wherever the two differ. */
  @Transactional
  public void accept(StoredMeeting seen, String by) {
    MeetingHeldEntity row = locked(seen);
    StoredMeeting stored = reader.find(row.meeting).orElse(seen);
    HeldMeeting of = service(stored);
    Map<String, ControlValues> decided = new LinkedHashMap<>(of.decided());
    for (Held.Difference each : of.held(stored.meeting()).differences()) {
      String date = each.occurrence() == null ? "" : each.occurrence().toString();
      decided.put(
          date, decided.getOrDefault(date, ControlValues.NONE).with(each.control(), each.held()));
    }
    held.set(row, decided, Map.of());
    row.writing = HeldMeeting.Writing.CONFIRMED.id();
    row.command = null;
    row.why = null;
    row.late = false;
    row.decidedBy = by;
    row.decidedAt = clock.instant();
    row.confirmedAt = row.decidedAt;
    rows.update(row);
    due.touch(row.meeting);
  }

  /** A reading of its service may change it at this moment: what was seen is looked at again. */
  private MeetingHeldEntity locked(StoredMeeting seen) {
    service(seen);
    return rows.locked(seen.meeting().id()).orElseThrow(HeldMeetings::byNone);
  }

  private static ProblemException byNone() {
    return ProblemException.conflict("held-by-none", "No conference service holds this meeting.");
  }

  private static HeldMeeting service(StoredMeeting stored) {
    HeldMeeting of = stored.service();
    if (of == null) {
      throw byNone();
    }
    return of;
  }

  /** Whether a meeting's service still has to take and confirm what was decided. */
  @Transactional(readOnly = true)
  public boolean isUnderWay(String meeting) {
    return rows.find(meeting)
        .filter(row -> row.writing.equals("waiting") || row.writing.equals("sent"))
        .isPresent();
  }

  /** Notices what has not been confirmed for longer than is allowed. */
  @Transactional
  public int noticeLate(Duration allowed, int most) {
    List<MeetingHeldEntity> late = rows.late(clock.instant().minus(allowed), most);
    late.forEach(row -> row.late = true);
    rows.update(late);
    due.touch(late.stream().map(row -> row.meeting).toList());
    return late.size();
  }

  /** Sends what was kept, once a service is linked for writing. */
  @Transactional(propagation = Propagation.MANDATORY)
  public int release(ServiceMeans.Named service, int most) {
    List<MeetingHeldEntity> kept = rows.kept(service.id(), most);
    kept.forEach(row -> decisions.send(row, service, row.decidedBy == null ? "" : row.decidedBy));
    due.touch(kept.stream().map(row -> row.meeting).toList());
    return kept.size();
  }

  /** Has everything that a service holds judged anew. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void judgeAnew(long service) {
    List<String> some = rows.ids(service, "", TOUCHED_AT_ONCE);
    while (!some.isEmpty()) {
      due.touch(some);
      some = rows.ids(service, some.get(some.size() - 1), TOUCHED_AT_ONCE);
    }
  }

  /** Keeps back what waits, where a service is linked for writing no more. */
  @Transactional(propagation = Propagation.MANDATORY)
  public int keepBack(long service, int most) {
    List<MeetingHeldEntity> waiting = rows.waiting(service, most);
    waiting.forEach(
        row -> {
          row.writing = HeldMeeting.Writing.KEPT.id();
          row.late = false;
        });
    rows.update(waiting);
    due.touch(waiting.stream().map(row -> row.meeting).toList());
    return waiting.size();
  }

  /** How many meetings services hold, by how far what was decided has come. */
  @Transactional(readOnly = true)
  public Map<Long, Map<String, Long>> counts() {
    Map<Long, Map<String, Long>> counts = new HashMap<>();
    rows.counts()
        .forEach(
            row ->
                counts
                    .computeIfAbsent(row.service(), s -> new TreeMap<>())
                    .put(row.writing(), row.meetings()));
    return counts;
  }

  /**
   * How many meetings of a unit and a kind a service holds.
   *
   * @param unit of the host; null where the host is not in the directory
   */
  public record HeldGroup(
      long service, @Nullable String unit, @Nullable String kind, long meetings) {}

  /** All that services hold, by service, unit and kind. */
  @Transactional(readOnly = true)
  public List<HeldGroup> groups() {
    return rows.groups();
  }

  /** What was decided, in the values that the service has for it, in plain form. */
  public static Map<String, Object> carried(StoredMeeting stored, String date) {
    Map<String, Object> carried = new LinkedHashMap<>();
    HeldMeeting of = stored.service();
    if (of != null) {
      of.decided()
          .getOrDefault(date, ControlValues.NONE)
          .asMap()
          .forEach(
              (control, value) -> {
                Value stands = of.service().means().valueFor(control, value);
                if (stands != null) {
                  carried.put(control.id(), control.plain(stands));
                }
              });
    }
    return carried;
  }

  /** Controls that differ from what was decided, as their plain values. */
  public static Map<String, @Nullable Object> wanted(StoredMeeting stored, String date) {
    Map<String, @Nullable Object> wanted = new LinkedHashMap<>();
    HeldMeeting of = stored.service();
    if (of != null) {
      ControlValues values = of.decided().getOrDefault(date, ControlValues.NONE);
      for (Map.Entry<Control, Value> each : values.asMap().entrySet()) {
        Value stands = of.service().means().valueFor(each.getKey(), each.getValue());
        // what somebody changed there is set back by whoever has seen it, and not by the way
        if (stands != null
            && !of.notes().containsKey(HeldMeeting.key(date, each.getKey()))
            && !stands.equals(HeldMeeting.heldValue(stored.meeting(), date, each.getKey()))) {
          wanted.put(each.getKey().id(), each.getKey().plain(stands));
        }
      }
    }
    return wanted;
  }
}
