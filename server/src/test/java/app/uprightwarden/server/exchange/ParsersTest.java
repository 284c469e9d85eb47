package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.server.calendars.CalendarReader;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.ProblemException;
import java.time.ZoneId;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Files that were cut, doubled, shuffled and sprinkled with what does not belong: every parser
 * reads them or says what is wrong, and none falls over.
 */
public class ParsersTest {
  private static final String CALENDAR =
      """
      BEGIN:VCALENDAR
      VERSION:2.0
      BEGIN:VTIMEZONE
      TZID:East
      BEGIN:STANDARD
      DTSTART:20071104T020000
      TZOFFSETFROM:-0400
      TZOFFSETTO:-0500
      END:STANDARD
      END:VTIMEZONE
      BEGIN:VEVENT
      UID:a@x
      DTSTART;TZID=East:20270111T090000
      DTEND;TZID=East:20270111T100000
      RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TU;COUNT=9
      EXDATE;TZID=East:20270125T090000
      RDATE;VALUE=PERIOD:20270112T090000Z/PT1H
      SUMMARY:Tide\\, talk
      DESCRIPTION:Passcode: kelp-Rudder-41 https://m.example/482119730?pwd=x
      ORGANIZER;CN="A; B":mailto:a@x.example
      ATTENDEE;ROLE=OPT-PARTICIPANT;CUTYPE=GROUP:mailto:b@x.example
      X-WARDEN-CONTROL;NAME=waiting-room:on
      BEGIN:VALARM
      TRIGGER:-PT15M
      END:VALARM
      END:VEVENT
      BEGIN:VEVENT
      UID:a@x
      RECURRENCE-ID;TZID=East:20270208T090000
      DTSTART;TZID=East:20270209T090000
      DURATION:PT30M
      END:VEVENT
      END:VCALENDAR
      """;
  private static final String TABLE =
      """
      id,title,host,start,zone,minutes,waiting-room
      a,"Tide, ""talk""\",h@x.example,2027-01-11T09:00,UTC,30,on
      b,'=Sum,h@x.example,2027-01-12T09:00,UTC,45,off
      """;
  private static final String LDIF =
      """
      version: 1
      dn: cn=A,dc=x
      cn: A
      mail: a@x.example
      description:: aGVsbG8=

      dn: cn=G,dc=x
      cn: G
      member: cn=A,dc=x
      """;
  private static final String SCIM =
      """
      {"Resources": [{"schemas": ["urn:ietf:params:scim:schemas:core:2.0:User"], "id": "1",
       "userName": "a@x.example", "emails": [{"value": "a@x.example", "primary": true}]}]}
      """;
  private static final String[] SPRINKLES = {
    "\"",
    "'",
    ":",
    ";",
    ",",
    "\n",
    "\r\n",
    " ",
    "\t",
    "=",
    "\\",
    "\0",
    "\u202e",
    "é",
    "🌊",
    "BEGIN:",
    "END:VEVENT\n",
    "RRULE:FREQ=SECONDLY\n",
    "DTSTART:",
    "99999999999999999999",
    "-",
    "{",
    "[",
    "^n",
    "TZID=",
    "DURATION:P9999999999D\n",
    "UNTIL=",
    "INTERVAL=0",
    "COUNT=-1"
  };

  @DataProvider
  public Object[][] parsers() {
    CalendarReader calendars = new CalendarReader();
    CalendarReader.Defaults defaults =
        new CalendarReader.Defaults(ZoneId.of("UTC"), "h@x.example", Organisation.EMPTY, Map.of());
    JsonMapper json = JsonMapper.builder().build();
    return new Object[][] {
      {
        "calendar",
        CALENDAR,
        (Consumer<String>)
            text ->
                calendars.read(text, defaults, (p, t, d, h) -> PasscodeJudge.judge(p, t, d, h, "f"))
      },
      {"table", TABLE, (Consumer<String>) text -> Tables.read(text)},
      {"ldif", LDIF, (Consumer<String>) text -> Ldif.read(text, Organisation.EMPTY)},
      {"scim", SCIM, (Consumer<String>) text -> Scim.read(json.readTree(text), Organisation.EMPTY)},
    };
  }

  @Test(dataProvider = "parsers")
  public void noParserFallsOver(String name, String seed, Consumer<String> parser) {
    Random random = new Random(2027);
    int read = 0;
    for (int round = 0; round < 4000; round++) {
      String text = mutated(seed, random);
      try {
        parser.accept(text);
        read++;
      } catch (ProblemException | JacksonException e) {
        assertTrue(String.valueOf(e.getMessage()).length() > 10, "says something");
      } catch (RuntimeException e) {
        throw new AssertionError(name + " falls over in round " + round + ": " + text, e);
      }
    }
    assertTrue(read > 0, "some are still readable");
  }

  private static String mutated(String seed, Random random) {
    StringBuilder text = new StringBuilder(seed);
    for (int i = 1 + random.nextInt(6); i > 0; i--) {
      int at = random.nextInt(text.length() + 1);
      int to = Math.min(text.length(), at + random.nextInt(40));
      switch (random.nextInt(4)) {
        case 0 -> text.delete(at, to);
        case 1 -> text.insert(at, text.substring(at, to));
        case 2 -> text.insert(at, SPRINKLES[random.nextInt(SPRINKLES.length)]);
        default -> text.setLength(Math.max(1, at));
      }
      if (text.isEmpty()) {
        text.append('x');
      }
    }
    return text.toString();
  }
}
