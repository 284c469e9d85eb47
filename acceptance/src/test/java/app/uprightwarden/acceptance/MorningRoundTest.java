package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;

import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** A warden's morning, by keyboard. */
public class MorningRoundTest extends Journey {

  public MorningRoundTest() {
    super("warden_morning");
  }

  @Test
  public void lookoutWorstFindingRemedyAskWaiveAuditCompareReport() {
    browser.signIn("m.sachs");

    // the lookout is the first page; Enter goes to the worst finding, with its story
    browser.sees("Gravest first");
    browser.sees("Hosts who have not answered");
    browser.sees("Waivers about to lapse");
    browser.sees("Newly out of line");
    browser.keys(Keys.ENTER);
    browser.until("the wall", b -> browser.path().startsWith("/audit"));
    browser.sees("Waiting room is “off”; the rule says “on”");
    browser.sees("Least change");
    browser.sees("inconvenience");

    // another choice in pencil, and back; then the least change is applied
    browser.press("Choose otherwise");
    browser.sees("What if…");
    browser.press("Back to the least");
    browser.sees("Least change");
    browser.applyByKey();
    browser.sees("Done in 1 meeting.");

    // undone, and applied again: the second time it stays
    browser.keys("u");
    browser.sees("Undone.");
    browser.sees("Waiting room is “off”; the rule says “on”");
    browser.keys(Keys.ESCAPE);

    // ask the host of what is still found there
    browser.go("/audit");
    browser.sees("Storm call, outer channel");
    browser.moveTo("Storm call, outer channel");
    browser.keys(Keys.ENTER);
    browser.sees("Ask the host");
    browser.keys("q");
    browser.sees("They get one message");
    browser.press("Ask");
    browser.sees("The host was asked about 1 finding.");

    // the host answers in a second session, with one press
    try (Browser host = new Browser(warden.address())) {
      host.signIn("m.okafor");
      host.sees("One thing is asked of you");
      host.press("Agree, change it");
      host.sees("Nothing is asked of you");
      host.hasNothingToComplainOf();
    }
    browser.seesNot("Waiting room is “off”; the rule says “on”");
    browser.keys(Keys.ESCAPE);

    // a third finding may stand until Friday
    browser.go("/audit");
    browser.sees("Spoil-ground hearing");
    browser.moveTo("Spoil-ground hearing");
    browser.keys(Keys.ENTER);
    browser.sees("Waive…");
    browser.keys("w");
    browser.sees("Why it may stand");
    browser.tabTo("textarea");
    browser.keys("The room is locked until the chair comes.");
    browser.press("Waive");
    browser.until(
        "it is waived until a day that is named, whichever day this is",
        b -> browser.text().matches("(?is).*waived until \\S+.*"));

    // on record, and against the audit before
    browser.keys(Keys.ESCAPE);
    browser.press("Audit now");
    browser.until(
        "the audit is done",
        b -> browser.path().matches("/audit/\\d+.*") && browser.text().contains("meetings of"));
    String run = browser.path().replaceAll("\\D", "");
    browser.press("Compare");
    browser.sees("still there");
    browser.keys("l");
    browser.until("what is gone", b -> browser.path().contains("side=gone"));
    browser.sees("mended");
    browser.sees("waived");
    browser.sees("Storm call, outer channel");

    // the report is there to be taken
    browser.go("/audit/" + run);
    browser.sees("meetings of");
    browser.press("Report");
    browser.sees("Report for management");
    browser.keys(Keys.ESCAPE);
    Object fetched =
        browser.script(
            "const r = new XMLHttpRequest(); r.open('GET', '/api/audits/"
                + run
                + "/report?as=pdf', false); r.send();"
                + " return r.status + ' ' + r.responseText.slice(0, 5)");
    assertEquals(fetched, "200 %PDF-");
    browser.hasNothingToComplainOf();
  }

  @Test
  public void severalAtOnceAreCountedThenMendedThenUndone() {
    browser.signIn("i.solheim");
    browser.keys("4");
    browser.sees("As it stands now");
    browser.sees("Storm call, outer channel");
    browser.keys("x", "j", "x");
    browser.sees("2 meetings chosen");
    browser.keys("a");
    browser.sees("would be changed");
    browser.press("Change 2 meetings");
    browser.sees("Done in 2 meetings.");
    browser.press("Undo");
    browser.sees("Undone.");
    browser.hasNothingToComplainOf();
  }

  @Test
  public void aPageLoadedAgainStandsWhereItStood() {
    browser.signIn("o.treharne");
    browser.go("/audit?show=all");
    browser.until("rows", b -> browser.all("[role=row][id^=wall-]").size() > 12);
    browser.keys(Keys.ARROW_DOWN, "j", "j", "j", "j", "j", "j", "j", "j", "j");
    browser.until("the place", b -> browser.path().equals("/audit?show=all&row=10"));
    String title = browser.find("#wall-10").getText();
    browser.go(browser.path());
    browser.until("the same row", b -> browser.find("[role=row].bg-sheet").getText().equals(title));

    // another list is begun at its top
    browser.go("/audit?show=all&row=100000");
    browser.until("the last row", b -> browser.all("[role=row].bg-sheet").size() == 1);
    browser.hasNothingToComplainOf();
  }
}
