package app.uprightwarden.acceptance;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/** Rehearsing a meeting's door, and reading the ledger afterwards. */
public class DoorAndLedgerJourneyTest extends Journey {

  public DoorAndLedgerJourneyTest() {
    super("warden_door");
  }

  @Test
  public void aRehearsalFindsWhatWouldLetSomebodyInAndTheLedgerHasIt() throws SQLException {
    browser.signIn("m.sachs");
    browser.keys("5");
    browser.sees("The door says");
    browser.go("/door?meeting=m-0002");
    browser.until(
        "the meeting",
        b ->
            "Spoil-ground hearing"
                .equals(browser.find("input[aria-label=Meeting]").getDomProperty("value")));

    // somebody invited comes straight in; what if the waiting room were on: they would wait
    browser.tabTo("#door-person");
    browser.keys("r.pike@brownsand-survey.example", Keys.ENTER);
    browser.sees("Rhona Pike");
    pencil("Waiting room", "waiting-room:on");
    pencil("Lobby", "lobby-bypass:hosts");
    browser.sees("You are waiting. Somebody inside can let you in.");

    // the moment and a lock change what is said, by keys
    browser.leaveField();
    browser.keys("l");
    browser.sees("This meeting is locked.");
    browser.keys("l", "o", Keys.ARROW_LEFT, Keys.ARROW_LEFT);
    browser.sees("1 minute before the start");
    browser.sees("held: no host yet");
    browser.keys("o", Keys.ARROW_RIGHT, Keys.ARROW_RIGHT);
    browser.sees("1 minute after the start");

    // a rehearsal sent on is the same one
    String address = browser.path();
    browser.go(address);
    browser.sees("You are waiting. Somebody inside can let you in.");

    // the least change that lets them in goes to the pencil, and the pencil into the meeting
    browser.sees("inconvenience");
    browser.press("What if…");
    browser.seesNot("You are waiting. Somebody inside can let you in.");
    browser.press("Put it in the meeting");
    browser.sees("The meeting is changed.");
    browser.go("/register/m-0002");
    browser.sees("Rehearse the door");
    browser.hasNothingToComplainOf();
    close();
    open();
    theLedgerHasItAndAnEntryAlteredInTheDatabaseIsFound();
  }

  /** Takes a control into the pencil by its name and sets it to its strictest, by keys. */
  private void pencil(String control, String set) {
    browser.tabTo("input[aria-label='What if a control were changed']");
    browser.keys(control, Keys.ENTER);
    browser.until(
        "the new control has the focus",
        b ->
            Boolean.TRUE.equals(
                browser.script("return document.activeElement.id.startsWith('pencil-')")));
    browser.keys(Keys.END);
    browser.until(set, b -> browser.path().contains(set));
  }

  private void theLedgerHasItAndAnEntryAlteredInTheDatabaseIsFound() throws SQLException {
    browser.signIn("o.treharne");
    browser.go("/ledger?object=meeting&objectId=m-0002");
    browser.sees("The history of meeting");
    browser.sees("changed controls");
    browser.keys(Keys.ENTER);
    browser.sees("Waiting room");
    browser.sees("Chained");
    browser.keys("v");
    browser.sees("The chain holds.");
    long seq =
        Long.parseLong(
            browser.find("aside[aria-label='Entry'] h2").getText().replaceAll("\\D+", ""));

    alter("update ledger_entry set who = 'nobody@saltmarsh.example' where seq = " + seq);
    browser.keys("v");
    browser.sees("The chain breaks at entry " + seq + ".");
    browser.sees("not as it was written");
    browser.hasNothingToComplainOf();
  }

  private static void alter(String sql) throws SQLException {
    try (Connection connection =
            DriverManager.getConnection(
                RunningWarden.environment("WARDEN_TEST_DB_URL")
                    .replaceAll("/warden$", "/warden_door"),
                RunningWarden.environment("WARDEN_TEST_DB_USER"),
                RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
        Statement statement = connection.createStatement()) {
      statement.executeUpdate(sql);
    }
  }
}
