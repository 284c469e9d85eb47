package app.uprightwarden.standins;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.standins.sessions.EventSender;
import app.uprightwarden.standins.sessions.PlayedSessions;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A conference service that does not exist: the interface for us, and pages for whoever tries. */
public final class StandIn implements AutoCloseable {
  private final Make make;
  private final Store store;
  private final Faults faults = new Faults();
  private final Clock clock;
  private final JsonMapper json = new JsonMapper();
  private final HttpServer server;
  private final ExecutorService threads = Executors.newCachedThreadPool(StandIn::daemon);
  private final Api api;
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
    this.clock = clock;
    store = new Store(make, file, clock);
    sender = new EventSender(store::hook, key, json, clock, this::telling);
    store.whenChanged(sender::changed);
    sessions = new PlayedSessions(clock, sender);
    api = new Api(make, key, store, faults, sessions, clock, json);
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 100);
    server.setExecutor(threads);
    server.createContext("/v2/", api::handle);
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
    return api.requests();
  }

  /** How many it had to turn away, since it was asked too often. */
  public int tooMany() {
    return api.tooMany();
  }

  @Override
  public void close() {
    server.stop(0);
    threads.shutdownNow();
    sender.stop();
    sessions.close();
    store.close();
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
      store.change(entry, json.valueToTree(patch), by);
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
