package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.server.problem.ProblemException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Reads meetings straight into the core's records, a page at a time: no entities are loaded. */
@Component
class MeetingReader {
  private static final int MOST_CONCERNED = 20_000;

  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};
  private static final TypeReference<List<LocalDateTime>> TIMES = new TypeReference<>() {};
  private static final TypeReference<List<Details.Group>> GROUPS = new TypeReference<>() {};
  private static final String COLUMNS =
      "select id, public_id, title, description, kind, host, space, starts_at, zone, minutes,"
          + " recurrence, ex_dates, r_dates, lists, number, passcode_fingerprint, passcode_length,"
          + " passcode_makeup, passcode_weakness, passcode_leaked, control_set, changed_by,"
          + " changed_at, version, act, room, whole_day, reminder, breakout, uid, sequence,"
          + " foreign_lines, remark from meeting ";

  private final JdbcClient jdbc;
  private final ControlSets controlSets;
  private final JsonMapper json;

  MeetingReader(JdbcClient jdbc, ControlSets controlSets, JsonMapper json) {
    this.jdbc = jdbc;
    this.controlSets = controlSets;
    this.json = json;
  }

  /** Somebody's parts in the meetings of a page. */
  private static final class Parts {
    final List<String> coHosts = new ArrayList<>();
    final List<String> presenters = new ArrayList<>();
    final List<Invitee> invitees = new ArrayList<>();
    final List<OccurrenceChange> changes = new ArrayList<>();
  }

  Optional<Stored> find(String publicId) {
    List<Row> rows =
        jdbc.sql(COLUMNS + "where public_id = ?").param(publicId).query(this::row).list();
    return assemble(rows).stream().findFirst();
  }

  /** The meetings behind a row, in the order in which they were stored. */
  List<Stored> after(long row, int most) {
    return assemble(
        jdbc.sql(COLUMNS + "where id > ? order by id limit ?")
            .params(row, most)
            .query(this::row)
            .list());
  }

  /** The meetings in these rows. */
  List<Stored> rows(List<Long> rows) {
    return assemble(
        jdbc.sql(COLUMNS + "where id in (:rows) order by id")
            .param("rows", rows)
            .query(this::row)
            .list());
  }

  /** The meetings with these public ids. */
  List<Stored> among(List<String> publicIds) {
    if (publicIds.isEmpty()) {
      return List.of();
    }
    return assemble(
        jdbc.sql(COLUMNS + "where public_id in (:ids) order by id")
            .param("ids", publicIds)
            .query(this::row)
            .list());
  }

  /** The meetings that calendars know by these names. */
  List<Stored> byUid(List<String> uids) {
    if (uids.isEmpty()) {
      return List.of();
    }
    return assemble(
        jdbc.sql(COLUMNS + "where uid in (:uids) order by id")
            .param("uids", uids)
            .query(this::row)
            .list());
  }

  /** The meetings that have one of these in a column. */
  List<Stored> sharing(String column, Collection<String> keys) {
    if (keys.isEmpty()) {
      return List.of();
    }
    return assemble(
        jdbc.sql(COLUMNS + "where " + column + " in (:keys) order by id limit 20000")
            .param("keys", keys)
            .query(this::row)
            .list());
  }

  /**
   * The meetings that take up some people's time, or a room's.
   *
   * @param people folded addresses
   * @param lists ids of lists that reach them
   */
  List<Stored> concerning(
      Collection<String> people,
      Collection<String> lists,
      Collection<String> spaces,
      Collection<String> rooms) {
    List<String> marks = lists.stream().map(id -> "%\"" + id + "\"%").toList();
    StringBuilder where = new StringBuilder("where room in (:rooms) or space in (:spaces)");
    where.append(" or host_folded in (:people)");
    where.append(" or id in (select meeting from meeting_person where folded in (:people))");
    for (int i = 0; i < marks.size(); i++) {
      where.append(" or lists like :list").append(i);
    }
    JdbcClient.StatementSpec query =
        jdbc.sql(COLUMNS + where + " order by id limit " + (MOST_CONCERNED + 1))
            .param("people", orNone(people))
            .param("spaces", orNone(spaces))
            .param("rooms", orNone(rooms));
    for (int i = 0; i < marks.size(); i++) {
      query = query.param("list" + i, marks.get(i));
    }
    var rows = query.query(this::row).list();
    if (rows.size() > MOST_CONCERNED) {
      // half an answer would show people free who are not
      throw ProblemException.tooLarge(
          "More than " + MOST_CONCERNED + " meetings concern these people. Ask for fewer.");
    }
    return assemble(rows);
  }

  /** SQL has no empty list; no id or address is empty. */
  private static Collection<String> orNone(Collection<String> some) {
    return some.isEmpty() ? List.of("") : some;
  }

  private record Row(
      long id,
      String publicId,
      String title,
      String description,
      @Nullable String kind,
      String host,
      @Nullable String space,
      LocalDateTime start,
      ZoneId zone,
      int minutes,
      @Nullable String recurrence,
      List<LocalDateTime> exDates,
      List<LocalDateTime> rDates,
      List<String> lists,
      @Nullable String number,
      @Nullable PasscodeFacts passcode,
      long controlSet,
      String changedBy,
      Instant changedAt,
      long version,
      String act,
      @Nullable String remark,
      Details details) {}

  private Row row(ResultSet r, int n) throws SQLException {
    return new Row(
        r.getLong("id"),
        r.getString("public_id"),
        r.getString("title"),
        r.getString("description"),
        r.getString("kind"),
        r.getString("host"),
        r.getString("space"),
        r.getObject("starts_at", LocalDateTime.class),
        ZoneId.of(r.getString("zone")),
        r.getInt("minutes"),
        r.getString("recurrence"),
        times(r.getString("ex_dates")),
        times(r.getString("r_dates")),
        strings(r.getString("lists")),
        r.getString("number"),
        facts(r),
        r.getLong("control_set"),
        r.getString("changed_by"),
        r.getObject("changed_at", LocalDateTime.class).toInstant(ZoneOffset.UTC),
        r.getLong("version"),
        r.getString("act"),
        r.getString("remark"),
        details(r));
  }

  private Details details(ResultSet r) throws SQLException {
    String groups = r.getString("breakout");
    return new Details(
        r.getString("room"),
        r.getBoolean("whole_day"),
        r.getObject("reminder", Integer.class),
        groups.equals("[]") ? List.of() : json.readValue(groups, GROUPS),
        r.getString("uid"),
        r.getInt("sequence"),
        strings(r.getString("foreign_lines")));
  }

  private List<LocalDateTime> times(String array) {
    return array.equals("[]") ? List.of() : json.readValue(array, TIMES);
  }

  private List<String> strings(String array) {
    return array.equals("[]") ? List.of() : json.readValue(array, STRINGS);
  }

  private static @Nullable PasscodeFacts facts(ResultSet r) throws SQLException {
    String fingerprint = r.getString("passcode_fingerprint");
    if (fingerprint == null) {
      return null;
    }
    String weakness = r.getString("passcode_weakness");
    return new PasscodeFacts(
        r.getInt("passcode_length"),
        Control.PASSCODE_MAKEUP.parse(r.getString("passcode_makeup")),
        Weakness.valueOf(weakness.toUpperCase(Locale.ROOT).replace('-', '_')),
        r.getBoolean("passcode_leaked"),
        fingerprint);
  }

  private List<Stored> assemble(List<Row> rows) {
    if (rows.isEmpty()) {
      return List.of();
    }
    controlSets.warm(rows.stream().map(Row::controlSet).toList());
    Map<Long, Parts> parts = new HashMap<>();
    rows.forEach(row -> parts.put(row.id(), new Parts()));
    readPeople(parts);
    readChanges(parts);
    List<Stored> stored = new ArrayList<>();
    for (Row row : rows) {
      Parts of = parts.getOrDefault(row.id(), new Parts());
      Meeting meeting =
          new Meeting(
              row.publicId(),
              row.title(),
              row.description(),
              row.kind(),
              row.host(),
              List.copyOf(of.coHosts),
              List.copyOf(of.presenters),
              List.copyOf(of.invitees),
              row.lists(),
              row.space(),
              row.start(),
              row.zone(),
              row.minutes(),
              row.recurrence(),
              row.exDates(),
              row.rDates(),
              row.number(),
              row.passcode(),
              controlSets.values(row.controlSet()),
              List.copyOf(of.changes));
      stored.add(
          new Stored(
              row.id(),
              meeting,
              row.details(),
              row.version(),
              row.changedBy(),
              row.changedAt(),
              row.act(),
              row.remark()));
    }
    return List.copyOf(stored);
  }

  private void readPeople(Map<Long, Parts> parts) {
    jdbc.sql(
            "select meeting, part, email, need from meeting_person where meeting in (:ids)"
                + " order by meeting, part, position")
        .param("ids", parts.keySet())
        .query(
            (RowCallbackHandler)
                row -> {
                  Parts of = Objects.requireNonNull(parts.get(row.getLong(1)));
                  String email = row.getString(3);
                  switch (row.getString(2)) {
                    case "co-host" -> of.coHosts.add(email);
                    case "presenter" -> of.presenters.add(email);
                    default ->
                        of.invitees.add(
                            new Invitee(
                                email,
                                Invitee.Need.valueOf(row.getString(4).toUpperCase(Locale.ROOT))));
                  }
                });
  }

  private void readChanges(Map<Long, Parts> parts) {
    jdbc.sql(
            "select meeting, at, starts_at, minutes, control_set from meeting_change where meeting"
                + " in (:ids) order by meeting, position")
        .param("ids", parts.keySet())
        .query(
            (RowCallbackHandler)
                row ->
                    Objects.requireNonNull(parts.get(row.getLong(1)))
                        .changes
                        .add(
                            new OccurrenceChange(
                                row.getObject(2, LocalDateTime.class),
                                row.getObject(3, LocalDateTime.class),
                                row.getObject(4, Integer.class),
                                controlSets.values(row.getLong(5)))));
  }
}
