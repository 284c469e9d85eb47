package app.uprightwarden.server.floor;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.register.RegisterService;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;

/** Who a service is told to expect. */
public class FloorRosterTest extends ServerTest {
  private static final String GUEST = "j.sato@brownsand-survey.example";
  private static final int MANY = 1_500;

  @Autowired private FloorRoster roster;
  @Autowired private RegisterService register;

  @Test
  public void everybodyOnALargeListIsExpectedOnceAndHostsComeFirst() {
    List<String> members =
        IntStream.range(0, MANY).mapToObj(i -> "m" + i + "@saltmarsh.example").toList();
    send(
            WARDEN,
            "PUT",
            "/api/people/groups/lists/l-large",
            Map.of("name", "Large", "members", members))
        .is(200);
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", "Many of them");
    form.put("host", WARDEN);
    form.put("start", "2027-04-05T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 30);
    form.put("controls", Map.of());
    form.put("lists", List.of("l-large"));
    form.put(
        "invitees",
        List.of(
            Map.of("email", GUEST),
            Map.of("email", members.get(3).toUpperCase(java.util.Locale.ROOT))));
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "a test of rosters");
    String id = post(WARDEN, "/api/meetings", body).is(200).json().path("id").stringValue();
    Meeting meeting = register.find(id).orElseThrow().meeting();
    List<SessionPlan.Comer> comers = roster.comers(meeting);
    assertEquals(comers.size(), MANY + 2, "one of them is invited by name too");
    assertEquals(comers.get(0).tie(), "host");
    assertEquals(comers.get(1).address(), GUEST);
    assertEquals(comers.stream().map(SessionPlan.Comer::address).distinct().count(), MANY + 2);
    assertEquals(comers.get(MANY).tie(), "listed");
  }
}
