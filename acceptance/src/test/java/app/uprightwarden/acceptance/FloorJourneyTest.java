package app.uprightwarden.acceptance;

import static org.testng.Assert.assertTrue;

import org.testng.annotations.Test;

/** A session with a stranger in it, from the first alert to a draft of the rulebook. */
public class FloorJourneyTest extends Journey {

  public FloorJourneyTest() {
    super("warden_floor", true);
  }

  @Test
  public void aStrangerGetsInIsRemovedComesBackAndIsBarred() {
    browser.signIn("m.sachs");
    // a rehearsal first: somebody removed would be let back, with this in the meeting
    browser.go("/door?meeting=m-0001&set=return-after-removal:allowed");
    browser.press("Put it in the meeting");
    browser.sees("The meeting is changed.");
    browser.leaveField();
    browser.keys("6");
    browser.sees("Sessions");
    browser.keys("p");
    browser.sees("Practise a session");
    browser.pickMeeting("Storm call");
    browser.press("Open it");

    // the stranger is there before the host
    browser.sees("A stranger is in before the host");
    // and shares, which the alert's own act ends
    browser.sees("Somebody shares who should not");
    browser.leaveField();
    browser.keys("t");
    browser.sees("Rob no longer shares the screen by");

    // removed by hand
    browser.keys("l");
    browser.goToPerson("Rob");
    browser.keys("x");
    browser.sees("Rob was removed by");

    // comes back, which somebody takes note of; then they are barred, and what is left ends by
    // itself
    browser.sees("Somebody removed is back");
    browser.keys("c");
    browser.tabTo("textarea");
    browser.keys("They are out and stay out.");
    browser.press("Close it");
    browser.seesNot("Close it"); // until it is, the button that has the focus takes no keys
    browser.goToPerson("Rob");
    browser.keys("b");
    browser.sees("Rob was removed and barred");
    browser.sees("Rob was refused: removed before.");

    // the session is locked, and ended after a question
    browser.keys("L");
    browser.sees("The meeting was locked by");
    browser.sees("Unlock");
    browser.keys("E");
    browser.sees("cannot be taken up again");
    browser.press("End for all");
    browser.sees("The session ended by");
    browser.leaveField();
    browser.keys("v");

    // afterwards: attendance as files, the incident, the rule
    browser.sees("Attendance");
    browser.sees("What would have prevented it");
    String csv =
        String.valueOf(
            browser.script(
                "const r = new XMLHttpRequest(); r.open('GET',"
                    + " document.querySelector('a[href*=\"as=csv\"]').href, false); r.send();"
                    + " return r.responseText"));
    assertTrue(csv.startsWith("name,address,standing") && csv.contains("Rob"), csv);
    browser.press("Write an incident");
    browser.tabTo("textarea");
    browser.keys("Rob came twice and was barred.");
    browser.press("Keep it");
    browser.sees("moments kept");
    browser.sees("Rob came twice and was barred.");
    browser.press("Draft the rule");
    browser.sees("If this were published");
    assertTrue(browser.path().contains("draft="), browser.path());
    browser.hasNothingToComplainOf();
  }
}
