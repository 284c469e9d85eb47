package app.uprightwarden.server.services;

import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.register.StoredMeeting;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Conference services, and what is decided of the meetings that they hold. */
@RestController
class ServicesController {
  private static final String LEVEL = "read|suggest|write";

  private final Services services;
  private final ServiceMeans known;
  private final Paces paces;
  private final AccessService access;
  private final ServiceProposals waiting;
  private final ServiceDefaults defaults;
  private final ServiceNotices notices;
  private final HeldMeetings held;
  private final RegisterService register;
  private final TransactionTemplate transaction;

  ServicesController(
      Services services,
      ServiceMeans known,
      Paces paces,
      AccessService access,
      ServiceProposals waiting,
      ServiceDefaults defaults,
      ServiceNotices notices,
      HeldMeetings held,
      RegisterService register,
      TransactionTemplate transaction) {
    this.services = services;
    this.known = known;
    this.paces = paces;
    this.access = access;
    this.waiting = waiting;
    this.defaults = defaults;
    this.notices = notices;
    this.held = held;
    this.register = register;
    this.transaction = transaction;
  }

  /** Where a service is, and what we prove ourselves by. */
  record ServiceAddress(
      @NotBlank @Size(max = 300) String address, @NotBlank @Size(max = 400) String key) {}

  /** The same with what it is to be called here. */
  record ServiceLink(
      @NotBlank @Size(max = 60) String name,
      @NotBlank @Size(max = 300) String address,
      @NotBlank @Size(max = 400) String key) {}

  /** What a service has said that it can. */
  record ServiceTried(String make, int perSecond, Map<String, Object> means) {}

  /**
   * What is to be otherwise about a service. What is left out stays: nobody undoes by a name what
   * somebody else has decided meanwhile about writing.
   *
   * @param unitsSeen the units as they were looked at; left out, nobody asks whether somebody
   *     changed them since
   */
  record ServiceSettings(
      @Nullable @Pattern(regexp = "(?s).*\\S.*") @Size(max = 60) String name,
      @Nullable @Pattern(regexp = LEVEL) String level,
      @Nullable Boolean paused,
      @Nullable @Size(max = 500) List<@NotNull @Size(max = 64) String> units,
      @Nullable @Size(max = 500) List<@NotNull @Size(max = 64) String> unitsSeen) {}

  record ServiceKey(@NotBlank @Size(max = 400) String key) {}

  record ServiceChoice(@Min(1) long service) {}

  @GetMapping("/api/services")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<Services.LinkedService> all() {
    return services.all();
  }

  /** What is wrong with services themselves. */
  @GetMapping("/api/services/notices")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<ServiceNotices.ServiceNotice> notices() {
    return notices.all();
  }

  /** Asks a service what it can, and stores nothing. */
  @PostMapping("/api/services/attempt")
  @PreAuthorize("hasRole('WARDEN')")
  ServiceTried attempt(@RequestBody @Valid ServiceAddress where) {
    checkAlone();
    ConferenceService.About about = services.attempt(where.address().strip(), where.key().strip());
    return new ServiceTried(about.make(), about.perSecond(), MeansJson.write(about.means()));
  }

  @PostMapping("/api/services")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  List<Services.LinkedService> link(
      @RequestBody @Valid ServiceLink wanted, @AuthenticationPrincipal SignedIn who) {
    checkAlone();
    String address = wanted.address().strip();
    String key = wanted.key().strip();
    services.link(wanted.name().strip(), address, key, services.attempt(address, key), who.email());
    return services.all();
  }

  /** Where a second warden has to agree, nothing is asked anywhere before. */
  private void checkAlone() {
    if (waiting.needsSecond()) {
      throw ProblemException.conflict(
          "needs-second",
          "In this house a second warden agrees before a service is spoken with. Propose it.");
    }
  }

  /** Services that wait for a second warden. */
  @GetMapping("/api/services/proposals")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<ServiceProposals.ServiceProposal> proposals() {
    return waiting.proposals();
  }

  /** Proposes a service where a second warden has to agree; it is not spoken with till then. */
  @PostMapping("/api/services/proposals")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  List<ServiceProposals.ServiceProposal> propose(
      @RequestBody @Valid ServiceLink wanted, @AuthenticationPrincipal SignedIn who) {
    waiting.propose(
        wanted.name().strip(), wanted.address().strip(), wanted.key().strip(), who.email());
    return waiting.proposals();
  }

  /** A second warden agrees: it is tried, and linked for reading. */
  @PostMapping("/api/services/proposals/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<Services.LinkedService> consent(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    ServiceProposals.Proposed of = waiting.proposed(id, who);
    access.checkCountsAsSecond(who);
    ServiceProposals.ServiceProposal wanted = of.proposal();
    ConferenceService.About about = services.attempt(wanted.address(), of.key());
    waiting.linkProposed(id, about, who);
    return services.all();
  }

  /** Declines what another proposed, or takes one's own proposal back. */
  @DeleteMapping("/api/services/proposals/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<ServiceProposals.ServiceProposal> drop(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    waiting.dropProposal(id, who);
    return waiting.proposals();
  }

  @PutMapping("/api/services/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<Services.LinkedService> set(
      @PathVariable long id,
      @RequestBody @Valid ServiceSettings wanted,
      @AuthenticationPrincipal SignedIn who) {
    services.set(
        id,
        new Services.Settings(
            wanted.name() == null ? null : wanted.name().strip(),
            wanted.level(),
            wanted.paused(),
            wanted.units(),
            wanted.unitsSeen()),
        who);
    paces.forget(id);
    return services.all();
  }

  /** Gives another key; one that the service refuses is not stored. */
  @PutMapping("/api/services/{id}/key")
  @PreAuthorize("hasRole('WARDEN')")
  List<Services.LinkedService> rekey(@PathVariable long id, @RequestBody @Valid ServiceKey given) {
    services.attempt(services.addressOf(id), given.key().strip());
    services.rekey(id, given.key().strip());
    paces.forget(id);
    return services.all();
  }

  @DeleteMapping("/api/services/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  List<Services.LinkedService> unlink(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    services.unlink(id, who);
    return services.all();
  }

  /** A service's own defaults and locks, beside what the edition in force says. */
  @GetMapping("/api/services/{id}/defaults")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ServiceDefaults.DefaultsView defaults(@PathVariable long id) {
    return defaults.view(id);
  }

  /** Writes what the edition in force says once more, over what somebody has changed there. */
  @PostMapping("/api/services/{id}/defaults")
  @PreAuthorize("hasRole('WARDEN')")
  ServiceDefaults.DefaultsView setDefaultsBack(@PathVariable long id) {
    defaults.setBack(id);
    return defaults.view(id);
  }

  /** Has a meeting held by a service: it is made there. */
  @PutMapping("/api/meetings/{id}/service")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void hold(
      @PathVariable String id,
      @RequestBody @Valid ServiceChoice choice,
      @AuthenticationPrincipal SignedIn who) {
    ServiceMeans.Named service = known.service(choice.service());
    if (service == null || service.unlinked()) {
      throw ProblemException.notFound("There is no service " + choice.service() + ".");
    }
    if (!service.level().equals("write")) {
      throw ProblemException.conflict(
          "service-not-written",
          service.name() + " is not linked for writing, so no meeting can be made there.");
    }
    transaction.executeWithoutResult(
        status -> held.hold(register.get(id, who), service, who.email()));
  }

  /** Sends what was decided once more, over what the service holds. */
  @PostMapping("/api/meetings/{id}/service/decided")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setBack(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    StoredMeeting stored = register.get(id, who);
    if (stored.service() != null && stored.service().service().level().equals("read")) {
      throw ProblemException.conflict(
          "service-not-written",
          stored.service().service().name()
              + " is linked for reading only. Change the meeting there, or let a warden link it"
              + " for writing.");
    }
    held.setBack(stored, who.email());
  }

  /** Decides that it may be as the service holds it. */
  @PostMapping("/api/meetings/{id}/service/held")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void accept(@PathVariable String id, @AuthenticationPrincipal SignedIn who) {
    held.accept(register.get(id, who), who.email());
  }
}
