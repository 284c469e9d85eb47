package app.uprightwarden.server.vault;

import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;

/**
 * Changes the key that seals. A new key is put into the key file first; then all rows are sealed
 * anew, some at a time, by whichever servers run. Interrupted anywhere, it goes on by itself: what
 * is still to do is seen from the rows. Old keys stay in the file until somebody drops them.
 */
@Service
public class Rotation {
  private static final Logger LOG = LoggerFactory.getLogger(Rotation.class);
  private static final int AT_ONCE = 200;

  /**
   * Looking costs going through whole tables. Where nothing was behind it is looked again with the
   * next key, and now and then for what a server wrote that had not yet heard of the last one.
   */
  private static final Duration QUIET = Duration.ofMinutes(10);

  private final Vault vault;
  private final List<SealedRows> tables;
  private final VaultRevision revision;
  private volatile int quietKey = -1;
  private volatile long quietSince;

  Rotation(Vault vault, List<SealedRows> tables, VaultRevision revision) {
    this.vault = vault;
    this.tables = tables;
    this.revision = revision;
  }

  /**
   * How it stands.
   *
   * @param current the number of the key that seals
   * @param numbers all keys that are in the file
   * @param behind rows by table that are sealed with another
   */
  public record Standing(int current, List<Integer> numbers, Map<String, Long> behind) {
    public boolean isDone() {
      return behind.values().stream().allMatch(n -> n == 0);
    }
  }

  public Standing standing() {
    Map<String, Long> behind = new LinkedHashMap<>();
    tables.forEach(t -> behind.put(t.table(), t.behind()));
    return new Standing(vault.current(), vault.numbers(), behind);
  }

  /**
   * Adds a key, unless an earlier change is not through yet; that one is gone on with.
   *
   * @return how it stands now
   */
  public Standing begin() {
    if (standing().isDone()) {
      int number = vault.addKey();
      LOG.info("key {} seals from now on", number);
    }
    return standing();
  }

  /**
   * Drops the old keys.
   *
   * @throws ProblemException 409 while a row is sealed with one of them
   */
  public Standing forget() {
    Standing now = standing();
    if (!now.isDone()) {
      throw ProblemException.conflict(
          "keys-in-use",
          "Some rows are still sealed with an old key. Wait until all are sealed anew, then drop"
              + " it. Nothing was dropped.");
    }
    vault.forgetOld();
    return standing();
  }

  void round() {
    int key = vault.current();
    long now = System.nanoTime();
    if (key == quietKey && now - quietSince < QUIET.toNanos()) {
      return;
    }
    goOn();
    if (standing().isDone()) { // not where somebody had a row in hand, which was passed over
      quietKey = key;
      quietSince = now;
    }
  }

  /** Seals all that is behind, and counts what was done. */
  int goOn() {
    int all = 0;
    for (SealedRows table : tables) {
      int done = table.sealAnew(AT_ONCE);
      while (done > 0) {
        all += done;
        done = table.sealAnew(AT_ONCE);
      }
    }
    if (all > 0) {
      LOG.info("{} rows are sealed with key {} now", all, vault.current());
      // fingerprints are others now: what remembers them reads again
      revision.next();
    }
    return all;
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob rotationPassing(Rotation rotation) {
      return new RecurringJob(
          "rotation", "Sealing anew after a change of key", Duration.ofSeconds(3), rotation::round);
    }
  }
}
