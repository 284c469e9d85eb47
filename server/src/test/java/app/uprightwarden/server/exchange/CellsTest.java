package app.uprightwarden.server.exchange;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.server.problem.Fault;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Cells as people and spreadsheets write them. */
public class CellsTest {
  private static final String HOW = "write it like 2027-05-10 09:00";

  @DataProvider
  public Object[][] times() {
    return new Object[][] {
      // ISO 8601, with and without its T, and to the second
      {"2027-05-10T09:00", "2027-05-10T09:00"},
      {"2027-05-10 09:00", "2027-05-10T09:00"},
      {"2027-05-10 09:00:59", "2027-05-10T09:00"},
      {"2027-05-10 09:00:00.000", "2027-05-10T09:00"},
      // common practice: no leading noughts, a point in the time, the day first with points
      {"2027-5-9 9.05", "2027-05-09T09:05"},
      {"10.05.2027 09:30", "2027-05-10T09:30"},
      {"1.2.2027, 9.30", "2027-02-01T09:30"},
      {"10.05.2027", "2027-05-10T00:00"},
      {"2027-05-10", "2027-05-10T00:00"},
      // a leap day where there is one
      {"2028-02-29 08:00", "2028-02-29T08:00"},
    };
  }

  @Test(dataProvider = "times")
  public void aTimeIsReadAsItIsWritten(String cell, String read) {
    List<Fault> faults = new ArrayList<>();
    assertEquals(Cells.time("/start", cell, faults), read);
    assertEquals(faults, List.of());
  }

  @DataProvider
  public Object[][] noTimes() {
    return new Object[][] {
      {"2027-02-29 08:00", "“2027-02-29 08:00” is no day or time that there is"},
      {"31.04.2027", "“31.04.2027” is no day or time that there is"},
      {"2027-05-10 24:00", "“2027-05-10 24:00” is no day or time that there is"},
      // either of two may be the month: it is not guessed
      {"10/05/2027", "“10/05/2027” is no time; " + HOW},
      {"tomorrow", "“tomorrow” is no time; " + HOW},
      {"2027-05-10 9", "“2027-05-10 9” is no time; " + HOW},
      {"", "is empty; " + HOW},
    };
  }

  @Test(dataProvider = "noTimes")
  public void whatIsNoTimeIsSaidAndStays(String cell, String said) {
    List<Fault> faults = new ArrayList<>();
    assertEquals(Cells.time("/start", cell, faults), cell);
    assertEquals(faults, List.of(new Fault("/start", said)));
  }

  @DataProvider
  public Object[][] several() {
    return new Object[][] {
      {"", List.of()},
      {"2027-05-10T09:00 2027-05-17T09:00", List.of("2027-05-10T09:00", "2027-05-17T09:00")},
      {"2027-05-10 09:00", List.of("2027-05-10T09:00")},
      {"2027-05-10 09:00; 2027-05-17 09:00", List.of("2027-05-10T09:00", "2027-05-17T09:00")},
      {"10.05.2027 09:00,17.05.2027 10:30", List.of("2027-05-10T09:00", "2027-05-17T10:30")},
    };
  }

  @Test(dataProvider = "several")
  public void severalTimesStandInACell(String cell, List<String> read) {
    List<Fault> faults = new ArrayList<>();
    assertEquals(Cells.times("/added", cell, faults), read);
    assertEquals(faults, List.of());
  }

  @Test
  public void ofSeveralTimesTheWrongOneIsSaid() {
    List<Fault> faults = new ArrayList<>();
    Cells.times("/added", "2027-05-10 09:00; soon", faults);
    assertEquals(faults, List.of(new Fault("/added", "“soon” is no time; " + HOW)));
  }

  @DataProvider
  public Object[][] recurrences() {
    return new Object[][] {
      {"", ""},
      {"once", ""},
      {"No", ""},
      {"never", ""},
      {"Weekly", "FREQ=WEEKLY"},
      {" every weekday ", "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR"},
      {"every day", "FREQ=DAILY"},
      // RFC 5545 section 3.8.5.3, an example of it, with the property's name and without
      {"RRULE:FREQ=DAILY;COUNT=10", "FREQ=DAILY;COUNT=10"},
      {"freq=weekly;count=3", "freq=weekly;count=3"},
    };
  }

  @Test(dataProvider = "recurrences")
  public void aRecurrenceIsARuleOrAWord(String cell, String read) {
    List<Fault> faults = new ArrayList<>();
    assertEquals(Cells.recurrence(cell, faults), read);
    assertEquals(faults, List.of());
  }

  @Test
  public void whatIsNoRecurrenceIsSaid() {
    List<Fault> faults = new ArrayList<>();
    assertEquals(Cells.recurrence("now and then", faults), "now and then");
    assertEquals(faults.size(), 1);
    assertEquals(faults.get(0).pointer(), "/recurrence");
  }

  @Test
  public void aNumberIsOneOfNineDigitsAtMost() {
    assertEquals(Cells.number("90"), Integer.valueOf(90));
    assertEquals(Cells.number("999999999"), Integer.valueOf(999_999_999));
    // what is none is left for the schema to refuse
    assertEquals(Cells.number("9999999999"), "9999999999");
    assertEquals(Cells.number("-5"), "-5");
    assertEquals(Cells.number("1.5"), "1.5");
  }

  @Test
  public void wordsAreApartByWhatPeopleUse() {
    assertEquals(Cells.words("a@x b@x,c@x; d@x,,"), List.of("a@x", "b@x", "c@x", "d@x"));
    assertEquals(Cells.words(" "), List.of());
  }
}
