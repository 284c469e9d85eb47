package app.uprightwarden.server.sources;

import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Texts;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What reading meetings and reading busy times have in common. */
@Component
class SourceFeed {
  private static final int MAX_ITEMS = 20_000;
  private static final Duration WHOLE = Duration.ofDays(1);

  private final Sources sources;
  private final SourceRepository rows;
  private final SourceHttp http;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;

  SourceFeed(
      Sources sources,
      SourceRepository rows,
      SourceHttp http,
      TransactionTemplate transaction,
      DatabaseClock clock) {
    this.sources = sources;
    this.rows = rows;
    this.http = http;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** Speaks CalDAV with a source. */
  CalDav dav(Sources.Link link) {
    return new CalDav(http, link.address(), link.account());
  }

  /**
   * What is to be taken in.
   *
   * @param marks what was changed, by name, with the mark of its new state
   * @param gone the names of what is there no more
   */
  record Delta(Map<String, String> marks, Set<String> gone) {}

  Delta delta(Sources.Link link, Map<String, ? extends @Nullable String> told, boolean isWhole)
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

  boolean isWholeDue(Sources.Link link) {
    Instant at = link.row().fullAt;
    return at == null || at.isBefore(clock.instant().minus(WHOLE)) || link.row().goneAgreed;
  }

  static void stamp(SourceEntity row, SourceHttp.Answer answer, boolean isAsking) {
    // while somebody is asked it is read again, whether it was changed or not
    row.etag = isAsking ? null : answer.header("ETag", 300);
    row.lastModified = isAsking ? null : answer.header("Last-Modified", 100);
  }

  /** Only what was changed since, where the server can tell (RFC 9110 section 13.1). */
  SourceHttp.Answer fetch(Sources.Link link, boolean isConditional) throws SourceTrouble {
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

  static String checked(SourceHttp.Answer answer) throws SourceTrouble {
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

  static CalDav.Changes changes(CalDav dav, @Nullable String token) throws SourceTrouble {
    try {
      return dav.changes(token);
    } catch (SourceTrouble e) {
      if (e.kind() == SourceTrouble.Kind.MARKER_GONE && token != null) {
        return dav.changes(null);
      }
      throw e;
    }
  }

  interface Some {
    void take(List<CalDav.Event> events) throws SourceTrouble;
  }

  static void each(CalDav dav, Delta delta, Some work) throws SourceTrouble {
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

  static SourceItemEntity item(
      Sources.Link link, CalDav.Event event, String title, @Nullable String refused) {
    SourceItemEntity row = new SourceItemEntity();
    row.source = link.id();
    row.name = event.name();
    row.mark = String.valueOf(event.mark());
    row.title = Texts.cut(title, 200);
    row.refused = refused == null ? null : Texts.cut(refused, 300);
    return row;
  }

  void finish(Sources.Link link, java.util.function.Consumer<SourceEntity> change) {
    transaction.executeWithoutResult(
        status -> {
          SourceEntity row = sources.turnOf(link);
          if (row != null) {
            change.accept(row);
            rows.update(row);
          }
        });
  }
}
