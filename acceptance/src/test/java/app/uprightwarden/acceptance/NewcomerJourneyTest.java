package app.uprightwarden.acceptance;

import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** Somebody new goes from an empty house to its first audit, led by the page alone. */
public class NewcomerJourneyTest {
  private static final int MAX_ACTS = 25;

  private static final String PEOPLE =
      """
      email,name,standing,active
      una@weir.example,Una Quill,member,yes
      jo@weir.example,Jo Tern,member,yes
      """;

  private static final String MEETINGS =
      """
      title,start,minutes,zone,host,required,waiting-room,lobby-bypass
      Sluice works,%sT09:00,45,Europe/Dublin,una@weir.example,jo@weir.example,off,anyone
      """;

  private Browser page;
  private int acts;

  private void press(String name) {
    page.press(name);
    acts++;
  }

  private void fill(String css, CharSequence... text) {
    page.tabTo(css);
    page.keys(text);
    acts++;
  }

  private void toTheLookout() {
    page.leaveField();
    page.keys("1");
    acts++;
    page.sees("First steps");
  }

  private void bringIn(String name, String table, String taken) throws IOException {
    Path file = Files.createTempFile(name, ".csv");
    Files.writeString(file, table);
    page.find("input[type=file]").sendKeys(file.toString());
    acts++;
    page.sees("It would add");
    press("Import it");
    page.sees(taken);
  }

  @Test
  public void anEmptyHouseIsLedToItsFirstAudit() throws IOException, InterruptedException {
    try (RunningWarden warden = RunningWarden.startEmpty("warden_newcomer");
        Browser browser = new Browser(warden.address())) {
      page = browser;
      page.signIn("warden@localhost", warden.firstPassword());
      acts += 3; // address, password, Enter
      page.sees("First steps: 0 of 5 done");
      page.hasNothingToComplainOf();

      press("Say who you are");
      fill("#h-name", "Weir Trust");
      fill("#h-domains", "weir.example", Keys.TAB);
      press("Save");
      page.sees("Saved.");

      toTheLookout();
      page.sees("First steps: 1 of 5 done");
      press("Bring in people");
      page.sees("It is tried first");
      bringIn("people", PEOPLE, "Taken in a table of people");
      String meetings = MEETINGS.formatted(LocalDate.now(ZoneOffset.UTC).plusDays(5));
      bringIn("meetings", meetings, "Taken in a table of meetings");
      page.keys(Keys.ESCAPE);
      acts++;
      page.seesNot("It is tried first");

      toTheLookout();
      page.sees("First steps: 3 of 5 done");
      press("Write the rulebook");
      press("Begin with the starter rulebook");
      page.sees("Step 1 of 10");
      press("Keep all of it…");
      page.sees("Publish a new edition");
      page.until("the reason has the focus", b -> page.focused().isEmpty());
      page.keys("The starter, as it is.");
      acts++;
      press("Publish edition 1");
      page.sees("Edition 1 is published.");

      // the first audit is made with the first edition, by itself, and by the standing one again
      page.leaveField();
      page.keys("1");
      acts++;
      page.sees("last audit");
      page.sees("Sluice works");
      page.seesNot("First steps");
      assertTrue(acts <= MAX_ACTS, acts + " acts");
    }
  }
}
