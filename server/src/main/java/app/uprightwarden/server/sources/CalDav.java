package app.uprightwarden.server.sources;

import app.uprightwarden.server.problem.Texts;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A collection of events on a CalDAV server (RFC 4791), read by what has changed (RFC 6578). A
 * client library that is kept up and knows these reports was not to be had; what is needed of them
 * is four requests.
 */
final class CalDav {
  private static final int AT_ONCE = 100;
  private static final int MAX_PAGES = 1000;
  private static final int MAX_COLLECTIONS = 200;
  private static final int MAX_NAME = 400;
  private static final int MAX_MARK = 300;
  private static final int MAX_TOKEN = 1000;
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  private final SourceHttp http;
  private final URI address;
  private final SourceHttp.@Nullable Account account;

  CalDav(SourceHttp http, URI address, SourceHttp.@Nullable Account account) {
    this.http = http;
    this.address = address;
    this.account = account;
  }

  /** A collection of events. */
  record Collection(String name, URI address) {}

  /**
   * What was found.
   *
   * @param marks the events that were changed, by name, with the mark of their state; null for gone
   * @param isWhole what is not named is gone
   * @param token up to where this is known; null where the server has none
   */
  record Changes(Map<String, @Nullable String> marks, boolean isWhole, @Nullable String token) {}

  /**
   * An answer.
   *
   * @param at where it came from in the end: what it names is relative to that
   */
  private record Asked(MultiStatus status, URI at) {}

  private MultiStatus ask(String method, URI at, int depth, String body) throws SourceTrouble {
    return asked(method, at, depth, body).status();
  }

  private Asked asked(String method, URI at, int depth, String body) throws SourceTrouble {
    SourceHttp.Answer answer =
        http.send(
            method,
            at,
            account,
            headers(depth),
            "<?xml version=\"1.0\" encoding=\"utf-8\"?>" + body);
    if (answer.status() == 207) {
      return new Asked(MultiStatus.read(answer.body()), answer.at());
    }
    boolean isGone =
        (answer.status() == 403 || answer.status() == 409 || answer.status() == 412)
            && MultiStatus.isError(answer.body(), "valid-sync-token");
    throw new SourceTrouble(
        isGone ? SourceTrouble.Kind.MARKER_GONE : SourceTrouble.Kind.UNABLE,
        "does not answer as a CalDAV server does (" + answer.status() + ")");
  }

  private static final String ABOUT =
      "<propfind xmlns=\"DAV:\" xmlns:c=\"urn:ietf:params:xml:ns:caldav\"><prop><displayname/>"
          + "<resourcetype/><c:supported-calendar-component-set/><current-user-principal/>"
          + "<c:calendar-home-set/></prop></propfind>";

  /**
   * The collections of events at this address: itself, those right below it, or, where it has none,
   * those of whoever the account is (RFC 5397 section 3, RFC 4791 section 6.2.1); with nothing but
   * a host also where that sends to (RFC 6764 section 5).
   *
   * @throws SourceTrouble of kind UNABLE where no CalDAV server is there
   */
  List<Collection> collections() throws SourceTrouble {
    URI root = address.resolve("/.well-known/caldav");
    boolean isBare = address.getRawPath().length() < 2;
    SourceTrouble unable = null;
    for (URI at : isBare ? List.of(address, root) : List.of(address)) {
      try {
        List<Collection> found = collections(at, 2);
        if (!found.isEmpty()) {
          return found;
        }
      } catch (SourceTrouble e) {
        unable = e;
      }
    }
    if (unable != null) {
      throw unable;
    }
    return List.of();
  }

  private List<Collection> collections(URI from, int steps) throws SourceTrouble {
    List<Collection> found = new ArrayList<>();
    String next = null;
    Asked answer = asked("PROPFIND", from, 1, ABOUT);
    URI at = answer.at();
    for (MultiStatus.Response each : answer.status().responses()) {
      boolean isCalendar = each.has("resourcetype", MultiStatus.CALDAV, "calendar");
      if (isCalendar && holdsEvents(each) && found.size() < MAX_COLLECTIONS) {
        String name = each.text(MultiStatus.DAV, "displayname");
        URI its = resolved(at, each.href());
        found.add(
            new Collection(name == null || name.isBlank() ? its.getPath() : shown(name), its));
      }
      String home = each.text(MultiStatus.CALDAV, "calendar-home-set");
      String who = each.text(MultiStatus.DAV, "current-user-principal");
      next = next != null ? next : home != null && !home.isEmpty() ? home : who;
    }
    if (!found.isEmpty() || next == null || next.isEmpty() || steps == 0) {
      return found;
    }
    URI there = resolved(at, next);
    return there.equals(from) ? found : collections(there, steps - 1);
  }

  private static String shown(String name) {
    return Texts.oneLine(name, 60);
  }

  private static boolean holdsEvents(MultiStatus.Response of) {
    var properties = of.properties();
    if (properties == null) {
      return false;
    }
    var components = properties.getElementsByTagNameNS(MultiStatus.CALDAV, "comp");
    for (int i = 0; i < components.getLength(); i++) {
      if (components.item(i) instanceof org.w3c.dom.Element each
          && each.getAttribute("name").equalsIgnoreCase("VEVENT")) {
        return true;
      }
    }
    return components.getLength() == 0; // without a word of it, every kind (section 5.2.3)
  }

  private URI resolved(String href) throws SourceTrouble {
    return resolved(address, href);
  }

  private static URI resolved(URI at, String href) throws SourceTrouble {
    try {
      return at.resolve(href);
    } catch (IllegalArgumentException e) {
      throw new SourceTrouble(SourceTrouble.Kind.AWAY, "names a thing that has no address");
    }
  }

  /**
   * What was changed since it was read last.
   *
   * @param token up to where it is known; null for the first time
   * @throws SourceTrouble of kind MARKER_GONE where the server no longer knows the token
   */
  Changes changes(@Nullable String token) throws SourceTrouble {
    Map<String, @Nullable String> marks = new LinkedHashMap<>();
    String at = token;
    for (int page = 0; page < MAX_PAGES; page++) {
      MultiStatus some;
      try {
        some = ask("REPORT", address, 0, sync(at));
      } catch (SourceTrouble e) {
        if (e.kind() == SourceTrouble.Kind.UNABLE && page == 0) {
          return new Changes(listed(), true, null); // it does not know RFC 6578
        }
        throw e;
      }
      boolean isMore = false;
      for (MultiStatus.Response each : some.responses()) {
        // 507 on the collection itself: there is more behind the token (section 3.6)
        isMore |= each.status() == 507;
        note(each, marks);
      }
      String next = some.token();
      if (next == null || next.length() > MAX_TOKEN || isMore && next.equals(at)) {
        throw new SourceTrouble(SourceTrouble.Kind.AWAY, "does not say up to where it was read");
      }
      at = next;
      if (!isMore) {
        return new Changes(marks, token == null, at);
      }
    }
    throw new SourceTrouble(SourceTrouble.Kind.AWAY, "answers in too many parts");
  }

  private void note(MultiStatus.Response each, Map<String, @Nullable String> marks)
      throws SourceTrouble {
    String name = resolved(each.href()).getPath();
    if (name.length() > MAX_NAME || isSame(name)) {
      return;
    }
    String mark = each.text(MultiStatus.DAV, "getetag");
    if (each.status() == 404) {
      marks.put(name, null);
    } else if (mark != null && !each.has("resourcetype", MultiStatus.DAV, "collection")) {
      marks.put(name, mark.length() > MAX_MARK ? mark.substring(0, MAX_MARK) : mark);
    }
  }

  private boolean isSame(String name) {
    return name.equals(address.getPath()) || (name + "/").equals(address.getPath());
  }

  private static String sync(@Nullable String token) {
    return "<sync-collection xmlns=\"DAV:\"><sync-token>"
        + (token == null ? "" : escaped(token))
        + "</sync-token><sync-level>1</sync-level><prop><getetag/><resourcetype/></prop>"
        + "</sync-collection>";
  }

  private Map<String, @Nullable String> listed() throws SourceTrouble {
    Map<String, @Nullable String> marks = new LinkedHashMap<>();
    String body = "<propfind xmlns=\"DAV:\"><prop><getetag/><resourcetype/></prop></propfind>";
    for (MultiStatus.Response each : ask("PROPFIND", address, 1, body).responses()) {
      note(each, marks);
    }
    return marks;
  }

  /** An event as it is held now. */
  record Event(String name, @Nullable String mark, @Nullable String text) {}

  /** How many events one request asks for. */
  static int atOnce() {
    return AT_ONCE;
  }

  /**
   * The events of these names (RFC 4791 section 7.9); without text those that are gone.
   *
   * @param names at most {@link #atOnce}
   */
  List<Event> events(List<String> names) throws SourceTrouble {
    String hrefs =
        names.stream()
            .map(name -> "<d:href>" + escaped(encoded(name)) + "</d:href>")
            .collect(Collectors.joining());
    MultiStatus answer =
        ask(
            "REPORT",
            address,
            1,
            "<c:calendar-multiget xmlns:d=\"DAV:\" xmlns:c=\"urn:ietf:params:xml:ns:caldav\">"
                + "<d:prop><d:getetag/><c:calendar-data/></d:prop>"
                + hrefs
                + "</c:calendar-multiget>");
    List<Event> events = new ArrayList<>();
    for (MultiStatus.Response each : answer.responses()) {
      String name = resolved(each.href()).getPath();
      if (names.contains(name)) {
        String text = each.text(MultiStatus.CALDAV, "calendar-data");
        String mark = each.text(MultiStatus.DAV, "getetag");
        if (each.status() == 404 || text != null) {
          events.add(new Event(name, mark, each.status() == 404 ? null : text));
        }
      }
    }
    return events;
  }

  /**
   * When the collection's owner has no time (RFC 4791 section 7.10).
   *
   * @throws SourceTrouble of kind UNABLE where the server does not know the question
   */
  String freeBusy(Instant from, Instant to) throws SourceTrouble {
    SourceHttp.Answer answer =
        http.send(
            "REPORT",
            address,
            account,
            headers(1),
            "<?xml version=\"1.0\" encoding=\"utf-8\"?><c:free-busy-query"
                + " xmlns:c=\"urn:ietf:params:xml:ns:caldav\"><c:time-range start=\""
                + TIME.format(from)
                + "\" end=\""
                + TIME.format(to)
                + "\"/></c:free-busy-query>");
    if (answer.status() != 200 || !answer.body().contains("BEGIN:VFREEBUSY")) {
      throw new SourceTrouble(SourceTrouble.Kind.UNABLE, "does not say when somebody has no time");
    }
    return answer.body();
  }

  /** Names are kept decoded: a server may write one address in two ways. */
  private static String encoded(String path) {
    try {
      return new URI(null, null, path, null).getRawPath();
    } catch (URISyntaxException e) {
      throw new IllegalArgumentException(path, e);
    }
  }

  private static Map<String, String> headers(int depth) {
    Map<String, String> headers = new LinkedHashMap<>();
    headers.put("Depth", Integer.toString(depth));
    headers.put("Content-Type", "application/xml");
    return headers;
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
  }
}
