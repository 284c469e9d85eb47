package app.uprightwarden.core.passcode;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.meeting.Weakness;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.util.HashSet;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.Test;

/** Made passcodes: strong by our own judge and by a reference library, of the length asked for. */
public class PasscodeMakerTest {
  @Test
  public void whatIsMadeIsStrongAndMixed() {
    Random random = new Random(7);
    Zxcvbn reference = new Zxcvbn();
    Set<String> made = new HashSet<>();
    for (int i = 0; i < 300; i++) {
      int atLeast = random.nextInt(40);
      String passcode = PasscodeMaker.make(atLeast, random::nextInt);
      assertTrue(passcode.length() >= atLeast, passcode);
      assertTrue(passcode.matches("[A-Z][a-z]+(-[a-z]+){2,}-\\d\\d"), passcode);
      assertEquals(PasscodeJudge.makeup(passcode).toString(), "mixed");
      assertEquals(
          PasscodeJudge.weakness(passcode, "Harbour hearing", "m.okafor@saltmarsh.example"),
          Weakness.NONE);
      // zxcvbn's scale goes from 0 to 4; 3 is "safely unguessable" for a throttled service
      assertTrue(reference.measure(passcode).getScore() >= 3, passcode);
      made.add(passcode);
    }
    assertEquals(made.size(), 300, "none twice");
  }

  @Test
  public void thereAreEnoughWords() {
    assertTrue(PasscodeMaker.choices() >= 256, "eight bits a word at least");
  }
}
