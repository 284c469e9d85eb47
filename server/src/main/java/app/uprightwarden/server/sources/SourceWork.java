package app.uprightwarden.server.sources;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.server.calendars.BusyReader;
import app.uprightwarden.server.calendars.CalendarSplitter;
import app.uprightwarden.server.exchange.CalendarImport;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Reads a calendar: asks what was changed since, and takes that in, some at a time. Stopped
 * anywhere, whoever goes on asks again and passes over what is known in the state that it has.
 */
@Component
class SourceWork {
  private static final Logger LOG = LoggerFactory.getLogger(SourceWork.class);
  private static final int MAX_ITEMS = 20_000;
  private static final int AT_ONCE = 100;
  private static final Duration WHOLE = Duration.ofDays(1);
  private static final Duration BACK = Duration.ofDays(1);
  private static final Duration AHEAD = Duration.ofDays(366);

  /** From so many on, and more than half, somebody is asked before all these are cancelled. */
  private static final int MANY = 20;

  /** The name of what a calendar as a whole takes up. */
  private static final String ALL = "";

  private final Sources sources;
  private final SourceRepository rows;
  private final SourceHttp http;
  private final CalendarImport imports;
  private final BusyReader busy;
  private final RegisterService register;
  private final OrganisationService organisation;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;

  SourceWork(
      Sources sources,
      SourceRepository rows,
      SourceHttp http,
      CalendarImport imports,
      BusyReader busy,
      RegisterService register,
      OrganisationService organisation,
      Signals signals,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.sources = sources;
    this.rows = rows;
    this.http = http;
    this.imports = imports;
    this.busy = busy;
    this.register = register;
    this.organisation = organisation;
    this.signals = signals;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** Reads one, if its time has come. */
  void read(String item) {
    Sources.Link link = sources.begin(Long.parseLong(item));
    if (link == null) {
      return;
    }
    String before = link.row().state;
    String state;
    try {
      boolean isAsking =
          link.purpose().equals("busy")
              ? readBusy(link)
              : link.kind().equals("caldav") ? readCollection(link) : readAddress(link);
      state = isAsking ? "asks" : "read";
      sources.ended(link, state, null);
    } catch (SourceTrouble e) {
      state = e.kind() == SourceTrouble.Kind.REFUSED ? "refused" : "away";
      sources.ended(link, state, Texts.cut(e.words(), 500));
    } catch (ProblemException e) {
      state = "away";
      sources.ended(
          link, state, Texts.cut("cannot be read: " + String.valueOf(e.getMessage()), 500));
    }
    if (!before.equals(state)) {
      signals.send(Signals.Topic.SERVICES);
    }
  }

  /**
   * What is to be taken in.
   *
   * @param marks what was changed, by name, with the mark of its new state
   * @param gone the names of what is there no more
   */
  private record Delta(Map<String, String> marks, Set<String> gone) {}

  private Delta delta(
      Sources.Link link, Map<String, ? extends @Nullable String> told, boolean isWhole)
      throws SourceTrouble {
    if (told.size() > MAX_ITEMS) {
      throw new SourceTrouble(
          SourceTrouble.Kind.AWAY, "holds more than " + MAX_ITEMS + " events, which is the limit");
    }
    Map<String, String> known = new HashMap<>();
    rows.items(link.id()).forEach(each -> known.put(each.name, each.mark));
    Map<String, String> marks = new LinkedHashMap<>();
    Set<String> gone = new java.util.TreeSet<>();
    told.forEach(
        (name, mark) -> {
          if (mark == null) {
            gone.add(name);
          } else if (!mark.equals(known.get(name))) {
            marks.put(name, mark);
          }
        });
    if (isWhole) {
      known.keySet().stream().filter(name -> !told.containsKey(name)).forEach(gone::add);
    }
    gone.retainAll(known.keySet());
    return new Delta(marks, gone);
  }

  private boolean isWholeDue(Sources.Link link) {
    Instant at = link.row().fullAt;
    return at == null || at.isBefore(clock.instant().minus(WHOLE)) || link.row().goneAgreed;
  }

  // an address

  /**
   * @return whether somebody is asked
   */
  private boolean readAddress(Sources.Link link) throws SourceTrouble {
    SourceHttp.Answer answer = fetch(link, !link.row().goneAgreed && link.row().gone == 0);
    if (answer.status() == 304) {
      return false;
    }
    Map<String, CalendarSplitter.Part> parts = CalendarSplitter.split(checked(answer));
    Map<String, String> marks = new LinkedHashMap<>();
    parts.forEach((name, part) -> marks.put(name, part.mark()));
    Delta delta = delta(link, marks, true);
    List<String> names = List.copyOf(delta.marks().keySet());
    for (int i = 0; i < names.size(); i += AT_ONCE) {
      List<CalDav.Event> some =
          names.subList(i, Math.min(i + AT_ONCE, names.size())).stream()
              .map(name -> new CalDav.Event(name, marks.get(name), parts(parts, name)))
              .toList();
      takeIn(link, some);
    }
    boolean isAsking = letGo(link, delta.gone());
    finish(link, row -> stamp(row, answer, isAsking));
    return isAsking;
  }

  private static String parts(Map<String, CalendarSplitter.Part> parts, String name) {
    return Objects.requireNonNull(parts.get(name)).text();
  }

  private static void stamp(SourceEntity row, SourceHttp.Answer answer, boolean isAsking) {
    // while somebody is asked it is read again, whether it was changed or not
    row.etag = isAsking ? null : answer.header("ETag", 300);
    row.lastModified = isAsking ? null : answer.header("Last-Modified", 100);
  }

  /** Only what was changed since, where the server can tell (RFC 9110 section 13.1). */
  private SourceHttp.Answer fetch(Sources.Link link, boolean isConditional) throws SourceTrouble {
    Map<String, String> headers = new LinkedHashMap<>();
    headers.put("Accept", "text/calendar, */*;q=0.1");
    String etag = link.row().etag;
    String modified = link.row().lastModified;
    if (isConditional && etag != null) {
      headers.put("If-None-Match", etag);
    } else if (isConditional && modified != null) {
      headers.put("If-Modified-Since", modified);
    }
    return http.send("GET", link.address(), link.account(), headers, null);
  }

  private static String checked(SourceHttp.Answer answer) throws SourceTrouble {
    if (answer.status() != 200) {
      throw new SourceTrouble(
          SourceTrouble.Kind.AWAY, "does not give a calendar (" + answer.status() + ")");
    }
    String body = answer.body();
    String text = (body.startsWith("\ufeff") ? body.substring(1) : body).strip();
    boolean isCalendar = text.regionMatches(true, 0, "BEGIN:VCALENDAR", 0, 15);
    // cut off on the way, what is missing would be taken for gone
    if (!isCalendar
        || !text.stripTrailing().toUpperCase(java.util.Locale.ROOT).endsWith("END:VCALENDAR")) {
      throw new SourceTrouble(
          SourceTrouble.Kind.AWAY,
          isCalendar
              ? "gives a calendar that ends in the middle"
              : "gives something else than a calendar");
    }
    return text;
  }

  // a collection

  private boolean readCollection(Sources.Link link) throws SourceTrouble {
    CalDav dav = new CalDav(http, link.address(), link.account());
    boolean isWhole = isWholeDue(link);
    CalDav.Changes changes = changes(dav, isWhole ? null : link.row().marker);
    Delta delta = delta(link, changes.marks(), changes.isWhole());
    each(dav, delta, some -> takeIn(link, some));
    boolean isAsking = letGo(link, delta.gone());
    finish(
        link,
        row -> {
          row.marker = isAsking ? null : changes.token();
          if (changes.isWhole()) {
            row.fullAt = clock.instant();
          }
        });
    return isAsking;
  }

  private static CalDav.Changes changes(CalDav dav, @Nullable String token) throws SourceTrouble {
    try {
      return dav.changes(token);
    } catch (SourceTrouble e) {
      if (e.kind() == SourceTrouble.Kind.MARKER_GONE && token != null) {
        return dav.changes(null);
      }
      throw e;
    }
  }

  private interface Some {
    void take(List<CalDav.Event> events) throws SourceTrouble;
  }

  private static void each(CalDav dav, Delta delta, Some work) throws SourceTrouble {
    List<String> names = List.copyOf(delta.marks().keySet());
    for (int i = 0; i < names.size(); i += CalDav.atOnce()) {
      List<String> some = names.subList(i, Math.min(i + CalDav.atOnce(), names.size()));
      List<CalDav.Event> events =
          dav.events(some).stream()
              .filter(event -> event.text() != null)
              .map(
                  event ->
                      new CalDav.Event(
                          event.name(),
                          event.mark() == null ? delta.marks().get(event.name()) : event.mark(),
                          event.text()))
              .toList();
      work.take(events);
    }
  }

  // meetings

  /** Takes some in; where they cannot be taken together, each for itself. */
  private void takeIn(Sources.Link link, List<CalDav.Event> some) {
    try {
      transaction.executeWithoutResult(status -> take(link, some));
    } catch (RuntimeException e) {
      if (isOfTheDatabase(e)) {
        throw e; // no event's fault: all of it is done again
      }
      if (some.size() > 1) {
        some.forEach(each -> takeIn(link, List.of(each)));
        return;
      }
      LOG.warn("an event of the calendar {} cannot be taken in", link.name(), e);
      String why = e instanceof ProblemException ? e.getMessage() : "it cannot be taken in";
      transaction.executeWithoutResult(status -> refuse(link, some.get(0), String.valueOf(why)));
    }
  }

  /** Whether the database had something else to say than that a value is wrong. */
  private static boolean isOfTheDatabase(Throwable thrown) {
    for (Throwable at = thrown; at != null; at = at.getCause()) {
      if (at instanceof SQLException said) {
        String state = String.valueOf(said.getSQLState());
        return !state.startsWith("22") && !state.startsWith("23");
      }
      if (at instanceof TransactionException) {
        return true;
      }
    }
    return false;
  }

  private void refuse(Sources.Link link, CalDav.Event event, String why) {
    if (sources.turnOf(link) != null) {
      rows.save(List.of(item(link, event, "", why)));
    }
  }

  private static SourceItemEntity item(
      Sources.Link link, CalDav.Event event, String title, @Nullable String refused) {
    SourceItemEntity row = new SourceItemEntity();
    row.source = link.id();
    row.name = event.name();
    row.mark = String.valueOf(event.mark());
    row.title = Texts.cut(title, 200);
    row.refused = refused == null ? null : Texts.cut(refused, 300);
    return row;
  }

  private Map<String, List<String>> before(Sources.Link link, Collection<String> names) {
    return rows.meetings(link.id(), names).stream()
        .collect(
            Collectors.groupingBy(
                row -> row.name, Collectors.mapping(row -> row.meeting, Collectors.toList())));
  }

  private void take(Sources.Link link, List<CalDav.Event> some) {
    if (sources.turnOf(link) == null) {
      return; // what another has read since is newer
    }
    List<String> names = some.stream().map(CalDav.Event::name).toList();
    Map<String, List<String>> before = before(link, names);
    List<CalendarImport.Taken> taken =
        imports.take(
            some.stream()
                .map(
                    each ->
                        new CalendarImport.Kept(
                            each.name(), each.text(), before.getOrDefault(each.name(), List.of())))
                .toList(),
            link.zone(),
            link.person(),
            link.name(),
            ids -> others(link, ids));
    Map<String, CalDav.Event> events = new HashMap<>();
    some.forEach(each -> events.put(each.name(), each));
    rows.forgetMeetings(link.id(), names);
    List<SourceItemEntity> items = new ArrayList<>();
    List<SourceMeetingEntity> meetings = new ArrayList<>();
    List<SourceAlsoEntity> also = new ArrayList<>();
    for (CalendarImport.Taken each : taken) {
      CalDav.Event event = Objects.requireNonNull(events.get(each.name()));
      items.add(item(link, event, each.title(), each.refused()));
      for (String id : each.meetings()) {
        SourceMeetingEntity row = new SourceMeetingEntity();
        row.meeting = id;
        row.source = link.id();
        row.name = each.name();
        meetings.add(row);
      }
      for (String id : each.also()) {
        SourceAlsoEntity row = new SourceAlsoEntity();
        row.source = link.id();
        row.name = each.name();
        row.meeting = id;
        also.add(row);
      }
    }
    rows.save(items);
    rows.saveMeetings(meetings);
    rows.forgetAlso(link.id(), names);
    rows.insertAlso(also);
  }

  private Set<String> others(Sources.Link link, Collection<String> ids) {
    return ids.isEmpty()
        ? Set.of()
        : rows.ofOthers(ids, link.id()).stream()
            .map(row -> row.meeting)
            .collect(Collectors.toSet());
  }

  /**
   * Cancels what is there no more, but for what is over: calendars often hold but the last months.
   *
   * @return whether so much is gone that somebody is asked first
   */
  private boolean letGo(Sources.Link link, Set<String> gone) {
    List<String> names = List.copyOf(gone);
    Map<String, List<String>> coming = new LinkedHashMap<>();
    for (int i = 0; i < names.size(); i += AT_ONCE) {
      before(link, names.subList(i, Math.min(i + AT_ONCE, names.size())))
          .forEach((name, ids) -> coming.put(name, ids.stream().filter(this::isComing).toList()));
    }
    coming.values().removeIf(List::isEmpty);
    boolean isMany = coming.size() >= MANY && coming.size() * 2L > rows.countMeetings(link.id());
    // who agreed to some has not agreed to more
    boolean isAgreed = link.row().goneAgreed && coming.size() <= link.row().gone;
    if (isMany && !isAgreed) {
      finish(
          link,
          row -> {
            // who agreed while this was read agreed to what was shown before; the next one does it
            boolean isAgreedSince = row.goneAgreed && !link.row().goneAgreed;
            row.goneAgreed = isAgreedSince && coming.size() <= row.gone;
            row.gone = coming.size();
          });
      return true;
    }
    for (int i = 0; i < names.size(); i += AT_ONCE) {
      List<String> some = names.subList(i, Math.min(i + AT_ONCE, names.size()));
      transaction.executeWithoutResult(
          status -> {
            if (sources.turnOf(link) != null) {
              // what another calendar holds as well is not gone: that one brings it from now on
              Set<String> held =
                  sources.handOver(
                      link.id(),
                      before(link, some).values().stream().flatMap(List::stream).toList());
              imports.take(
                  some.stream()
                      .filter(coming::containsKey)
                      .map(
                          name ->
                              new CalendarImport.Kept(
                                  name,
                                  null,
                                  coming.getOrDefault(name, List.of()).stream()
                                      .filter(id -> !held.contains(id))
                                      .toList()))
                      .toList(),
                  link.zone(),
                  link.person(),
                  link.name(),
                  ids -> Set.of());
              rows.forgetMeetings(link.id(), some);
              rows.forgetItems(link.id(), some);
            }
          });
    }
    finish(
        link,
        row -> {
          row.gone = 0;
          row.goneAgreed = false;
        });
    return false;
  }

  private boolean isComing(String id) {
    Instant now = clock.instant();
    return register
        .find(id)
        .map(StoredMeeting::meeting)
        .filter(meeting -> !Occurrences.between(meeting, now, now.plus(AHEAD)).isEmpty())
        .isPresent();
  }

  private void finish(Sources.Link link, java.util.function.Consumer<SourceEntity> change) {
    transaction.executeWithoutResult(
        status -> {
          SourceEntity row = sources.turnOf(link);
          if (row != null) {
            change.accept(row);
            rows.update(row);
          }
        });
  }

  // busy times

  private boolean readBusy(Sources.Link link) throws SourceTrouble {
    boolean isWhole = isWholeDue(link);
    if (link.kind().equals("icalendar")) {
      SourceHttp.Answer answer = fetch(link, !isWhole);
      if (answer.status() != 304) {
        String text = checked(answer);
        putBusy(link, Map.of(ALL, stretches(link, text)), List.of(ALL));
        finish(
            link,
            row -> {
              stamp(row, answer, false);
              row.fullAt = clock.instant();
            });
      }
      return false;
    }
    CalDav dav = new CalDav(http, link.address(), link.account());
    Instant now = clock.instant();
    try {
      String text = dav.freeBusy(now.minus(BACK), now.plus(AHEAD));
      putBusy(link, Map.of(ALL, stretches(link, text)), List.of(ALL));
    } catch (SourceTrouble e) {
      if (e.kind() != SourceTrouble.Kind.UNABLE && e.kind() != SourceTrouble.Kind.REFUSED) {
        throw e;
      }
      readBusyEvents(link, dav, isWhole);
    }
    return false;
  }

  private void readBusyEvents(Sources.Link link, CalDav dav, boolean isWhole) throws SourceTrouble {
    CalDav.Changes changes = changes(dav, isWhole ? null : link.row().marker);
    if (isWhole) {
      // each day anew: what a series takes up moves with the days
      transaction.executeWithoutResult(
          status -> {
            if (sources.turnOf(link) != null) {
              rows.forgetItems(link.id());
              rows.forgetBusy(link.id());
            }
          });
    }
    Delta delta = delta(link, changes.marks(), changes.isWhole());
    each(
        dav,
        delta,
        some -> {
          Map<String, List<BusyReader.Stretch>> times = new LinkedHashMap<>();
          for (CalDav.Event each : some) {
            times.put(each.name(), stretches(link, String.valueOf(each.text())));
          }
          putBusy(link, times, List.copyOf(times.keySet()));
          transaction.executeWithoutResult(
              status -> {
                if (sources.turnOf(link) != null) {
                  rows.save(some.stream().map(each -> item(link, each, "", null)).toList());
                }
              });
        });
    List<String> gone = new ArrayList<>(delta.gone());
    gone.add(ALL);
    putBusy(link, Map.of(), gone);
    transaction.executeWithoutResult(status -> rows.forgetItems(link.id(), gone));
    finish(
        link,
        row -> {
          row.marker = changes.token();
          if (changes.isWhole()) {
            row.fullAt = clock.instant();
          }
        });
  }

  private List<BusyReader.Stretch> stretches(Sources.Link link, String text) {
    Instant now = clock.instant();
    return busy.read(
        text, link.zone(), organisation.organisation(), now.minus(BACK), now.plus(AHEAD));
  }

  private void putBusy(
      Sources.Link link, Map<String, List<BusyReader.Stretch>> times, List<String> names) {
    transaction.executeWithoutResult(
        status -> {
          if (sources.turnOf(link) == null) {
            return;
          }
          rows.forgetBusy(link.id(), names);
          long left = BusyReader.MAX - rows.countBusy(link.id());
          List<BusyTimeEntity> fresh = new ArrayList<>();
          times.forEach(
              (name, stretches) -> stretches.forEach(each -> fresh.add(busy(link, name, each))));
          rows.insertBusy(fresh.stream().limit(Math.max(0, left)).toList());
        });
  }

  private static BusyTimeEntity busy(Sources.Link link, String name, BusyReader.Stretch of) {
    BusyTimeEntity row = new BusyTimeEntity();
    row.source = link.id();
    row.name = name;
    row.person = link.person();
    row.start = of.start();
    row.until = of.end();
    return row;
  }

  // tried before it is read

  /**
   * What is at an address.
   *
   * @param kind {@code icalendar} or {@code caldav}
   * @param calendars what may be read there
   */
  record Tried(String kind, List<CalDav.Collection> calendars, int events) {}

  /** Looks what is at an address, and keeps nothing. */
  Tried attempt(java.net.URI address, SourceHttp.@Nullable Account account) {
    SourceTrouble first = null;
    try {
      List<CalDav.Collection> found = new CalDav(http, address, account).collections();
      if (!found.isEmpty()) {
        return new Tried("caldav", found, 0);
      }
    } catch (SourceTrouble e) {
      first = e;
    }
    try {
      SourceHttp.Answer answer =
          http.send("GET", address, account, Map.of("Accept", "text/calendar, */*;q=0.1"), null);
      int events = CalendarSplitter.split(checked(answer)).size();
      return new Tried("icalendar", List.of(), events);
    } catch (SourceTrouble e) {
      SourceTrouble said = first != null && first.kind() == SourceTrouble.Kind.REFUSED ? first : e;
      throw ProblemException.conflict("calendar-not-read", "The calendar " + said.words() + ".");
    }
  }
}
