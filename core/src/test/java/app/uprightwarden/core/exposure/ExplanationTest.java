package app.uprightwarden.core.exposure;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import java.util.Random;
import org.testng.annotations.Test;

/** Why somebody can do something, in a sentence. */
public class ExplanationTest {
  private static final ControlValues OPEN = ControlValues.NONE;

  private static ControlValues with(Control control, String value) {
    return OPEN.with(control, control.parse(value));
  }

  private static String words(ControlValues values, Persona persona, Right right) {
    return Explanation.of(values, persona, right).words();
  }

  @Test
  public void whoCanIsSaidToAndAsWhat() {
    Explanation open = Explanation.of(OPEN, Persona.OTHER_MEMBER, Right.SHARE_SCREEN);
    assertEquals(open.level(), Level.UNATTENDED);
    assertEquals(
        open.words(),
        "Someone who "
            + Persona.OTHER_MEMBER.phrase()
            + " can share the screen "
            + Level.UNATTENDED.phrase()
            + ", as "
            + open.role().id()
            + ".");
  }

  @Test
  public void whoIsRefusedIsSaidWhere() {
    String words = words(with(Control.SIGN_IN, "known-account"), Persona.LINK_FINDER, Right.LISTEN);
    assertTrue(
        words.startsWith(
            "Someone who " + Persona.LINK_FINDER.phrase() + " is refused at sign-in: "),
        words);
    assertTrue(words.endsWith("."), words);
  }

  @Test
  public void whoComesInWithoutTheRightIsSaidSo() {
    assertEquals(
        words(with(Control.SCREEN_SHARE, "hosts"), Persona.OTHER_MEMBER, Right.SHARE_SCREEN),
        "Someone who "
            + Persona.OTHER_MEMBER.phrase()
            + " comes in as presenter, which does not let them share the screen.");
  }

  /** The sentence says what the matrix and the door say, whatever the values. */
  @Test
  public void theSentenceIsTheMatrixs() {
    RandomMeetings any = new RandomMeetings(new Random(5));
    int refused = 0;
    int without = 0;
    for (int i = 0; i < 300; i++) {
      ControlValues values = any.values();
      Matrix matrix = Matrix.of(values);
      for (Persona persona : Persona.all()) {
        for (Right right : Right.all()) {
          Explanation told = Explanation.of(values, persona, right);
          assertEquals(told.level(), matrix.level(persona, right));
          boolean never = told.level() == Level.NEVER;
          boolean isRefused = told.inSession().outcome() == Passage.Outcome.REFUSED;
          assertEquals(told.words().contains(" can " + right.phrase() + " "), !never);
          assertEquals(told.words().contains(" is refused at "), never && isRefused);
          if (never && !isRefused) {
            assertTrue(told.words().contains("does not let them " + right.phrase()), told.words());
            without++;
          }
          refused += never && isRefused ? 1 : 0;
        }
      }
    }
    assertTrue(refused > 1000 && without > 1000, refused + " refused, " + without + " without");
  }
}
