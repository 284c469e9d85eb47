package app.uprightwarden.server.audit;

import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.ledger.Ledger;
import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.TimeUnit;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** An audit is one server's at a time, and another's at once where that one stops in good order. */
@TestPropertySource(properties = "test.schema=warden_keeping")
public class LeaseTest extends ServerTest {
  @Autowired private AuditRuns here;
  @Autowired private JdbcClient jdbc;
  @Autowired private Ledger ledger;

  @Test
  public void aServerThatStopsLeavesItsAuditsToOthersAtOnce() throws InterruptedException {
    long id = here.standing().orElseThrow().id();
    // a clock that is hours ahead does not make what others hold look forsaken
    Clock ahead = Clock.offset(Clock.systemUTC(), Duration.ofHours(3));
    AuditRuns there = new AuditRuns(jdbc, JsonMapper.builder().build(), ledger, ahead);
    assertTrue(here.takeStanding(id));
    assertFalse(there.takeStanding(id), "it is another's");
    boolean taken = false;
    for (int i = 0; i < 20 && !taken; i++) {
      here.destroy(); // this one has not stopped, and may take it again in between
      taken = there.takeStanding(id);
      TimeUnit.MILLISECONDS.sleep(50);
    }
    assertTrue(taken);
    assertFalse(here.takeStanding(id));
    there.destroy();
    assertTrue(here.takeStanding(id));
  }
}
