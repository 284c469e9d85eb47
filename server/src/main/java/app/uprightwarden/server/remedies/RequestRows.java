package app.uprightwarden.server.remedies;

import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.ProblemException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The rows of what hosts are asked. */
@Component
public class RequestRows {
  private static final TypeReference<Map<String, Object>> CONTROLS = new TypeReference<>() {};

  private final JdbcClient jdbc;
  private final Ledger ledger;
  private final JsonMapper json;
  private final Clock clock;

  RequestRows(JdbcClient jdbc, Ledger ledger, JsonMapper json, Clock clock) {
    this.jdbc = jdbc;
    this.ledger = ledger;
    this.json = json;
    this.clock = clock;
  }

  /** A finding to ask about. */
  record NewItem(
      String meeting,
      String title,
      String occurrence,
      String check,
      String subject,
      int severity,
      String sentence,
      RemedyPlan plan) {}

  /**
   * A finding that a host was asked about.
   *
   * @param sentence what could happen
   * @param words the change proposed to them, control by control
   * @param state {@code open}, {@code agreed}, {@code proposed} something else, {@code reasoned},
   *     {@code mended} or {@code settled}
   * @param proposed control → value in plain form, or null
   */
  public record AskedItem(
      long id,
      String meeting,
      String title,
      String occurrence,
      String check,
      String subject,
      int severity,
      String sentence,
      RemedyPlan plan,
      List<String> words,
      String state,
      @Nullable String answer,
      @Nullable Map<String, Object> proposed,
      @Nullable String answeredBy,
      @Nullable Instant answeredAt) {}

  /** What one host was asked at once. */
  public record HostRequest(
      long id,
      String host,
      String askedBy,
      Instant askedAt,
      int reminded,
      Instant applyAfter,
      String note,
      List<AskedItem> items) {}

  /** After how many days hosts are reminded, and after how many the administrator may apply. */
  public record AskingSettings(int remindDays, int applyAfterDays) {}

  @Transactional(readOnly = true)
  public AskingSettings settings() {
    return jdbc.sql("select remind_days, apply_after_days from house")
        .query((r, n) -> new AskingSettings(r.getInt(1), r.getInt(2)))
        .single();
  }

  @Transactional
  public AskingSettings set(AskingSettings wanted) {
    AskingSettings before = settings();
    ledger.changed("house", "asking", "Asking hosts", () -> before, () -> wanted, "upright-warden");
    jdbc.sql("update house set remind_days = ?, apply_after_days = ?")
        .params(wanted.remindDays(), wanted.applyAfterDays())
        .update();
    return settings();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  long create(
      String host,
      String by,
      Instant at,
      Instant remindAt,
      Instant applyAfter,
      String note,
      List<NewItem> items) {
    jdbc.sql(
            "insert into host_request (host, asked_by, asked_at, remind_at, apply_after, note)"
                + " values (?, ?, ?, ?, ?, ?)")
        .params(host, by, utc(at), utc(remindAt), utc(applyAfter), note)
        .update();
    long id = jdbc.sql("select last_insert_id()").query(Long.class).single();
    for (NewItem item : items) {
      jdbc.sql(
              "insert into host_request_item (request, meeting, title, occurrence, check_id,"
                  + " subject, severity, sentence, changes) values (?, ?, ?, ?, ?, ?, ?, ?, ?)")
          .params(
              id,
              item.meeting(),
              item.title(),
              item.occurrence(),
              item.check(),
              item.subject(),
              item.severity(),
              item.sentence().length() > 2000
                  ? app.uprightwarden.server.problem.Texts.cut(item.sentence(), 2000)
                  : item.sentence(),
              json.writeValueAsString(item.plan()))
          .update();
    }
    return id;
  }

  boolean isOpen(String meeting, String occurrence, String check, String subject) {
    return jdbc.sql(
                "select count(*) from host_request_item where meeting = ? and occurrence = ? and"
                    + " check_id = ? and subject = ? and state = 'open'")
            .params(meeting, occurrence, check, subject)
            .query(Integer.class)
            .single()
        > 0;
  }

  Set<String> stillAsked(Collection<String> meetings, Instant now) {
    return meetings.isEmpty()
        ? Set.of()
        : new HashSet<>(
            jdbc.sql(
                    "select distinct i.meeting from host_request_item i join host_request r on r.id ="
                        + " i.request where i.meeting in (:meetings) and i.state = 'open' and"
                        + " r.apply_after > :now")
                .param("meetings", meetings)
                .param("now", utc(now))
                .query(String.class)
                .list());
  }

  int unanswered() {
    return jdbc.sql("select count(*) from host_request_item where state = 'open'")
        .query(Integer.class)
        .single();
  }

  /** What is not settled, the first asked first; null for every host. */
  List<HostRequest> open(@Nullable String host) {
    return requests(
        "where exists (select 1 from host_request_item i where i.request = r.id and i.state in"
            + " ('open', 'proposed', 'reasoned')) and (:host is null or r.host = :host) order by"
            + " r.id limit 500",
        Arrays.asList("host", host));
  }

  List<HostRequest> toRemind(Instant now, int most) {
    return requests(
        "where r.remind_at <= :now and r.reminded < "
            + most
            + " and exists (select 1 from host_request_item i where i.request = r.id and i.state ="
            + " 'open') order by r.id limit 100 for update skip locked",
        Arrays.asList("now", utc(now)));
  }

  private List<HostRequest> requests(String where, List<@Nullable Object> parameter) {
    Map<Long, HostRequest> found = new LinkedHashMap<>();
    jdbc.sql("select r.* from host_request r " + where)
        .param(String.valueOf(parameter.get(0)), parameter.get(1))
        .query(
            (RowCallbackHandler)
                r ->
                    found.put(
                        r.getLong("id"),
                        new HostRequest(
                            r.getLong("id"),
                            r.getString("host"),
                            r.getString("asked_by"),
                            instant(r.getObject("asked_at", LocalDateTime.class)),
                            r.getInt("reminded"),
                            instant(r.getObject("apply_after", LocalDateTime.class)),
                            r.getString("note"),
                            new ArrayList<>())));
    if (!found.isEmpty()) {
      jdbc.sql(
              "select * from host_request_item where request in (:ids) and state in ('open',"
                  + " 'proposed', 'reasoned') order by severity desc, id")
          .param("ids", found.keySet())
          .query(
              (RowCallbackHandler)
                  r -> {
                    HostRequest of = found.get(r.getLong("request"));
                    if (of != null) {
                      of.items().add(item(r, 0));
                    }
                  });
    }
    return List.copyOf(found.values());
  }

  AskedItem get(long id) {
    return jdbc.sql("select * from host_request_item where id = ?")
        .param(id)
        .query(this::item)
        .optional()
        .orElseThrow(() -> ProblemException.notFound("Nobody was asked that."));
  }

  AskedItem locked(long id) {
    return jdbc.sql("select * from host_request_item where id = ? for update")
        .param(id)
        .query(this::item)
        .optional()
        .orElseThrow(() -> ProblemException.notFound("Nobody was asked that."));
  }

  String askedBy(long item) {
    return jdbc.sql(
            "select r.asked_by from host_request r join host_request_item i on i.request = r.id"
                + " where i.id = ?")
        .param(item)
        .query(String.class)
        .single();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void answered(
      long id, String state, String answer, @Nullable Map<String, Object> proposed, String by) {
    jdbc.sql(
            "update host_request_item set state = ?, answer = ?, proposed = ?, answered_by = ?,"
                + " answered_at = ? where id = ?")
        .params(
            Arrays.asList(
                state,
                answer,
                proposed == null ? null : json.writeValueAsString(proposed),
                by,
                utc(clock.instant()),
                id))
        .update();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void settled(long id) {
    jdbc.sql("update host_request_item set state = 'settled' where id = ?").param(id).update();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void reminded(long id, Instant next) {
    jdbc.sql("update host_request set reminded = reminded + 1, remind_at = ? where id = ?")
        .params(utc(next), id)
        .update();
  }

  /** What is found no longer needs no answer. */
  @Transactional(propagation = Propagation.MANDATORY)
  int closeMended() {
    List<Long> mended =
        jdbc.sql(
                "select i.id from host_request_item i where i.state in ('open', 'proposed',"
                    + " 'reasoned') and exists (select 1 from audit_run s where s.state ="
                    + " 'standing' and s.renewed_at is not null) and not exists (select 1 from"
                    + " audit_run s join finding f on f.audit = s.id and f.meeting = i.meeting and"
                    + " f.occurrence = i.occurrence and f.check_id = i.check_id and f.subject ="
                    + " i.subject and f.waiver is null where s.state = 'standing') and not exists"
                    // one that is still to be looked at again may be found again
                    + " (select 1 from meeting_due d where d.meeting = i.meeting)")
            .query(Long.class)
            .list();
    if (!mended.isEmpty()) {
      jdbc.sql(
              "update host_request_item set state = 'mended', mended_at = utc_timestamp(3) where id"
                  + " in (:ids)")
          .param("ids", mended)
          .update();
    }
    return mended.size();
  }

  /**
   * What was asked of a meeting is asked again, since what mended it was undone.
   *
   * @param undone the item of the job that undoes it
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void reopen(String meeting, String occurrence, long undone) {
    jdbc.sql(
            "update host_request_item set state = 'open', mended_at = null where meeting = ? and"
                + " occurrence = ? and state = 'mended' and mended_at >= (select o.at from"
                + " remedy_item i join remedy_job u on u.id = i.job join remedy_job o on o.id ="
                + " u.undo_of where i.id = ?)")
        .params(meeting, occurrence, undone)
        .update();
  }

  private AskedItem item(ResultSet r, int n) throws SQLException {
    LocalDateTime answered = r.getObject("answered_at", LocalDateTime.class);
    String proposed = r.getString("proposed");
    RemedyPlan plan = json.readValue(r.getString("changes"), RemedyPlan.class);
    return new AskedItem(
        r.getLong("id"),
        r.getString("meeting"),
        r.getString("title"),
        r.getString("occurrence"),
        r.getString("check_id"),
        r.getString("subject"),
        r.getInt("severity"),
        r.getString("sentence"),
        plan,
        Planner.words(plan),
        r.getString("state"),
        r.getString("answer"),
        proposed == null ? null : json.readValue(proposed, CONTROLS),
        r.getString("answered_by"),
        answered == null ? null : instant(answered));
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }

  private static Instant instant(LocalDateTime time) {
    return time.toInstant(ZoneOffset.UTC);
  }
}
