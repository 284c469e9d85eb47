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
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Calendars to subscribe to: an address with a token in it, for a person's meetings or for a part
 * of the register. They hold when and what, and no secret: no passcode, link, agenda or address.
 */
@Service
public class FeedService {
  private static final int MAX_MEETINGS = 5000;

  /** How long a feed goes on without being read; each reading puts its end off. */
  static final Duration UNREAD = Duration.ofDays(90);

  /** How many feeds one person has at once. */
  static final int MAX_FEEDS = 50;

  private final FeedRepository feeds;
  private final StillThere still;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final JsonMapper json;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  FeedService(
      FeedRepository feeds,
      StillThere still,
      RegisterService register,
      OrganisationService organisation,
      JsonMapper json,
      Clock clock) {
    this.feeds = feeds;
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
    if (feeds.countOf(Directory.fold(who.email())) >= MAX_FEEDS) {
      throw ProblemException.conflict(
          "too-many", "You have " + MAX_FEEDS + " feeds. End one that you do not use any more.");
    }
    byte[] bytes = new byte[24];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    FeedEntity row = new FeedEntity();
    row.tokenHash = AccessHash.sha256(token);
    row.name = name;
    row.owner = Directory.fold(who.email());
    row.scope = json.writeValueAsString(scope);
    row.madeAt = clock.instant();
    row.endsAt = row.madeAt.plus(UNREAD);
    feeds.insert(row);
    return new MadeFeed(row.id, "/feeds/" + token + ".ics");
  }

  /** Feeds: wardens see all, others their own. */
  @Transactional(readOnly = true)
  public List<Feed> list(SignedIn who) {
    return feeds.list(who.role() == Role.WARDEN, who.email()).stream().map(this::feed).toList();
  }

  private Feed feed(FeedEntity row) {
    return new Feed(
        row.id,
        row.name,
        row.owner,
        json.readValue(row.scope, FeedScope.class),
        row.madeAt,
        row.usedAt,
        row.endsAt);
  }

  @Transactional
  public void end(long id, SignedIn who) {
    if (list(who).stream().noneMatch(feed -> feed.id() == id)) {
      throw ProblemException.notFound("There is no such feed of yours.");
    }
    feeds.delete(id);
  }

  /** The calendar behind a token; empty where there is none. */
  @Transactional
  public Optional<String> calendar(String token) {
    Instant now = clock.instant();
    Feed feed =
        feeds
            .withToken(AccessHash.sha256(token), now)
            .map(this::feed)
            .filter(this::mayStill)
            .orElse(null);
    if (feed == null) {
      return Optional.empty();
    }
    feeds.used(feed.id(), now, now.plus(UNREAD));
    Organisation all = organisation.organisation();
    List<Scheduled> meetings =
        meetings(feed.scope(), all).stream()
            .limit(MAX_MEETINGS)
            .map(s -> new Scheduled(s.meeting(), withLink(s, feed), null))
            .toList();
    return Optional.of(
        new CalendarWriter(all, Map.of(), clock.instant(), CalendarWriter.Style.FEED)
            .write(meetings, feed.name()));
  }

  /** Somebody's own feed says where to join; one of others' meetings never does. */
  private static Details withLink(StoredMeeting stored, Feed feed) {
    Details of = stored.details();
    HeldMeeting held = stored.service();
    String link = held == null || !isOwn(feed) ? null : held.link();
    List<String> lines =
        link == null
            ? List.of()
            : List.of("CONFERENCE;VALUE=URI;FEATURE=AUDIO,VIDEO;LABEL=Join the meeting:" + link);
    return new Details(
        of.room(), of.wholeDay(), of.reminder(), of.groups(), of.uid(), of.sequence(), lines);
  }

  private static boolean isOwn(Feed feed) {
    String person = feed.scope().person();
    return person != null && Directory.fold(person).equals(Directory.fold(feed.owner()));
  }

  /** Whether its owner is still here, and may still read what it holds. */
  private boolean mayStill(Feed feed) {
    return isOwn(feed)
        ? still.isHere(feed.owner())
        : still.role(feed.owner()).filter(r -> r == Role.WARDEN || r == Role.AUDITOR).isPresent();
  }

  private List<StoredMeeting> meetings(FeedScope scope, Organisation all) {
    List<StoredMeeting> found = new ArrayList<>();
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
