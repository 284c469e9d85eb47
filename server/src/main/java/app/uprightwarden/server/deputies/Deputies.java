package app.uprightwarden.server.deputies;

import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Names deputies, and ends that. */
@Service
class Deputies {
  private static final Duration LONGEST = Duration.ofDays(92);
  private static final DateTimeFormatter WHEN = DateWords.english("date-and-time-bare");

  private final AccessService access;
  private final UnitScope scope;
  private final OrganisationService organisation;
  private final OutboxService outbox;
  private final Ledger ledger;
  private final Clock clock;

  Deputies(
      AccessService access,
      UnitScope scope,
      OrganisationService organisation,
      OutboxService outbox,
      Ledger ledger,
      Clock clock) {
    this.access = access;
    this.scope = scope;
    this.organisation = organisation;
    this.outbox = outbox;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** Those whose time is not over; to a unit's warden those of their units. */
  @Transactional(readOnly = true)
  public List<AccessService.Deputy> all(SignedIn who) {
    Set<String> units = scope.units(who);
    return access.deputies().stream()
        .filter(each -> units == null || units.contains(each.unit()))
        .toList();
  }

  /** Lets somebody stand in, in place of what was said of them before, and writes to them. */
  @Transactional
  public void name(String email, String unit, Instant from, Instant until, SignedIn by) {
    checkMay(unit, by);
    checkTime(from, until);
    checkNoOthers(email, by);
    Map<String, Object> before = document(email, by);
    AccessService.Deputy made = access.setDeputy(email, unit, from, until, by.email());
    ledger.changed(
        "deputy",
        made.email(),
        made.name(),
        before == null ? null : () -> before,
        () -> document(made),
        by.email());
    String of = unitName(unit);
    write(
        made,
        "You stand in for " + of,
        """
        %s has named you to stand in as the warden of %s, from %s to %s (UTC).

        In that time you see what is found in the meetings of %s, mend and waive it, answer
        alerts and run sessions there, as its warden does. Before and after you are a host.
        """
            .formatted(by.email(), of, WHEN.format(from), WHEN.format(until), of),
        by);
  }

  /** Ends it at once. */
  @Transactional
  public void end(String email, SignedIn by) {
    AccessService.Deputy now =
        all(by).stream()
            .filter(each -> each.email().equalsIgnoreCase(email))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound(email + " stands in for nobody."));
    checkMay(now.unit(), by);
    access.endDeputy(email);
    ledger.changed("deputy", now.email(), now.name(), () -> document(now), null, by.email());
    String of = unitName(now.unit());
    write(
        now,
        "You no longer stand in for " + of,
        by.email() + " has ended that you stand in as the warden of " + of + ". You are a host.\n",
        by);
  }

  /** A deputy names none: a right that is lent is not lent on. */
  private void checkMay(String unit, SignedIn by) {
    if (organisation.organisation().units().stream().noneMatch(u -> u.id().equals(unit))) {
      throw ProblemException.invalid(
          "There is no such unit.", List.of(new Fault("/unit", "has no unit " + unit)));
    }
    Set<String> units = scope.units(by);
    if (units != null && !units.contains(unit)) {
      throw ProblemException.forbidden(
          "another-unit", "Another unit’s deputy is named by its own warden.");
    }
    if (access.ownRole(by.email()).filter(role -> role == Role.HOST).isPresent()) {
      throw ProblemException.forbidden(
          "deputy-names-none", "Whoever stands in for a warden names no deputy of their own.");
    }
  }

  /** Whom another unit has named is not taken from it. */
  private void checkNoOthers(String email, SignedIn by) {
    Set<String> units = scope.units(by);
    boolean isOthers =
        units != null
            && access.deputies().stream()
                .anyMatch(
                    each -> each.email().equalsIgnoreCase(email) && !units.contains(each.unit()));
    if (isOthers) {
      throw ProblemException.forbidden(
          "another-unit",
          "They stand in for another unit. Its own warden, or one of the organisation, ends that"
              + " first.");
    }
  }

  private void checkTime(Instant from, Instant until) {
    if (!until.isAfter(from) || !until.isAfter(clock.instant())) {
      throw ProblemException.invalid(
          "The time ends before it begins, or is over.",
          List.of(new Fault("/until", "has to be after the beginning, and ahead")));
    }
    if (Duration.between(from, until).compareTo(LONGEST) > 0) {
      throw ProblemException.invalid(
          "Somebody stands in for %d days at most.".formatted(LONGEST.toDays()),
          List.of(new Fault("/until", "is more than %d days on".formatted(LONGEST.toDays()))));
    }
  }

  private @Nullable Map<String, Object> document(String email, SignedIn by) {
    return all(by).stream()
        .filter(each -> each.email().equalsIgnoreCase(email))
        .findFirst()
        .map(Deputies::document)
        .orElse(null);
  }

  private static Map<String, Object> document(AccessService.Deputy of) {
    Map<String, Object> document = new java.util.LinkedHashMap<>();
    document.put("unit", of.unit());
    document.put("from", of.from().toString());
    document.put("until", of.until().toString());
    return document;
  }

  private String unitName(String unit) {
    return organisation.organisation().units().stream()
        .filter(each -> each.id().equals(unit))
        .map(Organisation.Unit::name)
        .findFirst()
        .orElse(unit);
  }

  private void write(AccessService.Deputy to, String subject, String body, SignedIn by) {
    outbox.write(
        List.of(new OutboxService.Letter(to.email(), subject, "unit:" + to.unit(), body)),
        by.email());
  }
}
