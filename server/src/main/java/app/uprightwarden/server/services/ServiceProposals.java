package app.uprightwarden.server.services;

import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.vault.Vault;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Services that wait for a second warden, where the house wants two. */
@Service
public class ServiceProposals {
  private final ServiceRepository rows;
  private final Services services;
  private final KnownServices known;
  private final ServiceAddresses addresses;
  private final SettingsService settings;
  private final Vault vault;
  private final Ledger ledger;
  private final DatabaseClock clock;

  ServiceProposals(
      ServiceRepository rows,
      Services services,
      KnownServices known,
      ServiceAddresses addresses,
      SettingsService settings,
      Vault vault,
      Ledger ledger,
      DatabaseClock clock) {
    this.rows = rows;
    this.services = services;
    this.known = known;
    this.addresses = addresses;
    this.settings = settings;
    this.vault = vault;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** A service that somebody wants linked, for which a second warden has yet to agree. */
  public record ServiceProposal(long id, String name, String address, String by, Instant at) {}

  /** What a proposal is about. */
  record Proposed(ServiceProposal proposal, String key) {}

  /** Those that wait for a second warden, the first proposed first. */
  @Transactional(readOnly = true)
  public List<ServiceProposal> proposals() {
    return rows.all().stream()
        .filter(row -> row.proposedBy != null)
        .map(ServiceProposals::proposal)
        .sorted(Comparator.comparing(ServiceProposal::at))
        .toList();
  }

  private static ServiceProposal proposal(ServiceEntity row) {
    return new ServiceProposal(
        row.id,
        Objects.requireNonNull(row.proposedName),
        row.address,
        Objects.requireNonNull(row.proposedBy),
        Objects.requireNonNull(row.proposedAt));
  }

  /** Whether a service is linked only where a second warden agrees. */
  public boolean needsSecond() {
    return settings.consent().needsConsent();
  }

  /** Keeps what somebody wants linked, and asks nothing there until a second warden agrees. */
  @Transactional
  public void propose(String name, String address, String key, String by) {
    String fault = addresses.fault(address);
    if (fault != null) {
      throw ProblemException.unreadable(
          "The address " + fault, List.of(new Fault("/address", "The address " + fault)));
    }
    services.checkRoom(Services.base(address).toString());
    services.checkName(name, 0);
    ServiceEntity row = services.rowOf(Services.base(address).toString());
    row.address = Services.base(address).toString();
    row.proposedBy = by;
    row.proposedAt = clock.instant();
    row.proposedName = name;
    if (row.id == 0) {
      row.name = name;
      row.about =
          known.written(
              new ConferenceService.About("", new Means(Map.of()), 1, false, false, false));
      row.addedBy = by;
      row.addedAt = row.proposedAt;
      row.stateSince = row.proposedAt;
      row.unlinkedAt = row.proposedAt;
      rows.insert(row);
    }
    row.secretCipher = vault.seal(Services.owner(row.id), key);
    rows.update(row);
    ledger.changed(
        "service", name, name, null, () -> InOrder.map("name", name, "address", row.address), by);
  }

  /**
   * What waits for a second warden.
   *
   * @throws ProblemException 404 where it does not, 403 where it is the one who asks that proposed
   *     it
   */
  @Transactional(readOnly = true)
  public Proposed proposed(long id, SignedIn by) {
    Proposed proposed =
        rows.find(id)
            .filter(row -> row.proposedBy != null)
            .map(row -> new Proposed(proposal(row), services.key(row)))
            .orElseThrow(
                () ->
                    ProblemException.notFound(
                        "This does not wait for a second warden any more. Look again."));
    if (proposed.proposal().by().equals(by.email())) {
      throw ProblemException.forbidden(
          "own-proposal", "Consent comes from another warden than the one who proposed.");
    }
    return proposed;
  }

  /** Links what was proposed and has answered, unless somebody has dropped it meanwhile. */
  @Transactional
  public void linkProposed(long id, ConferenceService.About about, SignedIn by) {
    rows.locked(id);
    Proposed of = proposed(id, by);
    ServiceProposal wanted = of.proposal();
    services.link(wanted.name(), wanted.address(), of.key(), about, wanted.by());
  }

  /** It is not linked: declined by another, or taken back by who proposed it. */
  @Transactional
  public void dropProposal(long id, SignedIn by) {
    ServiceEntity row =
        rows.locked(id)
            .filter(each -> each.proposedBy != null)
            .orElseThrow(
                () ->
                    ProblemException.notFound(
                        "This does not wait for a second warden any more. Look again."));
    String name = Objects.requireNonNull(row.proposedName);
    ledger.changed(
        "service",
        name,
        name,
        () -> InOrder.map("name", name, "address", row.address),
        null,
        by.email());
    row.proposedBy = null;
    row.proposedAt = null;
    row.proposedName = null;
    row.secretCipher = null;
    rows.update(row);
  }
}
