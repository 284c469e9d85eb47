package app.uprightwarden.server.watch;

import app.uprightwarden.server.persistence.DatabaseClock;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.info.BuildProperties;
import org.springframework.boot.web.server.context.WebServerInitializedEvent;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Says that this server is there, so that each knows of the others. */
@Component
class NodeBeat {
  private static final Logger LOG = LoggerFactory.getLogger(NodeBeat.class);

  /** A server not heard of for so long is taken to be gone. */
  static final Duration GONE = Duration.ofSeconds(30);

  private final NodeRepository nodes;
  private final DatabaseClock database;
  private final Clock clock;
  private final String version;
  private final Instant startedAt;
  private volatile @Nullable String name;
  private volatile Duration skew = Duration.ZERO;

  NodeBeat(
      NodeRepository nodes,
      DatabaseClock database,
      Clock clock,
      ObjectProvider<BuildProperties> build) {
    this.nodes = nodes;
    this.database = database;
    this.clock = clock;
    BuildProperties known = build.getIfAvailable();
    this.version = known == null ? "unpacked" : String.valueOf(known.getVersion());
    this.startedAt = clock.instant();
  }

  /** A server on this database. */
  record Node(String name, String version, Instant startedAt, Instant seenAt, boolean thisOne) {}

  String version() {
    return version;
  }

  /** How far this server's clock is before the database's; negative where it is behind. */
  Duration skew() {
    return skew;
  }

  @EventListener
  void named(WebServerInitializedEvent event) throws UnknownHostException {
    begin(InetAddress.getLocalHost().getHostName() + ":" + event.getWebServer().getPort());
  }

  void begin(String own) {
    name = own;
    beat();
  }

  @Scheduled(fixedDelay = 10_000, initialDelay = 10_000)
  void beat() {
    String own = name;
    if (own == null) {
      return;
    }
    try {
      // by the database's clock: servers' own may differ
      Instant theirs = database.instant();
      skew = Duration.between(theirs, clock.instant());
      NodeEntity row = new NodeEntity();
      row.name = own;
      row.version = version;
      row.startedAt = startedAt;
      row.seenAt = theirs;
      nodes.save(row);
      nodes.deleteUnseenSince(theirs.minus(Duration.ofHours(1)));
    } catch (DataAccessException e) {
      LOG.debug("nobody hears of this server while the database is away");
    }
  }

  @EventListener(ContextClosedEvent.class)
  void gone() {
    String own = name;
    if (own == null) {
      return;
    }
    // who is gone beats no more, whoever asks
    name = null;
    try {
      nodes.delete(own);
    } catch (DataAccessException e) {
      LOG.debug("the database was gone first");
    }
  }

  /** Those that were heard of lately; this one is there, since it answers. */
  List<Node> nodes() {
    List<Node> heard = heard();
    if (heard.stream().anyMatch(Node::thisOne)) {
      return heard;
    }
    // a machine that slept, or waited long for its turn
    beat();
    return heard();
  }

  private List<Node> heard() {
    return nodes.seenSince(database.instant().minus(GONE)).stream()
        .map(
            row ->
                new Node(row.name, row.version, row.startedAt, row.seenAt, row.name.equals(name)))
        .toList();
  }
}
