package app.uprightwarden.core.calendar;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Recurrences against RFC 5545 section 3.8.5.3, whose examples all begin in America/New_York, and
 * against a second library.
 */
public class RecurrenceTest {
  private static final ZoneId NEW_YORK = ZoneId.of("America/New_York");

  private static List<String> expand(String rule, String first, int most) {
    Recurrence.Starts starts = Recurrence.parse(rule, NEW_YORK).from(LocalDateTime.parse(first));
    List<String> found = new ArrayList<>();
    while (starts.hasNext() && found.size() < most) {
      LocalDateTime next = starts.next();
      found.add(next.toLocalDate() + " " + next.toLocalTime());
    }
    return found;
  }

  private static List<String> at(String time, String... dates) {
    return java.util.Arrays.stream(dates).map(date -> date + " " + time).toList();
  }

  @DataProvider
  public Object[][] rfc5545() {
    return new Object[][] {
      // the RFC's own words name each; "==>" lists are copied from it
      {
        "Daily for 10 occurrences",
        "FREQ=DAILY;COUNT=10",
        "1997-09-02T09:00",
        at(
            "09:00",
            "1997-09-02",
            "1997-09-03",
            "1997-09-04",
            "1997-09-05",
            "1997-09-06",
            "1997-09-07",
            "1997-09-08",
            "1997-09-09",
            "1997-09-10",
            "1997-09-11")
      },
      {
        "Every 10 days, 5 occurrences",
        "FREQ=DAILY;INTERVAL=10;COUNT=5",
        "1997-09-02T09:00",
        at("09:00", "1997-09-02", "1997-09-12", "1997-09-22", "1997-10-02", "1997-10-12")
      },
      {
        "Weekly on Tuesday and Thursday for five weeks",
        "FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH",
        "1997-09-02T09:00",
        at(
            "09:00",
            "1997-09-02",
            "1997-09-04",
            "1997-09-09",
            "1997-09-11",
            "1997-09-16",
            "1997-09-18",
            "1997-09-23",
            "1997-09-25",
            "1997-09-30",
            "1997-10-02")
      },
      {
        "Every other week on Tuesday and Thursday, for 8 occurrences",
        "FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH",
        "1997-09-02T09:00",
        at(
            "09:00",
            "1997-09-02",
            "1997-09-04",
            "1997-09-16",
            "1997-09-18",
            "1997-09-30",
            "1997-10-02",
            "1997-10-14",
            "1997-10-16")
      },
      {
        "Monthly on the first Friday for 10 occurrences",
        "FREQ=MONTHLY;COUNT=10;BYDAY=1FR",
        "1997-09-05T09:00",
        at(
            "09:00",
            "1997-09-05",
            "1997-10-03",
            "1997-11-07",
            "1997-12-05",
            "1998-01-02",
            "1998-02-06",
            "1998-03-06",
            "1998-04-03",
            "1998-05-01",
            "1998-06-05")
      },
      {
        "Monthly on the first Friday until December 24, 1997",
        "FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR",
        "1997-09-05T09:00",
        at("09:00", "1997-09-05", "1997-10-03", "1997-11-07", "1997-12-05")
      },
      {
        "Monthly on the second-to-last Monday of the month for 6 months",
        "FREQ=MONTHLY;COUNT=6;BYDAY=-2MO",
        "1997-09-22T09:00",
        at(
            "09:00",
            "1997-09-22",
            "1997-10-20",
            "1997-11-17",
            "1997-12-22",
            "1998-01-19",
            "1998-02-16")
      },
      {
        "Monthly on the third-to-the-last day of the month",
        "FREQ=MONTHLY;BYMONTHDAY=-3",
        "1997-09-28T09:00",
        at(
            "09:00",
            "1997-09-28",
            "1997-10-29",
            "1997-11-28",
            "1997-12-29",
            "1998-01-29",
            "1998-02-26")
      },
      {
        "Monthly on the first and last day of the month for 10 occurrences",
        "FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1",
        "1997-09-30T09:00",
        at(
            "09:00",
            "1997-09-30",
            "1997-10-01",
            "1997-10-31",
            "1997-11-01",
            "1997-11-30",
            "1997-12-01",
            "1997-12-31",
            "1998-01-01",
            "1998-01-31",
            "1998-02-01")
      },
      {
        "Yearly in June and July for 10 occurrences",
        "FREQ=YEARLY;COUNT=10;BYMONTH=6,7",
        "1997-06-10T09:00",
        at(
            "09:00",
            "1997-06-10",
            "1997-07-10",
            "1998-06-10",
            "1998-07-10",
            "1999-06-10",
            "1999-07-10",
            "2000-06-10",
            "2000-07-10",
            "2001-06-10",
            "2001-07-10")
      },
      {
        "Every third year on the 1st, 100th, and 200th day for 10 occurrences",
        "FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200",
        "1997-01-01T09:00",
        at(
            "09:00",
            "1997-01-01",
            "1997-04-10",
            "1997-07-19",
            "2000-01-01",
            "2000-04-09",
            "2000-07-18",
            "2003-01-01",
            "2003-04-10",
            "2003-07-19",
            "2006-01-01")
      },
      {
        "Every 20th Monday of the year",
        "FREQ=YEARLY;BYDAY=20MO",
        "1997-05-19T09:00",
        at("09:00", "1997-05-19", "1998-05-18", "1999-05-17")
      },
      {
        "Monday of week number 20",
        "FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO",
        "1997-05-12T09:00",
        at("09:00", "1997-05-12", "1998-05-11", "1999-05-17")
      },
      {
        "Every Friday the 13th (the start is no Friday; the RFC drops it by an EXDATE)",
        "FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13",
        "1998-02-13T09:00",
        at("09:00", "1998-02-13", "1998-03-13", "1998-11-13", "1999-08-13", "2000-10-13")
      },
      {
        "U.S. Presidential Election Day",
        "FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8",
        "1996-11-05T09:00",
        at("09:00", "1996-11-05", "2000-11-07", "2004-11-02")
      },
      {
        "The third instance into the month of one of Tuesday, Wednesday, or Thursday",
        "FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3",
        "1997-09-04T09:00",
        at("09:00", "1997-09-04", "1997-10-07", "1997-11-06")
      },
      {
        "The second-to-last weekday of the month",
        "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2",
        "1997-09-29T09:00",
        at(
            "09:00",
            "1997-09-29",
            "1997-10-30",
            "1997-11-27",
            "1997-12-30",
            "1998-01-29",
            "1998-02-26",
            "1998-03-30")
      },
      {
        "The week start makes a difference: Monday",
        "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO",
        "1997-08-05T09:00",
        at("09:00", "1997-08-05", "1997-08-10", "1997-08-19", "1997-08-24")
      },
      {
        "The week start makes a difference: Sunday",
        "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU",
        "1997-08-05T09:00",
        at("09:00", "1997-08-05", "1997-08-17", "1997-08-19", "1997-08-31")
      },
      {
        "An invalid date (February 30) is ignored",
        "FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5",
        "2007-01-15T09:00",
        at("09:00", "2007-01-15", "2007-01-30", "2007-02-15", "2007-03-15", "2007-03-30")
      },
      {
        "Every hour and a half for 4 occurrences",
        "FREQ=MINUTELY;INTERVAL=90;COUNT=4",
        "1997-09-02T09:00",
        List.of("1997-09-02 09:00", "1997-09-02 10:30", "1997-09-02 12:00", "1997-09-02 13:30")
      },
    };
  }

  @Test(dataProvider = "rfc5545")
  public void examplesOfTheStandard(String name, String rule, String first, List<String> listed) {
    assertEquals(expand(rule, first, listed.size()), listed, name);
    if (rule.contains("COUNT") || rule.contains("UNTIL")) {
      assertEquals(expand(rule, first, 1000), listed, name + ", and no more");
    }
  }

  @Test
  public void whatIsNoRuleIsRefused() {
    for (String wrong : List.of("", "FREQ=SOMETIMES", "BYDAY=MO", "FREQ=DAILY;COUNT=x")) {
      assertThrows(IllegalArgumentException.class, () -> Recurrence.parse(wrong, NEW_YORK));
    }
  }

  /** A second library, ical4j, on random rules of the kinds that people schedule by. */
  @Test
  public void agreesWithASecondLibraryOnRandomRules() {
    Random random = new Random(5545);
    String[] days = {"MO", "TU", "WE", "TH", "FR", "SA", "SU"};
    int compared = 0;
    for (int i = 0; i < 600; i++) {
      StringBuilder rule = new StringBuilder("FREQ=");
      switch (random.nextInt(4)) {
        case 0 -> rule.append("DAILY");
        case 1 ->
            rule.append("WEEKLY;BYDAY=")
                .append(days[random.nextInt(7)])
                .append(",")
                .append(days[random.nextInt(7)]);
        case 2 ->
            rule.append("MONTHLY;BYDAY=")
                .append(1 + random.nextInt(4))
                .append(days[random.nextInt(7)]);
        default -> rule.append("MONTHLY;BYMONTHDAY=").append(1 + random.nextInt(31));
      }
      // the week begins on Monday by the standard; the other library goes by the machine unless
      // told
      rule.append(";WKST=MO;INTERVAL=").append(1 + random.nextInt(4));
      LocalDateTime first =
          LocalDateTime.of(2026, 1 + random.nextInt(12), 1 + random.nextInt(28), 9, 30);
      List<LocalDateTime> theirs =
          new net.fortuna.ical4j.model.Recur<LocalDateTime>(rule.toString())
              .getDates(first, first, first.plusYears(2));
      Recurrence.Starts starts = Recurrence.parse(rule.toString(), NEW_YORK).from(first);
      List<LocalDateTime> ours = new ArrayList<>();
      while (starts.hasNext()) {
        LocalDateTime next = starts.next();
        if (!next.isBefore(first.plusYears(2))) {
          break;
        }
        ours.add(next);
      }
      // both agree on what the rule gives; whether a first start off the rule counts is ours to say
      theirs = theirs.stream().filter(t -> t.isBefore(first.plusYears(2))).distinct().toList();
      ours.removeIf(t -> t.equals(first) && !isGiven(rule.toString(), first));
      assertEquals(ours, theirs, rule + " from " + first);
      compared += ours.size();
    }
    assertTrue(compared > 5000, "compared " + compared);
  }

  private static boolean isGiven(String rule, LocalDateTime first) {
    return new net.fortuna.ical4j.model.Recur<LocalDateTime>(rule)
        .getDates(first, first, first.plusYears(2))
        .contains(first);
  }

  @DataProvider
  public Object[][] exhausting() {
    String hours = "BYHOUR=0,1,2,3,4,5,6,7,8,9,10,11,12,13,14,15,16,17,18,19,20,21,22,23";
    String sixty =
        java.util.stream.IntStream.range(0, 60)
            .mapToObj(String::valueOf)
            .collect(java.util.stream.Collectors.joining(","));
    return new Object[][] {
      {"FREQ=DAILY;" + hours + ";BYMINUTE=" + sixty + ";BYSECOND=" + sixty + ";BYSETPOS=1"},
      {"FREQ=WEEKLY;" + hours + ";BYMINUTE=" + sixty + ";BYSETPOS=1"},
      {"FREQ=YEARLY;BYDAY=MO;" + hours + ";BYSETPOS=-1"},
      {"FREQ=MONTHLY;BYMONTHDAY=1;" + hours + ";BYMINUTE=" + sixty + ";BYSETPOS=1"},
      {"FREQ=SECONDLY"},
      {"FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30"},
      {"FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30"},
    };
  }

  /** Rules of some hundred characters that would hold millions of times, or look for ever. */
  @Test(dataProvider = "exhausting")
  public void aRuleThatExhaustsIsRefused(String rule) {
    assertThrows(
        IllegalArgumentException.class,
        () ->
            Recurrence.parse(rule, NEW_YORK)
                .checkPace(java.time.LocalDateTime.of(2026, 1, 5, 9, 0)));
  }

  /** From RFC 5545 section 3.8.5.3: what real calendars have stays allowed. */
  @Test
  public void theStandardsDensestRulesAreTaken() {
    for (String rule :
        List.of(
            "FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40;COUNT=100",
            "FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16;COUNT=100",
            "FREQ=YEARLY;BYDAY=FR;BYMONTHDAY=13")) {
      Recurrence.parse(rule, NEW_YORK).checkPace(java.time.LocalDateTime.of(1997, 9, 2, 9, 0));
    }
    assertThrows(
        IllegalArgumentException.class,
        () ->
            Recurrence.parse("FREQ=HOURLY;INTERVAL=12", NEW_YORK)
                .checkPace(java.time.LocalDateTime.of(1, 1, 1, 9, 0)));
  }

  private static String upTo(String part, int count) {
    return part
        + "="
        + IntStream.range(0, count).mapToObj(String::valueOf).collect(Collectors.joining(","));
  }

  @DataProvider
  public Object[][] atTheLimits() {
    LocalDateTime start = LocalDateTime.of(2026, 1, 5, 9, 0);
    String fifty = upTo("BYMINUTE", 50) + ";" + upTo("BYSECOND", 5) + ";COUNT=100";
    String minutes = upTo("BYHOUR", 24) + ";" + upTo("BYMINUTE", 60) + ";BYSETPOS=1";
    return new Object[][] {
      {"FREQ=DAILY;COUNT=3", LocalDateTime.of(1900, 1, 1, 9, 0), true},
      {"FREQ=DAILY;COUNT=3", LocalDateTime.of(1899, 12, 31, 9, 0), false},
      {"FREQ=DAILY;COUNT=3", LocalDateTime.of(2200, 12, 31, 9, 0), true},
      {"FREQ=DAILY;COUNT=3", LocalDateTime.of(2201, 1, 1, 9, 0), false},
      {"FREQ=DAILY;COUNT=20000", start, true},
      {"FREQ=DAILY;COUNT=20001", start, false},
      // 20,000 minutes are 13 days, 21 hours and 20 minutes
      {"FREQ=MINUTELY;UNTIL=20260119T061900", start, true},
      {"FREQ=MINUTELY;UNTIL=20260119T062000", start, false},
      {"FREQ=DAILY;" + upTo("BYHOUR", 20) + ";" + fifty, start, true},
      {"FREQ=DAILY;" + upTo("BYHOUR", 21) + ";" + fifty, start, false},
      // of one day in a month that is so many at once, of each of its days too many
      {"FREQ=MONTHLY;" + minutes, start, true},
      {"FREQ=MONTHLY;BYMONTHDAY=5;" + minutes, start, false},
      {"FREQ=YEARLY;" + minutes, start, true},
      {"FREQ=YEARLY;BYYEARDAY=5;" + minutes, start, false},
      {"FREQ=YEARLY;BYWEEKNO=2;" + minutes, start, false},
    };
  }

  @Test(dataProvider = "atTheLimits")
  public void aRuleIsTakenUpToItsLimits(String rule, LocalDateTime start, boolean isTaken) {
    Recurrence recurrence = Recurrence.parse(rule, NEW_YORK);
    if (isTaken) {
      recurrence.checkPace(start);
    } else {
      assertThrows(IllegalArgumentException.class, () -> recurrence.checkPace(start));
    }
  }

  /** RFC 5545 section 3.3.10: UNTIL bounds the rule in an inclusive manner. */
  @Test
  public void aDateAsTheEndIncludesItsWholeDay() {
    assertEquals(
        expand("FREQ=DAILY;UNTIL=20260107", "2026-01-05T09:00", 9),
        at("09:00", "2026-01-05", "2026-01-06", "2026-01-07"));
    assertEquals(
        expand("FREQ=DAILY;UNTIL=20260107T090000", "2026-01-05T09:00", 9),
        at("09:00", "2026-01-05", "2026-01-06", "2026-01-07"));
    assertEquals(
        expand("FREQ=DAILY;UNTIL=20260107T140000Z", "2026-01-05T09:00", 9),
        at("09:00", "2026-01-05", "2026-01-06", "2026-01-07"),
        "as nine in New York");
    assertEquals(
        expand("FREQ=DAILY;UNTIL=20260107T135959Z", "2026-01-05T09:00", 9),
        at("09:00", "2026-01-05", "2026-01-06"));
  }

  @Test
  public void aRuleEndsByACountOrADate() {
    assertTrue(Recurrence.parse("FREQ=DAILY;COUNT=2", NEW_YORK).ends());
    assertTrue(Recurrence.parse("FREQ=DAILY;UNTIL=20260107", NEW_YORK).ends());
    assertFalse(Recurrence.parse("FREQ=DAILY", NEW_YORK).ends());
  }
}
