package app.uprightwarden.acceptance;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.support.ui.Select;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Behind our back: somebody loosens a meeting in the service that holds it. */
public class ServicesJourneyTest {
  private StandIns standIns;
  private RunningWarden warden;

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    standIns = new StandIns();
    warden = RunningWarden.start("warden_services_journey", standIns.environment());
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
    if (standIns != null) {
      standIns.close();
    }
  }

  /** One that tells by itself and has everything, and the poor one that has to be asked. */
  @DataProvider
  public Object[][] services() {
    return new Object[][] {
      {"Redshank", "m-0032", "Mooring lines, weekly"}, {"Curlew", "m-0013", "Lock gate rota"}
    };
  }

  @Test(dataProvider = "services")
  public void whatIsLoosenedThereIsSeenHereAndSetBack(String name, String meeting, String title)
      throws IOException {
    try (Browser ours = new Browser(warden.address());
        Browser theirs = new Browser(standIns.address(name.toLowerCase(Locale.ROOT)))) {
      ours.signIn("m.sachs");
      ours.go("/house/conference");
      ours.until("both are linked and confirmed", b -> count(ours.text(), "all confirmed") == 2);
      ours.hasNothingToComplainOf();
      ours.go("/");
      ours.sees("Newly out of line");

      // the Lookout says it by itself
      change(theirs, title, "off");
      ours.until(
          "the Lookout says who changed what",
          b -> ours.text().contains(title + "\nk.rosen@saltmarsh.example changed it"));

      // set back, and confirmed
      ours.go("/register/" + meeting);
      ours.sees("Held by " + name);
      ours.sees("It is not as it was decided.");
      ours.hasNothingToComplainOf();
      ours.press("Set it back");
      ours.sees("As decided, confirmed");
      theirs.go("/");
      theirs.until("it is on again", b -> row(theirs, title).contains("on"));

      // a second time, while the service does not answer: by keys, and never called done before
      change(theirs, title, "off");
      ours.sees("It is not as it was decided.");
      fault(theirs, "away");
      ours.tabTo("section[aria-labelledby=held] button");
      ours.keys(Keys.ENTER);
      ours.sees("Waiting to be sent.");
      ours.seesNot("As decided, confirmed");
      ours.go("/house/conference");
      ours.sees("away: it answers 503");
      ours.go("/register/" + meeting);
      ours.sees("Waiting to be sent.");
      fault(theirs, "away");
      ours.sees("As decided, confirmed");
      theirs.go("/");
      theirs.until("it is on again", b -> row(theirs, title).contains("on"));
    }
  }

  /** What a service cannot hold is said before it is published; what it can is there afterwards. */
  @Test
  public void whatIsPublishedIsInBothServicesAsFarAsTheyCan() throws IOException {
    try (Browser ours = new Browser(warden.address());
        Browser redshank = new Browser(standIns.address("redshank"));
        Browser curlew = new Browser(standIns.address("curlew"))) {
      ours.signIn("m.sachs");
      ours.go("/house/conference");
      ours.until("both are linked and confirmed", b -> count(ours.text(), "all confirmed") == 2);
      ours.go("/rulebook?family=waiting-room&control=lobby-bypass");
      ours.sees("Where it comes from");
      ours.sees("not in Curlew");
      ours.keys("m");
      ours.sees("draft saved");
      ours.sees("Curlew cannot hold Lobby bypass as it is asked:");
      ours.sees("beyond its means");
      ours.sees("which is stricter");
      ours.hasNothingToComplainOf();
      ours.go("/rulebook?family=screen-sharing&control=screen-share");
      ours.sees("Where it comes from");
      ours.tabTo("[role=slider][aria-label='Screen share, limit']");
      ours.keys(Keys.ARROW_RIGHT);
      ours.sees("draft saved");
      ours.keys("p");
      ours.sees("Publish a new edition");
      ours.until("the reason has the focus", b -> ours.focused().isEmpty());
      ours.keys("Lobby by name, screens for hosts.");
      ours.press("Publish edition 4");
      ours.sees("Edition 4 is published.");
      for (Browser theirs : List.of(redshank, curlew)) {
        theirs.until(
            "its own page has the new lock",
            b -> {
              theirs.go("/account");
              return theirs.all("tbody tr").stream()
                  .map(row -> row.getText().replaceAll("\\s+", " "))
                  .anyMatch(
                      row -> row.startsWith("Screen share") && row.endsWith("locked at hosts"));
            });
      }
      ours.go("/house/conference");
      ours.until("all is confirmed", b -> count(ours.text(), "in touch") == 2);
      ours.go("/audit?check=beyond-means");
      ours.until(
          "meetings beyond its means are on the wall",
          b -> ours.text().matches("(?s).*\\b[1-9]\\d* meetings of.*"));
    }
  }

  private static int count(String text, String words) {
    return text.split(words, -1).length - 1;
  }

  private static String row(Browser theirs, String title) {
    return theirs.all("tbody tr").stream()
        .filter(row -> row.getText().contains(title))
        .map(row -> row.findElements(By.tagName("td")).get(3).getText())
        .findFirst()
        .orElse("");
  }

  /** What somebody does on the service's own page. */
  private static void change(Browser theirs, String title, String value) {
    theirs.go("/?q=" + URLEncoder.encode(title, StandardCharsets.UTF_8));
    theirs.all("tbody a").stream()
        .filter(link -> link.getText().equals(title))
        .findFirst()
        .orElseThrow()
        .click();
    new Select(theirs.find("#control")).selectByValue("waiting-room");
    theirs.script("document.querySelector('[name=by]').value = 'k.rosen@saltmarsh.example'");
    theirs.find("#value").sendKeys(value);
    theirs.find("#change").click();
    theirs.sees("Waiting room was changed.");
  }

  private static void fault(Browser theirs, String name) {
    theirs.go("/account");
    theirs.find("input[name=" + name + "]").click();
    theirs.press("Behave so");
    theirs.sees("It behaves so from now on.");
  }
}
