package app.uprightwarden.server.scheduling;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.service.Held;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.MeetingsForTests;
import java.time.LocalDateTime;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.Test;

/** A service that holds a control for whole series alone is not given it for one date. */
public class DateFaultsTest {
  private static final LocalDateTime DATE = LocalDateTime.of(2027, 1, 18, 9, 0);

  private static Held held() {
    Set<Means.Place> series = EnumSet.of(Means.Place.MEETING);
    Set<Means.Place> both = EnumSet.of(Means.Place.MEETING, Means.Place.OCCURRENCE);
    return new Held(
        "Curlew",
        new Means(
            Map.of(
                Control.CHAT, new Means.Holds(null, Map.of(), series, series),
                Control.WAITING_ROOM, new Means.Holds(null, Map.of(), both, both))),
        List.of());
  }

  private static Meeting with(Control control, String value) {
    return MeetingsForTests.plain("m-1")
        .withDate(DATE, ControlValues.NONE.with(control, control.parse(value)));
  }

  @Test
  public void theControlIsNamedWithItsPlace() {
    List<Fault> faults = MeetingHome.dateFaults(with(Control.CHAT, "off"), null, held());
    assertEquals(faults.size(), 1);
    assertEquals(faults.get(0).pointer(), "/occurrences/0/controls/chat");
    assertTrue(faults.get(0).message().contains("Curlew"), faults.toString());
  }

  @Test
  public void whatItHoldsForOneDateOrHadBeforeOrIsHeldNowhereIsNone() {
    Meeting waits = with(Control.WAITING_ROOM, "on");
    assertTrue(MeetingHome.dateFaults(waits, null, held()).isEmpty());
    Meeting chats = with(Control.CHAT, "off");
    assertTrue(MeetingHome.dateFaults(chats, chats, held()).isEmpty(), "it was so before");
    assertEquals(MeetingHome.dateFaults(chats, with(Control.CHAT, "hosts-post"), held()).size(), 1);
    assertTrue(MeetingHome.dateFaults(chats, null, null).isEmpty());
  }
}
