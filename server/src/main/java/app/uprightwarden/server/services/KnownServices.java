package app.uprightwarden.server.services;

import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.register.ServiceMeans;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What everybody may know of conference services: which there are, what each can hold and where a
 * new meeting is made. It is asked for with each meeting, and so kept for a moment.
 */
@Service
class KnownServices implements ServiceMeans {
  private static final Duration KNOWN = Duration.ofSeconds(2);

  private final ServiceRepository rows;
  private final JsonMapper json;
  private final DatabaseClock clock;
  private final Duration unreadAfter;
  private final TransactionTemplate apart;
  private final AtomicLong changes = new AtomicLong();
  private volatile Known known = new Known(Map.of(), System.nanoTime());

  KnownServices(
      ServiceRepository rows,
      JsonMapper json,
      DatabaseClock clock,
      @Value("${warden.services.unread-after:1h}") Duration unreadAfter,
      PlatformTransactionManager transactions) {
    this.rows = rows;
    this.json = json;
    this.clock = clock;
    this.unreadAfter = unreadAfter;
    apart = new TransactionTemplate(transactions);
    apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    apart.setReadOnly(true);
  }

  /** What is known of services, and until when that is new enough. */
  private record Known(Map<Long, Named> services, long untilNanos) {}

  /** What a service said of itself, as it is kept. */
  record About(
      String make, int perSecond, Means means, boolean sessions, boolean practice, boolean hooks) {}

  @Override
  public @Nullable Named service(long id) {
    Known of = known;
    if (System.nanoTime() - of.untilNanos() > 0 || !of.services().containsKey(id)) {
      of = look();
    }
    return of.services().get(id);
  }

  private Known look() {
    long at = changes.get();
    Map<Long, Named> services = new TreeMap<>();
    // apart from the caller's transaction, which may have begun before something was set
    apart.executeWithoutResult(
        status -> rows.all().forEach(row -> services.put(row.id, named(row))));
    Known now = new Known(services, System.nanoTime() + KNOWN.toNanos());
    synchronized (changes) {
      if (changes.get() == at) {
        known = now; // else something was set while this was read, and it is not kept
      }
    }
    return now;
  }

  /** Once it is committed: before, somebody would read again what was. */
  void changed() {
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            synchronized (changes) {
              changes.incrementAndGet();
              known = new Known(Map.of(), System.nanoTime());
            }
          }
        });
  }

  /** A service as its row says. */
  Named named(ServiceEntity row) {
    return new Named(
        row.id,
        row.name,
        about(row).means(),
        row.level,
        row.unlinkedAt != null,
        row.contactAt,
        isUnread(row) ? clock.instant() : null);
  }

  /** Whether it was not read for longer than is allowed. */
  boolean isUnread(ServiceEntity row) {
    Instant contact = row.contactAt == null ? row.addedAt : row.contactAt;
    return row.unlinkedAt == null && contact.isBefore(clock.instant().minus(unreadAfter));
  }

  @Override
  @Transactional(readOnly = true)
  public Choices choices(@Nullable String unit) {
    List<ServiceEntity> all = rows.all();
    List<Named> open =
        all.stream()
            .filter(row -> row.unlinkedAt == null && row.level.equals("write"))
            .map(this::named)
            .toList();
    Map<String, Long> homes = new TreeMap<>();
    rows.homes().forEach(home -> homes.put(home.unit, home.service));
    Long home = unit == null ? null : homes.get(unit);
    Long usual = home == null ? homes.get(ServiceHomeEntity.EVERYBODY) : home;
    return new Choices(
        open,
        all.stream().filter(row -> row.unlinkedAt == null).map(this::named).toList(),
        open.stream().filter(each -> usual != null && each.id() == usual).findFirst().orElse(null),
        !all.isEmpty());
  }

  /** What it said of itself. */
  About about(ServiceEntity row) {
    JsonNode about = json.readTree(row.about);
    try {
      return new About(
          about.path("make").stringValue(""),
          Math.max(1, about.path("perSecond").intValue(1)),
          MeansJson.read(about.path("controls")),
          about.path("sessions").booleanValue(false),
          about.path("practice").booleanValue(false),
          about.path("hooks").booleanValue(false));
    } catch (ServiceTrouble e) {
      throw new IllegalStateException(e);
    }
  }

  /** What it said of itself, as it is kept. */
  String written(ConferenceService.About about) {
    Map<String, Object> written = new LinkedHashMap<>();
    written.put("make", about.make());
    written.put("perSecond", about.perSecond());
    written.put("sessions", about.sessions());
    written.put("practice", about.practice());
    written.put("hooks", about.hooks());
    written.put("controls", MeansJson.write(about.means()));
    return json.writeValueAsString(written);
  }
}
