package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;

import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a waiver covers, and which of several is a finding's own. */
public class WaiversTest {
  private static final Waiver FINDING =
      new Waiver(1, Waiver.Scope.FINDING, "a", "", "beyond-limit", "chat", null);
  private static final Waiver OF_ONE_DAY =
      new Waiver(2, Waiver.Scope.FINDING, "a", "2027-01-11T09:00", "beyond-limit", "chat", null);
  private static final Waiver MEETING = new Waiver(3, Waiver.Scope.MEETING, "b", "", "", "", null);
  private static final Waiver RULE =
      new Waiver(4, Waiver.Scope.RULE, null, "", "", "chat", "pilotage");
  private static final Waivers ALL = new Waivers(List.of(RULE, MEETING, OF_ONE_DAY, FINDING));

  @DataProvider
  public Object[][] findings() {
    List<String> pilotage = List.of("harbour", "pilotage");
    List<String> none = List.of();
    // meeting, units, occurrence, check, subject, and the waiver that covers it
    return new Object[][] {
      {"a", none, "", "beyond-limit", "chat", FINDING},
      {"a", pilotage, "", "beyond-limit", "chat", FINDING},
      {"a", none, "2027-01-11T09:00", "beyond-limit", "chat", OF_ONE_DAY},
      {"a", none, "2027-01-12T09:00", "beyond-limit", "chat", null},
      {"a", none, "", "no-effect", "chat", null},
      {"a", pilotage, "", "no-effect", "chat", RULE},
      {"a", none, "", "beyond-limit", "recording", null},
      {"b", none, "", "weak-passcode", "", MEETING},
      {"b", pilotage, "2027-01-11T09:00", "beyond-limit", "chat", MEETING},
      {"c", pilotage, "", "beyond-limit", "chat", RULE},
      {"c", List.of("harbour"), "", "beyond-limit", "chat", null},
      {"c", pilotage, "", "host-gone", "", null},
    };
  }

  @Test(dataProvider = "findings")
  public void theNarrowestThatCoversIt(
      String meeting,
      List<String> units,
      String occurrence,
      String check,
      String subject,
      Waiver expected) {
    assertEquals(ALL.covering(meeting, units, occurrence, check, subject), expected);
    assertNull(Waivers.NONE.covering(meeting, units, occurrence, check, subject));
  }

  @Test
  public void ofTwoAlikeTheFirst() {
    Waiver second = new Waiver(9, Waiver.Scope.MEETING, "b", "", "", "", null);
    assertEquals(
        new Waivers(List.of(second, MEETING)).covering("b", List.of(), "", "x", ""), MEETING);
  }
}
