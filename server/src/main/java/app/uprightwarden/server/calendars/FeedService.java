package app.uprightwarden.server.calendars;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.access.StillThere;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.Stored;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Calendars to subscribe to: an address with a token in it, for a person's meetings or for a part
 * of the register. They hold when and what, and no secret: no passcode, link, agenda or address.
 */
@Service
public class FeedService {
  private static final int MOST_MEETINGS = 5000;

  /** How long a feed goes on without being read; each reading puts its end off. */
  static final Duration UNREAD = Duration.ofDays(90);

  /** How many feeds one person has at once. */
  static final int MOST_FEEDS = 50;

  private final JdbcClient jdbc;
  private final StillThere still;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final JsonMapper json;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  FeedService(
      JdbcClient jdbc,
      StillThere still,
      RegisterService register,
      OrganisationService organisation,
      JsonMapper json,
      Clock clock) {
    this.jdbc = jdbc;
    this.still = still;
    this.register = register;
    this.organisation = organisation;
    this.json = json;
    this.clock = clock;
  }

  /**
   * Which meetings; a part that is null narrows nothing.
   *
   * @param person whose: those they host, present in, or are invited to
   */
  public record FeedScope(@Nullable String person, @Nullable String unit, @Nullable String kind) {}

  /**
   * A feed as it is listed; its token is told once.
   *
   * @param endsAt when it ends unless it is read before
   */
  public record Feed(
      long id,
      String name,
      String owner,
      FeedScope scope,
      Instant madeAt,
      @Nullable Instant usedAt,
      Instant endsAt) {}

  /** A new feed and the path it is found at. */
  public record MadeFeed(long id, String path) {}

  @Transactional
  public MadeFeed make(String name, FeedScope scope, SignedIn who) {
    boolean own =
        scope.person() != null
            && Directory.fold(scope.person()).equals(Directory.fold(who.email()));
    if (who.isHost() && !own) {
      throw ProblemException.forbidden(
          "not-your-calendar", "You can subscribe to your own meetings.");
    }
    if (jdbc.sql("select count(*) from feed where owner = ?")
            .param(Directory.fold(who.email()))
            .query(Integer.class)
            .single()
        >= MOST_FEEDS) {
      throw ProblemException.conflict(
          "too-many", "You have " + MOST_FEEDS + " feeds. End one that you do not use any more.");
    }
    byte[] bytes = new byte[24];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    GeneratedKeyHolder key = new GeneratedKeyHolder();
    jdbc.sql(
            "insert into feed (token_hash, name, owner, scope, made_at, ends_at) values (?, ?, ?, ?,"
                + " ?, ?)")
        .params(
            AccessHash.sha256(token),
            name,
            Directory.fold(who.email()),
            json.writeValueAsString(scope),
            utc(clock.instant()),
            utc(clock.instant().plus(UNREAD)))
        .update(key, "id");
    return new MadeFeed(
        Objects.requireNonNull(key.getKey()).longValue(), "/feeds/" + token + ".ics");
  }

  /** Feeds: wardens see all, others their own. */
  @Transactional(readOnly = true)
  public List<Feed> list(SignedIn who) {
    boolean all = who.role() == Role.WARDEN;
    return jdbc.sql(
            "select id, name, owner, scope, made_at, used_at, ends_at from feed where :all or owner ="
                + " :owner order by id desc limit 500")
        .param("all", all)
        .param("owner", who.email())
        .query(
            (r, n) ->
                new Feed(
                    r.getLong(1),
                    r.getString(2),
                    r.getString(3),
                    json.readValue(r.getString(4), FeedScope.class),
                    r.getObject(5, LocalDateTime.class).toInstant(ZoneOffset.UTC),
                    Optional.ofNullable(r.getObject(6, LocalDateTime.class))
                        .map(t -> t.toInstant(ZoneOffset.UTC))
                        .orElse(null),
                    r.getObject(7, LocalDateTime.class).toInstant(ZoneOffset.UTC)))
        .list();
  }

  @Transactional
  public void end(long id, SignedIn who) {
    if (list(who).stream().noneMatch(feed -> feed.id() == id)) {
      throw ProblemException.notFound("There is no such feed of yours.");
    }
    jdbc.sql("delete from feed where id = ?").param(id).update();
  }

  /** The calendar behind a token; empty where there is none. */
  @Transactional
  public Optional<String> calendar(String token) {
    Instant now = clock.instant();
    Feed feed =
        jdbc.sql("select id, name, owner, scope from feed where token_hash = ? and ends_at > ?")
            .params(AccessHash.sha256(token), utc(now))
            .query(
                (r, n) ->
                    new Feed(
                        r.getLong(1),
                        r.getString(2),
                        r.getString(3),
                        json.readValue(r.getString(4), FeedScope.class),
                        Instant.EPOCH,
                        null,
                        Instant.EPOCH))
            .optional()
            .filter(this::mayStill)
            .orElse(null);
    if (feed == null) {
      return Optional.empty();
    }
    jdbc.sql("update feed set used_at = ?, ends_at = ? where id = ?")
        .params(utc(now), utc(now.plus(UNREAD)), feed.id())
        .update();
    Organisation all = organisation.organisation();
    List<Scheduled> meetings =
        meetings(feed.scope(), all).stream()
            .limit(MOST_MEETINGS)
            .map(s -> new Scheduled(s.meeting(), s.details(), null))
            .toList();
    return Optional.of(
        new CalendarWriter(all, Map.of(), clock.instant(), CalendarWriter.Style.FEED)
            .write(meetings, feed.name()));
  }

  /** Whether its owner is still here, and may still read what it holds. */
  private boolean mayStill(Feed feed) {
    String person = feed.scope().person();
    boolean isOwn = person != null && Directory.fold(person).equals(Directory.fold(feed.owner()));
    return isOwn
        ? still.isHere(feed.owner())
        : still.role(feed.owner()).filter(r -> r == Role.WARDEN || r == Role.AUDITOR).isPresent();
  }

  private static LocalDateTime utc(Instant at) {
    return LocalDateTime.ofInstant(at, ZoneOffset.UTC);
  }

  private List<Stored> meetings(FeedScope scope, Organisation all) {
    List<Stored> found = new ArrayList<>();
    Map<String, @Nullable String> units = new HashMap<>();
    for (Person person : organisation.people()) {
      units.put(Directory.fold(person.email()), person.unit());
    }
    String person = scope.person();
    if (person != null) {
      String folded = Directory.fold(person);
      found.addAll(
          register.concerning(
              List.of(folded),
              holding(all.lists(), folded),
              holding(all.spaces(), folded),
              List.of()));
    } else {
      register.each(found::addAll);
    }
    found.removeIf(
        stored ->
            scope.kind() != null && !scope.kind().equals(stored.meeting().kind())
                || scope.unit() != null
                    && !scope.unit().equals(units.get(Directory.fold(stored.meeting().host()))));
    return found;
  }

  private static Set<String> holding(List<Organisation.Gathering> gatherings, String email) {
    return gatherings.stream()
        .filter(g -> g.members().stream().anyMatch(m -> Directory.fold(m).equals(email)))
        .map(Organisation.Gathering::id)
        .collect(Collectors.toSet());
  }
}
