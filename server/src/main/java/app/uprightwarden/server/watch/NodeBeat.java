package app.uprightwarden.server.watch;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
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
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Says that this server is there, so that each knows of the others. */
@Component
class NodeBeat {
  private static final Logger LOG = LoggerFactory.getLogger(NodeBeat.class);

  /** A server not heard of for so long is taken to be gone. */
  static final Duration GONE = Duration.ofSeconds(30);

  private final JdbcClient jdbc;
  private final Clock clock;
  private final String version;
  private final Instant startedAt;
  private volatile @Nullable String name;
  private volatile Duration skew = Duration.ZERO;

  NodeBeat(JdbcClient jdbc, Clock clock, ObjectProvider<BuildProperties> build) {
    this.jdbc = jdbc;
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
      LocalDateTime now = LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
      LocalDateTime theirs =
          jdbc.sql("select utc_timestamp(3)").query(LocalDateTime.class).single();
      skew = Duration.between(theirs, now);
      // by the database's clock: servers' own may differ
      jdbc.sql(
              "insert into node values (?, ?, ?, utc_timestamp(3)) on duplicate key update version"
                  + " = values(version), started_at = values(started_at), seen_at ="
                  + " utc_timestamp(3)")
          .params(own, version, LocalDateTime.ofInstant(startedAt, ZoneOffset.UTC))
          .update();
      jdbc.sql("delete from node where seen_at < utc_timestamp(3) - interval 1 hour").update();
    } catch (DataAccessException e) {
      LOG.debug("nobody hears of this server while the database is away");
    }
  }

  @EventListener(ContextClosedEvent.class)
  void gone() {
    try {
      jdbc.sql("delete from node where name = ?").param(String.valueOf(name)).update();
    } catch (DataAccessException e) {
      LOG.debug("the database was gone first");
    }
  }

  List<Node> nodes() {
    return jdbc.sql(
            "select name, version, started_at, seen_at from node where seen_at >"
                + " utc_timestamp(3) - interval ? second order by name")
        .param(GONE.toSeconds())
        .query(
            (r, n) ->
                new Node(
                    r.getString(1),
                    r.getString(2),
                    r.getObject(3, LocalDateTime.class).toInstant(ZoneOffset.UTC),
                    r.getObject(4, LocalDateTime.class).toInstant(ZoneOffset.UTC),
                    r.getString(1).equals(name)))
        .list();
  }
}
