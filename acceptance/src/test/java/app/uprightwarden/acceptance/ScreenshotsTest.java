package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** Takes one picture of each main view from the demo data; run by {@code ./warden shots}. */
@Test(groups = "shots")
public class ScreenshotsTest {
  private Path folder;
  private Browser browser;

  @Test
  public void takeThemAll() throws IOException, InterruptedException {
    folder = Path.of(System.getProperty("warden.shots", "target/shots"));
    try (StandIns standIns = new StandIns();
        RunningWarden warden = RunningWarden.startAnew("warden_shots", standIns.environment());
        Browser opened = new Browser(warden.address())) {
      browser = opened;
      browser.go("/");
      browser.sees("Address");
      browser.signIn("m.sachs");
      browser.sees("Gravest first");
      browser.sees("last audit");
      take("lookout");

      browser.go("/rulebook?layer=kind:hearing&family=waiting-room&control=lobby-bypass");
      browser.sees("Where it comes from");
      browser.keys("m", "m");
      browser.sees("draft saved");
      browser.find("[role=slider][aria-label='Lobby bypass, limit']").sendKeys(Keys.ARROW_RIGHT);
      browser.sees(" new, ");
      browser.seesNot("saving…");
      browser.seesNot("counting…");
      take("rulebook");
      browser.go("/house/conference");
      browser.until(
          "both are confirmed", b -> browser.text().split("all confirmed", -1).length == 3);
      browser.press("What it can hold");
      browser.sees("Instead of what it has not");
      take("house");
      browser.go("/rulebook?draft=none&family=guarantees");
      browser.sees("Meetings that break it");
      take("rulebook-guarantees");

      browser.go("/register");
      browser.sees("Storm call");
      take("register");
      browser.go("/register?text=" + URLEncoder.encode("تنسيق", StandardCharsets.UTF_8));
      browser.find("main a[dir=auto]");
      browser.script("document.querySelector('main a[dir=auto]').click()");
      browser.sees("Who could do what");
      take("right-to-left");
      browser.go("/register/m-0002/edit");
      browser.sees("Change the meeting");
      browser.sees("At the door");
      browser.script(
          "document.getElementById('part-controls').scrollIntoView();"
              + "const s = document.querySelector(`select[aria-label='Attendee microphone, value']`);"
              + "s.focus(); s.value = 'off'; s.dispatchEvent(new Event('change'))");
      browser.sees("This does nothing here");
      browser.sees("Keeps out");
      take("scheduling");
      browser.go("/people/r.pike@brownsand-survey.example");
      browser.sees("walk into uninvited");
      take("person");
      browser.go("/register/m-0002");
      browser.sees("Least change");
      take("meeting");

      browser.go("/audit?meeting=m-0002&family=guarantees");
      browser.sees("How it would go");
      browser.sees("Least change");
      take("audit");
      browser.go("/audit/compare?earlier=5");
      browser.sees("still there");
      take("audit-compare");
      browser.go("/audit/trends");
      browser.sees("Days from found to mended");
      take("audit-trends");

      browser.go(
          "/door?meeting=m-0002&at=-5&host=out&set=early-entry:0,waiting-room:on"
              + "&people=r.pike@brownsand-survey.example");
      browser.sees("The door says");
      browser.sees("Rhona Pike");
      browser.sees("At your door waits who");
      take("door");
      browser.go("/floor");
      browser.sees("Over");
      String over =
          String.valueOf(
              browser.script(
                  "return [...document.querySelectorAll('tbody a')].at(-1).getAttribute('href')"));
      browser.go(over + "/after");
      browser.sees("Draft the rule");
      take("floor-after");
      browser.go("/floor");
      browser.sees("Over");
      browser.keys("p");
      browser.pickMeeting("Spoil-ground");
      browser.press("Open it");
      browser.patience(120); // until somebody comes who was not asked
      browser.sees("A guarantee is broken");
      browser.until("some are in", b -> browser.all("section[aria-label=Inside] li").size() > 3);
      browser.leaveField();
      browser.keys("l");
      take("floor");
      browser.go("/ledger");
      browser.sees("entries");
      browser.press("Verify");
      browser.sees("The chain holds.");
      browser.keys("j", "j", "j", Keys.ENTER);
      browser.sees("Chained");
      take("ledger");

      browser.script("localStorage.setItem('warden-theme', 'dark')");
      browser.go("/rulebook?draft=1&layer=kind:hearing&family=chat&control=private-chat");
      browser.sees("Where it comes from");
      browser.sees("If this were published");
      browser.seesNot("counting…");
      take("rulebook-dark");

      browser.script("localStorage.setItem('warden-theme', 'light')");
      browser.script(
          "[...document.querySelectorAll('button')].find(b => b.innerText === 'Sign"
              + " out').click()");
      browser.sees("Address");
      browser.signIn("m.okafor");
      browser.sees("Found in your meetings");
      take("lookout-host");
      browser.go("/corner");
      browser.sees("What is asked of you");
      browser.tabTo("section[aria-label='What is asked of you'] li button");
      browser.keys(Keys.ENTER);
      browser.sees("The least change that mends it");
      browser.width(390);
      take("corner");
    }
  }

  private void take(String name) throws IOException {
    browser.until(
        "fonts",
        d -> Boolean.TRUE.equals(browser.script("return document.fonts.status === 'loaded'")));
    browser.shot(folder.resolve(name + ".png"));
  }
}
