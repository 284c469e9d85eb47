package app.uprightwarden.bench;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.audit.MeetingFacts;
import org.testng.annotations.Test;

/** A comparison is worth something only where both give the same answers. */
public class PeersAgreeTest {
  @Test
  public void theRuleEngineFindsWhatWeFind() {
    Population population = new Population(21);
    MeetingFacts[] meetings = population.mixture(2000);
    int theirs =
        new RuleEnginePeer(population.paths())
            .run(RuleEnginePeer.facts(meetings, population.paths()));
    assertEquals(Report.sharedFindings(meetings), theirs);
    assertTrue(theirs > 500, "found " + theirs);
  }
}
