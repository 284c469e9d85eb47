package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * From signing in to a finding gone, by keyboard alone: see the rulebook, bring in a file, audit,
 * read what is wrong and why, mend a meeting, audit again.
 */
public class FirstJourneyTest extends Journey {
  private static final String BUNDLE =
      """
      {"format": "upright-warden/1", "meetings": [
        {"id": "visit-1", "title": "Lighthouse visit", "host": "m.okafor@saltmarsh.example",
         "kind": "briefing", "invitees": [{"email": "c.drury@saltmarsh.example"}],
         "start": "%s", "zone": "Europe/Dublin", "minutes": 45, "passcode": "pharos-Lantern-31",
         "controls": {"passcode": "required", "waiting-room": "off", "lobby-bypass": "named"}}]}
      """;

  public FirstJourneyTest() {
    super("warden_journey");
  }

  @Test
  public void fromNothingToAFindingGone() throws IOException {
    browser.signIn("m.sachs");

    browser.keys("2");
    browser.sees("Waiting room");
    browser.sees("Compare and publish");

    browser.keys("3");
    browser.sees(" meetings");
    browser.keys("/");
    browser.until("the command field has the focus", b -> browser.focused().contains("Search"));
    browser.keys("Bring in a");
    browser.until(
        "the command is offered first",
        b ->
            browser.all("[role=option]").size() == 1
                && browser.find("[role=option]").getText().contains("Bring in a file"));
    browser.keys(Keys.ENTER);
    browser.sees("It is tried first");
    Path file = Files.createTempFile("visit", ".json");
    String start = java.time.LocalDate.now(java.time.ZoneOffset.UTC).plusDays(3) + "T03:40";
    Files.writeString(file, BUNDLE.formatted(start));
    // a file chooser is the system's own; the driver answers for it
    browser.find("input[type=file]").sendKeys(file.toString());
    browser.sees("It would add 1");
    browser.press("Import it");
    browser.sees("Taken in a bundle: 1 added");
    browser.keys(Keys.ESCAPE);
    browser.seesNot("It is tried first");
    browser.sees("Lighthouse visit");

    browser.keys("4");
    browser.sees("As it stands now");
    browser.sees("Lighthouse visit");

    browser.moveTo("Lighthouse visit");
    browser.keys(Keys.ENTER);
    browser.sees("Waiting room is “off”; the rule says “on”");
    browser.sees("Organisation layer, edition 3");
    browser.sees("Somebody looks before anybody is in");
    browser.sees("Least change");

    browser.applyByKey();
    browser.sees("Done in 1 meeting.");
    browser.sees("Nothing is found here any more.");
    browser.keys(Keys.ESCAPE);
    browser.press("Audit now");
    browser.until(
        "the audit is on record and the finding gone",
        b ->
            browser.path().matches("/audit/\\d+.*")
                && browser.text().contains("meetings of")
                && !browser.text().contains("Lighthouse visit"));
    browser.hasNothingToComplainOf();
  }

  @Test
  public void byMouse() {
    browser.signIn("m.sachs");
    browser.go("/register?text=Spoil-ground");
    browser.until("one row", b -> browser.all("[id^=row-]").size() == 1);
    browser.find("[id=row-0]").click();
    browser.sees("Who could do what");
    browser.find("select[aria-label='Waiting room, value'] option[value=on]").click();
    browser.sees("Waiting room is now “on”");
    browser.find("p[role=status] button").click();
    browser.sees("Put back as it was");
  }

  @Test
  public void aHostSeesTheirOwnAndNoAudits() {
    browser.signIn("m.okafor");
    browser.sees("Storm call, outer channel");
    assertFalse(browser.text().contains("Tariff board"));
    assertTrue(
        browser.all("nav[aria-label=Stations] a").stream()
            .noneMatch(a -> a.getText().equals("Audit")));
    browser.go("/audit");
    browser.sees("Not for your account");
    browser.go("/register/m-0002");
    browser.sees("That did not work");
  }

  @Test
  public void aScriptInATitleIsText() throws IOException {
    browser.signIn("m.sachs");
    browser.go("/register?import=1");
    Path file = Files.createTempFile("script", ".json");
    Files.writeString(
        file,
        BUNDLE
            .formatted(java.time.LocalDate.now(java.time.ZoneOffset.UTC).plusDays(4) + "T10:00")
            .replace("visit-1", "script-1")
            .replace("pharos-Lantern-31", "fog-Signal-58")
            .replace(
                "Lighthouse visit", "<img src=x onerror='document.title=`broken into`'>hearing"));
    browser.find("input[type=file]").sendKeys(file.toString());
    browser.sees("It would add 1");
    browser
        .until("button", b -> b.findElement(By.xpath("//button[normalize-space()='Import it']")))
        .click();
    browser.sees("Taken in a bundle");
    browser.go("/register/script-1");
    browser.sees("<img src=x onerror");
    assertEquals(browser.script("return document.title"), "Meeting · Upright Warden");
  }

  /** What a browser that has nothing yet fetches for the first page, compressed: 350 kB at most. */
  @Test
  public void theFirstVisitWeighsLittle() {
    browser.signIn("m.sachs");
    browser.sees("Gravest first");
    Object bytes =
        browser.script(
            "return [...performance.getEntriesByType('navigation'),"
                + " ...performance.getEntriesByType('resource')]"
                + ".reduce((sum, each) => sum + each.transferSize, 0)");
    long weight = ((Number) bytes).longValue();
    assertTrue(weight > 50_000 && weight <= 350_000, weight + " bytes");
  }

  private static final String SIGN_OUT_ELSEWHERE =
      "const done = arguments[0]; const token = document.cookie.match(/XSRF-TOKEN=([^;]+)/)[1];"
          + " fetch('/api/session', {method: 'DELETE', headers: {'X-XSRF-TOKEN': token}})"
          + ".then((a) => done(a.status));";

  /** Two share a machine; the session of one ends with their page open. */
  @Test
  public void whoeverSignsInOverAnotherPersonsPageSeesNothingOfIt() {
    browser.signIn("m.sachs");
    browser.go("/register");
    browser.sees("Harbour office stand-up");
    assertEquals(browser.asynchronously(SIGN_OUT_ELSEWHERE), 204L);
    browser.keys("4");
    browser.sees("Your session has ended");
    browser.until("the address field has the focus", b -> browser.focused().equals("email"));
    browser.keys("m.okafor@saltmarsh.example", Keys.TAB, "low-water-0642", Keys.ENTER);
    browser.until("a page of their own", b -> browser.text().contains("m.okafor@saltmarsh"));
    browser.seesNot("m.sachs@saltmarsh");
    browser.go("/register");
    browser.sees("Storm call, outer channel");
    browser.seesNot("Harbour office stand-up");
  }
}
