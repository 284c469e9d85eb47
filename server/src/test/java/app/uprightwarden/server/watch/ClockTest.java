package app.uprightwarden.server.watch;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.persistence.DatabaseClock;
import java.time.Clock;
import java.time.Duration;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.info.BuildProperties;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A server whose clock is off says so; others see it come and go all the same. */
public class ClockTest extends ServerTest {
  @Autowired private NodeRepository nodes;
  @Autowired private DatabaseClock database;
  @Autowired private ObjectProvider<BuildProperties> build;

  @DataProvider
  public Object[][] moved() {
    return new Object[][] {{Duration.ofHours(3)}, {Duration.ofHours(-3)}, {Duration.ZERO}};
  }

  @Test(dataProvider = "moved")
  public void itIsSaidHowFarAClockIsOff(Duration by) {
    NodeBeat beat = new NodeBeat(nodes, database, Clock.offset(Clock.systemUTC(), by), build);
    beat.begin("one that is off");
    assertTrue(
        beat.skew().minus(by).abs().compareTo(Duration.ofMinutes(1)) < 0, "off by " + beat.skew());
    // it was seen by the database's clock, whatever its own says
    assertEquals(beat.nodes().stream().filter(NodeBeat.Node::thisOne).count(), 1);
    beat.gone();
    assertTrue(beat.nodes().stream().noneMatch(node -> node.name().equals("one that is off")));
    // a beat that was due already does not bring it back
    beat.beat();
    assertTrue(beat.nodes().stream().noneMatch(node -> node.name().equals("one that is off")));
  }
}
