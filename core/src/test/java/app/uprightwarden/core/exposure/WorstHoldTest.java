package app.uprightwarden.core.exposure;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.rulebook.Guarantee;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.testng.annotations.Test;

/**
 * The worst hold that breaks a guarantee is found without looking at each. Here all that break it
 * are sorted, as the meaning says: the highest level, then the greatest weight of persona and right
 * together, then the first in the tables.
 */
public class WorstHoldTest {
  private static final int ROUNDS = 20_000;

  private static Optional<Matrix.Cell> sorted(Matrix matrix, Guarantee guarantee) {
    List<Matrix.Cell> all = new ArrayList<>();
    matrix
        .asMap()
        .forEach(
            (who, rights) ->
                rights.forEach((right, level) -> all.add(new Matrix.Cell(who, right, level))));
    return all.stream()
        .filter(cell -> guarantee.who().contains(cell.persona()))
        .filter(cell -> guarantee.rights().contains(cell.right()))
        .filter(cell -> cell.level().compareTo(guarantee.ceiling()) > 0)
        .min( // of equal ones the first, by the tables' order
            Comparator.comparing(Matrix.Cell::level)
                .thenComparing(cell -> cell.persona().weight() * cell.right().weight())
                .reversed());
  }

  @Test
  public void itIsTheFirstOfThemAll() {
    RandomMeetings random = new RandomMeetings(new Random(20_261_130));
    int broken = 0;
    for (int round = 0; round < ROUNDS; round++) {
      Matrix matrix = Matrix.of(random.values());
      Guarantee guarantee = random.guarantee("g");
      Optional<Matrix.Cell> wanted = sorted(matrix, guarantee);
      assertEquals(Optional.ofNullable(matrix.worst(guarantee)), wanted, "round " + round);
      assertEquals(matrix.breaks(guarantee), wanted.isPresent(), "round " + round);
      broken += wanted.isPresent() ? 1 : 0;
    }
    assertTrue(broken > ROUNDS / 10 && broken < ROUNDS, broken + " are broken");
  }
}
