package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Audits held against each other, trends, the baseline, schedules and publications. */
public class ComparisonTest extends AuditStationTest {

  private JsonNode compare(long earlier, long later) {
    return get(WARDEN, "/api/audit-history/compare?earlier=" + earlier + "&later=" + later)
        .is(200)
        .json();
  }

  private static int sum(JsonNode counts) {
    return counts.valueStream().mapToInt(JsonNode::intValue).sum();
  }

  private Set<String> side(String side, long earlier, long later, String reason) {
    Set<String> found = new TreeSet<>();
    pages(
            "/api/audit-history/compare/"
                + side
                + "?earlier="
                + earlier
                + "&later="
                + later
                + "&size=1000"
                + (reason.isEmpty() ? "" : "&reason=" + reason))
        .forEach(i -> found.add(i.at("/found/identity").stringValue()));
    return found;
  }

  @Test
  public void theSidesAreThePlainDifferencesOfTheTwoSets() {
    setControl("m-0002", "waiting-room", "off"); // whatever others made of it
    settle();
    long a = audit(Map.of());
    setControl("m-0071", "waiting-room", "off");
    setControl("m-0072", "screen-share", "everyone");
    setControl("m-0002", "waiting-room", "on");
    settle();
    long b = audit(Map.of());
    Set<String> before = new TreeSet<>();
    findings(a, "&waived=false").forEach(f -> before.add(f.get("identity").stringValue()));
    Set<String> after = new TreeSet<>();
    findings(b, "&waived=false").forEach(f -> after.add(f.get("identity").stringValue()));
    Set<String> come = new TreeSet<>(after);
    come.removeAll(before);
    Set<String> gone = new TreeSet<>(before);
    gone.removeAll(after);
    Set<String> still = new TreeSet<>(before);
    still.retainAll(after);
    assertTrue(come.contains("m-0071||beyond-limit|waiting-room"), come.toString());
    assertTrue(gone.contains("m-0002||beyond-limit|waiting-room"), gone.toString());
    assertEquals(side("come", a, b, ""), come);
    assertEquals(side("gone", a, b, ""), gone);
    assertEquals(side("still", a, b, ""), still);
    JsonNode compared = compare(a, b);
    assertEquals(sum(compared.get("come")), come.size());
    assertEquals(sum(compared.get("gone")), gone.size());
    assertEquals(compared.get("still").intValue(), still.size());
    assertTrue(
        side("gone", a, b, "mended").contains("m-0002||beyond-limit|waiting-room"),
        compared.toString());
    assertTrue(
        compared
            .get("drifted")
            .valueStream()
            .anyMatch(
                d ->
                    d.get("meeting").stringValue().equals("m-0071")
                        && d.get("by").stringValue().equals(WARDEN)),
        compared.get("drifted").toString());
    setControl("m-0071", "waiting-room", "on");
    setControl("m-0002", "waiting-room", "off");
    settle();
    long c = audit(Map.of());
    assertTrue(
        side("come", b, c, "back").contains("m-0002||beyond-limit|waiting-room"),
        compare(b, c).toString());
  }

  @Test
  public void whatIsWaivedOrOverIsSaidToBe() {
    setControl("m-0074", "waiting-room", "off");
    setControl("m-0075", "waiting-room", "off");
    settle();
    long a = audit(Map.of());
    Map<String, Object> waiver = new HashMap<>();
    waiver.put("scope", "meeting");
    waiver.put("meeting", "m-0074");
    waiver.put("reason", "for the comparison");
    waiver.put("until", Instant.now().plus(2, ChronoUnit.DAYS).toString());
    long id = post(WARDEN, "/api/waivers", waiver).is(201).json().get("id").longValue();
    JsonNode now = get(WARDEN, "/api/meetings/m-0075").json();
    send(WARDEN, "DELETE", "/api/meetings/m-0075?send=false&version=" + now.get("version"), null)
        .is(200);
    settle();
    long b = audit(Map.of());
    assertTrue(side("gone", a, b, "waived").contains("m-0074||beyond-limit|waiting-room"));
    assertTrue(side("gone", a, b, "over").contains("m-0075||beyond-limit|waiting-room"));
    post(WARDEN, "/api/waivers/" + id + "/end", Map.of()).is(200);
    settle();
    long c = audit(Map.of());
    assertTrue(side("come", b, c, "unwaived").contains("m-0074||beyond-limit|waiting-room"));
    setControl("m-0074", "waiting-room", "on");
  }

  @Test
  public void theWallShowsWhatIsNewSinceTheBaseline() {
    long base = audit(Map.of());
    send(WARDEN, "PUT", "/api/audits/" + base + "/baseline", null).is(200);
    setControl("m-0077", "waiting-room", "off");
    settle();
    JsonNode fresh = get(WARDEN, "/api/audits/0/wall?baseline=new").is(200).json();
    assertEquals(
        fresh.get("items").valueStream().map(r -> r.get("meeting").stringValue()).toList(),
        List.of("m-0077"));
    assertTrue(get(WARDEN, "/api/audits/0/wall?baseline=old").json().get("total").intValue() > 20);
    send(WARDEN, "DELETE", "/api/audits/" + base + "/baseline", null).is(200);
    setControl("m-0077", "waiting-room", "on");
  }

  @Test
  public void trendsCountWhatTheAuditsFound() {
    long id = audit(Map.of());
    JsonNode points =
        get(WARDEN, "/api/audit-history/trends?most=200").is(200).json().get("points");
    assertTrue(points.size() >= 9, "eight weeks of the demo, and this");
    JsonNode last = points.get(points.size() - 1);
    assertEquals(last.get("audit").longValue(), id);
    JsonNode counted = get(WARDEN, "/api/audits/" + id).json().get("bySeverity");
    assertEquals(last.get("bySeverity"), counted);
    assertEquals(sum(last.get("byFamily")), sum(counted));
    assertEquals(
        sum(last.get("byBand")),
        get(WARDEN, "/api/audits/" + id).json().at("/run/judged").intValue());
    int ofUnits = 0;
    for (JsonNode unit : get(WARDEN, "/api/organisation").json().get("units")) {
      JsonNode of =
          get(WARDEN, "/api/audit-history/trends?most=1&unit=" + unit.get("id").stringValue())
              .json()
              .get("points");
      ofUnits += of.get(0).get("findings").intValue();
    }
    assertTrue(ofUnits <= last.get("findings").intValue() && ofUnits > 0);
    assertTrue(
        get(WARDEN, "/api/audit-history/trends").json().get("mended").size() >= 4,
        "the demo mends something each week");
  }

  @Test
  public void aScheduleBeginsAuditsAndSendsTheReportOnce() {
    Map<String, Object> form =
        Map.of(
            "name",
            "Each morning",
            "days",
            List.of("MO", "TU", "WE", "TH", "FR", "SA", "SU"),
            "time",
            "05:00",
            "zone",
            "Europe/Dublin",
            "windowDays",
            30,
            "recipients",
            List.of("board@saltmarsh.example"),
            "active",
            true);
    long id =
        post(WARDEN, "/api/audit-history/schedules", form).is(201).json().get("id").longValue();
    jdbc.sql("update audit_schedule set next_at = '2020-01-01' where id = ?").param(id).update();
    until(
        "the report goes out",
        () ->
            count(
                    "select count(*) from outbox_message where recipient = ?",
                    "board@saltmarsh.example")
                > 0);
    assertEquals(count("select count(*) from audit_run where schedule = ?", id), 1);
    assertEquals(
        count("select count(*) from outbox_message where recipient = ?", "board@saltmarsh.example"),
        1);
    String raw =
        new String(
            jdbc.sql("select raw from outbox_message where recipient = 'board@saltmarsh.example'")
                .query((r, n) -> r.getBytes(1))
                .single(),
            java.nio.charset.StandardCharsets.US_ASCII);
    assertTrue(raw.contains("Content-Type: application/pdf"), raw.substring(0, 800));
    assertTrue(raw.contains("filename=audit-"), raw.substring(0, 800));
    Instant next =
        Instant.parse(
            get(WARDEN, "/api/audit-history/schedules")
                .json()
                .valueStream()
                .filter(s -> s.get("id").longValue() == id)
                .findFirst()
                .orElseThrow()
                .get("nextAt")
                .stringValue());
    assertTrue(
        next.isAfter(Instant.now()) && next.isBefore(Instant.now().plus(25, ChronoUnit.HOURS)));
    // of two who have the same form open the second is told of the first
    String at = "/api/audit-history/schedules/" + id;
    Map<String, Object> theirs = new HashMap<>(form);
    theirs.put("name", "Changed by the first");
    theirs.put("version", 0);
    assertEquals(send(WARDEN, "PUT", at, theirs).is(200).json().get("version").longValue(), 1);
    Map<String, Object> late = new HashMap<>(form);
    late.put("active", false);
    late.put("version", 0);
    Answer refused = send(SECOND_WARDEN, "PUT", at, late).is(409);
    assertEquals(refused.json().get("code").stringValue(), "changed-meanwhile");
    late.put("version", 1);
    assertFalse(send(SECOND_WARDEN, "PUT", at, late).is(200).json().get("active").booleanValue());
    send(WARDEN, "DELETE", at, null).is(204);
    send(WARDEN, "DELETE", at, null).is(404);
    Map<String, Object> wrong = new HashMap<>(form);
    wrong.put("days", List.of("XX"));
    wrong.put("time", "25:00");
    wrong.put("zone", "Saltmarsh/Quay");
    wrong.put("recipients", List.of("no address"));
    Answer answer = post(WARDEN, "/api/audit-history/schedules", wrong).is(422);
    assertEquals(answer.json().get("faults").size(), 4, answer.body());
  }

  @Test
  public void aPublicationIsAudited() {
    int before = count("select count(*) from audit_run where cause = 'publication'");
    // as if the edition in force had not been audited yet
    jdbc.sql("update house set audited_edition = audited_edition - 1").update();
    until(
        "an audit begins",
        () -> count("select count(*) from audit_run where cause = 'publication'") == before + 1);
    long id = jdbc.sql("select max(id) from audit_run").query(Long.class).single();
    done(id);
  }
}
