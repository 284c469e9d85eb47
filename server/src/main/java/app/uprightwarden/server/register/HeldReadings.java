package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Texts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Takes in what conference services tell of the meetings that they hold. */
@Service
public class HeldReadings {
  private static final String ACT = "held";

  private static final int AT_ONCE = 500;

  private final HeldMeetingRepository rows;
  private final HeldRows held;
  private final MeetingRepository meetings;
  private final MeetingQueries reader;
  private final MeetingWriter writer;
  private final PhonePasscodes phones;
  private final RegisterChanges due;
  private final DatabaseClock clock;
  private final ApplicationEventPublisher events;

  HeldReadings(
      HeldMeetingRepository rows,
      HeldRows held,
      MeetingRepository meetings,
      MeetingQueries reader,
      MeetingWriter writer,
      PhonePasscodes phones,
      RegisterChanges due,
      DatabaseClock clock,
      ApplicationEventPublisher events) {
    this.rows = rows;
    this.held = held;
    this.meetings = meetings;
    this.reader = reader;
    this.writer = writer;
    this.phones = phones;
    this.due = due;
    this.clock = clock;
    this.events = events;
  }

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
      } else if (!row.fields.equals(HeldMeetings.CANCEL)) {
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
        } else {
          phones.take(List.of(is), Set.of()); // they are no part of what differs
          if (noted) {
            due.touch(row.meeting);
          }
        }
      }
    }
    put.forEach((by, list) -> writer.putHeld(list, ACT, null, by));
    rows.insert(fresh);
    if (!known.isEmpty()) {
      events.publishEvent(
          new HeldMeetings.Settled(known.values().stream().map(row -> row.meeting).toList()));
    }
  }

  private static String who(Told told, String name) {
    String by = told.changedBy();
    return Texts.cut(by == null || by.isBlank() ? name : by, 254);
  }

  /**
   * A service says which of its meetings is the one that was made from here. Where that answer was
   * late, the meeting may have been read meanwhile as one that somebody had made there: that copy
   * goes, without a word to anybody.
   *
   * @param meeting the one in the register that was made there
   * @param name of the service
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void isOneOfOurs(long service, String name, String there, String meeting) {
    for (MeetingHeldEntity copy : rows.there(service, List.of(there))) {
      if (!copy.meeting.equals(meeting)) {
        rows.delete(copy);
        meetings
            .find(copy.meeting)
            .ifPresent(
                row -> writer.cancelHeld(row, "It was made from here, and read twice.", name));
      }
    }
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
    boolean isOurs = ours.contains("passcode");
    Meeting merged =
        new Meeting(
            row.meeting,
            ours.contains("title") ? mine.title() : of.title(),
            ours.contains("description") ? mine.description() : of.description(),
            ours.contains("kind") || of.kind() == null ? mine.kind() : of.kind(),
            ours.contains("host") ? mine.host() : of.host(),
            ours.contains("coHosts") ? mine.coHosts() : of.coHosts(),
            ours.contains("presenters") ? mine.presenters() : of.presenters(),
            ours.contains("invitees")
                ? mine.invitees()
                : Invitee.keepingTasks(of.invitees(), mine.invitees()),
            ours.contains("lists") ? mine.lists() : of.lists(),
            ours.contains("space") ? mine.space() : of.space(),
            ours.contains("start") ? mine.start() : of.start(),
            ours.contains("zone") ? mine.zone() : of.zone(),
            ours.contains("minutes") ? mine.minutes() : of.minutes(),
            ours.contains("recurrence") ? mine.recurrence() : of.recurrence(),
            ours.contains("exDates") ? mine.exDates() : of.exDates(),
            ours.contains("rDates") ? mine.rDates() : of.rDates(),
            of.number(),
            isOurs ? mine.passcode() : of.passcode(),
            of.controls(),
            ours.contains("occurrences") ? mine.changes() : of.changes());
    String phone = isOurs ? null : is.phonePasscode(); // digits go with the passcode
    Scheduled whole = new Scheduled(merged, was.details(), is.passcode(), isOurs, phone);
    return PhonePasscodes.keepingWeakness(whole, mine);
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
}
