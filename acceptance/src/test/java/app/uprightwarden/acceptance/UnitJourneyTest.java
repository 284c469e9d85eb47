package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** A unit's warden, and who stands in for them for a time. */
public class UnitJourneyTest extends Journey {

  public UnitJourneyTest() {
    super("warden_unit_journey");
  }

  /** As if somebody came back to the window: who they are is asked for then, and each minute. */
  private static void comeBack(Browser page) {
    page.script("document.dispatchEvent(new Event('visibilitychange'))");
  }

  @Test
  public void aDeputyBeginsAndEndsWhileTheirPageIsOpen() {
    browser.signIn("i.barreto");
    browser.sees("Open findings, and the trend");
    browser.sees("Storm call, outer channel"); // of their unit
    assertFalse(browser.text().contains("Spoil-ground hearing"), "of another unit");
    browser.hasNothingToComplainOf();
    try (Browser theirs = new Browser(warden.address())) {
      theirs.signIn("m.okafor");
      theirs.go("/register/new");
      theirs.sees("Schedule");
      theirs.tabTo("#title");
      theirs.keys("Relief crew", Keys.TAB);

      // named by keys alone
      browser.go("/account");
      browser.sees("Nobody stands in for anybody.");
      browser.tabTo("input[aria-label='Who stands in']");
      browser.keys("okafor");
      browser.until(
          "the offer", b -> browser.all("[role=option]").stream().anyMatch(o -> o.isDisplayed()));
      browser.keys(Keys.ENTER);
      browser.sees("another");
      browser.press("Let them stand in");
      browser.sees("named by i.barreto@saltmarsh.example");
      browser.hasNothingToComplainOf();

      comeBack(theirs);
      theirs.sees("From now on you see what a unit’s warden sees.");
      assertTrue(theirs.path().startsWith("/register/new"), "what was typed stays");
      assertEquals(theirs.find("#title").getDomProperty("value"), "Relief crew");
      // a key asks before it leaves what is not saved
      theirs.leaveField();
      theirs.keys("5");
      theirs.sees("Leave without saving?");
      theirs.hasNothingToComplainOf();
      theirs.press("Stay here");
      theirs.seesNot("Leave without saving?");
      theirs.leaveField();
      theirs.keys("5");
      theirs.sees("Leave without saving?");
      theirs.press("Leave");
      theirs.until("the wall", t -> t.getCurrentUrl().contains("/audit"));
      theirs.sees("Audit now");

      browser.choose("Okafor", "End it");
      browser.sees("Nobody stands in for anybody.");
      comeBack(theirs);
      theirs.sees("From now on you see what a host sees.");
      theirs.until("a page that is theirs", t -> t.getCurrentUrl().endsWith("/lookout"));
    }
  }
}
