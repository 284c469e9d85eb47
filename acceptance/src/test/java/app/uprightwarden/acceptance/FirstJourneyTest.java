package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/**
 * From signing in to a finding gone, by keyboard alone: see the rulebook, bring in a file, audit,
 * read what is wrong and why, mend a meeting, audit again.
 */
public class FirstJourneyTest {
  private static final String BUNDLE =
      """
      {"format": "upright-warden/1", "meetings": [
        {"id": "visit-1", "title": "Lighthouse visit", "host": "m.okafor@saltmarsh.example",
         "kind": "briefing", "invitees": [{"email": "c.drury@saltmarsh.example"}],
         "start": "%s", "zone": "Europe/Dublin", "minutes": 45, "passcode": "pharos-Lantern-31",
         "controls": {"passcode": "required", "waiting-room": "off", "lobby-bypass": "named"}}]}
      """;

  private RunningWarden warden;
  private Browser browser;

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    warden = RunningWarden.start("warden_journey");
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  @BeforeMethod
  public void open() {
    browser = new Browser(warden.address());
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    if (browser != null) {
      browser.close();
    }
  }

  @Test
  public void fromNothingToAFindingGone() throws IOException {
    browser.signIn("m.sachs");

    browser.keys("1");
    browser.sees("Waiting room");
    browser.sees("Compare and publish");

    browser.keys("2");
    browser.sees(" meetings");
    browser.keys("/");
    browser.until("the command field has the focus", b -> browser.focused().contains("Search"));
    browser.keys("Bring in");
    browser.until(
        "the command is offered first",
        b ->
            browser.all("[role=option]").size() == 1
                && browser.find("[role=option]").getText().contains("Bring in a bundle"));
    browser.keys(Keys.ENTER);
    browser.sees("It is tried first");
    Path file = Files.createTempFile("visit", ".json");
    String start = java.time.LocalDate.now(java.time.ZoneOffset.UTC).plusDays(3) + "T03:40";
    Files.writeString(file, BUNDLE.formatted(start));
    // a file chooser is the system's own; the driver answers for it
    browser.find("input[type=file]").sendKeys(file.toString());
    browser.sees("It would add 1");
    browser.press("Take it in");
    browser.sees("Taken in: 1 added");
    browser.keys(Keys.ESCAPE);
    browser.seesNot("It is tried first");
    browser.sees("Lighthouse visit");

    browser.keys("3");
    browser.sees("Audit 1");
    browser.press("Audit now");
    browser.sees("Audit 2");
    browser.sees("Lighthouse visit");

    moveTo("Lighthouse visit");
    browser.keys(Keys.ENTER);
    browser.sees("Waiting room is “off”; the rule says “on”");
    browser.sees("Organisation layer, edition 3");
    browser.sees("Somebody looks before anybody is in");
    browser.sees("Least change");

    browser.keys("a");
    browser.sees("controls changed");
    browser.sees("mended since");
    browser.keys(Keys.ESCAPE);
    browser.press("Audit now");
    browser.sees("Audit 3");
    browser.until(
        "the finding is gone",
        b -> browser.text().contains("series") && !browser.text().contains("Lighthouse visit"));
    assertEquals(browser.complaints(), List.of(), "the browser has nothing to complain of");
  }

  /** Moves down the wall by key until the row with this title is the current one. */
  private void moveTo(String title) {
    for (int i = 0; i < 130; i++) {
      Object here =
          browser.script(
              "const c = document.querySelector('td.cursor, tr.bg-sheet');"
                  + " return c ? c.closest('tr').innerText : ''");
      if (String.valueOf(here).contains(title)) {
        return;
      }
      browser.keys("j");
    }
    throw new AssertionError(title + " is not on the wall");
  }

  @Test
  public void byMouse() {
    browser.signIn("m.sachs");
    browser.go("/register?text=Spoil-ground");
    browser.until("one row", b -> browser.all("tbody tr").size() == 1);
    browser.find("tbody tr").click();
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
        .until("button", b -> b.findElement(By.xpath("//button[normalize-space()='Take it in']")))
        .click();
    browser.sees("Taken in");
    browser.go("/register/script-1");
    browser.sees("<img src=x onerror");
    assertEquals(browser.script("return document.title"), "Upright Warden");
  }
}
