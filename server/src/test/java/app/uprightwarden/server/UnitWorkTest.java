package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A unit's warden mends, asks, waives, answers alerts and runs sessions, in that unit. */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_unit_work")
public class UnitWorkTest extends ServerTest {
  private static final String UNIT = "pilotage"; // as the token of this test's person says

  @Autowired private JdbcClient jdbc;

  private String meetingOf(String unit, String and) {
    return jdbc.sql(
            "select m.public_id from meeting m join person p on p.folded = m.host_folded where"
                + " p.unit = ? and "
                + and
                + " order by m.id limit 1")
        .param(unit)
        .query(String.class)
        .single();
  }

  private static Map<String, Object> target(String meeting) {
    return Map.of("meeting", meeting);
  }

  private int mended(String who, String meeting) {
    Map<String, Object> form = Map.of("targets", List.of(target(meeting)), "evenIfAsked", true);
    return post(who, "/api/remedies/preview", form).is(200).json().path("meetings").intValue();
  }

  /** A meeting of a unit that a remedy mends. */
  private String broken(String unit) {
    return jdbc
        .sql(
            "select m.public_id from meeting m join person p on p.folded = m.host_folded where"
                + " p.unit = ? order by m.id")
        .param(unit)
        .query(String.class)
        .list()
        .stream()
        .filter(id -> mended(WARDEN, id) == 1)
        .findFirst()
        .orElseThrow();
  }

  private static boolean isOver(JsonNode view) {
    JsonNode states = view.at("/job/states");
    return states.path("waiting").intValue(0) + states.path("sending").intValue(0) == 0;
  }

  @Test
  public void theyMendInTheirUnitAndNowhereElseAndSeeTheirOwnRemediesAlone() {
    String ours = broken(UNIT);
    String others = broken("tariffs");
    assertEquals(mended(UNIT_WARDEN, ours), 1);
    assertEquals(mended(UNIT_WARDEN, others), 0, "another unit's is left alone");
    Map<String, Object> both = new HashMap<>();
    both.put("targets", List.of(target(ours), target(others)));
    both.put("evenIfAsked", true);
    JsonNode job = post(UNIT_WARDEN, "/api/remedies", both).is(202).json();
    String at = "/api/remedies/" + job.path("id").longValue();
    assertEquals(get(UNIT_WARDEN, at).is(200).json().path("items").size(), 1);
    until("it has ended", () -> isOver(get(UNIT_WARDEN, at).json()));
    JsonNode ended = get(UNIT_WARDEN, at).json();
    assertEquals(ended.at("/job/states/done").intValue(0), 1, ended.toString());
    Map<String, Object> theirs = Map.of("targets", List.of(target(others)), "evenIfAsked", true);
    post(UNIT_WARDEN, "/api/remedies", theirs).is(409);
    long wardens = post(WARDEN, "/api/remedies", theirs).is(202).json().path("id").longValue();
    get(UNIT_WARDEN, "/api/remedies/" + wardens).is(404);
    post(UNIT_WARDEN, "/api/remedies/" + wardens + "/undo", null).is(404);
    get(UNIT_WARDEN, "/api/remedies")
        .is(200)
        .json()
        .forEach(each -> assertFalse(each.path("id").longValue() == wardens));
    post(UNIT_WARDEN, at + "/undo", null).is(202);
  }

  @Test
  public void theyMakeMeetingsStricterNeverLooser() {
    String ours = meetingOf(UNIT, "true");
    Map<String, Object> loose = new HashMap<>();
    loose.put("targets", List.of(target(ours)));
    loose.put("controls", Map.of("recording", "everyone", "waiting-room", "off"));
    loose.put("evenIfAsked", true);
    Answer answer = post(UNIT_WARDEN, "/api/remedies", loose);
    assertTrue(answer.status() == 422 || answer.status() == 409, answer.body());
    long version = get(UNIT_WARDEN, "/api/meetings/" + ours).json().path("version").longValue();
    Map<String, Object> tight =
        Map.of("version", version, "controls", Map.of("remote-control", "off"));
    send(UNIT_WARDEN, "PATCH", "/api/meetings/" + ours + "/controls", tight).is(200);
    String others = meetingOf("tariffs", "true");
    Map<String, Object> theirs = Map.of("version", 0, "controls", Map.of("remote-control", "off"));
    send(UNIT_WARDEN, "PATCH", "/api/meetings/" + others + "/controls", theirs).is(404);
  }

  @Test
  public void theyAskTheHostsOfTheirUnit() {
    String ours = broken(UNIT);
    String others = broken("tariffs");
    JsonNode asked =
        post(
                UNIT_WARDEN,
                "/api/host-requests",
                Map.of("targets", List.of(target(ours), target(others)), "note", "Please."))
            .is(200)
            .json();
    assertTrue(asked.path("hosts").intValue() <= 1, asked.toString());
    String host = get(WARDEN, "/api/meetings/" + others).json().path("host").stringValue("");
    String open = get(UNIT_WARDEN, "/api/host-requests").is(200).body();
    assertFalse(open.contains(host), "nothing of another unit's hosts");
  }

  private static Map<String, Object> waiver(String meeting, String scope) {
    Map<String, Object> wanted = new HashMap<>();
    wanted.put("scope", scope);
    wanted.put("meeting", meeting);
    wanted.put("reason", "An agreed exception.");
    wanted.put("until", Instant.now().plus(10, ChronoUnit.DAYS).toString());
    return wanted;
  }

  @Test
  public void theyWaiveUpToTheSeverityThatTheOrganisationSets() {
    String ours = broken(UNIT);
    String others = broken("tariffs");
    String settings = "/api/waivers/settings";
    assertEquals(get(WARDEN, settings).json().path("unitWaiverSeverity").intValue(), 2);
    try {
      send(WARDEN, "PUT", settings + "/units", Map.of("severity", 0)).is(200);
      String refused = post(UNIT_WARDEN, "/api/waivers", waiver(ours, "meeting")).is(422).body();
      assertTrue(refused.contains("lets no unit"), refused);
      send(WARDEN, "PUT", settings + "/units", Map.of("severity", 2)).is(200);
      String grave = post(UNIT_WARDEN, "/api/waivers", waiver(ours, "meeting")).is(422).body();
      assertTrue(
          grave.contains("waives up to 2"), "a whole meeting is moderate at least: " + grave);
      Map<String, Object> answer = Map.of("granted", false, "answer", "No.");
      post(UNIT_WARDEN, "/api/host-requests/waivers/1/answer", answer).is(403);
      send(WARDEN, "PUT", settings + "/units", Map.of("severity", 5)).is(200);
      JsonNode granted = post(UNIT_WARDEN, "/api/waivers", waiver(ours, "meeting")).is(201).json();
      post(UNIT_WARDEN, "/api/waivers", waiver(others, "meeting")).is(422);
      Map<String, Object> rule = waiver(ours, "rule");
      rule.put("unit", UNIT);
      rule.put("subject", "waiting-room");
      post(UNIT_WARDEN, "/api/waivers", rule).is(422);
      long theirs =
          post(WARDEN, "/api/waivers", waiver(others, "meeting"))
              .is(201)
              .json()
              .path("id")
              .longValue();
      get(UNIT_WARDEN, "/api/waivers")
          .is(200)
          .json()
          .forEach(w -> assertFalse(w.path("id").longValue() == theirs, w.toString()));
      post(UNIT_WARDEN, "/api/waivers/" + theirs + "/end", null).is(404);
      post(UNIT_WARDEN, "/api/waivers/" + granted.path("id").longValue() + "/end", null).is(200);
      post(WARDEN, "/api/waivers/" + theirs + "/end", null).is(200);
      send(UNIT_WARDEN, "PUT", settings + "/units", Map.of("severity", 5)).is(403);
    } finally {
      send(WARDEN, "PUT", settings + "/units", Map.of("severity", 2)).is(200);
    }
  }

  private String practise(String who, String meeting, int status) {
    Map<String, Object> wanted =
        Map.of("meeting", meeting, "script", "usual", "speed", 1, "strangers", 0);
    return post(who, "/api/floor/sessions", wanted).is(status).json().path("id").stringValue("");
  }

  @Test
  public void theyRunTheSessionsOfTheirUnit() {
    String ours = practise(UNIT_WARDEN, meetingOf(UNIT, "true"), 201);
    practise(UNIT_WARDEN, meetingOf("tariffs", "true"), 404);
    String theirs = practise(WARDEN, meetingOf("tariffs", "true"), 201);
    String listed = get(UNIT_WARDEN, "/api/floor/sessions").is(200).body();
    assertTrue(listed.contains(ours) && !listed.contains(theirs), listed);
    get(UNIT_WARDEN, "/api/floor/sessions/" + theirs).is(404);
    Map<String, Object> lock = Map.of("key", "unit-lock", "act", "lock", "people", List.of());
    post(UNIT_WARDEN, "/api/floor/sessions/" + theirs + "/orders", lock).is(404);
    until(
        "it is open",
        () -> get(UNIT_WARDEN, "/api/floor/sessions/" + ours).body().contains("\"open\""));
    post(UNIT_WARDEN, "/api/floor/sessions/" + ours + "/orders", lock).is(200);
    for (String each : List.of(ours, theirs)) {
      Map<String, Object> end = Map.of("key", "end-" + each, "act", "end", "people", List.of());
      post(WARDEN, "/api/floor/sessions/" + each + "/orders", end).is(200);
    }
  }

  private boolean isOfUnit(String meeting) {
    return jdbc.sql(
                "select count(*) from meeting m join person p on p.folded = m.host_folded"
                    + " where m.public_id = ? and p.unit = ?")
            .params(meeting, UNIT)
            .query(Integer.class)
            .single()
        == 1;
  }

  @Test
  public void theLookoutShowsTheirUnitAlone() {
    JsonNode all = get(WARDEN, "/api/lookout").is(200).json();
    JsonNode own = get(UNIT_WARDEN, "/api/lookout").is(200).json();
    assertEquals(own.get("bySeverity"), get(UNIT_WARDEN, "/api/audits/0").json().get("bySeverity"));
    for (String part : List.of("storms", "drifted")) {
      own.get(part).forEach(each -> assertTrue(isOfUnit(each.get("meeting").stringValue()), part));
    }
    JsonNode marks = own.at("/tide/marks");
    assertFalse(marks.isEmpty());
    marks.forEach(mark -> assertTrue(isOfUnit(mark.get("meeting").stringValue()), mark.toString()));
    assertTrue(own.at("/tide/series").intValue() < all.at("/tide/series").intValue());
    assertFalse(own.get("storms").isEmpty(), "the demo has one there");
    own.get("requests")
        .forEach(
            request ->
                assertEquals(
                    jdbc.sql("select unit from person where folded = ?")
                        .param(request.get("host").stringValue())
                        .query(String.class)
                        .single(),
                    UNIT));
    assertEquals(own.get("waitingForSecond").intValue(), 0, "they give no second word");
    // the trend is of the same meetings as what stands open
    JsonNode last = own.get("moved").get(own.get("moved").size() - 1).get("bySeverity");
    JsonNode ofAll = all.get("moved").get(all.get("moved").size() - 1).get("bySeverity");
    int unit = last.valueStream().mapToInt(JsonNode::intValue).sum();
    int whole = ofAll.valueStream().mapToInt(JsonNode::intValue).sum();
    assertTrue(unit > 0 && unit < whole, unit + " of " + whole);
  }

  private static Map<String, Object> saved(String host, Map<String, Object> controls) {
    Map<String, Object> form = new HashMap<>();
    form.put("title", "Relief crew");
    form.put("host", host);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(33) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 30);
    form.put("controls", controls);
    Map<String, Object> body = new HashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    return body;
  }

  /** Who looks after a unit, or stands in for who does, has meetings of their own as well. */
  @Test
  public void aUnitsWardenIsAHostAsWell() {
    Map<String, Object> person = new HashMap<>();
    person.put("name", "Una Warden");
    person.put("standing", "member");
    person.put("active", true);
    person.put("unit", UNIT);
    send(WARDEN, "PUT", "/api/people/" + UNIT_WARDEN, person).is(200);
    String own =
        post(UNIT_WARDEN, "/api/meetings", saved(UNIT_WARDEN, Map.of()))
            .is(200)
            .json()
            .get("id")
            .stringValue();
    String at = "/api/meetings/" + own;
    assertTrue(get(UNIT_WARDEN, at).is(200).json().get("mayEdit").booleanValue());
    get(UNIT_WARDEN, at + "/form").is(200);
    get(UNIT_WARDEN, at + "/join").is(200);
    JsonNode listed = get(UNIT_WARDEN, "/api/meetings?mine=true&size=500").is(200).json();
    assertEquals(listed.get("total").intValue(), 1);
    assertTrue(get(UNIT_WARDEN, "/api/meetings").json().get("total").intValue() > 1);
    // not looser than a host may, and not in another's name
    Map<String, Object> loose = Map.of("waiting-room", "off", "passcode", "none");
    post(UNIT_WARDEN, "/api/meetings", saved(UNIT_WARDEN, loose)).is(422);
    post(UNIT_WARDEN, "/api/meetings", saved(HOST, Map.of())).is(403);
    // another's meeting of the unit is looked at, and not changed as a whole
    String others = meetingOf(UNIT, "m.host_folded <> '" + UNIT_WARDEN + "'");
    JsonNode seen = get(UNIT_WARDEN, "/api/meetings/" + others).is(200).json();
    assertFalse(seen.get("mayEdit").booleanValue());
    assertFalse(seen.get("maySeePasscode").booleanValue());
    get(UNIT_WARDEN, "/api/meetings/" + others + "/form").is(404);
    get(UNIT_WARDEN, "/api/meetings/" + others + "/join").is(404);
    send(UNIT_WARDEN, "DELETE", "/api/meetings/" + others + "?version=0&send=false", null).is(404);
    send(UNIT_WARDEN, "DELETE", at + "?version=0&send=false", null).is(200);
  }
}
