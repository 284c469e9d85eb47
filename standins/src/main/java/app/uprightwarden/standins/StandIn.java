package app.uprightwarden.standins;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.standins.sessions.EventSender;
import app.uprightwarden.standins.sessions.PlayedSessions;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A conference service that does not exist: the interface for us, and pages for whoever tries. */
public final class StandIn implements AutoCloseable {
  private static final int MAX_BYTES = 1024 * 1024;

  /** A roster may have thousands. */
  private static final int MAX_SESSION_BYTES = 8 * 1024 * 1024;

  private static final int MAX_PAGE = 500;
  private static final String REGISTRATIONS = "/registrations";
  private static final String SESSIONS = "/v2/sessions/";

  private final Make make;
  private final String key;
  private final Store store;
  private final Faults faults = new Faults();
  private final Clock clock;
  private final JsonMapper json = new JsonMapper();
  private final HttpServer server;
  private final ExecutorService threads = Executors.newCachedThreadPool(StandIn::daemon);
  private final AtomicInteger requests = new AtomicInteger();
  private final Rate rate;
  private final EventSender sender;
  private final PlayedSessions sessions;

  /**
   * Starts one.
   *
   * @param port to listen on, on loopback; 0 for a free one
   * @param key what those who ask prove themselves by
   * @param file where it keeps what it holds
   */
  public StandIn(Make make, int port, String key, Path file, Clock clock) throws IOException {
    this.make = make;
    this.key = key;
    this.clock = clock;
    store = new Store(make, file, clock);
    rate = new Rate(make.perSecond(), clock);
    sender = new EventSender(store::hook, key, json, clock, this::telling);
    store.whenChanged(sender::changed);
    sessions = new PlayedSessions(clock, sender);
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 100);
    server.setExecutor(threads);
    server.createContext("/v2/", this::guarded);
    Pages pages = new Pages(make, store, faults, this);
    server.createContext("/", pages::handle);
    server.start();
    sender.start();
  }

  private EventSender.Mood telling() {
    return new EventSender.Mood(faults.away, faults.repeats, false);
  }

  private static Thread daemon(Runnable runnable) {
    Thread thread = new Thread(runnable, "stand-in");
    thread.setDaemon(true);
    return thread;
  }

  /** Where it listens. */
  public URI address() {
    return URI.create("http://127.0.0.1:" + server.getAddress().getPort());
  }

  /** How it is to go wrong. */
  public Faults faults() {
    return faults;
  }

  /** How many requests it was asked that were within its rate. */
  public int requests() {
    return requests.get();
  }

  /** How many it had to turn away, since it was asked too often. */
  public int tooMany() {
    return rate.tooMany.get();
  }

  @Override
  public void close() {
    server.stop(0);
    threads.shutdownNow();
    sender.stop();
    sessions.close();
    store.close();
  }

  /** A second's requests at once, and from then on as many as the rate gives back. */
  private static final class Rate {
    private final int perSecond;
    private final AtomicInteger tooMany = new AtomicInteger();
    private final Clock clock;
    private double room;
    private Instant last;

    Rate(int perSecond, Clock clock) {
      this.perSecond = perSecond;
      this.clock = clock;
      room = perSecond;
      last = clock.instant();
    }

    synchronized boolean take() {
      Instant now = clock.instant();
      double gone = Math.max(0, Duration.between(last, now).toNanos() / 1e9);
      room = Math.min(perSecond, room + gone * perSecond);
      last = now;
      if (room < 1) {
        tooMany.incrementAndGet();
        return false;
      }
      room--;
      return true;
    }
  }

  /** A request that cannot be answered with what was asked for. */
  static final class No extends Exception {
    private static final long serialVersionUID = 1;

    final int status;

    No(int status, String detail) {
      super(detail);
      this.status = status;
    }
  }

  private record Answer(int status, @Nullable Object body) {}

  private void guarded(HttpExchange exchange) throws IOException {
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
    } catch (No no) {
      return new Answer(no.status, problem(String.valueOf(no.getMessage())));
    } catch (JacksonException | ClassCastException | IllegalArgumentException e) {
      return new Answer(400, problem("That is not in the shape of the interface."));
    }
  }

  private static Map<String, Object> problem(String detail) {
    return Map.of("detail", detail);
  }

  private Answer route(HttpExchange exchange) throws No, IOException {
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
        default -> throw new No(405, "That is not done here.");
      };
    }
    if (path.equals("/v2/meetings")) {
      return switch (method) {
        case "GET" -> new Answer(200, changes(query));
        case "POST" -> once(exchange, body -> create(body, by(exchange)));
        default -> throw new No(405, "That is not done here.");
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
        default -> throw new No(405, "That is not done here.");
      };
    }
    if (path.equals("/v2/hook") && method.equals("PUT") && make.hasHooks()) {
      return hook(json.readTree(body(exchange)));
    }
    if (path.startsWith(SESSIONS)) {
      return session(exchange, path.substring(SESSIONS.length()).split("/", 2), query);
    }
    throw new No(404, "There is no such address.");
  }

  /** Where it is to tell that there is something new, and what happens in sessions. */
  private Answer hook(JsonNode body) throws No {
    try {
      URI to = URI.create(body.path("address").stringValue(""));
      boolean isWeb = "http".equals(to.getScheme()) || "https".equals(to.getScheme());
      if (!isWeb || to.getHost() == null) {
        throw new No(422, "That is no address to tell anything at.");
      }
      store.hookTo(to);
      return new Answer(200, Map.of());
    } catch (IllegalArgumentException e) {
      throw new No(422, "That is no address to tell anything at.");
    }
  }

  /** {@code <id>}, {@code <id>/orders} or {@code <id>/events}. */
  private Answer session(HttpExchange exchange, String[] parts, Map<String, String> query)
      throws No, IOException {
    String call = exchange.getRequestMethod() + (parts.length > 1 ? " " + parts[1] : "");
    String id = parts[0];
    switch (call) {
      case "PUT" -> {
        SessionPlan plan = json.readValue(body(exchange), SessionPlan.class);
        if (!plan.id().equals(id) || id.length() > 100) {
          throw new No(422, "A session is called as its address says.");
        }
        if (!sessions.open(plan)) {
          throw new No(503, "There are too many sessions.");
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
      default -> throw new No(405, "That is not done here.");
    }
    throw new No(404, "There is no such session.");
  }

  private static byte[] body(HttpExchange exchange) throws No, IOException {
    byte[] body = exchange.getRequestBody().readNBytes(MAX_SESSION_BYTES + 1);
    if (body.length > MAX_SESSION_BYTES) {
      throw new No(413, "That is more than can be taken at once.");
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

  private Store.Entry present(String id) throws No {
    Store.Entry entry = store.find(id);
    if (entry == null || entry.cancelled()) {
      throw new No(404, "There is no such meeting.");
    }
    return entry;
  }

  private static String by(HttpExchange exchange) {
    String by = exchange.getRequestHeaders().getFirst("On-Behalf-Of");
    return by == null || by.isBlank() ? "somebody" : by;
  }

  private interface Doing {
    Map<String, Object> with(JsonNode body) throws No;
  }

  /** Does something once for each command: asked again, the first answer is given again. */
  private Answer once(HttpExchange exchange, Doing doing) throws No, IOException {
    String command = exchange.getRequestHeaders().getFirst("Command-Id");
    if (command == null || command.isBlank() || command.length() > 100) {
      throw new No(400, "A change carries a Command-Id.");
    }
    byte[] body = exchange.getRequestBody().readNBytes(MAX_BYTES + 1);
    if (body.length > MAX_BYTES) {
      throw new No(413, "That is more than can be taken at once.");
    }
    synchronized (store) {
      JsonNode before = store.answered(command);
      if (before != null) {
        return new Answer(200, before);
      }
      if (faults.refuses) {
        throw new No(422, make.title() + " does not let that be changed");
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

  private Map<String, Object> create(JsonNode wanted, String by) throws No {
    check(wanted);
    String id = make.title().substring(0, 1).toLowerCase(java.util.Locale.ROOT);
    id += "-" + UUID.randomUUID().toString().substring(0, 13);
    return told(store.put(id, store.completed((ObjectNode) wanted), by, false));
  }

  private Map<String, Object> change(String id, JsonNode patch, HttpExchange exchange) throws No {
    Store.Entry entry = present(id);
    String match = exchange.getRequestHeaders().getFirst("If-Match");
    if (match != null && !match.equals('"' + Long.toString(entry.change()) + '"')) {
      throw new No(412, "It has another revision.");
    }
    check(patch);
    return told(change(entry, patch, by(exchange)));
  }

  /** Changes a meeting behind everybody's back, as its page does. */
  Store.Entry change(Store.Entry entry, JsonNode patch, String by) {
    ObjectNode changed = (ObjectNode) MergePatch.apply(entry.meeting(), patch);
    return store.put(entry.id(), store.completed(changed), by, false);
  }

  private Map<String, Object> setDefaults(JsonNode patch, String by) throws No {
    Map<String, Object> values = new LinkedHashMap<>();
    Map<String, @Nullable Object> locks = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> each : patch.path("controls").properties()) {
      Control control = Control.byId(each.getKey());
      JsonNode value = each.getValue().path("value");
      JsonNode lock = each.getValue().path("lock");
      if (control == null || !isHeld(control, value) || !isHeld(control, lock)) {
        throw new No(422, make.title() + " cannot hold that default of " + each.getKey());
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

  private Map<String, Object> cancel(String id, String by) throws No {
    Store.Entry entry = present(id);
    return told(store.put(id, entry.meeting(), by, true));
  }

  private void check(JsonNode meeting) throws No {
    for (Map.Entry<String, JsonNode> each : meeting.path("controls").properties()) {
      Control control = Control.byId(each.getKey());
      if (control == null || !make.holds(control, Store.plain(each.getValue()))) {
        throw new No(
            422,
            make.title()
                + " cannot hold that value of "
                + (control == null ? each.getKey() : control.title()));
      }
    }
    if (make == Make.CURLEW) {
      for (JsonNode date : meeting.path("occurrences")) {
        if (!date.path("controls").isEmpty()) {
          throw new No(422, make.title() + " has no settings of single dates");
        }
      }
    }
  }

  private Map<String, Object> changes(Map<String, String> query) throws No {
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

  private static int number(String text) throws No {
    if (!text.matches("\\d{1,6}")) {
      throw new No(400, "limit is a number.");
    }
    return Integer.parseInt(text);
  }

  private long behind(@Nullable String marker) throws No {
    if (marker == null) {
      return -1;
    }
    String[] parts = marker.split("\\.");
    if (parts.length != 3 || !parts[1].matches("\\d{1,18}") || !parts[2].matches("\\d{1,12}")) {
      throw new No(410, "That marker is not known.");
    }
    Duration lives = make.markerLives();
    Instant given = Instant.ofEpochSecond(Long.parseLong(parts[2]));
    if (!parts[0].equals(store.era())
        || lives != null && given.plus(lives).isBefore(clock.instant())) {
      throw new No(410, "That marker is not known any more.");
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
    String link =
        "https://" + make.title().toLowerCase(java.util.Locale.ROOT) + ".example/j/" + number;
    boolean holdsPasscode =
        meeting.path("controls").path("passcode-in-link").stringValue("").equals("embedded")
            && meeting.hasNonNull("passcode");
    return holdsPasscode
        ? link
            + "?p="
            + java.net.URLEncoder.encode(
                meeting.path("passcode").stringValue(""), StandardCharsets.UTF_8)
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

  /** A service to try things with, for tests: makes a meeting as somebody there would. */
  public String make(String by, Map<String, Object> meeting) {
    ObjectNode wanted = json.valueToTree(meeting);
    String id = make.title().charAt(0) + "-" + UUID.randomUUID().toString().substring(0, 13);
    return store.put(id, store.completed(wanted), by, false).id();
  }

  /** Changes a meeting as somebody there would. */
  public void behindOurBack(String id, String by, Map<String, Object> patch) {
    synchronized (store) {
      Store.Entry entry = store.find(id);
      if (entry == null || entry.cancelled()) {
        throw new IllegalArgumentException("no meeting " + id);
      }
      change(entry, json.valueToTree(patch), by);
    }
  }

  /** Somebody fills in the form of a meeting. */
  public void register(String id, String address, String name) {
    synchronized (store) {
      Store.Entry entry = store.find(id);
      if (entry == null || entry.cancelled()) {
        throw new IllegalArgumentException("no meeting " + id);
      }
      Registrations.ask(make, store, entry, address, name, clock.instant());
    }
  }

  /** Cancels a meeting as somebody there would. */
  public void cancelBehindOurBack(String id, String by) {
    synchronized (store) {
      Store.Entry entry = store.find(id);
      if (entry != null) {
        store.put(id, entry.meeting(), by, true);
      }
    }
  }

  /** Changes a default as somebody there would. */
  public void changeDefaultBehindOurBack(String control, Object value, String by) {
    store.setDefaults(Map.of(control, value), Map.of(), by);
  }

  /** Its defaults and locks, in the shape of the interface. */
  public JsonNode account() {
    return json.valueToTree(store.account());
  }

  /** A meeting as it holds it; null where it has none. */
  public @Nullable JsonNode holds(String id) {
    Store.Entry entry = store.find(id);
    return entry == null || entry.cancelled() ? null : entry.meeting();
  }

  /** The revision of a meeting that it holds, or had. */
  public long revision(String id) {
    Store.Entry entry = store.find(id);
    return entry == null ? 0 : entry.change();
  }

  /** The ids of all it holds. */
  public List<String> ids() {
    return store.all().stream().map(Store.Entry::id).toList();
  }

  /** Whether it holds a session of this name. */
  public boolean hasSession(String id) {
    return sessions.has(id);
  }

  /** How many events a session has that it holds, as far as a thousand; 0 where it holds none. */
  public int events(String session) {
    List<Wire.EventTold> events = sessions.after(session, 0);
    return events == null ? 0 : events.size();
  }

  /** Where it tells that something is new; null where it was not said, or cannot. */
  public @Nullable URI hook() {
    return store.hook();
  }

  /** Keeps a copy to be restored from. */
  public void backUp() {
    store.backUp();
  }

  /** Goes back to the copy. */
  public void restore() {
    store.restore();
  }

  /** Knows no marker any more. */
  public void forgetMarkers() {
    store.forgetMarkers();
  }
}
