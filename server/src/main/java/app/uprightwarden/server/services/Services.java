package app.uprightwarden.server.services;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.HeldMeetings;
import app.uprightwarden.server.register.ServiceMeans;
import app.uprightwarden.server.vault.Vault;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Conference services: linking them, and how each stands. */
@Service
public class Services {
  /** Each has a thread of its own, so that none waits for another. */
  static final int MAX_SERVICES = 8;

  /** The work of speaking with a service; an item is its number. */
  static final String JOB = "service";

  private static final int RELEASED_AT_ONCE = 1000;
  private static final Duration ANEW = Duration.ofHours(1);

  private final ServiceRepository rows;
  private final KnownServices known;
  private final ServiceAdapter adapter;
  private final ServiceAddresses addresses;
  private final HeldMeetings meetings;
  private final Vault vault;
  private final Jobs jobs;
  private final Ledger ledger;
  private final OrganisationService organisation;
  private final DatabaseClock clock;

  Services(
      ServiceRepository rows,
      KnownServices known,
      ServiceAdapter adapter,
      ServiceAddresses addresses,
      HeldMeetings meetings,
      Vault vault,
      Jobs jobs,
      Ledger ledger,
      OrganisationService organisation,
      DatabaseClock clock) {
    this.rows = rows;
    this.known = known;
    this.adapter = adapter;
    this.addresses = addresses;
    this.meetings = meetings;
    this.vault = vault;
    this.jobs = jobs;
    this.ledger = ledger;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * A service as it stands.
   *
   * @param level {@code read}, {@code suggest} or {@code write}
   * @param state {@code in-touch}, {@code away}, {@code key-refused}, {@code paused} or {@code
   *     unlinked}
   * @param since since when that is so
   * @param trouble what is wrong, in words that go on from its name; null where nothing is
   * @param contactAt when it answered last
   * @param reading everything there is read for the first time, or anew
   * @param meetings how many it holds
   * @param backlog how many meetings wait in a state of writing: {@code waiting}, {@code sent},
   *     {@code refused}, {@code other}, {@code kept}
   * @param means control → what it can hold
   * @param units whose new meetings are made in it; an empty one for all that have no other
   */
  public record LinkedService(
      long id,
      String name,
      String address,
      String make,
      String level,
      String state,
      Instant since,
      @Worded @Nullable String trouble,
      @Nullable Instant contactAt,
      boolean reading,
      int perSecond,
      long meetings,
      Map<String, Long> backlog,
      Map<String, Object> means,
      List<String> units) {}

  /**
   * Notices that a service was not read for longer than is allowed, or was again: its meetings are
   * judged anew, every hour as long as it stays so, since some of them come nearer.
   */
  @Transactional
  public void noticeUnread() {
    for (ServiceEntity each : rows.all()) {
      Instant noted = each.unreadNotedAt;
      Instant now = clock.instant();
      boolean isUnread = known.isUnread(each);
      boolean isDue = isUnread && (noted == null || noted.isBefore(now.minus(ANEW)));
      if (isDue || !isUnread && noted != null) {
        ServiceEntity row = rows.locked(each.id).orElseThrow();
        row.unreadNotedAt = isUnread ? now : null;
        rows.update(row);
        known.changed();
        meetings.judgeAnew(row.id);
      }
    }
  }

  /** Whether a service is linked, or was. */
  @Transactional(readOnly = true)
  public boolean wereEver() {
    return rows.all().stream().anyMatch(row -> row.contactAt != null);
  }

  /** A service as it stands in this transaction. */
  @Transactional
  public ServiceMeans.Named fresh(long id) {
    return known.named(present(id));
  }

  /** All that are linked, in the order of their names. */
  @Transactional(readOnly = true)
  public List<LinkedService> all() {
    Map<Long, Map<String, Long>> counts = meetings.counts();
    List<ServiceHomeEntity> homes = rows.homes();
    return rows.all().stream()
        .filter(row -> row.unlinkedAt == null)
        .map(row -> view(row, counts.getOrDefault(row.id, Map.of()), units(homes, row.id)))
        .toList();
  }

  private static List<String> units(List<ServiceHomeEntity> homes, long service) {
    return homes.stream().filter(home -> home.service == service).map(home -> home.unit).toList();
  }

  private LinkedService view(ServiceEntity row, Map<String, Long> counts, List<String> units) {
    KnownServices.About about = known.about(row);
    Map<String, Long> backlog = new TreeMap<>(counts);
    backlog.keySet().removeAll(List.of("none", "confirmed"));
    return new LinkedService(
        row.id,
        row.name,
        row.address,
        about.make(),
        row.level,
        row.paused ? "paused" : row.state,
        row.stateSince,
        row.trouble,
        row.contactAt,
        row.fullSince != null,
        about.perSecond(),
        counts.values().stream().mapToLong(Long::longValue).sum(),
        backlog,
        MeansJson.write(about.means()),
        units);
  }

  /**
   * Asks a service what it can, storing nothing. Not within a transaction.
   *
   * @throws ProblemException 400 where the address is none, 422 where nothing useful answers
   */
  public ConferenceService.About attempt(String address, String key) {
    String fault = addresses.fault(address);
    if (fault != null) {
      throw ProblemException.unreadable(
          "The address " + fault, List.of(new Fault("/address", "The address " + fault)));
    }
    try {
      return adapter.at(base(address), key).about();
    } catch (ServiceTrouble e) {
      throw ProblemException.invalid(
          "What is at " + address + " " + e.words() + ". Nothing was changed.",
          List.of(
              new Fault(
                  e.kind() == ServiceTrouble.Kind.KEY_REFUSED ? "/key" : "/address",
                  "It " + e.words() + ".")));
    }
  }

  static URI base(String address) {
    return URI.create(address.endsWith("/") ? address.substring(0, address.length() - 1) : address);
  }

  /**
   * Links a service that has answered; it is read at once, and nothing is written to it yet. One
   * that was linked before is the same again: its meetings are known, and what was decided of them.
   */
  @Transactional
  public long link(
      String name, String address, String key, ConferenceService.About about, String by) {
    String to = base(address).toString();
    checkRoom(to);
    checkName(name, 0);
    ServiceEntity row = rowOf(to);
    row.name = name;
    row.level = "read";
    row.paused = false;
    row.unlinkedAt = null;
    row.proposedBy = null;
    row.proposedAt = null;
    row.proposedName = null;
    row.state = "in-touch";
    row.trouble = null;
    row.marker = null;
    row.address = to;
    row.about = known.written(about);
    row.addedBy = by;
    row.addedAt = clock.instant();
    row.stateSince = row.addedAt;
    row.contactAt = row.addedAt;
    row.fullSince = row.addedAt;
    if (row.id == 0) {
      rows.insert(row);
    }
    row.secretCipher = vault.seal(owner(row.id), key);
    rows.update(row);
    ledger.changed("service", name, name, null, () -> document(row), by);
    jobs.give(JOB, row.id);
    known.changed();
    return row.id;
  }

  void checkRoom(String address) {
    List<ServiceEntity> linked = rows.all().stream().filter(row -> row.unlinkedAt == null).toList();
    if (linked.size() >= MAX_SERVICES) {
      throw ProblemException.conflict(
          "too-many-services",
          "At most " + MAX_SERVICES + " services can be linked. Unlink one first.");
    }
    if (linked.stream().anyMatch(row -> row.address.equals(address))) {
      throw ProblemException.conflict(
          "service-linked", "The service at " + address + " is linked already.");
    }
    long proposed = rows.all().stream().filter(row -> row.proposedBy != null).count();
    if (proposed > MAX_SERVICES) {
      throw ProblemException.conflict(
          "too-many-services", "Enough services wait for a second warden already.");
    }
  }

  /** The row of an address that was linked before, or a new one. */
  ServiceEntity rowOf(String address) {
    return rows.all().stream()
        .filter(each -> each.address.equals(address))
        .reduce((earlier, later) -> later.id > earlier.id ? later : earlier)
        .orElseGet(ServiceEntity::new);
  }

  void checkName(String name, long except) {
    boolean isTaken =
        rows.all().stream()
            .anyMatch(
                row ->
                    row.unlinkedAt == null && row.id != except && row.name.equalsIgnoreCase(name));
    if (isTaken) {
      throw ProblemException.conflict(
          "service-name-taken", "Another service is called " + name + ". Choose another name.");
    }
  }

  static String owner(long id) {
    return "service-" + id;
  }

  private Map<String, Object> document(ServiceEntity row) {
    Map<String, Object> document = new LinkedHashMap<>();
    document.put("name", row.name);
    document.put("address", row.address);
    document.put("level", row.level);
    document.put("paused", row.paused);
    document.put("units", units(rows.homes(), row.id));
    return document;
  }

  private ServiceEntity present(long id) {
    return rows.locked(id)
        .filter(row -> row.unlinkedAt == null)
        .orElseThrow(() -> ProblemException.notFound("There is no service " + id + "."));
  }

  /**
   * What somebody may set about a service. What is null stays as it is by then.
   *
   * @param units whose new meetings are to be made in it, and in no other from then on
   * @param unitsSeen whose they were when that was looked at; null does not ask
   */
  public record Settings(
      @Nullable String name,
      @Nullable String level,
      @Nullable Boolean paused,
      @Nullable List<String> units,
      @Nullable List<String> unitsSeen) {}

  /**
   * Renames a service, pauses it, or lets more or less be written to it.
   *
   * @throws ProblemException 409 where the units are not those that were seen
   */
  @Transactional
  public void set(long id, Settings wanted, SignedIn by) {
    ServiceEntity row = present(id);
    String name = Objects.requireNonNullElse(wanted.name(), row.name);
    String level = Objects.requireNonNullElse(wanted.level(), row.level);
    boolean paused = Objects.requireNonNullElse(wanted.paused(), row.paused);
    checkName(name, id);
    Map<String, Object> before = document(row);
    List<String> units = wanted.units();
    if (units != null) {
      checkHomes(id, wanted.unitsSeen());
      setHomes(id, units);
    }
    boolean opens = level.equals("write") && !row.level.equals("write");
    boolean closes = row.level.equals("write") && !level.equals("write");
    row.name = name;
    row.level = level;
    if (row.paused != paused) {
      row.stateSince = clock.instant();
    }
    row.paused = paused;
    rows.update(row);
    known.changed();
    ServiceMeans.Named now = known.named(row);
    if (opens) {
      int some = RELEASED_AT_ONCE;
      while (some == RELEASED_AT_ONCE) {
        some = meetings.release(now, RELEASED_AT_ONCE);
      }
    }
    if (closes) {
      int some = RELEASED_AT_ONCE;
      while (some == RELEASED_AT_ONCE) {
        some = meetings.keepBack(id, RELEASED_AT_ONCE);
      }
    }
    if (!row.paused) {
      jobs.give(JOB, id);
    }
    ledger.changed("service", row.name, row.name, () -> before, () -> document(row), by.email());
  }

  private void checkHomes(long id, @Nullable List<String> seen) {
    if (seen != null && !Set.copyOf(seen).equals(Set.copyOf(units(rows.homes(), id)))) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed whose meetings are made in it since you opened it. Look at whose"
              + " they are now, and change it again. Nothing was saved.");
    }
  }

  private void setHomes(long id, List<String> units) {
    Set<String> ofHouse =
        organisation.organisation().units().stream()
            .map(Organisation.Unit::id)
            .collect(Collectors.toSet());
    for (String unit : units) {
      if (!unit.equals(ServiceHomeEntity.EVERYBODY) && !ofHouse.contains(unit)) {
        throw ProblemException.invalid(
            "There is no such unit any more. Load the page anew.",
            List.of(new Fault("/units", "has no unit " + unit)));
      }
    }
    rows.deleteHomes(id);
    if (!units.isEmpty()) {
      rows.deleteHomes(units);
    }
    for (String unit : new TreeSet<>(units)) {
      ServiceHomeEntity home = new ServiceHomeEntity();
      home.unit = unit;
      home.service = id;
      rows.insert(home);
    }
  }

  /** Another key, which has been tried. */
  @Transactional
  public void rekey(long id, String key) {
    ServiceEntity row = present(id);
    row.secretCipher = vault.seal(owner(id), key);
    rows.update(row);
    jobs.give(JOB, id);
  }

  /** The address of a service that is linked. */
  @Transactional(readOnly = true)
  public String addressOf(long id) {
    return rows.find(id)
        .filter(row -> row.unlinkedAt == null)
        .map(row -> row.address)
        .orElseThrow(() -> ProblemException.notFound("There is no service " + id + "."));
  }

  /** Speaks with a service no more. What was read stays; its key is forgotten. */
  @Transactional
  public void unlink(long id, SignedIn by) {
    ServiceEntity row = present(id);
    Map<String, Object> before = document(row);
    rows.deleteHomes(id);
    row.unlinkedAt = clock.instant();
    row.secretCipher = null;
    row.turn++;
    rows.update(row);
    known.changed();
    ledger.changed("service", row.name, row.name, () -> before, null, by.email());
  }

  String key(ServiceEntity row) {
    return vault.open(owner(row.id), Objects.requireNonNull(row.secretCipher));
  }

  /** Those with whom somebody has to speak. */
  @Transactional
  public void wake() {
    rows.all().stream()
        .filter(row -> row.unlinkedAt == null && !row.paused)
        .forEach(
            row -> {
              jobs.give(JOB, row.id);
              if (row.level.equals("write")) {
                // what another server kept before it heard that it may be sent
                meetings.release(known.named(row), RELEASED_AT_ONCE);
              }
            });
  }
}
