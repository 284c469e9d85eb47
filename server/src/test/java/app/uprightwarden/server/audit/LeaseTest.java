package app.uprightwarden.server.audit;

import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.persistence.DatabaseClock;
import java.time.Clock;
import java.time.Duration;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** An audit is one server's at a time, and another's at once where that one stops in good order. */
@TestPropertySource(properties = "test.schema=warden_keeping")
public class LeaseTest extends ServerTest {
  @Autowired private AuditRuns here;
  @Autowired private AuditRunRepository runs;
  @Autowired private FindingRepository findings;
  @Autowired private DatabaseClock database;
  @Autowired private Ledger ledger;
  @Autowired private TransactionTemplate transaction;

  @Test
  public void aServerThatStopsLeavesItsAuditsToOthersAtOnce() {
    long id = here.standing().orElseThrow().id();
    // a clock that is hours ahead does not make what others hold look forsaken
    Clock ahead = Clock.offset(Clock.systemUTC(), Duration.ofHours(3));
    AuditRuns there =
        new AuditRuns(
            runs, findings, database, JsonMapper.builder().build(), ledger, ahead, transaction);
    assertTrue(here.takeStanding(id));
    assertFalse(there.takeStanding(id), "it is another's");
    until(
        "another takes it",
        () -> {
          here.destroy(); // this one has not stopped, and may take it again in between
          return there.takeStanding(id);
        });
    assertFalse(here.takeStanding(id));
    there.destroy();
    assertTrue(here.takeStanding(id));
  }
}
