package app.uprightwarden.acceptance;

import java.io.IOException;
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
    try (RunningWarden warden = RunningWarden.start("warden_shots");
        Browser opened = new Browser(warden.address())) {
      browser = opened;
      browser.go("/");
      browser.sees("Address");
      take("sign-in");
      browser.signIn("m.sachs");

      browser.go("/rulebook?layer=kind:hearing&family=waiting-room&control=lobby-bypass");
      browser.sees("Where it comes from");
      browser.keys("m", "m");
      browser.sees("draft saved");
      browser.find("[role=slider][aria-label='Lobby bypass, limit']").sendKeys(Keys.ARROW_RIGHT);
      browser.sees("3 new, 0 gone");
      take("rulebook");
      browser.script("document.activeElement.blur()");
      browser.keys("p");
      browser.sees("Publish edition 4");
      browser.sees("bound: start hosts, limit hosts");
      browser.keys("Hearings are let in one by one.");
      take("rulebook-publish");
      browser.keys(Keys.ESCAPE);
      browser.go("/rulebook/compare?from=starter&to=edition:3");
      browser.sees("differences");
      take("rulebook-compare");
      browser.go("/rulebook/editions");
      browser.sees("in force");
      take("rulebook-editions");
      browser.go("/api/rulebook/print?of=edition:3&unit=pilotage&kind=inquiry");
      browser.sees("Waiting room");
      take("rulebook-page");
      browser.go("/rulebook?draft=none&family=guarantees");
      browser.sees("Meetings that break it");
      take("rulebook-guarantees");

      browser.go("/register");
      browser.sees("Storm call");
      take("register");
      browser.go("/register/m-0002");
      browser.sees("Least change");
      take("meeting");
      browser.script(
          "[...document.querySelectorAll('h2')].find(h => h.innerText === 'Who could do"
              + " what').scrollIntoView()");
      take("meeting-matrix");

      browser.go("/audit?meeting=m-0002&family=guarantees");
      browser.sees("How it would go");
      take("audit");
      browser.go("/help/checks");
      browser.sees("beyond-limit");
      take("help-checks");

      browser.script("localStorage.setItem('warden-theme', 'dark')");
      browser.go("/audit?meeting=m-0002&family=guarantees");
      browser.sees("How it would go");
      take("audit-dark");
      browser.go("/rulebook?draft=1&layer=kind:hearing&family=chat&control=private-chat");
      browser.sees("Where it comes from");
      browser.sees("If this were published");
      take("rulebook-dark");
    }
  }

  private void take(String name) throws IOException {
    browser.until(
        "fonts",
        d -> Boolean.TRUE.equals(browser.script("return document.fonts.status === 'loaded'")));
    browser.shot(folder.resolve(name + ".png"));
  }
}
