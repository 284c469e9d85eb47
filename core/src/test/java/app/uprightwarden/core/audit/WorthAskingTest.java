package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.Test;

/** A check that is not asked about some rules would have found nothing in them. */
public class WorthAskingTest {
  private static final int ROUNDS = 2_000;

  private static List<Detail> found(
      ControlCheck check, Judgement.Basis basis, List<ResolvedRule> rules) {
    List<Detail> found = new ArrayList<>();
    rules.forEach(rule -> check.check(basis, rule, found::add));
    return found;
  }

  @Test
  public void whatIsNotAskedAboutHasNothingToBeFound() {
    RandomMeetings random = new RandomMeetings(new Random(20_261_130));
    Set<String> heard = new HashSet<>();
    Set<String> spared = new HashSet<>();
    for (int round = 0; round < ROUNDS; round++) {
      ResolvedRulebook rules =
          ResolvedRulebook.of(
              List.of(random.layer(Scope.ORGANISATION), random.layer(Scope.unit("u"))));
      Judgement.Basis basis = new Judgement.Basis(random.values(), random.reach());
      for (ControlCheck check : Auditor.select(ControlCheck.class)) {
        List<ResolvedRule> among = check.among(rules);
        List<Detail> all = found(check, basis, rules.rules());
        assertEquals(found(check, basis, among), all, check.id() + " in round " + round);
        if (!all.isEmpty()) {
          heard.add(check.id());
        }
        if (among.size() < rules.rules().size()) {
          spared.add(check.id());
        }
      }
    }
    assertTrue(heard.size() == Auditor.select(ControlCheck.class).size(), "each finds: " + heard);
    assertEquals(spared, heard, "each is spared some");
  }
}
