package app.uprightwarden.core.passcode;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.meeting.Weakness;
import com.nulabinc.zxcvbn.Zxcvbn;
import java.util.List;
import java.util.Random;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Judging passcodes, against a reference library and what NIST says of lists and lengths. */
public class PasscodeTest {
  @DataProvider
  public Object[][] weak() {
    return new Object[][] {
      {"123456", Weakness.RUN},
      {"1234", Weakness.RUN},
      {"abcd", Weakness.RUN},
      {"9876", Weakness.RUN},
      {"1234567890", Weakness.RUN},
      {"77777777", Weakness.REPEAT},
      {"aaaa", Weakness.REPEAT},
      {"password", Weakness.COMMON},
      {"Password", Weakness.COMMON},
      {"qwerty", Weakness.COMMON},
      {"p4ssw0rd", Weakness.COMMON},
      {"letmein", Weakness.COMMON},
      {"Hearing", Weakness.TITLE_WORD},
      {"h3ar1ng", Weakness.TITLE_WORD},
      {"Spo1l", Weakness.TITLE_WORD},
      {"garvey", Weakness.HOST_WORD},
      {"SALTMARSH", Weakness.HOST_WORD},
      {"kelp-Rudder-41", Weakness.NONE},
      {"x7#qPz2m", Weakness.NONE},
    };
  }

  @Test(dataProvider = "weak")
  public void whatIsSoonGuessedIsNamed(String passcode, Weakness weakness) {
    assertEquals(
        PasscodeJudge.weakness(passcode, "Spoil ground hearing", "a.garvey@saltmarsh.example"),
        weakness);
  }

  /**
   * NIST SP 800-63B section 5.1.1.2 (from memory): compare with lists of commonly used, expected
   * and compromised values, dictionary words, repetitive or sequential characters ("aaaaaa",
   * "1234abcd" are its examples) and context-specific words such as the name of the service.
   */
  @Test
  public void nistsOwnExamplesAreCaught() {
    assertEquals(PasscodeJudge.weakness("aaaaaa", "", ""), Weakness.REPEAT);
    assertEquals(PasscodeJudge.weakness("12345678", "", ""), Weakness.RUN);
    assertEquals(PasscodeJudge.weakness("harbour", "Harbour dues", ""), Weakness.TITLE_WORD);
  }

  @Test
  public void makeupIsReadOffTheCharacters() {
    assertEquals(PasscodeJudge.makeup("402913").toString(), "digits");
    assertEquals(PasscodeJudge.makeup("qhfre").toString(), "letters-digits");
    assertEquals(PasscodeJudge.makeup("z5h577bnkhm").toString(), "letters-digits");
    assertEquals(PasscodeJudge.makeup("e72aa2zk#gx").toString(), "mixed");
  }

  @Test
  public void aLeakIsThePasscodeByItselfOrInALink() {
    assertTrue(PasscodeJudge.leaked("gull-88", "Code: gull-88."));
    assertTrue(PasscodeJudge.leaked("gull-88", "https://x.example/j/1?code=gull-88"));
    assertTrue(PasscodeJudge.leaked("gull#88", "https://x.example/j/1?code=gull%2388"));
    assertFalse(PasscodeJudge.leaked("gull-88", "seagull-881"));
    assertFalse(PasscodeJudge.leaked("88", "in 1988 there were 188"));
    assertFalse(PasscodeJudge.leaked("gull-88", ""));
  }

  /**
   * The order of strength agrees with zxcvbn's on most pairs (reference: nulab's zxcvbn for Java).
   */
  @Test
  public void theOrderOfStrengthAgreesWithAReferenceLibrary() {
    List<String> passcodes =
        List.of(
            "1111",
            "1234",
            "123456",
            "password",
            "letmein",
            "dragon",
            "482913",
            "90417263",
            "kq7w",
            "harbour",
            "kq7wz",
            "kq7wzp2",
            "Tr4nsom",
            "x7#qPz2m",
            "kelpRudder",
            "kelp-Rudder-41",
            "e72aa2zk#gx",
            "z5h577bnkhm",
            "q4qec6gd893",
            "vT9#kk2!pqLz");
    Zxcvbn reference = new Zxcvbn();
    int agree = 0;
    int pairs = 0;
    for (int i = 0; i < passcodes.size(); i++) {
      for (int j = i + 1; j < passcodes.size(); j++) {
        double theirs =
            reference.measure(passcodes.get(i)).getGuessesLog10()
                - reference.measure(passcodes.get(j)).getGuessesLog10();
        if (Math.abs(theirs) < 0.5) {
          continue; // the reference itself hardly tells them apart
        }
        double ours =
            GuessEstimate.of(passcodes.get(i)).tries() - GuessEstimate.of(passcodes.get(j)).tries();
        pairs++;
        agree += Math.signum(ours) == Math.signum(theirs) ? 1 : 0;
      }
    }
    assertTrue(agree >= 0.9 * pairs, agree + " of " + pairs + " pairs agree");
  }

  @Test
  public void aLongerRandomPasscodeIsNeverEstimatedWeaker() {
    Random random = new Random(63);
    String alphabet = "bcdfghjkmnpqrstvwxz23456789";
    for (int i = 0; i < 500; i++) {
      StringBuilder passcode = new StringBuilder();
      double before = 0;
      for (int length = 0; length < 14; length++) {
        passcode.append(alphabet.charAt(random.nextInt(alphabet.length())));
        if (CommonPasscodes.contains(passcode.toString())
            || PasscodeJudge.weakness(passcode.toString(), "", "") != Weakness.NONE) {
          continue;
        }
        double tries = GuessEstimate.of(passcode.toString()).tries();
        assertTrue(tries >= before, passcode + " " + tries + " < " + before);
        before = tries;
      }
    }
  }

  /**
   * Half of all strings of the same makeup, by combinatorics: characters to the power of places.
   */
  @DataProvider
  public Object[][] makeups() {
    return new Object[][] {
      {"7291", Math.pow(10, 4) / 2},
      {"72915", Math.pow(10, 5) / 2},
      {"qdkw", Math.pow(26, 4) / 2},
      {"QDKW", Math.pow(26, 4) / 2},
      {"q7dK", Math.pow(62, 4) / 2},
      {"aZ9-", Math.pow(95, 4) / 2},
      {"72934", Math.pow(10, 4.5) / 2}, // the last goes on from the one before: half a place
      {"72933", Math.pow(10, 4.5) / 2},
    };
  }

  @Test(dataProvider = "makeups")
  public void anEstimateIsHalfOfWhatCouldStandThere(String passcode, double tries) {
    GuessEstimate estimate = GuessEstimate.of(passcode);
    assertEquals(estimate.tries(), tries, tries * 1e-12);
    assertEquals(estimate.minutes(), tries / 20, tries * 1e-12);
  }
}
