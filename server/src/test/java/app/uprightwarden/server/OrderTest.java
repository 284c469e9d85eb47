package app.uprightwarden.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noMethods;
import static org.testng.Assert.assertEquals;

import app.uprightwarden.server.problem.InOrder;
import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaMethod;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** What is written out has one order of keys, on every run of the program. */
public class OrderTest {
  private static final int ONE_ENTRY = 2;

  /**
   * The order of {@code Map.of} is salted anew at each start of Java (JDK, ImmutableCollections).
   */
  @Test
  public void noMapOfChanceIsMadeWhileRunning() {
    JavaClasses server = WrittenByUs.in("app.uprightwarden.server");
    noMethods()
        .should(
            com.tngtech.archunit.lang.ArchCondition.from(
                DescribedPredicate.<JavaMethod>describe(
                    "call Map.of with two entries or more",
                    method ->
                        method.getMethodCallsFromSelf().stream()
                            .anyMatch(
                                call ->
                                    call.getTargetOwner().isEquivalentTo(Map.class)
                                        && call.getName().equals("of")
                                        && call.getTarget().getRawParameterTypes().size()
                                            > ONE_ENTRY))))
        .because("two exports of the same data are the same bytes: use InOrder.map")
        .check(server);
  }

  @Test
  public void aSmallMapKeepsTheOrderItIsWrittenIn() {
    assertEquals(
        List.copyOf(InOrder.map("email", 1, "need", 2, "a", 3, "z", 4, "b", 5).keySet()),
        List.of("email", "need", "a", "z", "b"));
  }
}
