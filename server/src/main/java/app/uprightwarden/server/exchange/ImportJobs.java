package app.uprightwarden.server.exchange;

import app.uprightwarden.server.jobs.Backlog;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.vault.SealedRows;
import app.uprightwarden.server.vault.Vault;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.function.IntConsumer;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Imports as stored jobs. What was given is kept, sealed, until it is done; the import itself is
 * one transaction, with which the job ends, so that it is seen as a whole or not at all, and once.
 * Whoever asked waits for it; where their server dies, another begins it anew from what was kept.
 * How far it is, is written beside that transaction, for every server to tell.
 */
@Service
class ImportJobs implements SealedRows {
  private static final Logger LOG = LoggerFactory.getLogger(ImportJobs.class);
  private static final Duration LEASE = Duration.ofSeconds(60);
  private static final Duration KEPT = Duration.ofDays(7);
  private static final int MAX_TRIES = 3;

  /**
   * Bytes of a file, packed, that are kept: a packet to MariaDB holds 16 MiB where nobody says
   * more.
   */
  private static final int MAX_KEPT = 12 * 1024 * 1024;

  /** How often it is written how far an import is. */
  private static final int ROWS_A_NOTE = 1000;

  private final ImportJobRepository rows;
  private final FileExchange files;
  private final ImportBatches batches;
  private final Vault vault;
  private final DatabaseClock database;
  private final TransactionTemplate transaction;
  private final TransactionTemplate beside;
  private final String worker = UUID.randomUUID().toString();

  ImportJobs(
      ImportJobRepository rows,
      FileExchange files,
      ImportBatches batches,
      Vault vault,
      DatabaseClock database,
      TransactionTemplate transaction,
      PlatformTransactionManager transactions) {
    this.rows = rows;
    this.files = files;
    this.batches = batches;
    this.vault = vault;
    this.database = database;
    this.transaction = transaction;
    this.beside = new TransactionTemplate(transactions);
    beside.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    beside.setName("ImportJobRepository_.goOn"); // a note, no act
  }

  /** What to take in, and for whom; see {@link FileExchange#take}. */
  record Given(String name, String text, ZoneId zone, String host, String by) {}

  /**
   * Takes a file in.
   *
   * @param progress the name to ask by how far it is
   */
  ImportReport take(Given given, String progress) {
    ImportJobEntity job = job("take", progress, given.name(), given.by());
    job.zone = given.zone().getId();
    job.host = given.host();
    byte[] file = zipped(given.text());
    // a database takes no more at once; such a file hardly shrinks, which tables and calendars do
    job.input = file.length <= MAX_KEPT ? vault.sealBytes(job.id, file) : null;
    rows.insert(job);
    return (ImportReport) asked(job.id, given.text());
  }

  /** Takes an import back; see {@link ImportBatches#takeBack}. */
  ImportBatches.TakenBack takeBack(long batch, boolean force, String by, String progress) {
    ImportJobEntity job = job("take-back", progress, "", by);
    job.batch = batch;
    job.forced = force;
    rows.insert(job);
    return (ImportBatches.TakenBack) asked(job.id, "");
  }

  private ImportJobEntity job(String what, String progress, String name, String by) {
    ImportJobEntity job = new ImportJobEntity();
    // a name that is in use, or none, is as good as one of ours
    boolean isFree = !progress.equals("none") && rows.find(progress).isEmpty();
    job.id = isFree ? progress : UUID.randomUUID().toString();
    job.what = what;
    job.name = Texts.cut(name, 200);
    job.byWhom = by;
    job.worker = worker;
    job.madeAt = database.instant();
    job.leaseUntil = job.madeAt.plus(LEASE);
    return job;
  }

  /**
   * Carries out what somebody waits for. They are told where it fails: then it is over, and does
   * not come after what they do next.
   */
  private Object asked(String id, String text) {
    try {
      return carryOut(id, text);
    } catch (DataAccessException | TransactionException e) {
      try {
        end(id, "The database failed: " + Texts.oneLine(e.getMessage(), 300));
      } catch (DataAccessException | TransactionException away) {
        LOG.warn("the import {} is tried again once the database is there", id);
      }
      throw e;
    }
  }

  private Object carryOut(String id, String text) {
    Instant now = database.instant();
    if (rows.take(id, worker, now, now.plus(LEASE)) == 0) {
      throw ProblemException.conflict(
          "under-way", "Another server has gone on with this import. Look at the imports.");
    }
    ImportJobEntity job = rows.find(id).orElseThrow();
    try {
      return Objects.requireNonNull(transaction.execute(status -> done(job, text)));
    } catch (ProblemException e) {
      end(id, String.valueOf(e.getMessage()));
      throw e;
    } catch (DataAccessException | TransactionException e) {
      throw e; // the transaction is undone, and the job as it was
    } catch (RuntimeException e) {
      end(id, String.valueOf(e.getMessage()));
      throw e;
    }
  }

  /** The import and the end of its job, in one transaction. */
  private Object done(ImportJobEntity job, String text) {
    Object outcome;
    if (job.what.equals("take")) {
      ImportJob wanted = new ImportJob(false, job.byWhom, job.name, progress(job.id));
      outcome = files.take(text, wanted, ZoneId.of(job.zone), job.host);
    } else {
      outcome =
          batches.takeBack(
              Objects.requireNonNull(job.batch), job.forced, job.byWhom, progress(job.id));
    }
    if (rows.end(job.id, worker, "done", null, database.instant()) == 0) {
      throw ProblemException.conflict(
          "under-way", "Another server has gone on with this import. Look at the imports.");
    }
    return outcome;
  }

  private void end(String id, String why) {
    rows.end(id, worker, "failed", Texts.cut(why, 2000), database.instant());
  }

  private ImportJob.Progress progress(String id) {
    return new ImportJob.Progress() {
      private int total;

      @Override
      public void of(int all) {
        total = all;
        note(0);
      }

      @Override
      public IntConsumer done() {
        return done -> {
          if (done % ROWS_A_NOTE == 0 || done == total) {
            note(done);
          }
        };
      }

      private void note(int done) {
        beside.executeWithoutResult(
            status -> rows.goOn(id, worker, done, total, database.instant().plus(LEASE)));
      }
    };
  }

  /** How far a job is; empty where there is none of that name under way. */
  Optional<ImportJobRepository.Far> far(String id) {
    return rows.far(id);
  }

  /** Goes on with what a server left that is no more, and forgets what ended long ago. */
  @Scheduled(fixedDelay = 5000, initialDelay = 5000)
  void round() {
    try {
      rows.deleteEndedBefore(database.instant().minus(KEPT));
      rows.forsaken(database.instant()).ifPresent(this::goOn);
    } catch (DataAccessException | TransactionException e) {
      LOG.info("imports wait for the database: {}", Texts.oneLine(e.getMessage(), 300));
    }
  }

  private void goOn(String id) {
    ImportJobEntity job = rows.find(id).orElse(null);
    if (job == null) {
      return;
    }
    boolean isLost = job.what.equals("take") && job.input == null;
    if (isLost || job.tries >= MAX_TRIES) {
      Instant now = database.instant();
      if (rows.take(id, worker, now, now.plus(LEASE)) == 1) {
        end(
            id,
            isLost
                ? "Its server went away, and the file was too large to be kept. Import it again."
                : "It was begun " + job.tries + " times and never came to its end.");
      }
      return;
    }
    LOG.info("the import “{}” of {} is begun anew", job.name, job.byWhom);
    try {
      byte[] input = job.input;
      carryOut(id, input == null ? "" : text(vault.openBytes(id, input)));
    } catch (ProblemException e) {
      LOG.warn("the import “{}” was refused: {}", job.name, e.getMessage());
    }
  }

  private static byte[] zipped(String text) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream zip = new GZIPOutputStream(bytes)) {
      zip.write(text.getBytes(StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }

  private static String text(byte[] zipped) {
    try (GZIPInputStream zip = new GZIPInputStream(new ByteArrayInputStream(zipped))) {
      return new String(zip.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public String table() {
    return "import_job";
  }

  @Override
  public long behind() {
    return rows.countSealedWithAnother(vault.current());
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<ImportJobEntity> some =
        rows.lockedSealedWithAnother(
            rows.sealedWithAnother(vault.current(), most), vault.current());
    for (ImportJobEntity job : some) {
      rows.seal(
          job.id, vault.sealBytes(job.id, vault.openBytes(job.id, SealedRows.sealed(job.input))));
    }
    return some.size();
  }

  /** Imports that are under way. */
  @Configuration
  static class Waiting {
    @Bean
    Backlog importsWaiting(ImportJobRepository jobs) {
      return new Backlog("imports", jobs::countWaiting);
    }
  }
}
