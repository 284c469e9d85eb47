package app.uprightwarden.server.floor;

import app.uprightwarden.server.ServerTest;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterMethod;

/** Meetings of which sessions are practised, and a stand-in that can be told to misbehave. */
abstract class PractisedSessions extends ServerTest {
  /**
   * How the stand-in behaves.
   *
   * @param away for so many seconds
   * @param disorder whether it tells events twice and in any order
   */
  final void mood(int away, boolean disorder) {
    Map<String, Object> mood = new LinkedHashMap<>();
    mood.put("awaySeconds", away);
    mood.put("refuses", "");
    mood.put("repeats", disorder);
    mood.put("shuffles", disorder);
    send(WARDEN, "PUT", "/api/bridge", mood).is(200);
  }

  @AfterMethod
  public final void orderly() {
    mood(0, false);
  }

  /** A meeting of the host's, looser than the rules, so with a reason. */
  final String meeting(
      String title, int minutes, Map<String, Object> controls, String... invitees) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", HOST);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(20) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", minutes);
    form.put("controls", controls);
    form.put("invitees", List.of(invitees).stream().map(email -> Map.of("email", email)).toList());
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "a test of sessions");
    return post(WARDEN, "/api/meetings", body).is(200).json().get("id").stringValue();
  }

  final String practise(String meeting, String script, int speed, int strangers) {
    return post(
            WARDEN,
            "/api/floor/sessions",
            Map.of("meeting", meeting, "script", script, "speed", speed, "strangers", strangers))
        .is(201)
        .json()
        .get("id")
        .stringValue();
  }
}
