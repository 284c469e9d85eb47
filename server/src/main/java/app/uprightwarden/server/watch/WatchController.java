package app.uprightwarden.server.watch;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.vault.Rotation;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The service itself, for those who look after it. */
@RestController
@RequestMapping("/api/service")
class WatchController {
  private final NodeBeat beat;
  private final Sizes sizes;
  private final List<Backlog> backlogs;
  private final Jobs jobs;
  private final Rotation rotation;
  private final Clock clock;
  private final String provider;

  WatchController(
      NodeBeat beat,
      Sizes sizes,
      List<Backlog> backlogs,
      Jobs jobs,
      Rotation rotation,
      Clock clock,
      @Value("${warden.oidc.issuer:}") String provider) {
    this.beat = beat;
    this.sizes = sizes;
    this.backlogs = backlogs;
    this.jobs = jobs;
    this.rotation = rotation;
    this.clock = clock;
    this.provider = provider;
  }

  /** Work of one sort that waits. */
  record Waiting(@Worded String name, long waiting) {}

  /**
   * The service as it is now.
   *
   * @param heapMegabytes used now, of {@code heapMost}
   * @param clockSkewSeconds how far this server's clock is before the database's
   * @param schema the newest migration that ran
   * @param provider where people can sign in elsewhere, or empty
   */
  record ServiceView(
      String version,
      String java,
      String database,
      String schema,
      Instant now,
      double clockSkewSeconds,
      long heapMegabytes,
      long heapMost,
      long diskFreeMegabytes,
      String provider,
      List<NodeBeat.Node> nodes,
      List<Waiting> backlog,
      List<Sizes.LastRun> lastRuns,
      List<Sizes.TableSize> tables) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ServiceView service() {
    var heap = ManagementFactory.getMemoryMXBean().getHeapMemoryUsage();
    return new ServiceView(
        beat.version(),
        Runtime.version().toString(),
        sizes.database(),
        sizes.schema(),
        clock.instant(),
        beat.skew().toMillis() / 1000.0,
        heap.getUsed() >> 20,
        heap.getMax() >> 20,
        new java.io.File(".").getUsableSpace() >> 20,
        provider,
        beat.nodes(),
        backlogs.stream().map(b -> new Waiting(b.name(), b.waiting())).toList(),
        sizes.lastRuns(),
        sizes.tables());
  }

  /**
   * Work that was tried in vain.
   *
   * @param items the first 200: what failed for good first
   * @param total how many there are
   */
  record Troubled(List<Jobs.JobInTrouble> items, long total) {}

  @GetMapping("/work")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  Troubled work() {
    return new Troubled(jobs.inTrouble(), jobs.countInTrouble());
  }

  /** Has work tried again at once that was tried in vain. */
  @PostMapping("/work/{kind}/{item}/again")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void tryAgain(@PathVariable String kind, @PathVariable String item) {
    jobs.again(kind, item);
  }

  /** Gives work up that failed for good. */
  @DeleteMapping("/work/{kind}/{item}")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void giveUp(@PathVariable String kind, @PathVariable String item) {
    jobs.letBe(kind, item);
  }

  /** The keys that seal secrets, by number, and how many rows wait to be sealed anew. */
  @GetMapping("/keys")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  Rotation.Standing keys() {
    return rotation.standing();
  }

  /** Makes a new key; everything is sealed anew with it in the background. */
  @PostMapping("/keys")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.ACCEPTED)
  Rotation.Standing rotate() {
    return rotation.begin();
  }

  /** Drops the keys that seal nothing any more. */
  @DeleteMapping("/keys/old")
  @PreAuthorize("hasRole('WARDEN')")
  Rotation.Standing forgetOldKeys() {
    return rotation.forget();
  }
}
