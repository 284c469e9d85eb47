package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import org.openqa.selenium.Keys;
import org.testng.annotations.Test;

/**
 * By keyboard alone: a fortnightly hearing with two exceptions, told that microphones off does
 * nothing, mended, sent, read, subscribed to; and a calendar of 2,000 events with faults brought in
 * and taken back.
 */
public class SchedulingJourneyTest extends Journey {
  public SchedulingJourneyTest() {
    super("warden_scheduling");
  }

  @Test
  public void scheduleMendSendReadSubscribe() throws IOException, InterruptedException {
    browser.signIn("m.sachs");
    browser.keys("3");
    browser.sees(" meetings");
    int before = meetings();
    browser.keys("n");
    browser.sees("Schedule a meeting");
    browser.tabTo("#title");
    browser.keys("Quay wall hearing");
    browser.tabTo("#kind");
    browser.keys("Public");
    browser.tabTo("#every");
    browser.keys("weekly");
    browser.tabTo("input[aria-label=Interval]");
    browser.control("a");
    browser.keys("2", Keys.TAB);
    browser.sees("dates");
    browser.sees("Saving it would cause");

    // two exceptions: the second date dropped, the third half an hour longer
    browser.tabTo("ol li:nth-child(2) button[aria-label^=Drop]");
    browser.keys(Keys.ENTER);
    browser.sees("1 dropped");
    browser.tabTo("ol li:nth-child(3) button[aria-label^=Move]");
    browser.keys(Keys.ENTER);
    browser.tabTo("input[aria-label^='New length']");
    browser.control("a");
    browser.keys("90", Keys.TAB);
    browser.sees("1 changed");

    browser.tabTo("input[aria-label='Invite somebody']");
    browser.keys("lindqvist");
    browser.until(
        "the person is offered",
        b -> browser.all("[role=option]").stream().anyMatch(o -> o.getText().contains("Freya")));
    browser.keys(Keys.ENTER);
    browser.sees("1 reached in all");

    browser.tabTo("select[aria-label='Presenter role, value']");
    browser.keys("everyone");
    browser.sees("too loose");
    browser.tabTo("select[aria-label='Attendee microphone, value']");
    browser.sees("This does nothing here");
    browser.keys(Keys.TAB, Keys.ENTER);
    browser.press("Set Presenter role to by name");
    browser.seesNot("too loose");
    browser.seesNot("does nothing here");

    browser.press("Read and send…");
    browser.sees("As the invitee reads it");
    browser.sees("every 2 weeks");
    browser.sees("you come straight in");
    String letter = browser.find("article pre").getText();
    String passcode = letter.replaceAll("(?s).*Passcode:\\s+(\\S+).*", "$1");
    assertTrue(passcode.matches("[A-Z][a-z]+(-[a-z]+)+-\\d\\d"), letter);
    browser.press("Save and send to 1");
    browser.sees("Saved, and sent to 1");
    browser.sees("What changed, and by whom");
    browser.press("Read the message");
    browser.sees("Invitation: Quay wall hearing");
    browser.sees(passcode);
    browser.press("calendar part");
    browser.sees("METHOD:REQUEST");
    browser.sees("EXDATE");

    browser.keys("3");
    browser.sees(before + 1 + " meetings");
    browser.press("Subscribe");
    browser.sees("Whoever has it can read it");
    browser.press("Make an address");
    browser.sees("It is told this once");
    String address =
        String.valueOf(
            browser.script(
                "return document.querySelector(`input[aria-label='Feed address']`).value"));
    String feed = fetch(address);
    assertTrue(feed.contains("SUMMARY:Quay wall hearing"), feed);
    assertTrue(feed.contains("INTERVAL=2"), feed);
    assertFalse(feed.contains(passcode), "no secret in a feed");
    browser.hasNothingToComplainOf();
  }

  private int meetings() {
    return Integer.parseInt(browser.text().replaceAll("(?s).*?(\\d+) meetings.*", "$1"));
  }

  private static String fetch(String address) throws IOException, InterruptedException {
    HttpResponse<String> answer =
        HttpClient.newHttpClient()
            .send(
                HttpRequest.newBuilder(URI.create(address)).build(),
                HttpResponse.BodyHandlers.ofString());
    assertEquals(answer.statusCode(), 200);
    return answer.body();
  }

  @Test
  public void aCalendarWithFaultsComesInAndIsTakenBack() throws IOException {
    browser.signIn("m.sachs");
    browser.keys("3");
    browser.sees(" meetings");
    int before = meetings();
    browser.press("Import and export");
    browser.sees("It is tried first");
    Path file = Files.createTempFile("harbour", ".ics");
    Files.writeString(file, calendar());
    // a file chooser is the system's own; the driver answers for it
    browser.find("input[type=file]").sendKeys(file.toString());
    browser.sees("It would add 1980, change 0, leave 0 alone and refuse 20");
    browser.sees("ends before it begins");
    browser.sees("W. Europe Standard Time");
    browser.press("Import the rest");
    browser.sees("1980 added");
    browser.press("Take back " + file.getFileName());
    browser.sees("Taken back: 1980 removed");
    browser.keys(Keys.ESCAPE);
    browser.sees(before + " meetings");
    browser.hasNothingToComplainOf();
  }

  /** Every hundredth event ends before it begins; names of zones and odd folds on the way. */
  private static String calendar() {
    StringBuilder text =
        new StringBuilder("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//made up//EN\r\n");
    for (int i = 0; i < 2000; i++) {
      int day = 1 + i % 28;
      text.append("BEGIN:VEVENT\r\nUID:event-").append(i).append("@made.example\r\n");
      text.append("DTSTART;TZID=W. Europe Standard Time:202705%02dT100000\r\n".formatted(day));
      text.append(
          "DTEND;TZID=W. Europe Standard Time:202705%02dT%s0000\r\n"
              .formatted(day, i % 100 == 0 ? "09" : "11"));
      text.append("SUMMARY:Sounding run, le\r\n g ").append(i).append("\r\n");
      text.append("ATTENDEE;CN=<script>alert(1)</script>:mailto:crew").append(i % 40);
      text.append("@far.example\r\nX-MADE-UP:kept\r\nEND:VEVENT\r\n");
    }
    return text.append("END:VCALENDAR\r\n").toString();
  }

  @Test
  public void aHostMendsAMeetingAndIsHeldToTheLimit() {
    browser.signIn("m.okafor");
    browser.sees("Found in your meetings");
    browser.keys("2");
    browser.sees("What is asked of you");
    browser.tabTo("section[aria-label='What is asked of you'] li button");
    browser.keys(Keys.ENTER);
    browser.sees("The least change that mends it");
    browser.press("Change it");
    browser.sees("is mended");
    browser.keys("n");
    browser.sees("Schedule a meeting");
    browser.tabTo("#title");
    browser.keys("Bar crossing");
    browser.tabTo("select[aria-label='Waiting room, value']");
    browser.keys("off");
    browser.sees("As a host you cannot save it");
    browser.press("Put it back to what is allowed");
    browser.seesNot("As a host you cannot save it");
    browser.control("s");
    browser.sees("Saved. Nobody was written to.");
  }
}
