package app.uprightwarden.standins;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.standins.sessions.PlayedSessions;
import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import java.net.URI;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** The interface of a stand-in, as the server asks it: meetings, defaults, hooks and sessions. */
final class Api {
  private static final int MAX_BYTES = 1024 * 1024;

  /** A roster may have thousands. */
  private static final int MAX_SESSION_BYTES = 8 * 1024 * 1024;

  private static final int MAX_PAGE = 500;
  private static final String REGISTRATIONS = "/registrations";
  private static final String SESSIONS = "/v2/sessions/";

  private final Make make;
  private final String key;
  private final Store store;
  private final Faults faults;
  private final PlayedSessions sessions;
  private final Clock clock;
  private final JsonMapper json;
  private final AtomicInteger requests = new AtomicInteger();
  private final Rate rate;

  Api(
      Make make,
      String key,
      Store store,
      Faults faults,
      PlayedSessions sessions,
      Clock clock,
      JsonMapper json) {
    this.make = make;
    this.key = key;
    this.store = store;
    this.faults = faults;
    this.sessions = sessions;
    this.clock = clock;
    this.json = json;
    rate = new Rate(make.perSecond(), clock);
  }

  /** How many requests it was asked that were within its rate. */
  int requests() {
    return requests.get();
  }

  /** How many it had to turn away, since it was asked too often. */
  int tooMany() {
    return rate.tooMany();
  }

  private record Answer(int status, @Nullable Object body) {}

  /** Answers a request, or goes wrong as it is told to. */
  void handle(HttpExchange exchange) throws IOException {
    try (exchange) {
      int slow = faults.slowMillis;
      if (slow > 0) {
        TimeUnit.MILLISECONDS.sleep(slow);
      }
      if (faults.away) {
        send(exchange, new Answer(503, problem("It is away.")));
        return;
      }
      String given =
          String.valueOf(exchange.getRequestHeaders().getFirst("Authorization"))
              .replaceFirst("^Bearer ", "");
      boolean isRight =
          MessageDigest.isEqual(
              given.getBytes(StandardCharsets.UTF_8), key.getBytes(StandardCharsets.UTF_8));
      if (faults.keyWithdrawn || !isRight) {
        send(exchange, new Answer(401, problem("The key is not known.")));
        return;
      }
      if (faults.busy || !rate.take()) {
        exchange.getResponseHeaders().set("Retry-After", "1");
        send(exchange, new Answer(429, problem("Asked too often.")));
        return;
      }
      if (requests.incrementAndGet() % 3 == 0 && faults.failing) {
        send(exchange, new Answer(500, problem("Something went wrong.")));
        return;
      }
      send(exchange, answer(exchange));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private Answer answer(HttpExchange exchange) throws IOException {
    try {
      Answer answer = route(exchange);
      if (faults.deaf && !exchange.getRequestMethod().equals("GET")) {
        return new Answer(500, problem("It was done, and nobody hears of it."));
      }
      return answer;
    } catch (Problem no) {
      return new Answer(no.status, problem(String.valueOf(no.getMessage())));
    } catch (JacksonException | ClassCastException | IllegalArgumentException e) {
      return new Answer(400, problem("That is not in the shape of the interface."));
    }
  }

  private static Map<String, Object> problem(String detail) {
    return Map.of("detail", detail);
  }

  private Answer route(HttpExchange exchange) throws Problem, IOException {
    String method = exchange.getRequestMethod();
    String path = exchange.getRequestURI().getPath();
    Map<String, String> query = query(exchange.getRequestURI().getRawQuery());
    if (path.equals("/v2/about") && method.equals("GET")) {
      Map<String, Object> about = new LinkedHashMap<>();
      about.put("make", make.title());
      about.put("perSecond", make.perSecond());
      about.put("registrations", make == Make.REDSHANK);
      about.put("sessions", true);
      about.put("practice", true);
      about.put("hooks", make.hasHooks());
      about.put("controls", make.means());
      return new Answer(200, about);
    }
    if (path.equals("/v2/defaults")) {
      return switch (method) {
        case "GET" -> new Answer(200, store.account());
        case "PATCH" -> once(exchange, body -> setDefaults(body, by(exchange)));
        default -> throw new Problem(405, "That is not done here.");
      };
    }
    if (path.equals("/v2/meetings")) {
      return switch (method) {
        case "GET" -> new Answer(200, changes(query));
        case "POST" -> once(exchange, body -> create(body, by(exchange)));
        default -> throw new Problem(405, "That is not done here.");
      };
    }
    if (path.startsWith("/v2/meetings/")) {
      String id = path.substring("/v2/meetings/".length());
      if (id.endsWith(REGISTRATIONS) && method.equals("PATCH")) {
        String of = id.substring(0, id.length() - REGISTRATIONS.length());
        return once(
            exchange,
            body -> told(Registrations.decide(make, store, present(of), body, by(exchange))));
      }
      return switch (method) {
        case "GET" -> new Answer(200, told(present(id)));
        case "PATCH" -> once(exchange, body -> change(id, body, exchange));
        case "DELETE" -> once(exchange, body -> cancel(id, by(exchange)));
        default -> throw new Problem(405, "That is not done here.");
      };
    }
    if (path.equals("/v2/hook") && method.equals("PUT") && make.hasHooks()) {
      return hook(json.readTree(body(exchange)));
    }
    if (path.startsWith(SESSIONS)) {
      return session(exchange, path.substring(SESSIONS.length()).split("/", 2), query);
    }
    throw new Problem(404, "There is no such address.");
  }

  /** Where it is to tell that there is something new, and what happens in sessions. */
  private Answer hook(JsonNode body) throws Problem {
    try {
      URI to = URI.create(body.path("address").stringValue(""));
      boolean isWeb = "http".equals(to.getScheme()) || "https".equals(to.getScheme());
      if (!isWeb || to.getHost() == null) {
        throw new Problem(422, "That is no address to tell anything at.");
      }
      store.hookTo(to);
      return new Answer(200, Map.of());
    } catch (IllegalArgumentException e) {
      throw new Problem(422, "That is no address to tell anything at.");
    }
  }

  /** {@code <id>}, {@code <id>/orders} or {@code <id>/events}. */
  private Answer session(HttpExchange exchange, String[] parts, Map<String, String> query)
      throws Problem, IOException {
    String call = exchange.getRequestMethod() + (parts.length > 1 ? " " + parts[1] : "");
    String id = parts[0];
    switch (call) {
      case "PUT" -> {
        SessionPlan plan = json.readValue(body(exchange), SessionPlan.class);
        if (!plan.id().equals(id) || id.length() > 100) {
          throw new Problem(422, "A session is called as its address says.");
        }
        if (!sessions.open(plan)) {
          throw new Problem(503, "There are too many sessions.");
        }
        return new Answer(200, Map.of("id", id));
      }
      case "POST orders" -> {
        Wire.OrderSent sent = json.readValue(body(exchange), Wire.OrderSent.class);
        if (faults.refuses) {
          String no = make.title() + " does not let that be done";
          return new Answer(200, new Wire.Answered(false, no));
        }
        Wire.Answered answer =
            faults.lies && sessions.has(id)
                ? new Wire.Answered(true, "")
                : sessions.order(id, sent);
        if (answer != null) {
          return new Answer(200, answer);
        }
      }
      case "GET events" -> {
        List<Wire.EventTold> told = sessions.after(id, number(query.getOrDefault("after", "0")));
        if (told != null) {
          return new Answer(200, new Wire.EventsTold(told));
        }
      }
      default -> throw new Problem(405, "That is not done here.");
    }
    throw new Problem(404, "There is no such session.");
  }

  private static byte[] body(HttpExchange exchange) throws Problem, IOException {
    byte[] body = exchange.getRequestBody().readNBytes(MAX_SESSION_BYTES + 1);
    if (body.length > MAX_SESSION_BYTES) {
      throw new Problem(413, "That is more than can be taken at once.");
    }
    return body;
  }

  static Map<String, String> query(@Nullable String raw) {
    Map<String, String> query = new HashMap<>();
    if (raw != null) {
      for (String part : raw.split("&")) {
        int equals = part.indexOf('=');
        if (equals > 0) {
          query.put(
              URLDecoder.decode(part.substring(0, equals), StandardCharsets.UTF_8),
              URLDecoder.decode(part.substring(equals + 1), StandardCharsets.UTF_8));
        }
      }
    }
    return query;
  }

  private Store.Entry present(String id) throws Problem {
    Store.Entry entry = store.find(id);
    if (entry == null || entry.cancelled()) {
      throw new Problem(404, "There is no such meeting.");
    }
    return entry;
  }

  private static String by(HttpExchange exchange) {
    String by = exchange.getRequestHeaders().getFirst("On-Behalf-Of");
    return by == null || by.isBlank() ? "somebody" : by;
  }

  private interface Doing {
    Map<String, Object> with(JsonNode body) throws Problem;
  }

  /** Does something once for each command: asked again, the first answer is given again. */
  private Answer once(HttpExchange exchange, Doing doing) throws Problem, IOException {
    String command = exchange.getRequestHeaders().getFirst("Command-Id");
    if (command == null || command.isBlank() || command.length() > 100) {
      throw new Problem(400, "A change carries a Command-Id.");
    }
    byte[] body = exchange.getRequestBody().readNBytes(MAX_BYTES + 1);
    if (body.length > MAX_BYTES) {
      throw new Problem(413, "That is more than can be taken at once.");
    }
    synchronized (store) {
      JsonNode before = store.answered(command);
      if (before != null) {
        return new Answer(200, before);
      }
      if (faults.refuses) {
        throw new Problem(422, make.title() + " does not let that be changed");
      }
      JsonNode given = body.length == 0 ? json.createObjectNode() : json.readTree(body);
      Map<String, Object> answer = faults.lies ? Map.of("id", idOf(exchange)) : doing.with(given);
      store.answer(command, json.valueToTree(answer));
      return new Answer(200, answer);
    }
  }

  private static String idOf(HttpExchange exchange) {
    String path = exchange.getRequestURI().getPath();
    return path.substring(path.lastIndexOf('/') + 1);
  }

  private Map<String, Object> create(JsonNode wanted, String by) throws Problem {
    check(wanted);
    String id = make.title().substring(0, 1).toLowerCase(Locale.ROOT);
    id += "-" + UUID.randomUUID().toString().substring(0, 13);
    return told(store.put(id, store.completed((ObjectNode) wanted), by, false));
  }

  private Map<String, Object> change(String id, JsonNode patch, HttpExchange exchange)
      throws Problem {
    Store.Entry entry = present(id);
    String match = exchange.getRequestHeaders().getFirst("If-Match");
    if (match != null && !match.equals('"' + Long.toString(entry.change()) + '"')) {
      throw new Problem(412, "It has another revision.");
    }
    check(patch);
    return told(store.change(entry, patch, by(exchange)));
  }

  private Map<String, Object> setDefaults(JsonNode patch, String by) throws Problem {
    Map<String, Object> values = new LinkedHashMap<>();
    Map<String, @Nullable Object> locks = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> each : patch.path("controls").properties()) {
      Control control = Control.byId(each.getKey());
      JsonNode value = each.getValue().path("value");
      JsonNode lock = each.getValue().path("lock");
      if (control == null || !isHeld(control, value) || !isHeld(control, lock)) {
        throw new Problem(422, make.title() + " cannot hold that default of " + each.getKey());
      }
      if (!value.isMissingNode()) {
        values.put(each.getKey(), Store.plain(value));
      }
      if (!lock.isMissingNode()) {
        locks.put(each.getKey(), lock.isNull() ? null : Store.plain(lock));
      }
    }
    store.setDefaults(values, locks, by);
    return store.account();
  }

  private boolean isHeld(Control control, JsonNode value) {
    return value.isMissingNode() || value.isNull() || make.holds(control, Store.plain(value));
  }

  private Map<String, Object> cancel(String id, String by) throws Problem {
    Store.Entry entry = present(id);
    return told(store.put(id, entry.meeting(), by, true));
  }

  private void check(JsonNode meeting) throws Problem {
    for (Map.Entry<String, JsonNode> each : meeting.path("controls").properties()) {
      Control control = Control.byId(each.getKey());
      if (control == null || !make.holds(control, Store.plain(each.getValue()))) {
        throw new Problem(
            422,
            make.title()
                + " cannot hold that value of "
                + (control == null ? each.getKey() : control.title()));
      }
    }
    if (make == Make.CURLEW) {
      for (JsonNode date : meeting.path("occurrences")) {
        if (!date.path("controls").isEmpty()) {
          throw new Problem(422, make.title() + " has no settings of single dates");
        }
      }
    }
  }

  private Map<String, Object> changes(Map<String, String> query) throws Problem {
    int limit = Math.max(1, Math.min(MAX_PAGE, number(query.getOrDefault("limit", "100"))));
    long behind = behind(query.get("after"));
    List<Map<String, Object>> told = new ArrayList<>();
    List<Store.Entry> some = store.after(behind, limit);
    for (Store.Entry entry : some) {
      told.add(told(entry));
      if (faults.repeats && told.size() < limit) {
        told.add(told(entry));
      }
    }
    long to = some.isEmpty() ? Math.max(behind, 0) : some.get(some.size() - 1).change();
    Map<String, Object> page = new LinkedHashMap<>();
    page.put("meetings", told);
    page.put("marker", store.era() + "." + to + "." + clock.instant().getEpochSecond());
    page.put("more", to < store.last());
    return page;
  }

  private static int number(String text) throws Problem {
    if (!text.matches("\\d{1,6}")) {
      throw new Problem(400, "limit is a number.");
    }
    return Integer.parseInt(text);
  }

  private long behind(@Nullable String marker) throws Problem {
    if (marker == null) {
      return -1;
    }
    String[] parts = marker.split("\\.");
    if (parts.length != 3 || !parts[1].matches("\\d{1,18}") || !parts[2].matches("\\d{1,12}")) {
      throw new Problem(410, "That marker is not known.");
    }
    Duration lives = make.markerLives();
    Instant given = Instant.ofEpochSecond(Long.parseLong(parts[2]));
    if (!parts[0].equals(store.era())
        || lives != null && given.plus(lives).isBefore(clock.instant())) {
      throw new Problem(410, "That marker is not known any more.");
    }
    return Long.parseLong(parts[1]);
  }

  private Map<String, Object> told(Store.Entry entry) {
    Map<String, Object> told = new LinkedHashMap<>();
    told.put("id", entry.id());
    told.put("revision", Long.toString(entry.change()));
    told.put("changedAt", entry.changedAt());
    told.put("changedBy", entry.changedBy());
    if (entry.cancelled()) {
      told.put("cancelled", true);
      return told;
    }
    told.put("meeting", Registrations.without(entry.meeting()));
    if (make == Make.REDSHANK) {
      told.put("registrations", entry.meeting().path(Registrations.FIELD).valueStream().toList());
    }
    told.put("link", link(entry.meeting()));
    told.put("dialIn", List.of("+44 20 7946 0199 (GB)"));
    return told;
  }

  private String link(ObjectNode meeting) {
    String number = meeting.path("number").stringValue("").replace(" ", "");
    String link = "https://" + make.title().toLowerCase(Locale.ROOT) + ".example/j/" + number;
    boolean holdsPasscode =
        meeting.path("controls").path("passcode-in-link").stringValue("").equals("embedded")
            && meeting.hasNonNull("passcode");
    return holdsPasscode
        ? link
            + "?p="
            + URLEncoder.encode(meeting.path("passcode").stringValue(""), StandardCharsets.UTF_8)
        : link;
  }

  private void send(HttpExchange exchange, Answer answer) throws IOException {
    byte[] body = answer.body() == null ? new byte[0] : json.writeValueAsBytes(answer.body());
    exchange
        .getResponseHeaders()
        .set(
            "Content-Type",
            answer.status() >= 400 ? "application/problem+json" : "application/json");
    exchange.sendResponseHeaders(answer.status(), body.length == 0 ? -1 : body.length);
    exchange.getResponseBody().write(body);
  }
}
