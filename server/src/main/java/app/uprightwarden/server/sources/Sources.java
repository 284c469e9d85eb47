package app.uprightwarden.server.sources;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.vault.Vault;
import java.net.URI;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Calendars that are read: which there are, and how each stands. */
@Service
public class Sources {
  /** The work of reading one; an item is its number. */
  static final String JOB = "source";

  static final int MAX_SOURCES = 200;

  private final SourceRepository rows;
  private final SourceAddresses addresses;
  private final Vault vault;
  private final Jobs jobs;
  private final Ledger ledger;
  private final DatabaseClock clock;
  private final java.time.Duration minute;

  Sources(
      SourceRepository rows,
      SourceAddresses addresses,
      Vault vault,
      Jobs jobs,
      Ledger ledger,
      DatabaseClock clock,
      @Value("${warden.sources.minute:1m}") java.time.Duration minute) {
    this.rows = rows;
    this.addresses = addresses;
    this.vault = vault;
    this.jobs = jobs;
    this.ledger = ledger;
    this.clock = clock;
    this.minute = minute;
  }

  /** What of a calendar is no meeting, and why. */
  public record SourceRemark(String title, @Worded String why) {}

  /**
   * A calendar as it stands.
   *
   * @param kind {@code icalendar} or {@code caldav}
   * @param purpose {@code meetings}, or {@code busy} for times without a word of what they are
   * @param account by which it is read, or null
   * @param person who hosts events without an organiser, or whose time is taken up
   * @param minutes how long after a reading the next one is
   * @param state {@code new}, {@code read}, {@code away}, {@code refused}, {@code asks} where so
   *     many meetings are gone at once that somebody is asked, or {@code paused}
   * @param since since when that is so
   * @param trouble what is wrong, in words that go on from its name; null where nothing is
   * @param meetings how many it has brought; stretches of time where it takes up somebody's
   * @param gone how many wait to be cancelled
   * @param refused how many events are no meetings; {@code remarks} are the first 50 of them
   */
  public record ReadSource(
      long id,
      String name,
      String kind,
      String purpose,
      String address,
      @Nullable String account,
      String person,
      String zone,
      int minutes,
      String state,
      Instant since,
      @Worded @Nullable String trouble,
      @Nullable Instant readAt,
      Instant nextAt,
      long meetings,
      int gone,
      long refused,
      List<SourceRemark> remarks) {}

  /**
   * What somebody says of a calendar.
   *
   * @param secret the password of the account; null where there is none, or it stays
   */
  record Wanted(
      String name,
      String kind,
      String purpose,
      String address,
      @Nullable String account,
      @Nullable String secret,
      String person,
      String zone,
      int minutes) {}

  /**
   * All of them, by name.
   *
   * @param isWhole with the whole address, which may let whoever knows it read the calendar; else
   *     with its host alone
   */
  @Transactional(readOnly = true)
  public List<ReadSource> all(boolean isWhole) {
    return rows.all().stream().map(row -> view(row, isWhole)).toList();
  }

  private ReadSource view(SourceEntity row, boolean isWhole) {
    boolean isBusy = row.purpose.equals("busy");
    return new ReadSource(
        row.id,
        row.name,
        row.kind,
        row.purpose,
        isWhole ? row.address : hostOf(row.address),
        row.account,
        row.person,
        row.zone,
        row.minutes,
        row.paused ? "paused" : row.state,
        row.stateSince,
        row.trouble,
        row.readAt,
        row.nextAt,
        isBusy ? rows.countBusy(row.id) : rows.countMeetings(row.id),
        row.gone,
        rows.countRefused(row.id),
        rows.refused(row.id).stream()
            .map(each -> new SourceRemark(each.title, String.valueOf(each.refused)))
            .toList());
  }

  /** The calendar that has brought a meeting, if one has. */
  @Transactional(readOnly = true)
  public Optional<ReadSource> of(String meeting) {
    return rows.meeting(meeting).flatMap(row -> rows.find(row.source)).map(row -> view(row, false));
  }

  /** Has a calendar read from now on. */
  @Transactional
  public void add(Wanted wanted, String by) {
    if (rows.all().size() >= MAX_SOURCES) {
      throw ProblemException.conflict(
          "too-many-calendars",
          "There are " + MAX_SOURCES + " calendars already, which is the most. Remove one first.");
    }
    checkAddress(wanted.address());
    checkName(wanted.name(), 0);
    boolean isThere =
        rows.all().stream()
            .anyMatch(
                row ->
                    row.address.equals(wanted.address())
                        && row.purpose.equals(wanted.purpose())
                        && (row.purpose.equals("meetings")
                            || row.person.equals(Directory.fold(wanted.person()))));
    if (isThere) {
      throw ProblemException.conflict(
          "calendar-read", "The calendar at " + wanted.address() + " is read already.");
    }
    SourceEntity row = new SourceEntity();
    row.kind = wanted.kind();
    row.purpose = wanted.purpose();
    row.address = wanted.address();
    row.addedBy = by;
    row.addedAt = clock.instant();
    row.stateSince = row.addedAt;
    row.nextAt = row.addedAt;
    put(row, wanted);
    rows.insert(row);
    if (wanted.secret() != null) {
      row.secretCipher = vault.seal(owner(row.id), wanted.secret());
      rows.update(row);
    }
    ledger.changed("calendar", row.name, row.name, null, () -> document(row), by);
    jobs.give(JOB, row.id);
  }

  /** What can be said of a calendar anew, as somebody saw it. */
  record Said(String name, @Nullable String account, String person, String zone, int minutes) {}

  /**
   * Changes what may be changed of a calendar.
   *
   * @param wanted what is said of it; null where that stays
   * @param seen what was said of it when it was looked at; null does not ask
   * @param pause whether it is to be read no more for now; null where that stays
   * @throws ProblemException 409 where somebody said something else of it since
   */
  @Transactional
  public void set(
      long id, @Nullable Wanted wanted, @Nullable Said seen, @Nullable Boolean pause, String by) {
    SourceEntity row = present(id);
    if (seen != null
        && !seen.equals(new Said(row.name, row.account, row.person, row.zone, row.minutes))) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Somebody has changed this calendar since you opened it. Look at what it is now, and"
              + " change it again. Nothing was saved.");
    }
    Map<String, Object> before = document(row);
    if (wanted != null) {
      say(row, wanted);
    }
    boolean paused = Objects.requireNonNullElse(pause, row.paused);
    if (row.paused != paused) {
      row.stateSince = clock.instant();
    }
    row.paused = paused;
    row.nextAt = clock.instant();
    rows.update(row);
    if (!paused) {
      jobs.give(JOB, id);
    }
    ledger.changed("calendar", row.name, row.name, () -> before, () -> document(row), by);
  }

  private void say(SourceEntity row, Wanted wanted) {
    checkName(wanted.name(), row.id);
    put(row, wanted);
    if (wanted.secret() != null) {
      row.secretCipher = vault.seal(owner(row.id), wanted.secret());
    } else if (wanted.account() == null) {
      row.secretCipher = null;
    }
  }

  private void put(SourceEntity row, Wanted wanted) {
    try {
      row.zone = ZoneId.of(wanted.zone()).getId();
    } catch (DateTimeException e) {
      throw ProblemException.invalid(
          "There is no such time zone.",
          List.of(new Fault("/zone", "is no time zone; use an IANA name such as Europe/Dublin")));
    }
    row.name = wanted.name();
    row.account = wanted.account();
    row.person = Directory.fold(wanted.person());
    row.minutes = wanted.minutes();
  }

  void checkAddress(String address) {
    String fault = addresses.fault(address);
    if (fault != null) {
      throw ProblemException.invalid("The address " + fault, List.of(new Fault("/address", fault)));
    }
  }

  private void checkName(String name, long except) {
    boolean isTaken =
        rows.all().stream().anyMatch(row -> row.id != except && row.name.equalsIgnoreCase(name));
    if (isTaken) {
      throw ProblemException.conflict(
          "calendar-name-taken", "Another calendar is called " + name + ". Choose another name.");
    }
  }

  static String owner(long id) {
    return "calendar-" + id;
  }

  /** An address often holds a secret of its own: who only looks is told where it is. */
  private static String hostOf(String address) {
    URI uri = URI.create(address);
    return uri.getScheme() + "://" + uri.getHost() + "/…";
  }

  private static Map<String, Object> document(SourceEntity row) {
    Map<String, Object> document = new LinkedHashMap<>();
    document.put("name", row.name);
    document.put("address", hostOf(row.address));
    document.put("purpose", row.purpose);
    document.put("person", row.person);
    document.put("minutes", row.minutes);
    document.put("paused", row.paused);
    return document;
  }

  private SourceEntity present(long id) {
    return rows.locked(id)
        .orElseThrow(() -> ProblemException.notFound("There is no calendar " + id + "."));
  }

  /** Has it read at once, whatever is due when. */
  @Transactional
  public void readNow(long id) {
    SourceEntity row = present(id);
    if (row.paused) {
      throw ProblemException.conflict(
          "calendar-paused", row.name + " is paused. Let it be read again first.");
    }
    row.nextAt = clock.instant();
    rows.update(row);
    jobs.give(JOB, id);
  }

  /**
   * Agrees that what is gone there is cancelled here.
   *
   * @param seen of how many it was said that they wait for that; null does not ask
   * @throws ProblemException 409 where more wait by now
   */
  @Transactional
  public void agreeGone(long id, @Nullable Integer seen) {
    SourceEntity row = present(id);
    if (seen != null && row.gone > seen) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "By now " + row.gone + " of its meetings are gone. Look at it again, and agree again.");
    }
    row.goneAgreed = row.gone > 0;
    row.nextAt = clock.instant();
    rows.update(row);
    jobs.give(JOB, id);
  }

  /** Reads it no more. Its meetings stay; the times that it took up are forgotten. */
  @Transactional
  public void remove(long id, String by) {
    SourceEntity row = present(id);
    Map<String, Object> before = document(row);
    handOver(id, rows.meetings(id));
    rows.delete(row);
    ledger.changed("calendar", row.name, row.name, () -> before, null, by);
  }

  private static final int SOME = 500;

  /**
   * Gives what one calendar lets go to another that holds it as well. That one is read anew: it may
   * have changed there, or have gone as well.
   *
   * @return the meetings that are held elsewhere
   */
  Set<String> handOver(long from, Collection<String> meetings) {
    Map<Long, Set<String>> names = new TreeMap<>();
    Set<String> held = new HashSet<>();
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += SOME) {
      List<String> some = all.subList(i, Math.min(i + SOME, all.size()));
      for (SourceAlsoEntity each : rows.alsoHeld(some, from)) {
        // unless that one let it go as well, a moment ago
        if (!held.contains(each.meeting)
            && rows.forgetAlso(each.source, each.name, each.meeting) > 0) {
          held.add(each.meeting);
          rows.giveMeeting(each.meeting, each.source, each.name);
          names.computeIfAbsent(each.source, source -> new TreeSet<>()).add(each.name);
        }
      }
    }
    names.forEach(
        (source, some) -> {
          rows.takeAnew(source, some);
          rows.readAnew(source, clock.instant());
          jobs.give(JOB, source);
        });
    return held;
  }

  /** Gives those to be read whose time has come. */
  @Transactional
  public void wake() {
    jobs.give(JOB, rows.due(clock.instant()).stream().map(id -> Long.toString(id)).toList());
  }

  /** What it takes to read one. */
  record Link(
      long id,
      String name,
      String kind,
      String purpose,
      URI address,
      SourceHttp.@Nullable Account account,
      String person,
      ZoneId zone,
      long turn,
      SourceEntity row) {}

  /**
   * Begins to read one: whoever did so before is not listened to any more.
   *
   * @return null where it is not to be read now
   */
  @Transactional
  public @Nullable Link begin(long id) {
    SourceEntity row = rows.locked(id).orElse(null);
    if (row == null || row.paused || row.nextAt.isAfter(clock.instant())) {
      return null;
    }
    row.turn++;
    rows.update(row);
    return new Link(
        id,
        row.name,
        row.kind,
        row.purpose,
        URI.create(row.address),
        account(row),
        row.person,
        ZoneId.of(row.zone),
        row.turn,
        row);
  }

  private SourceHttp.@Nullable Account account(SourceEntity row) {
    if (row.account == null || row.secretCipher == null) {
      return null;
    }
    return new SourceHttp.Account(row.account, vault.open(owner(row.id), row.secretCipher));
  }

  /** The account of one that is read, for whoever tries it anew without typing its password. */
  @Transactional(readOnly = true)
  public Optional<String> secret(long id) {
    return rows.find(id)
        .filter(row -> row.secretCipher != null)
        .map(row -> vault.open(owner(id), java.util.Objects.requireNonNull(row.secretCipher)));
  }

  /** The row, if it is still this link's turn; locked. */
  @Nullable SourceEntity turnOf(Link link) {
    return rows.locked(link.id()).filter(row -> row.turn == link.turn()).orElse(null);
  }

  /** It was read, or asks something. */
  @Transactional
  public void ended(Link link, String state, @Nullable String trouble) {
    SourceEntity row = turnOf(link);
    if (row == null) {
      return;
    }
    Instant now = clock.instant();
    if (!row.state.equals(state)) {
      row.state = state;
      row.stateSince = now;
    }
    boolean isRead = state.equals("read") || state.equals("asks");
    row.trouble = trouble;
    row.failures = isRead ? 0 : row.failures + 1;
    if (isRead) {
      row.readAt = now;
    }
    long pause = row.minutes;
    if (!isRead) {
      // soon again at first, then ever later, but not later than usual
      pause = Math.min(row.minutes, 1L << Math.min(row.failures - 1, 10));
    }
    // what somebody asked for while it was read stands
    boolean isAsked = row.nextAt.isAfter(link.row().nextAt);
    row.nextAt = isAsked ? now : now.plus(minute.multipliedBy(Math.max(1, pause)));
    rows.update(row);
  }
}
