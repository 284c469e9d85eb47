package app.uprightwarden.server.services;

import app.uprightwarden.core.service.Means;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A conference service, as an adapter for its make speaks with it. Each call asks once; whoever
 * calls tries again.
 */
public interface ConferenceService {
  /**
   * What a service says of itself.
   *
   * @param make what kind of service it is
   * @param perSecond how many requests it takes a second
   * @param sessions whether it holds sessions, {@code practice} whether it can play them
   * @param hooks whether it tells by itself that there is something new
   */
  record About(
      String make, Means means, int perSecond, boolean sessions, boolean practice, boolean hooks) {}

  /**
   * A meeting as the service has it.
   *
   * @param id its id there
   * @param revision changes with each change
   * @param meeting in the shape of bundles; null where it was cancelled
   * @param link the address to join by
   * @param registrations who asked to take part; null where the service has no such form
   */
  record Told(
      String id,
      String revision,
      @Nullable Instant changedAt,
      @Nullable String changedBy,
      @Nullable JsonNode meeting,
      @Nullable String link,
      List<String> dialIn,
      @Nullable List<Registration> registrations) {}

  /**
   * Somebody who asked to take part by the service's form.
   *
   * @param state {@code asked}, {@code approved} or {@code declined}
   */
  record Registration(String address, String name, @Nullable Instant askedAt, String state) {}

  /**
   * Some of what was changed, oldest first.
   *
   * @param marker up to where this goes; the next page begins behind it
   * @param more there is more at once
   */
  record Page(List<Told> meetings, String marker, boolean more) {}

  /**
   * The account's own defaults and locks.
   *
   * @param controls control → {@code value} and, where there is one, {@code lock}
   */
  record Defaults(@Nullable String changedBy, @Nullable Instant changedAt, JsonNode controls) {}

  /** Its own defaults and locks. */
  Defaults defaults() throws ServiceTrouble;

  /**
   * Sets defaults and locks, once for each command.
   *
   * @param controls control → {@code value} and {@code lock}; a lock of null is taken away
   */
  void setDefaults(String command, String by, Map<String, Map<String, @Nullable Object>> controls)
      throws ServiceTrouble;

  /** What it says of itself and of what it can hold. */
  About about() throws ServiceTrouble;

  /**
   * What was changed behind a marker.
   *
   * @param marker null for everything there is
   * @param limit how many at most
   * @throws ServiceTrouble {@code MARKER_GONE} where it knows the marker no more
   */
  Page changes(@Nullable String marker, int limit) throws ServiceTrouble;

  /** One meeting as it is now; null where it has none. */
  @Nullable Told meeting(String id) throws ServiceTrouble;

  /**
   * Changes a meeting, once for each command.
   *
   * @param revision the one the change was made on
   * @param by for whom
   * @param patch what is to be otherwise, as a merge patch (RFC 7396) of the meeting's shape
   * @throws ServiceTrouble {@code CHANGED_MEANWHILE} where it has another revision
   */
  void change(
      String id, String revision, String command, String by, Map<String, @Nullable Object> patch)
      throws ServiceTrouble;

  /**
   * Makes a meeting, once for each command.
   *
   * @return its id there
   */
  String create(String command, String by, Map<String, @Nullable Object> meeting)
      throws ServiceTrouble;

  /**
   * Approves or declines somebody who asked to take part, once for each command. Who is approved is
   * invited there.
   */
  void decide(String id, String command, String by, String address, boolean approved)
      throws ServiceTrouble;

  /** Says where it is to tell that something is new, and what happens in its sessions. */
  void tellAt(URI address) throws ServiceTrouble;

  /** Opens a session; one that is open stays as it is. */
  void open(SessionPlan plan) throws ServiceTrouble;

  /**
   * Has something done in a session, once for each id.
   *
   * @throws ServiceTrouble {@code UNKNOWN} where it knows no such session
   */
  Wire.Answered order(String session, Wire.OrderSent order) throws ServiceTrouble;

  /**
   * The events of a session behind one, in order, a thousand at most.
   *
   * @throws ServiceTrouble {@code UNKNOWN} where it knows no such session
   */
  List<SessionEvent> events(String session, long after) throws ServiceTrouble;

  /** Cancels a meeting, once for each command. One that is gone is cancelled. */
  void cancel(String id, String command, String by) throws ServiceTrouble;
}
