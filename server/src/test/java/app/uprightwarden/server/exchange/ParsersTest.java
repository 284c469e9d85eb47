package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.passcode.GuessEstimate;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.server.calendars.CalendarReader;
import app.uprightwarden.server.calendars.CalendarReplies;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.schema.BundleSchema;
import app.uprightwarden.server.schema.StrictJson;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.Function;
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
  private static final String BUNDLE =
      """
      {"format": "upright-warden/1", "meetings": [{"id": "m-1", "title": "Weir", "host":
       "h@x.example", "start": "2027-01-11T09:00", "zone": "Europe/Dublin", "minutes": 30,
       "passcode": "kelp-41", "recurrence": "FREQ=WEEKLY;BYDAY=MO", "invitees": [{"email":
       "a@x.example", "need": "required"}], "controls": {"waiting-room": "on", "early-entry": 5}}],
       "rulebook": {"layers": [{"scope": {"level": "organisation"}, "rules": [{"control": "chat", "mode":
       "suggest", "start": "off"}], "guarantees": []}]}}
      """;
  private static final StrictJson STRICT = new StrictJson();
  private static final String REPLY =
      """
      BEGIN:VCALENDAR
      METHOD:REPLY
      VERSION:2.0
      BEGIN:VEVENT
      UID:a@x
      SEQUENCE:2
      DTSTAMP:20270101T000000Z
      ATTENDEE;PARTSTAT=ACCEPTED;CN="A":mailto:a@x.example
      END:VEVENT
      END:VCALENDAR
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
        new CalendarReader.Defaults(
            ZoneId.of("UTC"), "h@x.example", Organisation.EMPTY, CalendarReader.Known.NONE);
    JsonMapper json = JsonMapper.builder().build();
    BundleReader bundles = new BundleReader(new BundleSchema(json));
    return new Object[][] {
      {
        "calendar",
        CALENDAR,
        (Function<String, Object>)
            text ->
                calendars.read(text, defaults, (p, t, d, h) -> PasscodeJudge.judge(p, t, d, h, "f"))
      },
      {"table", TABLE, (Function<String, Object>) text -> Tables.read(text)},
      {
        "ldif",
        LDIF,
        (Function<String, Object>)
            text -> Ldif.read(text, new FoundPeople(Organisation.EMPTY, List.of()))
      },
      {
        "bundle",
        BUNDLE,
        (Function<String, Object>)
            text -> {
              List<Fault> faults = new ArrayList<>();
              Bundle read =
                  bundles.read(
                      json.readTree(text),
                      Organisation.EMPTY,
                      (p, t, d, h) -> PasscodeJudge.judge(p, t, d, h, "f"),
                      faults);
              if (!faults.isEmpty()) {
                throw ProblemException.invalid("It has faults: " + faults, faults);
              }
              return read;
            }
      },
      {"strict json", BUNDLE, (Function<String, Object>) ParsersTest::strict},
      {
        "recurrence",
        "FREQ=MONTHLY;INTERVAL=2;BYDAY=2TU,-1FR;BYMONTH=1,2,3;COUNT=40;WKST=SU",
        (Function<String, Object>)
            text -> {
              try {
                return Recurrence.parse(text.strip(), ZoneId.of("Europe/Dublin"))
                    .from(LocalDateTime.parse("2027-01-11T09:00"));
              } catch (IllegalArgumentException e) {
                throw ProblemException.invalid("No recurrence: " + e.getMessage(), List.of());
              }
            }
      },
      {
        "passcode",
        "kelp-Rudder-41 Tide 482119",
        (Function<String, Object>)
            text -> {
              return PasscodeJudge.judge(text, "Tide talk", text, "h@x.example", "f")
                  + " "
                  + GuessEstimate.of(text);
            }
      },
      {"answer", REPLY, (Function<String, Object>) text -> CalendarReplies.read(text)},
      {
        "scim",
        SCIM,
        (Function<String, Object>)
            text -> Scim.read(json.readTree(text), new FoundPeople(Organisation.EMPTY, List.of()))
      },
    };
  }

  /** A fixed effort in the build; {@code ./warden fuzz} has more rounds, each time others. */
  private static final int ROUNDS = Integer.getInteger("warden.fuzz.rounds", 4000);

  private static final long SEED = Long.getLong("warden.fuzz.seed", 2027);

  /** How many texts are kept because they were answered as none before. */
  private static final int MAX_KEPT = 400;

  @Test(dataProvider = "parsers")
  public void noParserFallsOver(String name, String seed, Function<String, Object> parser) {
    Random random = new Random(SEED);
    List<String> pool = new ArrayList<>(List.of(seed));
    Set<String> answers = new HashSet<>();
    var unused = parser.apply(seed); // as it is, it can be read
    int read = 1;
    for (int round = 0; round < ROUNDS; round++) {
      String text = mutated(pool.get(random.nextInt(pool.size())), random);
      String answer;
      try {
        String result = String.valueOf(parser.apply(text));
        answer = shape(result.substring(0, Math.min(result.length(), 400)));
        read++;
      } catch (ProblemException e) {
        assertTrue(String.valueOf(e.getMessage()).length() > 10, "says something");
        answer = shape(e.getMessage() + e.faults());
      } catch (JacksonException e) {
        answer = shape(String.valueOf(e.getMessage()));
      } catch (RuntimeException | StackOverflowError e) {
        throw new AssertionError(
            name + " falls over in round " + round + " of seed " + SEED + ": " + text, e);
      }
      // what was answered as nothing before goes on being changed: it leads further in
      if (answers.add(answer) && pool.size() < MAX_KEPT && text.length() < 20_000) {
        pool.add(text);
      }
    }
    assertTrue(read > 0, "some are still readable");
    assertTrue(answers.size() > 2, name + " answers always the same: " + answers);
  }

  /** Inputs that the fuzzer guided by coverage found; the first byte names the reader. */
  @DataProvider
  public Object[][] found() {
    return new Object[][] {
      {
        // a record that the library takes for one of changes, and that ends too early
        "AnY9RyxkY3Lzaf////////////9vbjo6ZUlObGUKOG4gY249RyxkY3Jzaf//////////////////////////////b2"
            + "46OlNVb246OlNVTU1ITFk7SU5sZQpu//9vbjo6ZUlObGUKOG4gY249RwAAAElObGUKbv//b246OlNVTU0vQkVHSU46"
            + "VkNBTEVOREFSClZFUlNJT046Mi4wCkJFR0lOOlZUSU1FWk9ORQpUWklEOkVhc3QKQkVBUjD5OD0KCmRuOjoKY29udH"
            + "JvbDpyOiBHY0luPUFBUkQK"
      },
    };
  }

  @Test(dataProvider = "found")
  public void whatTheGuidedFuzzerFoundStaysMended(String base64) {
    byte[] data = Base64.getDecoder().decode(base64);
    ReadersFuzz.fuzzerTestOneInput(data); // throws where a reader falls over
    assertTrue(data.length > 1);
  }

  private static String shape(String message) {
    return message.replaceAll("[\"'“][^\"'”]*[\"'”]|\\d+", "…").replaceAll("\\s+", " ");
  }

  private static Object strict(String text) {
    return STRICT.read(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
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
