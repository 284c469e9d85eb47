package app.uprightwarden.server.services;

import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.persistence.DatabaseClock;
import java.net.URI;
import java.time.Duration;
import java.util.Objects;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Speaking with a service: whose turn it is, what it takes, and what came of it. */
@Service
public class ServiceLinks {
  private final Services services;
  private final KnownServices known;
  private final ServiceRepository rows;
  private final ServiceAdapter adapter;
  private final Jobs jobs;
  private final DatabaseClock clock;

  ServiceLinks(
      Services services,
      KnownServices known,
      ServiceRepository rows,
      ServiceAdapter adapter,
      Jobs jobs,
      DatabaseClock clock) {
    this.services = services;
    this.known = known;
    this.rows = rows;
    this.adapter = adapter;
    this.jobs = jobs;
    this.clock = clock;
  }

  /** What it takes to speak with a service. */
  record Link(
      long id,
      String name,
      String level,
      String address,
      ConferenceService service,
      KnownServices.About about,
      long turn) {}

  /** What it takes to ask a service of its sessions, or to be told by it. */
  record Spoken(
      String name,
      String level,
      boolean isPaused,
      ConferenceService service,
      KnownServices.About about) {}

  /**
   * Begins to speak with a service: whoever did so before is not listened to any more.
   *
   * @return null where nobody is to speak with it
   */
  @Transactional
  public @Nullable Link begin(long id) {
    ServiceEntity row = rows.locked(id).orElse(null);
    if (row == null || row.unlinkedAt != null || row.paused) {
      return null;
    }
    row.turn++;
    if (row.fullAt != null
        && row.fullSince == null
        && row.fullAt.isBefore(clock.instant().minus(Duration.ofDays(1)))) {
      row.fullSince = clock.instant(); // once a day everything is compared
      row.marker = null;
    }
    rows.update(row);
    return new Link(
        id,
        row.name,
        row.level,
        row.address,
        adapter.at(URI.create(row.address), services.key(row)),
        known.about(row),
        row.turn);
  }

  /** To ask it of its sessions; null where it is not linked. */
  @Transactional(readOnly = true)
  public @Nullable Spoken spoken(long id) {
    return rows.find(id)
        .filter(row -> row.unlinkedAt == null)
        .map(
            row ->
                new Spoken(
                    row.name,
                    row.level,
                    row.paused,
                    adapter.at(URI.create(row.address), services.key(row)),
                    known.about(row)))
        .orElse(null);
  }

  /** What it signs with; null where it is not linked. */
  @Transactional(readOnly = true)
  public @Nullable String keyOf(long id) {
    return rows.find(id).filter(row -> row.unlinkedAt == null).map(services::key).orElse(null);
  }

  /** It says that there is something new: it is not waited for until it is read anyway. */
  @Transactional
  public void readSoon(long id) {
    jobs.soon(Services.JOB, id);
  }

  /** Does something in a transaction of its own. */
  @Transactional
  public <T> @Nullable T inTransaction(Supplier<? extends @Nullable T> work) {
    return work.get();
  }

  /** The row, if it is still this link's turn to say what the service holds; locked. */
  @Nullable ServiceEntity turnOf(Link link) {
    return rows.locked(link.id())
        .filter(row -> row.turn == link.turn() && row.unlinkedAt == null)
        .orElse(null);
  }

  /** Up to where it was read: empty for nothing, null where it is no longer this link's turn. */
  @Transactional
  public @Nullable String markerOf(Link link) {
    ServiceEntity row = turnOf(link);
    return row == null ? null : Objects.requireNonNullElse(row.marker, "");
  }

  void update(ServiceEntity row) {
    rows.update(row);
  }

  /** It has said what it is. */
  @Transactional
  public void learned(Link link, ConferenceService.About about) {
    ServiceEntity row = turnOf(link);
    if (row != null && !row.about.equals(known.written(about))) {
      row.about = known.written(about);
      rows.update(row);
      known.changed();
    }
  }

  /** It has answered. */
  @Transactional
  public void inTouch(Link link) {
    ServiceEntity row = turnOf(link);
    if (row != null) {
      row.stateIs("in-touch", clock.instant());
      row.trouble = null;
      row.contactAt = clock.instant();
      rows.update(row);
    }
  }

  /** It has not done what was asked. */
  @Transactional
  public void inTrouble(Link link, ServiceTrouble trouble) {
    ServiceEntity row = turnOf(link);
    if (row == null) {
      return;
    }
    String state =
        trouble.kind() == ServiceTrouble.Kind.KEY_REFUSED
            ? "key-refused"
            : trouble.kind() == ServiceTrouble.Kind.BUSY ? row.state : "away";
    row.stateIs(state, clock.instant());
    row.trouble = trouble.words();
    rows.update(row);
  }
}
