package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
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
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
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

  private final AuditRunRepository rows;
  private final SettingsService settings;
  private final AuditService audits;
  private final RulebookService rulebook;
  private final JsonMapper json;
  private final Clock clock;

  AuditSchedules(
      AuditRunRepository rows,
      SettingsService settings,
      AuditService audits,
      RulebookService rulebook,
      JsonMapper json,
      Clock clock) {
    this.rows = rows;
    this.settings = settings;
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
   * @param paper of the report: {@code a4} or {@code letter}
   * @param version which of its states this is
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
      String paper,
      String madeBy,
      long version) {}

  /** A schedule as it is given; see {@link Schedule}. */
  public record Wanted(
      String name,
      List<String> days,
      String time,
      String zone,
      AuditScope scope,
      int windowDays,
      List<String> recipients,
      boolean active,
      String paper) {}

  @Transactional(readOnly = true)
  public List<Schedule> list() {
    return rows.schedules().stream().map(this::schedule).toList();
  }

  @Transactional(readOnly = true)
  public Schedule get(long id) {
    return schedule(rows.schedule(id).orElseThrow(() -> none(id)));
  }

  private AuditScheduleEntity locked(long id) {
    return rows.lockedSchedule(id).orElseThrow(() -> none(id));
  }

  private static ProblemException none(long id) {
    return ProblemException.notFound("There is no schedule " + id + ".");
  }

  private Schedule schedule(AuditScheduleEntity row) {
    return new Schedule(
        row.id,
        row.name,
        List.of(row.days.split(" ")),
        row.atTime,
        row.zone,
        json.readValue(row.scope, AuditScope.class),
        row.windowDays,
        json.readValue(row.recipients, STRINGS),
        row.nextAt,
        row.active,
        row.paper,
        row.madeBy,
        row.version);
  }

  @Transactional
  public Schedule create(Wanted wanted, SignedIn by) {
    check(wanted);
    AuditScheduleEntity row = new AuditScheduleEntity();
    set(row, wanted, by.email());
    rows.insert(row);
    return schedule(row);
  }

  /**
   * Changes a schedule.
   *
   * @param seen the version that was looked at; null does not ask
   * @throws ProblemException 409 where somebody changed it since
   */
  @Transactional
  public Schedule change(long id, Wanted wanted, @Nullable Long seen, SignedIn by) {
    check(wanted);
    AuditScheduleEntity row = locked(id);
    if (seen != null && seen != row.version) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed this schedule since you opened it. Look at what it is now, and"
              + " change it again. Nothing was saved.");
    }
    set(row, wanted, by.email());
    row.version++;
    rows.update(row);
    return schedule(row);
  }

  private void set(AuditScheduleEntity row, Wanted wanted, String by) {
    row.name = wanted.name().strip();
    row.days = String.join(" ", wanted.days());
    row.atTime = wanted.time();
    row.zone = wanted.zone();
    row.scope = json.writeValueAsString(wanted.scope());
    row.windowDays = wanted.windowDays();
    row.recipients = json.writeValueAsString(wanted.recipients());
    row.nextAt = next(wanted.days(), wanted.time(), wanted.zone(), clock.instant());
    row.active = wanted.active();
    row.paper = wanted.paper();
    row.madeBy = by;
  }

  @Transactional
  public void delete(long id) {
    locked(id);
    rows.deleteSchedule(id);
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
  @Transactional
  public void pass() {
    Instant now = clock.instant();
    for (AuditScheduleEntity row : rows.dueSchedules(now)) {
      Schedule schedule = schedule(row);
      row.nextAt = next(schedule.days(), schedule.time(), schedule.zone(), now);
      rows.update(row);
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
    if (settings.auditedEdition() >= edition.number() || !noted(edition.number())) {
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
    return settings.noteAudited(edition);
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob schedulesPassing(AuditSchedules schedules) {
      return new RecurringJob(
          "schedules", "Audits at set times", Duration.ofSeconds(1), schedules::pass);
    }
  }
}
