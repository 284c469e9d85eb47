package app.uprightwarden.server.rulebook;

import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.DateWords;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.schema.BundleSchema;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Editions in force, before and to come. */
@Service
public class RulebookService {
  private static final int MAX_READ = 50;

  private final Map<Published, Rulebook> read = new ConcurrentHashMap<>();
  private final EditionRepository editions;
  private final OrganisationService organisation;
  private final BundleSchema schema;
  private final Ledger ledger;
  private final JsonMapper json;
  private final Clock clock;

  RulebookService(
      EditionRepository editions,
      OrganisationService organisation,
      BundleSchema schema,
      Ledger ledger,
      JsonMapper json,
      Clock clock) {
    this.editions = editions;
    this.organisation = organisation;
    this.schema = schema;
    this.ledger = ledger;
    this.json = json;
    this.clock = clock;
  }

  /**
   * An edition.
   *
   * @param number 0 where nothing has been published yet
   * @param effectiveAt when it comes, or came, into force
   * @param consentBy the second administrator, where one was needed
   * @param withdrawnAt taken back before it came into force
   * @param document the bundle's rulebook part, as it was given
   */
  public record Edition(
      int number,
      Instant publishedAt,
      Instant effectiveAt,
      String publishedBy,
      @Nullable String consentBy,
      String reason,
      @Nullable Instant withdrawnAt,
      @Nullable String withdrawnBy,
      JsonNode document) {
    boolean isToCome(Instant now) {
      return withdrawnAt == null && effectiveAt.isAfter(now);
    }
  }

  /**
   * What to publish.
   *
   * @param base the newest edition the author had before their eyes
   * @param effectiveAt null for at once
   * @param consentBy the second administrator, where one was needed
   */
  public record Publication(
      int base,
      JsonNode document,
      String reason,
      String by,
      @Nullable Instant effectiveAt,
      @Nullable String consentBy) {}

  /** The edition in force; number 0 and no layers where there is none yet. */
  @Transactional(readOnly = true)
  public Edition inForce() {
    return editions.inForce(clock.instant()).map(this::edition).orElseGet(this::none);
  }

  /** The newest edition that was not withdrawn, in force or still to come. */
  @Transactional(readOnly = true)
  public Edition newest() {
    return editions.newest().map(this::edition).orElseGet(this::none);
  }

  private Edition none() {
    return new Edition(
        0,
        Instant.EPOCH,
        Instant.EPOCH,
        "",
        null,
        "",
        null,
        null,
        json.readTree("{\"layers\": []}"));
  }

  /** An edition; number 0 is the one before there was any. */
  @Transactional(readOnly = true)
  public Edition edition(int number) {
    return number == 0
        ? none()
        : editions
            .find(number)
            .map(this::edition)
            .orElseThrow(() -> ProblemException.notFound("There is no edition " + number + "."));
  }

  @Transactional(readOnly = true)
  public List<Edition> editions() {
    return editions.all().stream().map(this::edition).toList();
  }

  private Edition edition(EditionEntity e) {
    return new Edition(
        e.number(),
        e.publishedAt(),
        e.effectiveAt(),
        e.publishedBy(),
        e.consentBy(),
        e.reason(),
        e.withdrawnAt(),
        e.withdrawnBy(),
        json.readTree(e.document()));
  }

  /** The rulebook of an edition for the core to judge with. */
  public Rulebook rulebook(Edition edition) {
    if (read.size() > MAX_READ) {
      read.clear();
    }
    return read.computeIfAbsent(
        new Published(edition.number(), edition.publishedAt()), key -> parse(edition.document()));
  }

  /** An edition never changes. One whose number was given back is not the next of that number. */
  private record Published(int number, Instant at) {}

  /** A document that was checked before, for the core. */
  public Rulebook parse(JsonNode document) {
    List<Fault> ignored = new ArrayList<>();
    return new RulebookReader(ignored, unit -> true, kind -> true).read(document, "");
  }

  /**
   * Publishes a rulebook as the next edition.
   *
   * @throws ProblemException 409 where another edition was published since, or one still to come
   *     would come into force after this one; 422 where it is invalid
   */
  @Transactional
  public Edition publish(Publication wanted) {
    validate(wanted.document());
    Edition newest = newest();
    if (newest.number() != wanted.base()) {
      throw overtaken(newest.number());
    }
    Instant now = clock.instant();
    Instant effective =
        wanted.effectiveAt() == null || wanted.effectiveAt().isBefore(now)
            ? now
            : wanted.effectiveAt();
    if (newest.isToCome(now) && effective.isBefore(newest.effectiveAt())) {
      throw ProblemException.conflict(
          "edition-to-come",
          "Edition "
              + newest.number()
              + " is to come into force on "
              + DateWords.at(newest.effectiveAt())
              + ". Publish for that time or later, or withdraw it first.");
    }
    return store(
        wanted.document(), wanted.reason(), wanted.by(), wanted.consentBy(), now, effective);
  }

  /** Publishes without a base, as an import does inside its own transaction. */
  @Transactional
  public Edition append(JsonNode document, String reason, String by) {
    return append(document, reason, by, clock.instant());
  }

  /** The same, as of a time: history that is brought in keeps its times. */
  @Transactional
  public Edition append(JsonNode document, String reason, String by, Instant at) {
    return store(document, reason, by, null, at, at);
  }

  /** The number of the next edition; those of withdrawn ones stay used. */
  @Transactional(readOnly = true)
  public int nextNumber() {
    return editions.highest().orElse(0) + 1;
  }

  private Edition store(
      JsonNode document,
      String reason,
      String by,
      @Nullable String consentBy,
      Instant published,
      Instant effective) {
    int number = nextNumber();
    EditionEntity edition =
        new EditionEntity(
            number, published, effective, by, consentBy, reason, json.writeValueAsString(document));
    ledger.changed(
        "edition",
        Integer.toString(number),
        "edition " + number,
        null,
        () -> InOrder.map("reason", reason, "effectiveAt", effective.toString()),
        by);
    try {
      editions.insert(edition);
      return edition(edition);
    } catch (DataIntegrityViolationException e) {
      throw overtaken(number); // another took the number between our look and our write
    }
  }

  /**
   * Takes back an edition that has not come into force. Its number stays used.
   *
   * @throws ProblemException 409 where it is in force, or was
   */
  @Transactional
  public Edition withdraw(int number, SignedIn by) {
    EditionEntity edition =
        editions
            .find(number)
            .orElseThrow(() -> ProblemException.notFound("There is no edition " + number + "."));
    if (!edition(edition).isToCome(clock.instant())) {
      throw ProblemException.conflict(
          "edition-in-force",
          "Edition "
              + number
              + " has come into force. Step back to an earlier one by publishing it anew.");
    }
    edition.withdraw(by.email(), clock.instant());
    editions.update(edition);
    return edition(edition);
  }

  private static ProblemException overtaken(int current) {
    return ProblemException.conflict(
        "edition-overtaken",
        "Edition "
            + current
            + " was published meanwhile. Your draft is kept: bring it up to that edition, look at"
            + " what differs, then publish again.");
  }

  /** The edition that is to come into force next, if any. */
  @Transactional(readOnly = true)
  public Optional<Edition> toCome() {
    return Optional.of(newest()).filter(e -> e.isToCome(clock.instant()));
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

  /** Refuses a rulebook that is not one, naming each fault; else gives it for the core. */
  public Rulebook validate(JsonNode document) {
    Organisation known = organisation.organisation();
    List<Fault> faults = new ArrayList<>(schema.rulebookFaults(document));
    Rulebook rulebook = Rulebook.EMPTY;
    if (faults.isEmpty()) {
      rulebook =
          new RulebookReader(
                  faults,
                  unit -> known.units().stream().anyMatch(u -> u.id().equals(unit)),
                  kind -> known.kinds().stream().anyMatch(k -> k.id().equals(kind)))
              .read(document, "");
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("The rulebook has faults. Nothing was changed.", faults);
    }
    return rulebook;
  }
}
