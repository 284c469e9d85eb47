package app.uprightwarden.server.rulebook;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.schema.BundleSchema;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Editions in force and before, and what is being drafted. */
@Service
public class RulebookService {
  private final EditionRepository editions;
  private final DraftRepository drafts;
  private final OrganisationService organisation;
  private final BundleSchema schema;
  private final JsonMapper json;
  private final Clock clock;

  RulebookService(
      EditionRepository editions,
      DraftRepository drafts,
      OrganisationService organisation,
      BundleSchema schema,
      JsonMapper json,
      Clock clock) {
    this.editions = editions;
    this.drafts = drafts;
    this.organisation = organisation;
    this.schema = schema;
    this.json = json;
    this.clock = clock;
  }

  /**
   * An edition.
   *
   * @param number 0 where nothing has been published yet
   * @param document the bundle's rulebook part, as it was given
   */
  public record Edition(
      int number, Instant publishedAt, String publishedBy, String reason, JsonNode document) {}

  /** A draft, and the edition it was begun from. */
  public record Draft(int baseEdition, Instant savedAt, JsonNode document) {}

  /** The edition in force; number 0 and no layers where there is none yet. */
  @Transactional(readOnly = true)
  public Edition inForce() {
    return editions
        .findFirstByOrderByNumberDesc()
        .map(this::edition)
        .orElseGet(() -> new Edition(0, Instant.EPOCH, "", "", json.readTree("{\"layers\": []}")));
  }

  @Transactional(readOnly = true)
  public Edition edition(int number) {
    return editions
        .findById(number)
        .map(this::edition)
        .orElseThrow(() -> ProblemException.notFound("There is no edition " + number + "."));
  }

  @Transactional(readOnly = true)
  public List<Edition> editions() {
    return editions.findAllByOrderByNumberDesc().stream().map(this::edition).toList();
  }

  private Edition edition(EditionEntity e) {
    return new Edition(
        e.number(), e.publishedAt(), e.publishedBy(), e.reason(), json.readTree(e.document()));
  }

  /** The rulebook of an edition for the core to judge with. */
  @Transactional(readOnly = true)
  public Rulebook rulebook(Edition edition) {
    List<Fault> ignored = new ArrayList<>(); // it was checked when it was published
    return new RulebookReader(ignored, unit -> true, kind -> true).read(edition.document(), "");
  }

  /**
   * Publishes a rulebook as the next edition.
   *
   * @param base the edition the author had before their eyes
   * @throws ProblemException 409 where another edition was published since, 422 where it is invalid
   */
  @Transactional
  public Edition publish(int base, JsonNode document, String reason, SignedIn by) {
    validate(document);
    int current = inForce().number();
    if (current != base) {
      throw overtaken(current);
    }
    Edition published = append(document, reason, by.email());
    drafts.deleteById(by.email());
    return published;
  }

  /** Publishes without a base, as an import does inside its own transaction. */
  @Transactional
  public Edition append(JsonNode document, String reason, String by) {
    return append(document, reason, by, clock.instant());
  }

  /** The same, as of a time: history that is brought in keeps its times. */
  @Transactional
  public Edition append(JsonNode document, String reason, String by, Instant at) {
    int number = inForce().number() + 1;
    EditionEntity edition =
        new EditionEntity(number, at, by, reason, json.writeValueAsString(document));
    try {
      return edition(editions.saveAndFlush(edition));
    } catch (DataIntegrityViolationException e) {
      throw overtaken(number); // another took the number between our look and our write
    }
  }

  private static ProblemException overtaken(int current) {
    return ProblemException.conflict(
        "edition-overtaken",
        "Edition "
            + current
            + " was published meanwhile. Your draft is kept: compare it with that edition, then"
            + " publish again.");
  }

  @Transactional(readOnly = true)
  public Optional<Draft> draft(SignedIn who) {
    return drafts
        .findById(who.email())
        .map(d -> new Draft(d.baseEdition(), d.savedAt(), json.readTree(d.document())));
  }

  /** Keeps a draft, valid or not: nothing is lost while somebody is still thinking. */
  @Transactional
  public Draft save(SignedIn who, int baseEdition, JsonNode document) {
    DraftEntity draft = drafts.findById(who.email()).orElseGet(() -> new DraftEntity(who.email()));
    draft.save(baseEdition, json.writeValueAsString(document), clock.instant());
    drafts.save(draft);
    return new Draft(baseEdition, draft.savedAt(), document);
  }

  @Transactional
  public void discard(SignedIn who) {
    drafts.deleteById(who.email());
  }

  /** The rulebook offered where there is none yet, drawn from published guidance. */
  public JsonNode starter() {
    try (InputStream in =
        Objects.requireNonNull(
            RulebookService.class.getResourceAsStream("/starter/rulebook.json"))) {
      return json.readTree(in);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Refuses a rulebook that is not one, naming each fault. */
  public void validate(JsonNode document) {
    Organisation known = organisation.organisation();
    List<Fault> faults = new ArrayList<>(schema.rulebookFaults(document));
    if (faults.isEmpty()) {
      new RulebookReader(
              faults,
              unit -> known.units().stream().anyMatch(u -> u.id().equals(unit)),
              kind -> known.kinds().stream().anyMatch(k -> k.id().equals(kind)))
          .read(document, "");
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The rulebook has faults. Nothing was published.", faults);
    }
  }
}
