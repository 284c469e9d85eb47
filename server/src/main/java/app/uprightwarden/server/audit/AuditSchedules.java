package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Audits at set times, and one after each publication. Of several servers one begins each. */
@Service
public class AuditSchedules {
  private static final Logger LOG = LoggerFactory.getLogger(AuditSchedules.class);
  private static final Duration AFTER_PUBLICATION = Duration.ofDays(90);
  private static final TypeReference<List<String>> STRINGS = new TypeReference<>() {};

  private final JdbcClient jdbc;
  private final AuditService audits;
  private final RulebookService rulebook;
  private final JsonMapper json;
  private final Clock clock;

  AuditSchedules(
      JdbcClient jdbc,
      AuditService audits,
      RulebookService rulebook,
      JsonMapper json,
      Clock clock) {
    this.jdbc = jdbc;
    this.audits = audits;
    this.rulebook = rulebook;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A schedule.
   *
   * @param days of {@code MO TU WE TH FR SA SU}
   * @param time of day in the zone, {@code HH:mm}
   * @param recipients who is sent the report
   * @param nextAt when it is run next
   */
  public record Schedule(
      long id,
      String name,
      List<String> days,
      String time,
      String zone,
      AuditScope scope,
      int windowDays,
      List<String> recipients,
      Instant nextAt,
      boolean active,
      String madeBy) {}

  /** A schedule as it is given; see {@link Schedule}. */
  public record Wanted(
      String name,
      List<String> days,
      String time,
      String zone,
      AuditScope scope,
      int windowDays,
      List<String> recipients,
      boolean active) {}

  @Transactional(readOnly = true)
  public List<Schedule> list() {
    return jdbc.sql("select * from audit_schedule order by id").query(this::schedule).list();
  }

  @Transactional(readOnly = true)
  public Schedule get(long id) {
    return jdbc.sql("select * from audit_schedule where id = ?")
        .param(id)
        .query(this::schedule)
        .optional()
        .orElseThrow(() -> ProblemException.notFound("There is no schedule " + id + "."));
  }

  private Schedule schedule(ResultSet r, int n) throws SQLException {
    return new Schedule(
        r.getLong("id"),
        r.getString("name"),
        List.of(r.getString("days").split(" ")),
        r.getString("at_time"),
        r.getString("zone"),
        json.readValue(r.getString("scope"), AuditScope.class),
        r.getInt("window_days"),
        json.readValue(r.getString("recipients"), STRINGS),
        AuditRuns.instant(r.getObject("next_at", LocalDateTime.class)),
        r.getBoolean("active"),
        r.getString("made_by"));
  }

  @Transactional
  public Schedule create(Wanted wanted, SignedIn by) {
    check(wanted);
    jdbc.sql(
            "insert into audit_schedule (name, days, at_time, zone, scope, window_days, recipients,"
                + " next_at, active, made_by) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
        .params(parameters(wanted, by.email()))
        .update();
    return get(jdbc.sql("select last_insert_id()").query(Long.class).single());
  }

  @Transactional
  public Schedule change(long id, Wanted wanted, SignedIn by) {
    get(id);
    check(wanted);
    List<Object> parameters = new ArrayList<>(parameters(wanted, by.email()));
    parameters.add(id);
    jdbc.sql(
            "update audit_schedule set name = ?, days = ?, at_time = ?, zone = ?, scope = ?,"
                + " window_days = ?, recipients = ?, next_at = ?, active = ?, made_by = ?, version"
                + " = version + 1 where id = ?")
        .params(parameters)
        .update();
    return get(id);
  }

  private List<Object> parameters(Wanted wanted, String by) {
    return Arrays.asList(
        wanted.name().strip(),
        String.join(" ", wanted.days()),
        wanted.time(),
        wanted.zone(),
        json.writeValueAsString(wanted.scope()),
        wanted.windowDays(),
        json.writeValueAsString(wanted.recipients()),
        AuditRuns.utc(next(wanted.days(), wanted.time(), wanted.zone(), clock.instant())),
        wanted.active(),
        by);
  }

  @Transactional
  public void delete(long id) {
    get(id);
    jdbc.sql("delete from audit_schedule where id = ?").param(id).update();
  }

  private static void check(Wanted wanted) {
    List<Fault> faults = new ArrayList<>();
    if (wanted.name().isBlank()) {
      faults.add(new Fault("/name", "give it a name"));
    }
    if (wanted.days().isEmpty() || !DAYS.containsAll(wanted.days())) {
      faults.add(new Fault("/days", "choose days of " + String.join(" ", DAYS)));
    }
    try {
      ZoneId.of(wanted.zone());
    } catch (DateTimeException e) {
      faults.add(new Fault("/zone", "there is no such time zone"));
    }
    try {
      LocalTime.parse(wanted.time());
    } catch (DateTimeException e) {
      faults.add(new Fault("/time", "is a time such as 07:30"));
    }
    if (wanted.windowDays() < 1 || wanted.windowDays() > 366) {
      faults.add(new Fault("/windowDays", "is between 1 and 366"));
    }
    for (int i = 0; i < wanted.recipients().size(); i++) {
      if (!wanted.recipients().get(i).matches("[^@\\s,;<>\"]+@[^@\\s,;<>\"]+")) {
        faults.add(new Fault("/recipients/" + i, "is no mail address"));
      }
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The schedule has faults. Nothing was saved.", faults);
    }
  }

  private static final Set<String> DAYS =
      Arrays.stream(DayOfWeek.values())
          .map(AuditSchedules::two)
          .collect(Collectors.toCollection(TreeSet::new));

  private static String two(DayOfWeek day) {
    return day.name().substring(0, 2).toUpperCase(Locale.ROOT);
  }

  /** The first time after another at which a schedule is due; where clocks skip it, just after. */
  static Instant next(List<String> days, String time, String zone, Instant after) {
    Set<DayOfWeek> chosen = EnumSet.noneOf(DayOfWeek.class);
    for (DayOfWeek day : DayOfWeek.values()) {
      if (days.contains(two(day))) {
        chosen.add(day);
      }
    }
    ZonedDateTime at = after.atZone(ZoneId.of(zone));
    LocalTime clockTime = LocalTime.parse(time);
    for (int day = 0; day <= 7; day++) {
      ZonedDateTime candidate =
          at.toLocalDate().plusDays(day).atTime(clockTime).atZone(ZoneId.of(zone));
      if (chosen.contains(candidate.getDayOfWeek()) && candidate.toInstant().isAfter(after)) {
        return candidate.toInstant();
      }
    }
    throw new IllegalStateException("a week has no day of " + days);
  }

  /** Begins what is due. Times that passed while nothing ran are made up for once. */
  @Scheduled(fixedDelay = 1000, initialDelay = 3000)
  @Transactional
  public void pass() {
    Instant now = clock.instant();
    List<Schedule> due =
        jdbc.sql(
                "select * from audit_schedule where active and next_at <= ? order by next_at for"
                    + " update skip locked")
            .param(AuditRuns.utc(now))
            .query(this::schedule)
            .list();
    for (Schedule schedule : due) {
      jdbc.sql("update audit_schedule set next_at = ? where id = ?")
          .params(
              AuditRuns.utc(next(schedule.days(), schedule.time(), schedule.zone(), now)),
              schedule.id())
          .update();
      begin(schedule, now);
    }
    afterPublication(now);
  }

  private void begin(Schedule schedule, Instant now) {
    try {
      audits.start(
          now,
          now.plus(Duration.ofDays(schedule.windowDays())),
          schedule.scope(),
          "schedule",
          schedule.madeBy(),
          schedule.id());
    } catch (ProblemException e) {
      LOG.warn("the schedule {} could not begin an audit: {}", schedule.id(), e.getMessage());
    }
  }

  private void afterPublication(Instant now) {
    RulebookService.Edition edition = rulebook.inForce();
    // looked at before it is locked: the row is others' too
    int audited = jdbc.sql("select audited_edition from house").query(Integer.class).single();
    if (audited >= edition.number() || !noted(edition.number())) {
      return;
    }
    String by = edition.publishedBy();
    audits.start(now, now.plus(AFTER_PUBLICATION), AuditScope.ALL, "publication", by, null);
  }

  /**
   * Takes it that an edition has been audited.
   *
   * @return false where somebody else did already
   */
  @Transactional
  public boolean noted(int edition) {
    return jdbc.sql("update house set audited_edition = ? where audited_edition < ?")
            .params(edition, edition)
            .update()
        > 0;
  }
}
