package app.uprightwarden.acceptance;

import java.io.IOException;
import java.nio.file.Path;
import org.openqa.selenium.By;
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

      browser.go("/rulebook?family=waiting-room&control=lobby-bypass");
      browser.sees("series in the next 90 days");
      take("rulebook");
      browser.find("[role=slider][aria-label='Lobby bypass, limit']").sendKeys(Keys.ARROW_RIGHT);
      browser.sees("draft saved");
      browser
          .until(
              "b",
              d -> d.findElement(By.xpath("//button[starts-with(normalize-space(),'Compare')]")))
          .click();
      browser.sees("Publish edition 4");
      take("rulebook-publish");
      browser.keys(Keys.ESCAPE);
      browser.seesNot("Publish edition 4");
      browser
          .until(
              "d", d -> d.findElement(By.xpath("//button[normalize-space()='Discard the draft']")))
          .click();
      browser.seesNot("draft saved");
      browser.go("/rulebook?family=guarantees");
      browser.sees("Nobody who");
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
      browser.go("/rulebook?family=waiting-room&control=lobby-bypass");
      browser.sees("series in the next 90 days");
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
