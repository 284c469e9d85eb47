package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.vault.Vault;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.Test;

/** An import is one job: it comes to its end once, whoever dies on the way. */
@TestPropertySource(properties = "test.schema=warden_keeping")
public class ImportJobsTest extends ServerTest {
  private static final String BY = "m.sachs@saltmarsh.example";
  private static final String TABLE =
      """
      id,title,start,zone,host,passcode-text
      left-%1$s,Weir watch %1$s,2027-03-01T09:00,Europe/Dublin,m.okafor@saltmarsh.example,kelp-4193-%1$s
      """;

  @Autowired private ImportJobs jobs;
  @Autowired private ImportJobRepository rows;
  @Autowired private ImportBatches batches;
  @Autowired private Vault vault;
  @Autowired private JdbcClient jdbc;

  private static ImportJobs.Given table(String which) {
    return new ImportJobs.Given(which + ".csv", TABLE.formatted(which), ZoneId.of("UTC"), BY, BY);
  }

  private int meetings(String which) {
    return jdbc.sql("select count(*) from meeting where public_id = ?")
        .param("left-" + which)
        .query(Integer.class)
        .single();
  }

  /** What a server left that took a job and died: the file is there, and its time is over. */
  private ImportJobEntity left(String which, int tries) throws IOException {
    return left(which, tries, true);
  }

  private ImportJobEntity left(String which, int tries, boolean isKept) throws IOException {
    ImportJobEntity job = new ImportJobEntity();
    job.id = "left-by-" + which;
    job.what = "take";
    job.name = which + ".csv";
    job.byWhom = BY;
    job.zone = "UTC";
    job.host = BY;
    job.state = "running";
    job.worker = "another server";
    job.tries = tries;
    job.madeAt = Instant.now();
    job.leaseUntil = Instant.now().minusSeconds(5);
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream zip = new GZIPOutputStream(bytes)) {
      zip.write(TABLE.formatted(which).getBytes(StandardCharsets.UTF_8));
    }
    // as it is from its first moment: the server's own round may take it at once
    job.input = isKept ? vault.sealBytes(job.id, bytes.toByteArray()) : null;
    rows.insert(job);
    return job;
  }

  private void goOnUntilOver(String id) {
    until(
        id + " is over",
        () -> {
          jobs.round();
          return rows.find(id).orElseThrow().endedAt != null;
        });
  }

  @Test
  public void whatADeadServerLeftIsDoneByAnother() throws IOException {
    ImportJobEntity job = left("weir", 1);
    assertTrue(jobs.far(job.id).isPresent(), "every server can tell how far it is");
    goOnUntilOver(job.id);
    ImportJobEntity ended = rows.find(job.id).orElseThrow();
    assertEquals(ended.state, "done");
    assertNull(ended.input, "what it was given is kept no longer than needed");
    assertEquals(meetings("weir"), 1);
    assertFalse(jobs.far(job.id).isPresent());
    List<ImportBatches.ImportBatch> taken =
        batches.list().stream().filter(batch -> batch.name().equals("weir.csv")).toList();
    assertEquals(taken.size(), 1, "once");
    assertEquals(taken.get(0).by(), BY);
  }

  @Test
  public void whatNeverComesToItsEndIsGivenUpWithWords() throws IOException {
    ImportJobEntity job = left("never", 3);
    goOnUntilOver(job.id);
    ImportJobEntity ended = rows.find(job.id).orElseThrow();
    assertEquals(ended.state, "failed");
    assertTrue(String.valueOf(ended.trouble).contains("3 times"), ended.trouble);
    assertEquals(meetings("never"), 0);
  }

  @Test
  public void aFileThatWasTooLargeToBeKeptIsAskedForAgain() throws IOException {
    ImportJobEntity job = left("large", 1, false);
    goOnUntilOver(job.id);
    ImportJobEntity ended = rows.find(job.id).orElseThrow();
    assertEquals(ended.state, "failed");
    assertTrue(String.valueOf(ended.trouble).contains("Import it again"), ended.trouble);
  }

  @Test
  public void whatIsRefusedEndsItsJobAndStoresNothing() {
    ImportJobs.Given nothing =
        new ImportJobs.Given("x.csv", "no,header\n1,2\n", ZoneId.of("UTC"), BY, BY);
    expectThrows(ProblemException.class, () -> jobs.take(nothing, "refused-1"));
    ImportJobEntity job = rows.find("refused-1").orElseThrow();
    assertEquals(job.state, "failed");
    assertNull(job.input);
  }

  @Test
  public void theFileIsSealedWhereItWaits() throws IOException {
    ImportJobEntity job = left("sealed", 1);
    String stored = new String(rows.find(job.id).orElseThrow().input, StandardCharsets.ISO_8859_1);
    assertFalse(stored.contains("kelp"));
    assertEquals(stored.charAt(0), (char) vault.current(), "by the key that is named first");
    goOnUntilOver(job.id);
  }

  @Test
  public void anImportIsTakenBackAsAWholeAndSaysHowFarItIs() {
    ImportReport report = jobs.take(table("back"), "take-1");
    assertEquals(report.added(), 1, report.toString());
    assertEquals(meetings("back"), 1);
    assertEquals(
        jobs.take(table("back"), "take-1").unchanged(), 1, "the same name twice is no trouble");
    ImportBatches.TakenBack back = jobs.takeBack(report.batch(), false, BY, "take-back-1");
    assertEquals(back.removed(), 1);
    assertEquals(meetings("back"), 0);
    assertEquals(rows.find("take-back-1").orElseThrow().state, "done");
    assertEquals(
        expectThrows(
                ProblemException.class,
                () -> jobs.takeBack(report.batch(), false, BY, "take-back-2"))
            .code(),
        "taken-back");
  }

  @Test
  public void oneThatIsInHandIsLeftAlone() throws IOException {
    ImportJobEntity job = left("held", 1);
    jdbc.sql("update import_job set lease_until = utc_timestamp() + interval 1 hour where id = ?")
        .param(job.id)
        .update();
    jobs.round();
    assertEquals(rows.find(job.id).orElseThrow().state, "running");
    assertEquals(meetings("held"), 0);
    jdbc.sql("delete from import_job where id = ?").param(job.id).update();
  }
}
