package app.uprightwarden.server.waivers;

import app.uprightwarden.core.audit.Waiver;
import app.uprightwarden.core.audit.Waivers;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterChanges;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Grants waivers, ends them, lets them lapse, and warns before they do. */
@Service
public class WaiverService {
  private static final Duration LONGEST = Duration.ofDays(366);
  private static final Duration WARNING = Duration.ofDays(2);
  private static final DateTimeFormatter WHEN =
      DateTimeFormatter.ofPattern("EEEE d MMMM yyyy 'at' HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  private final JdbcClient jdbc;
  private final RegisterChanges changes;
  private final OrganisationService organisation;
  private final OutboxService outbox;
  private final AccessService access;
  private final Signals signals;
  private final Ledger ledger;
  private final Clock clock;

  WaiverService(
      JdbcClient jdbc,
      RegisterChanges changes,
      OrganisationService organisation,
      OutboxService outbox,
      AccessService access,
      Signals signals,
      Ledger ledger,
      Clock clock) {
    this.jdbc = jdbc;
    this.changes = changes;
    this.organisation = organisation;
    this.outbox = outbox;
    this.access = access;
    this.signals = signals;
    this.ledger = ledger;
    this.clock = clock;
  }

  /**
   * A waiver as it is kept.
   *
   * @param scope {@code finding}, {@code meeting} or {@code rule}
   * @param state {@code waiting} for a second administrator, {@code in-force}, {@code lapsed},
   *     {@code ended} early, or {@code refused} by the second
   */
  public record GrantedWaiver(
      long id,
      String scope,
      @Nullable String meeting,
      @Nullable String title,
      String occurrence,
      String check,
      String subject,
      @Nullable String unit,
      String reason,
      @Nullable String askedBy,
      String grantedBy,
      Instant grantedAt,
      @Nullable String secondBy,
      Instant until,
      String state,
      @Nullable String endedBy,
      @Nullable Instant endedAt) {}

  /** A waiver to grant; see {@link GrantedWaiver}. */
  public record Wanted(
      String scope,
      @Nullable String meeting,
      @Nullable String occurrence,
      @Nullable String check,
      @Nullable String subject,
      @Nullable String unit,
      String reason,
      Instant until,
      @Nullable String askedBy) {}

  /**
   * Grants a waiver; where two administrators are needed, it waits for the second.
   *
   * @throws ProblemException 422 for one that covers nothing or has no sensible end
   */
  @Transactional
  public GrantedWaiver grant(Wanted wanted, SignedIn by) {
    List<Fault> faults = faults(wanted);
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The waiver has faults. Nothing was granted.", faults);
    }
    jdbc.sql(
            "insert into waiver (scope, meeting, occurrence, check_id, subject, unit, reason,"
                + " asked_by, granted_by, granted_at, until, state) values (?, ?, ?, ?, ?, ?, ?, ?,"
                + " ?, ?, ?, ?)")
        .params(
            Arrays.asList(
                wanted.scope(),
                wanted.scope().equals("rule") ? null : wanted.meeting(),
                orEmpty(wanted.occurrence()),
                wanted.scope().equals("finding") ? orEmpty(wanted.check()) : "",
                wanted.scope().equals("meeting") ? "" : orEmpty(wanted.subject()),
                wanted.scope().equals("rule") ? wanted.unit() : null,
                wanted.reason().strip(),
                wanted.askedBy(),
                by.email(),
                utc(clock.instant()),
                utc(wanted.until()),
                byTwo() ? "waiting" : "in-force"))
        .update();
    long id = jdbc.sql("select last_insert_id()").query(Long.class).single();
    return changed(get(id));
  }

  private List<Fault> faults(Wanted wanted) {
    List<Fault> faults = new ArrayList<>();
    Instant now = clock.instant();
    if (wanted.reason().isBlank()) {
      faults.add(new Fault("/reason", "say why it may stand"));
    }
    if (!wanted.until().isAfter(now)) {
      faults.add(new Fault("/until", "lies in the past; choose a later time"));
    } else if (wanted.until().isAfter(now.plus(LONGEST))) {
      faults.add(new Fault("/until", "is more than a year off; choose an earlier time"));
    }
    switch (wanted.scope()) {
      case "rule" -> {
        if (orEmpty(wanted.subject()).isEmpty()) {
          faults.add(new Fault("/subject", "name the control or guarantee"));
        }
        boolean known =
            organisation.organisation().units().stream()
                .anyMatch(unit -> unit.id().equals(wanted.unit()));
        if (!known) {
          faults.add(new Fault("/unit", "there is no such unit"));
        }
      }
      case "finding", "meeting" -> {
        boolean known =
            jdbc.sql("select count(*) from meeting where public_id = ?")
                    .param(orEmpty(wanted.meeting()))
                    .query(Integer.class)
                    .single()
                > 0;
        if (!known) {
          faults.add(new Fault("/meeting", "there is no such meeting"));
        }
        if (wanted.scope().equals("finding") && orEmpty(wanted.check()).isEmpty()) {
          faults.add(new Fault("/check", "name the check"));
        }
      }
      default -> faults.add(new Fault("/scope", "is one of finding, meeting and rule"));
    }
    return faults;
  }

  private static String orEmpty(@Nullable String text) {
    return text == null ? "" : text;
  }

  /** The second administrator's word on a waiver that waits for it. */
  @Transactional
  public GrantedWaiver second(long id, boolean consent, SignedIn by) {
    GrantedWaiver waiver = locked(id);
    if (!waiver.state().equals("waiting")) {
      throw ProblemException.conflict("not-waiting", "This waiver waits for nobody any more.");
    }
    if (Directory.fold(waiver.grantedBy()).equals(Directory.fold(by.email()))) {
      throw ProblemException.forbidden(
          "not-alone", "Another administrator than the first gives the second word.");
    }
    if (consent) {
      access.checkCountsAsSecond(by);
    }
    jdbc.sql("update waiver set state = ?, second_by = ?, second_at = ? where id = ?")
        .params(consent ? "in-force" : "refused", by.email(), utc(clock.instant()), id)
        .update();
    return changed(get(id));
  }

  /** Ends a waiver before its time. */
  @Transactional
  public GrantedWaiver end(long id, SignedIn by) {
    GrantedWaiver waiver = locked(id);
    if (!Set.of("in-force", "waiting").contains(waiver.state())) {
      throw ProblemException.conflict("not-in-force", "This waiver is over already.");
    }
    jdbc.sql("update waiver set state = 'ended', ended_by = ?, ended_at = ? where id = ?")
        .params(by.email(), utc(clock.instant()), id)
        .update();
    return changed(get(id));
  }

  /** Looked at again is what a waiver covers, whenever it begins or ends to. */
  private GrantedWaiver changed(GrantedWaiver waiver) {
    if (waiver.meeting() != null) {
      changes.touch(waiver.meeting());
    } else {
      changes.touchHosts(hostsIn(String.valueOf(waiver.unit())));
    }
    signals.send(Signals.Topic.WAIVERS);
    ledger.changed(
        "waiver",
        Long.toString(waiver.id()),
        waiver.title() == null ? "a rule in " + waiver.unit() : waiver.title(),
        null,
        () ->
            InOrder.map(
                "state", waiver.state(), "until", waiver.until(), "reason", waiver.reason()),
        "upright-warden");
    return waiver;
  }

  private Set<String> hostsIn(String unit) {
    Directory directory = organisation.directory();
    return organisation.people().stream()
        .filter(person -> directory.unitPath(person.unit()).contains(unit))
        .map(person -> Directory.fold(person.email()))
        .collect(Collectors.toSet());
  }

  /** The waivers in force, as findings are held against them. */
  @Transactional(readOnly = true)
  public Waivers inForce() {
    List<Waiver> waivers =
        jdbc.sql(
                "select id, scope, meeting, occurrence, check_id, subject, unit from waiver where"
                    + " state = 'in-force' and until > ?")
            .param(utc(clock.instant()))
            .query(
                (r, n) ->
                    new Waiver(
                        r.getLong(1),
                        Waiver.Scope.valueOf(r.getString(2).toUpperCase(Locale.ROOT)),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        r.getString(7)))
            .list();
    return waivers.isEmpty() ? Waivers.NONE : new Waivers(waivers);
  }

  private static final String COLUMNS =
      "select w.*, m.title from waiver w left join meeting m on m.public_id = w.meeting ";

  /** Waivers, those that matter now first; null filters nothing. */
  @Transactional(readOnly = true)
  public List<GrantedWaiver> list(@Nullable String meeting, @Nullable String state, int most) {
    return jdbc.sql(
            COLUMNS
                + "where (:meeting is null or w.meeting = :meeting) and (:state is null or w.state"
                + " = :state) order by w.state not in ('waiting', 'in-force'), case when w.state in"
                + " ('waiting', 'in-force') then w.until end, w.until desc, w.id limit :most")
        .param("meeting", meeting)
        .param("state", state)
        .param("most", most)
        .query(this::kept)
        .list();
  }

  /** The waivers in force that cover something in a meeting. */
  @Transactional(readOnly = true)
  public List<GrantedWaiver> covering(Meeting meeting) {
    Person host = organisation.directory().find(meeting.host());
    List<String> units = host == null ? List.of() : organisation.directory().unitPath(host.unit());
    return list(null, "in-force", 10_000).stream()
        .filter(
            w -> meeting.id().equals(w.meeting()) || w.unit() != null && units.contains(w.unit()))
        .toList();
  }

  /** Waivers in force that end before a time, the first to end first. */
  @Transactional(readOnly = true)
  public List<GrantedWaiver> endingBefore(Instant time) {
    return jdbc.sql(COLUMNS + "where w.state = 'in-force' and w.until <= ? order by w.until, w.id")
        .param(utc(time))
        .query(this::kept)
        .list();
  }

  /** How many wait for a second administrator who is not this one. */
  @Transactional(readOnly = true)
  public int waitingFor(String administrator) {
    return jdbc.sql("select count(*) from waiver where state = 'waiting' and granted_by <> ?")
        .param(administrator)
        .query(Integer.class)
        .single();
  }

  @Transactional(readOnly = true)
  public GrantedWaiver get(long id) {
    return find(id, "")
        .orElseThrow(() -> ProblemException.notFound("There is no waiver " + id + "."));
  }

  private GrantedWaiver locked(long id) {
    jdbc.sql("select id from waiver where id = ? for update")
        .param(id)
        .query(Long.class)
        .optional();
    return get(id);
  }

  private Optional<GrantedWaiver> find(long id, String suffix) {
    return jdbc.sql(COLUMNS + "where w.id = ?" + suffix).param(id).query(this::kept).optional();
  }

  private GrantedWaiver kept(ResultSet r, int n) throws SQLException {
    LocalDateTime ended = r.getObject("ended_at", LocalDateTime.class);
    return new GrantedWaiver(
        r.getLong("id"),
        r.getString("scope"),
        r.getString("meeting"),
        r.getString("title"),
        r.getString("occurrence"),
        r.getString("check_id"),
        r.getString("subject"),
        r.getString("unit"),
        r.getString("reason"),
        r.getString("asked_by"),
        r.getString("granted_by"),
        r.getObject("granted_at", LocalDateTime.class).toInstant(ZoneOffset.UTC),
        r.getString("second_by"),
        r.getObject("until", LocalDateTime.class).toInstant(ZoneOffset.UTC),
        r.getString("state"),
        r.getString("ended_by"),
        ended == null ? null : ended.toInstant(ZoneOffset.UTC));
  }

  /** Lets waivers lapse whose time is over, and warns of those about to. */
  @Scheduled(fixedDelay = 2000)
  @Transactional
  public void passTime() {
    Instant now = clock.instant();
    for (long id : ids("state in ('in-force', 'waiting') and until <= ?", now)) {
      jdbc.sql("update waiver set state = 'lapsed' where id = ?").param(id).update();
      changed(get(id));
    }
    for (long id : ids("state = 'in-force' and not warned and until <= ?", now.plus(WARNING))) {
      jdbc.sql("update waiver set warned = true where id = ?").param(id).update();
      warn(get(id));
    }
  }

  private List<Long> ids(String condition, Instant time) {
    return jdbc.sql("select id from waiver where " + condition + " for update skip locked")
        .param(utc(time))
        .query(Long.class)
        .list();
  }

  private void warn(GrantedWaiver waiver) {
    String what = waiver.title() == null ? waiver.subject() : waiver.title();
    String body =
        """
        The waiver for %s ends on %s.

        Reason:  %s
        Granted: by %s

        After that, what it covers is found again. Mend it, or grant a new waiver.
        """
            .formatted(what, WHEN.format(waiver.until()), waiver.reason(), waiver.grantedBy());
    Set<String> to = new java.util.LinkedHashSet<>(access.wardens());
    if (waiver.askedBy() != null) {
      to.add(waiver.askedBy());
    }
    outbox.write(
        to.stream()
            .map(
                email ->
                    new OutboxService.Letter(
                        email, "A waiver is about to end: " + what, "waiver:" + waiver.id(), body))
            .toList(),
        "upright-warden");
    signals.send(Signals.Topic.WAIVERS);
  }

  /** Whether waivers take two administrators, and who asked to go back to one. */
  public record WaiverSettings(boolean byTwo, @Nullable String oneAskedBy) {}

  @Transactional(readOnly = true)
  public WaiverSettings settings() {
    return jdbc.sql("select waivers_by_two, one_waiver_by from house")
        .query((r, n) -> new WaiverSettings(r.getBoolean(1), r.getString(2)))
        .single();
  }

  private boolean byTwo() {
    return settings().byTwo();
  }

  /** Switched on by one administrator; off by two, or one alone could grant by switching it off. */
  @Transactional
  public WaiverSettings setByTwo(boolean two, SignedIn by) {
    WaiverSettings now = settings();
    if (two) {
      jdbc.sql("update house set waivers_by_two = true, one_waiver_by = null").update();
    } else if (now.byTwo() && now.oneAskedBy() == null) {
      jdbc.sql("update house set one_waiver_by = ?").param(by.email()).update();
    } else if (now.byTwo() && !by.email().equals(now.oneAskedBy())) {
      jdbc.sql("update house set waivers_by_two = false, one_waiver_by = null").update();
    }
    WaiverSettings then = settings();
    ledger.changed("house", "waivers", "Waivers", () -> now, () -> then, by.email());
    return then;
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }
}
