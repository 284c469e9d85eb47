package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Passcodes and numbers in texts as people and programs write them; made-up texts. */
public class RecognisedTest {
  @DataProvider
  public Object[][] certain() {
    return new Object[][] {
      {"Passcode: 884210", "884210"},
      {"Passcode: <b>884210</b>", "884210"},
      {"<p>Passcode:</p>\n<p><span>kelp-41</span></p>", "kelp-41"},
      {"Meeting password\n   Rudder7", "Rudder7"},
      {"The passcode is 4412.", "4412"},
      {"Passcode (case sensitive): kelpRudder", "kelpRudder"},
      {"Password: “sesame”", "sesame"},
      {"Kenncode: 4Gh7pq", "4Gh7pq"},
      {"Mot de passe\u00a0: Marée12", "Marée12"},
      {"Contraseña de la reunión: olas33", "olas33"},
      {"Hasło: fala99", "fala99"},
      {"Пароль: волна7", "волна7"},
      {"パスコード：481516", "481516"},
      {"密码: 481516", "481516"},
      {"비밀번호: 481516", "481516"},
      {"Phone passcode: 1111\nPasscode: 884210", "884210"},
    };
  }

  @Test(dataProvider = "certain")
  public void aPasscodeIsRecognised(String text, String passcode) {
    Recognised found = Recognised.in(text);
    assertEquals(found.passcode(), passcode, text);
    assertTrue(found.inText());
  }

  @DataProvider
  public Object[][] none() {
    return new Object[][] {
      {"The password is required for all"},
      {"Passcode: required"},
      {"Password is sent separately"},
      {"Passcode: none"},
      {"Kennwort ist erforderlich"},
      {"Phone passcode: 5512"},
      {"We talk about passwords: why and how."},
      {"Passcode: see https://wiki.example/passcodes"},
      {"Ask jo@example.com for the password"},
      {"Please bring the passcodes"},
    };
  }

  @Test(dataProvider = "none")
  public void noPasscodeIsMadeUp(String text) {
    Recognised found = Recognised.in(text);
    assertNull(found.passcode(), text);
    assertFalse(found.inText());
  }

  @Test
  public void whatIsInDoubtIsSaidAndNotTaken() {
    Recognised found = Recognised.in("The passcode is kelp as always");
    assertNull(found.passcode());
    assertTrue(found.doubts().toString().contains("not known"), found.doubts().toString());
    Recognised two = Recognised.in("Passcode: 884210\nPasscode: 991177");
    assertNull(two.passcode());
    assertTrue(two.doubts().toString().contains("2 passcodes"), two.doubts().toString());
  }

  @DataProvider
  public Object[][] numbers() {
    return new Object[][] {
      {"Meeting number: 482 119 730", "482 119 730"},
      {"Meeting ID: 482-119-730", "482 119 730"},
      {"Besprechungs-ID: 482 119 730", "482 119 730"},
      {"<b>Meeting ID:</b> 482&nbsp;119&nbsp;730", "482 119 730"},
      {"https://meet.example/j/482119730", "482 119 730"},
      {"Phone number: 0353 1 555 0123", null},
      {"Call the number 353 1 555 0123", null},
      {"Number: 0353 1 555 0123", null},
      {"Dial +353 1 555 0123", null},
    };
  }

  @Test(dataProvider = "numbers")
  public void aTelephoneIsNoMeetingNumber(String text, String number) {
    assertEquals(Recognised.in(text).number(), number, text);
  }

  @Test
  public void whatOnlyHtmlSaysIsRead() {
    String text =
        CalendarReaderTest.calendar(
            CalendarReaderTest.event(
                "UID:h",
                "DTSTART:20270111T090000Z",
                "SUMMARY:H",
                "DESCRIPTION:Join us",
                "X-ALT-DESC;FMTTYPE=text/html:<html><body><p>Passcode:<br>\\n"
                    + "<b>884210</b></p></body></html>"));
    assertEquals(CalendarReaderTest.one(text).passcode(), "884210");
  }
}
