package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.server.problem.ProblemException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Reads meetings into the core's records, a page at a time. */
@Component
class MeetingQueries {
  private static final int MAX_CONCERNED = 20_000;

  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<List<LocalDateTime>> TIMES = new TypeReference<>() {};
  private static final TypeReference<List<Details.Group>> GROUPS = new TypeReference<>() {};
  private final MeetingRepository meetings;
  private final ControlSets controlSets;
  private final HeldRows heldMeetings;
  private final JsonMapper json;

  MeetingQueries(
      MeetingRepository meetings, ControlSets controlSets, HeldRows heldMeetings, JsonMapper json) {
    this.meetings = meetings;
    this.controlSets = controlSets;
    this.heldMeetings = heldMeetings;
    this.json = json;
  }

  /** Somebody's parts in the meetings of a page. */
  private static final class Parts {
    final List<String> coHosts = new ArrayList<>();
    final List<String> presenters = new ArrayList<>();
    final List<Invitee> invitees = new ArrayList<>();
    final List<OccurrenceChange> changes = new ArrayList<>();
    @Nullable HeldMeeting held;

    void add(MeetingPersonEntity row) {
      switch (row.part) {
        case "co-host" -> coHosts.add(row.email);
        case "presenter" -> presenters.add(row.email);
        default -> invitees.add(row.invitee());
      }
    }
  }

  Optional<StoredMeeting> find(String publicId) {
    return meetings.find(publicId).flatMap(row -> assemble(List.of(row)).stream().findFirst());
  }

  /** The meetings behind a row, in the order in which they were stored. */
  List<StoredMeeting> after(long row, int most) {
    return assemble(meetings.after(row, most));
  }

  /** The meetings in these rows. */
  List<StoredMeeting> rows(List<Long> rows) {
    return assemble(meetings.rows(rows));
  }

  /** The meetings with these public ids. */
  List<StoredMeeting> among(List<String> publicIds) {
    return publicIds.isEmpty() ? List.of() : assemble(meetings.among(publicIds));
  }

  /** The meetings that calendars know by these names. */
  List<StoredMeeting> byUid(List<String> uids) {
    return uids.isEmpty() ? List.of() : assemble(meetings.byUid(uids));
  }

  /** The meetings that have one of these in common. */
  List<StoredMeeting> sharing(RegisterService.Shared what, Collection<String> keys) {
    return keys.isEmpty()
        ? List.of()
        : assemble(
            switch (what) {
              case HOST -> meetings.ofHosts(keys);
              case NUMBER -> meetings.withNumbers(keys);
              case PASSCODE -> meetings.withPasscodes(keys);
            });
  }

  /**
   * The meetings that take up some people's time, or a room's.
   *
   * @param people folded addresses
   * @param lists ids of lists that reach them
   */
  List<StoredMeeting> concerning(
      Collection<String> people,
      Collection<String> lists,
      Collection<String> spaces,
      Collection<String> rooms) {
    List<MeetingEntity> rows = meetings.concerning(people, lists, spaces, rooms, MAX_CONCERNED + 1);
    if (rows.size() > MAX_CONCERNED) {
      // half an answer would show people free who are not
      throw ProblemException.tooLarge(
          "More than " + MAX_CONCERNED + " meetings concern these people. Ask for fewer.");
    }
    return assemble(rows);
  }

  private Details details(MeetingEntity row) {
    return new Details(
        row.room,
        row.wholeDay,
        row.reminder,
        row.breakout.equals("[]") ? List.of() : json.readValue(row.breakout, GROUPS),
        row.uid,
        row.sequence,
        strings(row.foreignLines));
  }

  private List<LocalDateTime> times(String array) {
    return array.equals("[]") ? List.of() : json.readValue(array, TIMES);
  }

  private List<String> strings(String array) {
    return array.equals("[]") ? List.of() : json.readValue(array, STRINGS);
  }

  private static @Nullable PasscodeFacts facts(MeetingEntity row) {
    String fingerprint = row.passcodeFingerprint;
    if (fingerprint == null) {
      return null;
    }
    return new PasscodeFacts(
        Objects.requireNonNull(row.passcodeLength),
        Control.PASSCODE_MAKEUP.parse(String.valueOf(row.passcodeMakeup)),
        Weakness.valueOf(
            String.valueOf(row.passcodeWeakness).toUpperCase(Locale.ROOT).replace('-', '_')),
        Boolean.TRUE.equals(row.passcodeLeaked),
        fingerprint);
  }

  /** Meetings whose rows are read already, in their order. */
  List<StoredMeeting> assemble(List<MeetingEntity> rows) {
    if (rows.isEmpty()) {
      return List.of();
    }
    Map<Long, Parts> parts = new HashMap<>();
    rows.forEach(row -> parts.put(row.id, new Parts()));
    List<MeetingChangeEntity> changes = meetings.changes(parts.keySet());
    controlSets.warm(
        Stream.concat(
                rows.stream().map(row -> row.controlSet),
                changes.stream().map(change -> change.controlSet))
            .toList());
    meetings.people(parts.keySet()).forEach(row -> of(parts, row.meeting).add(row));
    changes.forEach(row -> of(parts, row.meeting).changes.add(change(row)));
    putHeld(rows, parts);
    return rows.stream().map(row -> stored(row, of(parts, row.id))).toList();
  }

  private void putHeld(List<MeetingEntity> rows, Map<Long, Parts> parts) {
    Map<String, HeldMeeting> held =
        heldMeetings.of(rows.stream().map(row -> row.publicId).toList());
    if (!held.isEmpty()) {
      rows.forEach(row -> of(parts, row.id).held = held.get(row.publicId));
    }
  }

  private static Parts of(Map<Long, Parts> parts, long row) {
    return Objects.requireNonNull(parts.get(row));
  }

  /** A meeting whose row is read already. */
  StoredMeeting stored(MeetingEntity row) {
    return assemble(List.of(row)).get(0);
  }

  private StoredMeeting stored(MeetingEntity row, Parts of) {
    Meeting meeting =
        new Meeting(
            row.publicId,
            row.title,
            row.description,
            row.kind,
            row.host,
            List.copyOf(of.coHosts),
            List.copyOf(of.presenters),
            List.copyOf(of.invitees),
            strings(row.lists),
            row.space,
            row.startsAt,
            ZoneId.of(row.zone),
            row.minutes,
            row.recurrence,
            times(row.exDates),
            times(row.rDates),
            row.number,
            facts(row),
            controlSets.values(row.controlSet),
            List.copyOf(of.changes));
    return new StoredMeeting(
        row.id,
        meeting,
        details(row),
        row.version,
        row.changedBy,
        row.changedAt,
        row.act,
        row.remark,
        of.held);
  }

  private OccurrenceChange change(MeetingChangeEntity row) {
    return new OccurrenceChange(
        row.at, row.startsAt, row.minutes, controlSets.values(row.controlSet));
  }
}
