package app.uprightwarden.acceptance;

import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Map;
import org.openqa.selenium.Keys;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** A meeting is kept in a calendar: it is read, changed there, found here, and goes there. */
public class CalendarJourneyTest {
  private Radicale radicale;
  private RunningWarden warden;

  @BeforeClass
  public void start() throws IOException, InterruptedException {
    radicale = new Radicale();
    warden =
        RunningWarden.start(
            "warden_calendar_journey",
            Map.of("WARDEN_SOURCES_INSIDE", "127.0.0.1", "WARDEN_SOURCES_MINUTE", "1s"));
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
    if (radicale != null) {
      radicale.close();
    }
  }

  private static String event(String title, String more) {
    return "BEGIN:VEVENT\r\nUID:berths@tests\r\nDTSTAMP:20260101T000000Z\r\nDTSTART;TZID=Europe/Dublin:"
        + LocalDate.now(ZoneOffset.UTC).plusDays(3).format(DateTimeFormatter.BASIC_ISO_DATE)
        + "T090000\r\nDURATION:PT1H\r\nSUMMARY:"
        + title
        + "\r\nORGANIZER:mailto:m.okafor@saltmarsh.example\r\n"
        + more
        + "END:VEVENT\r\n";
  }

  @Test
  public void whatAPlainClientChangesThereIsFoundHere() throws Exception {
    radicale.put("berths", event("Ferry berths", ""));
    try (Browser browser = new Browser(warden.address())) {
      browser.signIn("m.sachs");
      browser.go("/house/calendars");
      browser.sees("No calendar is read yet.");
      // by keys alone: from the server's address to what is read
      browser.tabTo("input[placeholder^='https://calendar']");
      browser.keys(radicale.root().toString(), Keys.TAB);
      browser.keys(Radicale.ACCOUNT, Keys.TAB, Radicale.SECRET, Keys.ENTER);
      browser.sees("Which of its calendars");
      assertTrue(browser.text().contains("Harbour team"));
      browser.hasNothingToComplainOf();
      browser.press("Read it from now on");
      browser.sees("1 meeting");
      browser.hasNothingToComplainOf();

      browser.go("/register?text=Ferry+berths");
      browser.sees("Ferry berths");
      browser.go("/audit?check=leaked-passcode");
      browser.seesNot("Ferry berths");
      radicale.put("berths", event("Ferry berths", "DESCRIPTION:Passcode: kelp-Rudder-41\r\n"));
      browser.sees("Ferry berths"); // on the wall, by itself

      browser.go("/register?text=Ferry+berths");
      browser.sees("Ferry berths");
      browser.script("document.querySelector('main a[href*=\"/register/ics-\"]').click()");
      browser.sees("From the calendar Harbour team");
      browser.hasNothingToComplainOf();

      // away for a while: nothing is lost, and the page says so
      radicale.close();
      browser.go("/house/calendars");
      browser.sees("it does not answer");
      browser.sees("1 meeting");
      browser.choose("Harbour team", "Remove…");
      browser.sees("stays in the register");
      browser.press("Remove it");
      browser.sees("No calendar is read yet.");
      browser.go("/register?text=Ferry+berths");
      browser.sees("Ferry berths");
    }
  }
}
