package app.uprightwarden.server.sources;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.server.calendars.CalendarSplitter;
import app.uprightwarden.server.exchange.CalendarImport;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
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
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** Reads calendars as meetings: takes in what was changed, and cancels what is gone. */
@Component
class MeetingReading {
  private static final Logger LOG = LoggerFactory.getLogger(MeetingReading.class);
  private static final int AT_ONCE = 100;
  private static final Duration AHEAD = Duration.ofDays(366);

  /** From so many on, and more than half, somebody is asked before all these are cancelled. */
  private static final int MANY = 20;

  private final Sources sources;
  private final SourceFeed feed;
  private final SourceRepository rows;
  private final CalendarImport imports;
  private final RegisterService register;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;

  MeetingReading(
      Sources sources,
      SourceFeed feed,
      SourceRepository rows,
      CalendarImport imports,
      RegisterService register,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.sources = sources;
    this.feed = feed;
    this.rows = rows;
    this.imports = imports;
    this.register = register;
    this.transaction = transaction;
    this.clock = clock;
  }

  /**
   * Reads what is at an address.
   *
   * @return whether somebody is asked
   */
  boolean readAddress(Sources.Link link) throws SourceTrouble {
    SourceHttp.Answer answer = feed.fetch(link, !link.row().goneAgreed && link.row().gone == 0);
    if (answer.status() == 304) {
      return false;
    }
    Map<String, CalendarSplitter.Part> parts = CalendarSplitter.split(SourceFeed.checked(answer));
    Map<String, String> marks = new LinkedHashMap<>();
    parts.forEach((name, part) -> marks.put(name, part.mark()));
    SourceFeed.Delta delta = feed.delta(link, marks, true);
    List<String> names = List.copyOf(delta.marks().keySet());
    for (int i = 0; i < names.size(); i += AT_ONCE) {
      List<CalDav.Event> some =
          names.subList(i, Math.min(i + AT_ONCE, names.size())).stream()
              .map(name -> new CalDav.Event(name, marks.get(name), parts(parts, name)))
              .toList();
      takeIn(link, some);
    }
    boolean isAsking = letGo(link, delta.gone());
    feed.finish(link, row -> SourceFeed.stamp(row, answer, isAsking));
    return isAsking;
  }

  private static String parts(Map<String, CalendarSplitter.Part> parts, String name) {
    return Objects.requireNonNull(parts.get(name)).text();
  }

  /**
   * Reads a CalDAV collection.
   *
   * @return whether somebody is asked
   */
  boolean readCollection(Sources.Link link) throws SourceTrouble {
    CalDav dav = feed.dav(link);
    boolean isWhole = feed.isWholeDue(link);
    CalDav.Changes changes = SourceFeed.changes(dav, isWhole ? null : link.row().marker);
    SourceFeed.Delta delta = feed.delta(link, changes.marks(), changes.isWhole());
    SourceFeed.each(dav, delta, some -> takeIn(link, some));
    boolean isAsking = letGo(link, delta.gone());
    feed.finish(
        link,
        row -> {
          row.marker = isAsking ? null : changes.token();
          if (changes.isWhole()) {
            row.fullAt = clock.instant();
          }
        });
    return isAsking;
  }

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
      rows.save(List.of(SourceFeed.item(link, event, "", why)));
    }
  }

  private static Map<String, List<String>> byName(List<SourceMeetingEntity> meetings) {
    return meetings.stream()
        .collect(
            Collectors.groupingBy(
                row -> row.name, Collectors.mapping(row -> row.meeting, Collectors.toList())));
  }

  private void take(Sources.Link link, List<CalDav.Event> some) {
    if (sources.turnOf(link) == null) {
      return; // what another has read since is newer
    }
    List<String> names = some.stream().map(CalDav.Event::name).toList();
    Map<String, List<String>> before = byName(rows.meetings(link.id(), names));
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
      items.add(SourceFeed.item(link, event, each.title(), each.refused()));
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
      byName(rows.meetings(link.id(), names.subList(i, Math.min(i + AT_ONCE, names.size()))))
          .forEach((name, ids) -> coming.put(name, ids.stream().filter(this::isComing).toList()));
    }
    coming.values().removeIf(List::isEmpty);
    boolean isMany = coming.size() >= MANY && coming.size() * 2L > rows.countMeetings(link.id());
    // who agreed to some has not agreed to more
    boolean isAgreed = link.row().goneAgreed && coming.size() <= link.row().gone;
    if (isMany && !isAgreed) {
      feed.finish(
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
      transaction.executeWithoutResult(status -> cancel(link, some));
    }
    feed.finish(
        link,
        row -> {
          row.gone = 0;
          row.goneAgreed = false;
        });
    return false;
  }

  private void cancel(Sources.Link link, List<String> names) {
    if (sources.turnOf(link) == null) {
      return;
    }
    // first, so that nobody hands over to this one what it holds no more
    rows.forgetAlso(link.id(), names);
    Map<String, List<String>> brought = byName(rows.lockedMeetings(link.id(), names));
    // what another calendar holds as well is not gone: that one brings it from now on
    Set<String> held =
        sources.handOver(link.id(), brought.values().stream().flatMap(List::stream).toList());
    List<CalendarImport.Kept> gone = new ArrayList<>();
    brought.forEach(
        (name, ids) ->
            gone.add(
                new CalendarImport.Kept(
                    name,
                    null,
                    ids.stream().filter(id -> !held.contains(id) && isComing(id)).toList())));
    imports.take(gone, link.zone(), link.person(), link.name(), ids -> Set.of());
    rows.forgetMeetings(link.id(), names);
    rows.forgetItems(link.id(), names);
  }

  private boolean isComing(String id) {
    Instant now = clock.instant();
    return register
        .find(id)
        .map(StoredMeeting::meeting)
        .filter(meeting -> !Occurrences.between(meeting, now, now.plus(AHEAD)).isEmpty())
        .isPresent();
  }
}
