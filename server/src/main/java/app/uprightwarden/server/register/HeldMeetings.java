package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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

  private static final String ACT = "held";

  private static final int AT_ONCE = 500;

  private final HeldMeetingRepository rows;
  private final HeldRows held;
  private final MeetingRepository meetings;
  private final MeetingQueries reader;
  private final MeetingWriter writer;
  private final Decisions decisions;
  private final RegisterChanges due;
  private final DatabaseClock clock;
  private final ApplicationEventPublisher events;

  HeldMeetings(
      HeldMeetingRepository rows,
      HeldRows held,
      MeetingRepository meetings,
      MeetingQueries reader,
      MeetingWriter writer,
      Decisions decisions,
      RegisterChanges due,
      DatabaseClock clock,
      ApplicationEventPublisher events) {
    this.rows = rows;
    this.held = held;
    this.meetings = meetings;
    this.reader = reader;
    this.writer = writer;
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
   * A meeting as a service tells of it.
   *
   * @param there its id in the service
   * @param scheduled the meeting under an id for the register; null where it was cancelled
   */
  public record Told(
      String there,
      String revision,
      @Nullable Instant changedAt,
      @Nullable String changedBy,
      @Nullable Scheduled scheduled,
      @Nullable String link,
      List<String> dialIn) {}

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

  /** The ids in the register of meetings by their ids in a service, for those that are known. */
  @Transactional(readOnly = true)
  public Map<String, String> known(long service, Collection<String> there) {
    Map<String, String> known = new HashMap<>();
    if (!there.isEmpty()) {
      rows.there(service, there).forEach(row -> known.put(row.there, row.meeting));
    }
    return known;
  }

  /**
   * Takes in what a service tells: what it holds becomes the meeting's own, and where that is not
   * what was decided, it is noted who changed it. What a service told before must not be given
   * after what it told later.
   *
   * @param name of the service
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void read(long service, String name, Means means, List<Told> some) {
    Instant now = clock.instant();
    Map<String, MeetingHeldEntity> known = new HashMap<>();
    rows.there(service, some.stream().map(Told::there).toList())
        .forEach(row -> known.put(row.there, row));
    Map<String, StoredMeeting> stored = new HashMap<>();
    reader
        .among(known.values().stream().map(row -> row.meeting).toList())
        .forEach(each -> stored.put(each.meeting().id(), each));
    Map<String, Told> last = new LinkedHashMap<>();
    some.forEach(told -> last.put(told.there(), told));
    List<MeetingHeldEntity> fresh = new ArrayList<>();
    Map<String, List<Scheduled>> put = new TreeMap<>();
    for (Told told : last.values()) {
      MeetingHeldEntity row = known.get(told.there());
      if (told.scheduled() == null) {
        gone(row, told, name);
      } else if (row == null) {
        fresh.add(row(service, told, now));
        put.computeIfAbsent(who(told, name), by -> new ArrayList<>()).add(told.scheduled());
      } else if (!row.fields.equals(CANCEL)) {
        StoredMeeting was = stored.get(row.meeting);
        if (was == null) {
          rows.delete(row); // its meeting went without it
          continue;
        }
        Scheduled is = merged(row, was, told);
        boolean differs = differs(was, is);
        boolean noted = note(row, was, is, told, means, now);
        if (differs) {
          put.computeIfAbsent(who(told, name), by -> new ArrayList<>()).add(is);
        } else if (noted) {
          due.touch(row.meeting);
        }
      }
    }
    put.forEach((by, list) -> writer.putHeld(list, ACT, null, by));
    rows.insert(fresh);
    if (!known.isEmpty()) {
      events.publishEvent(new Settled(known.values().stream().map(row -> row.meeting).toList()));
    }
  }

  private static String who(Told told, String name) {
    String by = told.changedBy();
    return Texts.cut(by == null || by.isBlank() ? name : by, 254);
  }

  private void gone(@Nullable MeetingHeldEntity row, Told told, String name) {
    if (row == null) {
      return;
    }
    rows.delete(row);
    meetings
        .find(row.meeting)
        .ifPresent(
            meeting ->
                writer.cancelHeld(meeting, "It was cancelled in " + name + ".", who(told, name)));
  }

  private static MeetingHeldEntity row(long service, Told told, Instant now) {
    MeetingHeldEntity row = new MeetingHeldEntity();
    row.meeting = Objects.requireNonNull(told.scheduled()).meeting().id();
    row.service = service;
    row.there = told.there();
    row.writing = HeldMeeting.Writing.NONE.id();
    row.readAt = now;
    row.revision = told.revision();
    row.link = told.link();
    return row;
  }

  /** What the service says, save what was changed here and has still to be written. */
  private static Scheduled merged(MeetingHeldEntity row, StoredMeeting was, Told told) {
    Scheduled is = Objects.requireNonNull(told.scheduled());
    Meeting of = is.meeting();
    boolean isAnswered = row.writing.equals("sent");
    List<String> ours = isAnswered ? List.of() : HeldRows.fields(row);
    Meeting mine = was.meeting();
    Meeting merged =
        new Meeting(
            row.meeting,
            ours.contains("title") ? mine.title() : of.title(),
            ours.contains("description") ? mine.description() : of.description(),
            ours.contains("kind") || of.kind() == null ? mine.kind() : of.kind(),
            ours.contains("host") ? mine.host() : of.host(),
            ours.contains("coHosts") ? mine.coHosts() : of.coHosts(),
            ours.contains("presenters") ? mine.presenters() : of.presenters(),
            ours.contains("invitees") ? mine.invitees() : of.invitees(),
            ours.contains("lists") ? mine.lists() : of.lists(),
            ours.contains("space") ? mine.space() : of.space(),
            ours.contains("start") ? mine.start() : of.start(),
            ours.contains("zone") ? mine.zone() : of.zone(),
            ours.contains("minutes") ? mine.minutes() : of.minutes(),
            ours.contains("recurrence") ? mine.recurrence() : of.recurrence(),
            ours.contains("exDates") ? mine.exDates() : of.exDates(),
            ours.contains("rDates") ? mine.rDates() : of.rDates(),
            of.number(),
            ours.contains("passcode") ? mine.passcode() : of.passcode(),
            of.controls(),
            ours.contains("occurrences") ? mine.changes() : of.changes());
    return new Scheduled(merged, was.details(), is.passcode(), ours.contains("passcode"));
  }

  private static boolean differs(StoredMeeting was, Scheduled is) {
    return !was.meeting().equals(is.meeting());
  }

  /**
   * Notes how what is held stands to what was decided.
   *
   * @return whether something is to be said of it that was not before
   */
  private boolean note(
      MeetingHeldEntity row, StoredMeeting was, Scheduled is, Told told, Means means, Instant now) {
    Map<String, ControlValues> decided = held.decided(row);
    Map<String, HeldMeeting.Note> notes = held.notes(row);
    String before = row.notes + row.writing + row.why;
    HeldMeeting.Note note = new HeldMeeting.Note(told.changedBy(), told.changedAt());
    boolean isSent = row.writing.equals("sent");
    boolean[] differs = new boolean[1];
    decided.forEach(
        (date, values) ->
            values
                .asMap()
                .forEach(
                    (control, value) -> {
                      String key = HeldMeeting.key(date, control);
                      Value stands = means.valueFor(control, value);
                      Value holds = HeldMeeting.heldValue(is.meeting(), date, control);
                      Value held = HeldMeeting.heldValue(was.meeting(), date, control);
                      boolean wasAgreed = Objects.equals(held, stands);
                      boolean isChanged = !Objects.equals(holds, held);
                      if (Objects.equals(holds, stands)) {
                        notes.remove(key);
                      } else if (isChanged && (wasAgreed || !isSent)) {
                        notes.put(key, note); // not by us: ours would be as decided
                      } else if (!notes.containsKey(key)) {
                        differs[0] = true;
                      }
                    }));
    boolean hasMore = !isSent && !row.fields.isEmpty();
    held.set(row, decided, notes);
    row.revision = told.revision();
    row.readAt = now;
    row.link = told.link();
    row.dialIn = held.write(told.dialIn());
    if (isSent) {
      row.fields = "";
    }
    if (!differs[0] && !hasMore && notes.isEmpty() && !row.writing.equals("none")) {
      if (!row.writing.equals("confirmed")) {
        row.confirmedAt = now;
      }
      row.writing = HeldMeeting.Writing.CONFIRMED.id();
      row.why = null;
      row.late = false;
    } else if (isSent) {
      row.writing = (differs[0] ? HeldMeeting.Writing.OTHER : HeldMeeting.Writing.CONFIRMED).id();
      row.why = differs[0] ? "it took the change and holds something else" : null;
      row.late = false;
    }
    rows.update(row);
    return !before.equals(row.notes + row.writing + row.why);
  }

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
    rows.find(meeting).filter(row -> command.equals(row.command)).ifPresent(rows::delete);
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
    MeetingHeldEntity row = rows.find(meeting).orElse(null);
    if (row != null && command.equals(row.command)) {
      change.to(row);
      rows.update(row);
    }
  }

  /** A meeting is to be held by a service: it is made there. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void hold(StoredMeeting stored, ServiceMeans.Named service, String by) {
    if (rows.find(stored.meeting().id()).isPresent()) {
      throw ProblemException.conflict(
          "held-already", "A conference service holds this meeting already.");
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
  public void setBack(StoredMeeting stored, String by) {
    HeldMeeting of = service(stored);
    if (of.held(stored.meeting()).differences().isEmpty() && of.fields().isEmpty()) {
      throw ProblemException.conflict(
          "nothing-differs", of.service().name() + " holds what was decided. Look again.");
    }
    MeetingHeldEntity row = rows.find(stored.meeting().id()).orElseThrow();
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
  public void accept(StoredMeeting stored, String by) {
    HeldMeeting of = service(stored);
    MeetingHeldEntity row = rows.find(stored.meeting().id()).orElseThrow();
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

  private static HeldMeeting service(StoredMeeting stored) {
    HeldMeeting of = stored.service();
    if (of == null) {
      throw ProblemException.conflict("held-by-none", "No conference service holds this meeting.");
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

  /**
   * After everything was read anew: what was not among it is there no more.
   *
   * @return how many were cancelled
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public int forgetUnread(long service, String name, Instant before) {
    int forgotten = 0;
    List<MeetingHeldEntity> unread = rows.unread(service, before, AT_ONCE);
    while (!unread.isEmpty()) {
      for (MeetingHeldEntity row : unread) {
        gone(row, new Told(row.there, "", null, null, null, null, List.of()), name);
      }
      forgotten += unread.size();
      unread = rows.unread(service, before, AT_ONCE);
    }
    return forgotten;
  }

  /** Sends what was kept, once a service is linked for writing. */
  @Transactional(propagation = Propagation.MANDATORY)
  public int release(ServiceMeans.Named service, int most) {
    List<MeetingHeldEntity> kept = rows.kept(service.id(), most);
    kept.forEach(row -> decisions.send(row, service, row.decidedBy == null ? "" : row.decidedBy));
    due.touch(kept.stream().map(row -> row.meeting).toList());
    return kept.size();
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
