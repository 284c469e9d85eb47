package app.uprightwarden.server.waivers;

import app.uprightwarden.core.audit.Waiver;
import app.uprightwarden.core.audit.Waivers;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Grants waivers, ends them, lets them lapse, and warns before they do. */
@Service
public class WaiverService {
  private static final Duration LONGEST = Duration.ofDays(366);
  private static final Duration WARNING = Duration.ofDays(2);
  private static final DateTimeFormatter WHEN = DateWords.english("day-and-time-at");

  private final WaiverRepository waivers;
  private final RegisterService register;
  private final SettingsService settings;
  private final UnitWaivers unitWaivers;
  private final RegisterChanges changes;
  private final OrganisationService organisation;
  private final OutboxService outbox;
  private final AccessService access;
  private final Signals signals;
  private final Ledger ledger;
  private final Clock clock;

  WaiverService(
      WaiverRepository waivers,
      RegisterService register,
      SettingsService settings,
      UnitWaivers unitWaivers,
      RegisterChanges changes,
      OrganisationService organisation,
      OutboxService outbox,
      AccessService access,
      Signals signals,
      Ledger ledger,
      Clock clock) {
    this.waivers = waivers;
    this.register = register;
    this.settings = settings;
    this.unitWaivers = unitWaivers;
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
    List<Fault> faults = new ArrayList<>(faults(wanted));
    if (faults.isEmpty()) {
      faults.addAll(unitWaivers.faults(wanted, by));
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The waiver has faults. Nothing was granted.", faults);
    }
    WaiverEntity row = new WaiverEntity();
    row.scope = wanted.scope();
    row.meeting = wanted.scope().equals("rule") ? null : wanted.meeting();
    row.occurrence = orEmpty(wanted.occurrence());
    row.checkId = wanted.scope().equals("finding") ? orEmpty(wanted.check()) : "";
    row.subject = wanted.scope().equals("meeting") ? "" : orEmpty(wanted.subject());
    row.unit = wanted.scope().equals("rule") ? wanted.unit() : null;
    row.reason = wanted.reason().strip();
    row.askedBy = wanted.askedBy();
    row.grantedBy = by.email();
    row.grantedAt = clock.instant();
    row.until = wanted.until();
    row.state = byTwo() ? "waiting" : "in-force";
    waivers.insert(row);
    return changed(get(row.id));
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
        if (register.present(List.of(orEmpty(wanted.meeting()))).isEmpty()) {
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
    WaiverEntity waiver = locked(id);
    if (!waiver.state.equals("waiting")) {
      throw ProblemException.conflict("not-waiting", "This waiver waits for nobody any more.");
    }
    if (Directory.fold(waiver.grantedBy).equals(Directory.fold(by.email()))) {
      throw ProblemException.forbidden(
          "not-alone", "Another warden than the first gives the second word.");
    }
    if (consent) {
      access.checkCountsAsSecond(by);
    }
    waiver.state = consent ? "in-force" : "refused";
    waiver.secondBy = by.email();
    waiver.secondAt = clock.instant();
    waivers.update(waiver);
    return changed(get(id));
  }

  /** Ends a waiver before its time. */
  @Transactional
  public GrantedWaiver end(long id, SignedIn by) {
    WaiverEntity waiver = locked(id);
    if (!unitWaivers.concerns(by, waiver.meeting, waiver.unit)) {
      throw none(id);
    }
    if (!Set.of("in-force", "waiting").contains(waiver.state)) {
      throw ProblemException.conflict("not-in-force", "This waiver is over already.");
    }
    waiver.state = "ended";
    waiver.endedBy = by.email();
    waiver.endedAt = clock.instant();
    waivers.update(waiver);
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
    List<Waiver> found =
        waivers.inForce(clock.instant()).stream()
            .map(
                row ->
                    new Waiver(
                        row.id,
                        Waiver.Scope.valueOf(row.scope.toUpperCase(Locale.ROOT)),
                        row.meeting,
                        row.occurrence,
                        row.checkId,
                        row.subject,
                        row.unit))
            .toList();
    return found.isEmpty() ? Waivers.NONE : new Waivers(found);
  }

  /** Waivers, those that matter now first; null filters nothing. */
  @Transactional(readOnly = true)
  public List<GrantedWaiver> list(@Nullable String meeting, @Nullable String state, int most) {
    return granted(waivers.list(meeting, state, most));
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

  /** Waivers in force that end before a time and concern somebody, the first to end first. */
  @Transactional(readOnly = true)
  public List<GrantedWaiver> endingBefore(Instant time, SignedIn who) {
    return granted(waivers.endingBefore(time)).stream()
        .filter(each -> unitWaivers.concerns(who, each.meeting(), each.unit()))
        .toList();
  }

  /** How many wait for a second administrator who is not this one. */
  @Transactional(readOnly = true)
  public int waitingFor(SignedIn administrator) {
    return administrator.role() == Role.UNIT_WARDEN
        ? 0
        : Math.toIntExact(waivers.waitingFor(administrator.email()));
  }

  @Transactional(readOnly = true)
  public GrantedWaiver get(long id) {
    return waivers.find(id).map(row -> granted(List.of(row)).get(0)).orElseThrow(() -> none(id));
  }

  private static ProblemException none(long id) {
    return ProblemException.notFound("There is no waiver " + id + ".");
  }

  private WaiverEntity locked(long id) {
    return waivers.locked(id).orElseThrow(() -> none(id));
  }

  private List<GrantedWaiver> granted(List<WaiverEntity> rows) {
    Map<String, String> titles =
        register.titles(
            rows.stream().map(row -> row.meeting).filter(Objects::nonNull).distinct().toList());
    return rows.stream()
        .map(row -> granted(row, row.meeting == null ? null : titles.get(row.meeting)))
        .toList();
  }

  private static GrantedWaiver granted(WaiverEntity row, @Nullable String title) {
    return new GrantedWaiver(
        row.id,
        row.scope,
        row.meeting,
        title,
        row.occurrence,
        row.checkId,
        row.subject,
        row.unit,
        row.reason,
        row.askedBy,
        row.grantedBy,
        row.grantedAt,
        row.secondBy,
        row.until,
        row.state,
        row.endedBy,
        row.endedAt);
  }

  /** Lets waivers lapse whose time is over, and warns of those about to. */
  @Transactional
  public void passTime() {
    Instant now = clock.instant();
    for (WaiverEntity waiver : waivers.over(now)) {
      waiver.state = "lapsed";
      waivers.update(waiver);
      changed(get(waiver.id));
    }
    for (WaiverEntity waiver : waivers.toWarnOf(now.plus(WARNING))) {
      waiver.warned = true;
      waivers.update(waiver);
      warn(get(waiver.id));
    }
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
  public record WaiverSettings(
      boolean byTwo, @Nullable String oneAskedBy, int unitWaiverSeverity) {}

  @Transactional(readOnly = true)
  public WaiverSettings settings() {
    SettingsService.WaiverConsent consent = settings.waiverConsent();
    return new WaiverSettings(consent.byTwo(), consent.oneAskedBy(), settings.unitWaiverSeverity());
  }

  /** Up to which severity a unit's warden waives; 0 for none. */
  @Transactional
  public WaiverSettings setUnitSeverity(int severity, SignedIn by) {
    WaiverSettings now = settings();
    settings.setUnitWaiverSeverity(severity);
    WaiverSettings then = settings();
    ledger.changed("house", "unit-waivers", "Waivers of units", () -> now, () -> then, by.email());
    return then;
  }

  private boolean byTwo() {
    return settings().byTwo();
  }

  /** Switched on by one administrator; off by two, or one alone could grant by switching it off. */
  @Transactional
  public WaiverSettings setByTwo(boolean two, SignedIn by) {
    WaiverSettings now = settings();
    if (two) {
      settings.setWaiverConsent(new SettingsService.WaiverConsent(true, null));
    } else if (now.byTwo() && now.oneAskedBy() == null) {
      settings.setWaiverConsent(new SettingsService.WaiverConsent(true, by.email()));
    } else if (now.byTwo() && !by.email().equals(now.oneAskedBy())) {
      settings.setWaiverConsent(new SettingsService.WaiverConsent(false, null));
    }
    WaiverSettings then = settings();
    ledger.changed("house", "waivers", "Waivers", () -> now, () -> then, by.email());
    return then;
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob waiversPassing(WaiverService waivers) {
      return new RecurringJob(
          "waivers", "Waivers that lapse", Duration.ofSeconds(2), waivers::passTime);
    }
  }
}
