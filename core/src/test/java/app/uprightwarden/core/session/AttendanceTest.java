package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** Who was there, and who gets what was kept. */
public class AttendanceTest {
  @Test
  public void minutesAreThoseInsideHoweverOftenTheyCame() {
    Told told = new Told(Map.of());
    told.at(0).host();
    told.at(60).comes("a", "member", "named").enters("a", "attendee");
    told.at(60 + 89).tell(Kind.LEFT, "a");
    told.at(600).comes("a", "member", "named").at(700).enters("a", "presenter");
    told.at(700 + 300).tell(Kind.LEFT, "a");
    told.comes("w", "unknown", "none").tell(Kind.HELD, "w", "step", "waiting-room");
    List<Attendance.Row> rows = Attendance.of(told.book, Told.START.plusSeconds(1200));
    assertEquals(rows.stream().map(Attendance.Row::who).toList(), List.of("host", "a"));
    Attendance.Row a = rows.get(1);
    // 89 s and 300 s are 6.48 minutes; the time at the door is not counted
    assertEquals(a.minutes(), 6);
    assertEquals(a.times(), 2);
    assertEquals(a.role(), Role.PRESENTER);
    assertEquals(a.joined(), Told.START.plusSeconds(60));
    assertEquals(a.left(), Told.START.plusSeconds(1000));
    assertNull(rows.get(0).left());
    assertEquals(rows.get(0).minutes(), 20);
  }

  @Test
  public void whatIsSharedGoesToThoseNamedBeforehandAlone() {
    Told told = new Told(Map.of(Control.RECORD_SHARING, "co-hosts"));
    told.at(0).host();
    told.tell(
        Kind.ARRIVED, "b", "name", "B", "standing", "member", "tie", "named", "address", "b@x");
    told.enters("b", "attendee").tell(Kind.ROLE, "b", "role", "co-host");
    told.tell(Kind.RECORDING_STARTED, "host");
    List<Attendance.Share> shares = Attendance.shares(told.book, "h@x", List.of("c@x"));
    assertEquals(shares.get(0).what(), Attendance.Kept.RECORDING);
    assertEquals(shares.get(0).gets(), List.of("h@x", "c@x"));
    assertEquals(shares.get(0).without(), List.of("b@x"), "made one during the session");
    assertFalse(shares.get(1).exists(), "nobody wrote anything");
    assertEquals(shares.get(1).gets(), List.of());
  }

  @Test
  public void hostAloneLeavesTheOthersOut() {
    Told told = new Told(Map.of(Control.RECORD_SHARING, "host-alone"));
    told.at(0).host().tell(Kind.CHATTED, "host");
    told.tell(Kind.SETTING, null, "control", "attendance-record", "value", "on");
    List<Attendance.Share> shares = Attendance.shares(told.book, "h@x", List.of("c@x"));
    assertFalse(shares.get(0).exists());
    assertTrue(shares.get(1).exists());
    assertEquals(shares.get(1).gets(), List.of("h@x"));
    assertEquals(shares.get(2).without(), List.of("c@x"));
  }

  @Test
  public void aBegunMinuteCountsFromItsHalf() {
    for (int[] each : new int[][] {{29, 0}, {30, 1}, {89, 1}, {90, 2}}) {
      Told told = new Told(Map.of());
      told.at(0).comes("a", "member", "named").enters("a", "attendee");
      told.at(each[0]).tell(Kind.LEFT, "a");
      assertEquals(Attendance.of(told.book, told.now()).get(0).minutes(), each[1]);
    }
  }

  @Test
  public void aRowSaysHowSomebodyCame() {
    Told told = new Told(Map.of());
    told.at(0).host();
    told.at(5)
        .tell(
            Kind.ARRIVED,
            "p",
            "name",
            "Pim",
            "standing",
            "guest",
            "tie",
            "forwarded",
            "route",
            "phone",
            "address",
            "pim@x");
    told.tell(Kind.ENTERED, "p", "role", "attendee", "by", "host").tell(Kind.REMOVED, "p");
    Attendance.Row row = Attendance.of(told.book, told.now()).get(1);
    assertEquals(
        row,
        new Attendance.Row(
            "p",
            "Pim",
            "pim@x",
            "guest",
            "forwarded",
            told.now(),
            told.now(),
            0,
            Role.ATTENDEE,
            1,
            Seat.Way.LET_IN_BY_HOST,
            "phone",
            true));
    assertFalse(Attendance.of(told.book, told.now()).get(0).removed());
  }

  @Test
  public void rowsStandByWhenSomebodyCameInFirst() {
    Told told = new Told(Map.of());
    told.at(0).comes("late", "member", "named").at(10).comes("soon", "member", "named");
    told.at(20).enters("soon", "attendee").at(30).enters("late", "attendee");
    List<Attendance.Row> rows = Attendance.of(told.book, told.now());
    assertEquals(rows.stream().map(Attendance.Row::who).toList(), List.of("soon", "late"));
  }

  @Test
  public void whatWasKeptGoesToWhoeverWasNamedEvenIfTheyCame() {
    Told told = new Told(Map.of(Control.RECORD_SHARING, "co-hosts"));
    told.at(0).host().tell(Kind.RECORDING_STARTED, "host");
    told.tell(
        Kind.ARRIVED, "c", "name", "C", "standing", "member", "tie", "co-host", "address", "c@x");
    told.enters("c", "co-host");
    Attendance.Share recording = Attendance.shares(told.book, "h@x", List.of("c@x")).get(0);
    assertTrue(recording.exists());
    assertEquals(recording.gets(), List.of("h@x", "c@x"));
    assertEquals(recording.without(), List.of());
    Told alone = new Told(Map.of(Control.RECORD_SHARING, "host-alone"));
    assertEquals(Attendance.shares(alone.book, "h@x", List.of()).get(0).words(), "The host alone.");
  }
}
