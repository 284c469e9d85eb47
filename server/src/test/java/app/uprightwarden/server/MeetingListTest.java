package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Predicate;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** The register's table, which is read from the one picture that the current audit keeps. */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_meeting_list",
      "warden.lists.named=6",
      "warden.lists.near=60"
    })
public class MeetingListTest extends ServerTest {
  @Autowired private JdbcClient jdbc;

  @BeforeMethod
  public void everythingIsJudged() {
    until(
        "everything is judged",
        () ->
            count("select count(*) from meeting_due") == 0
                && count("select count(*) from meeting_line where exposure is null") == 0
                && count("select count(*) from audit_run where renewed_at is not null") == 1);
  }

  private int count(String sql) {
    return jdbc.sql(sql).query(Integer.class).single();
  }

  private List<JsonNode> lines(String who, String query) {
    List<JsonNode> all = new ArrayList<>();
    int total = 1;
    for (int page = 0; all.size() < total; page++) {
      JsonNode some =
          get(who, "/api/meetings?size=37&page=" + page + (query.isEmpty() ? "" : "&" + query))
              .is(200)
              .json();
      total = some.get("total").intValue();
      some.get("items").forEach(all::add);
      assertTrue(some.get("items").size() > 0 || total == 0, "a page is empty: " + query);
    }
    assertEquals(all.stream().map(l -> text(l, "id")).distinct().count(), total, query);
    return all;
  }

  private static String text(JsonNode line, String field) {
    JsonNode value = line.get(field);
    return value == null || value.isNull() ? "" : value.asString();
  }

  private static Comparator<JsonNode> by(Function<JsonNode, Double> number) {
    return Comparator.comparing(number);
  }

  @DataProvider
  public Object[][] orders() {
    Comparator<JsonNode> next =
        Comparator.comparing(l -> text(l, "next").isEmpty() ? "9999" : text(l, "next"));
    return new Object[][] {
      {"next", next},
      {"exposure", by(l -> -l.get("exposure").doubleValue())},
      {"invited", by(l -> -l.get("invited").doubleValue())},
      {"findings", by(l -> -1000 * l.get("worst").doubleValue() - l.get("findings").doubleValue())},
      {
        "changed",
        Comparator.<JsonNode, Instant>comparing(l -> Instant.parse(text(l, "changedAt"))).reversed()
      },
      {"unit", Comparator.<JsonNode, String>comparing(l -> text(l, "unit"))},
      {"kind", Comparator.<JsonNode, String>comparing(l -> text(l, "kind"))}
    };
  }

  @Test(dataProvider = "orders")
  public void aListIsInOrderAndItsPagesMeet(String sort, Comparator<JsonNode> order) {
    List<JsonNode> up = lines(WARDEN, "sort=" + sort);
    assertEquals(up.size(), count("select count(*) from meeting"));
    for (int i = 1; i < up.size(); i++) {
      assertTrue(order.compare(up.get(i - 1), up.get(i)) <= 0, sort + ": " + up.get(i));
    }
    List<String> down = new ArrayList<>();
    lines(WARDEN, "sort=-" + sort).forEach(l -> down.add(0, text(l, "id")));
    assertEquals(down, up.stream().map(l -> text(l, "id")).toList(), "the other way round");
  }

  @Test
  public void titlesAndHostsAreInAlphabeticalOrder() {
    for (String[] sort : new String[][] {{"title", "title"}, {"host", "hostName"}}) {
      List<String> names =
          lines(WARDEN, "sort=" + sort[0]).stream()
              .map(l -> text(l, sort[1]).toLowerCase(Locale.ROOT))
              .filter(name -> name.matches("[a-z ]+"))
              .toList();
      assertTrue(names.size() > 10);
      assertEquals(names, names.stream().sorted().toList());
    }
  }

  @DataProvider
  public Object[][] filters() {
    Predicate<JsonNode> tide = l -> (text(l, "title") + text(l, "host")).contains("arbour");
    return new Object[][] {
      {"open=true", (Predicate<JsonNode>) l -> l.get("findings").intValue() > 0},
      {"band=open", (Predicate<JsonNode>) l -> l.get("exposure").doubleValue() >= 50},
      {"band=shut", (Predicate<JsonNode>) l -> l.get("exposure").doubleValue() < 10},
      {"band=nothing", (Predicate<JsonNode>) l -> false},
      {"unit=pilotage", (Predicate<JsonNode>) l -> text(l, "unit").equals("pilotage")},
      {"host=" + HOST, (Predicate<JsonNode>) l -> text(l, "host").equals(HOST)},
      {"text=aRbOuR", tide},
      {"text=100%25", (Predicate<JsonNode>) l -> text(l, "title").contains("100%")},
      {"text=_", (Predicate<JsonNode>) l -> text(l, "title").contains("_")}
    };
  }

  @Test(dataProvider = "filters")
  public void aFilterKeepsWhatItSays(String query, Predicate<JsonNode> kept) {
    List<String> expected =
        lines(WARDEN, "").stream()
            .filter(kept)
            .map(l -> text(l, "id"))
            .filter(id -> !id.isEmpty())
            .toList();
    assertEquals(lines(WARDEN, query).stream().map(l -> text(l, "id")).toList(), expected);
  }

  /** Of few, as of more than are asked for by name. */
  @Test
  public void wordsAreFoundWithoutTheirAccentsInAnyCaseAndOnLinesOfBefore() {
    String title = text(lineOf("m-0020"), "title");
    String host = text(lineOf("m-0020"), "hostName");
    int all = lines(WARDEN, "text=" + encoded("saltmarsh.example")).size();
    assertTrue(all > 100, "hosts' addresses count: " + all);
    assertEquals(lines(WARDEN, "").size(), all);
    for (String typed : List.of(title.toUpperCase(Locale.ROOT), title.toLowerCase(Locale.ROOT))) {
      assertTrue(ids("text=" + encoded(typed)).contains("m-0020"), typed);
    }
    assertEquals(ids("text=" + encoded(title + "\n" + host.charAt(0) + "!")), List.of());
    jdbc.sql("update meeting_line set title = 'Réunion Łódź' where meeting = 'm-0020'").update();
    jdbc.sql("update meeting_line set search_text = null where meeting in ('m-0020', 'm-0021')")
        .update();
    try {
      assertEquals(ids("text=" + encoded("REUNION lodz")), List.of("m-0020"));
      assertEquals(lines(WARDEN, "text=" + encoded("saltmarsh.example")).size(), all);
      assertEquals(
          ids("sort=title&text=" + encoded("saltmarsh.example")), ids("sort=title"), "in order");
    } finally {
      jdbc.sql("update meeting_line set title = ? where meeting = 'm-0020'").param(title).update();
      // as an upgrade has it gone through
      jdbc.sql("update audit_run set renewed_at = null, cursor_row = 0 where state = 'standing'")
          .update();
    }
    until(
        "it is written again",
        () -> count("select count(*) from meeting_line where search_text is null") == 0);
    assertTrue(ids("text=" + encoded(title)).contains("m-0020"));
  }

  private List<String> ids(String query) {
    return lines(WARDEN, query).stream().map(l -> text(l, "id")).toList();
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  @Test
  public void daysKeepWhatComesNextInThem() {
    List<String> coming =
        lines(WARDEN, "").stream().map(l -> text(l, "next")).filter(n -> !n.isEmpty()).toList();
    String from = coming.get(coming.size() / 4);
    String to = coming.get(coming.size() / 2);
    List<String> within = coming.stream().filter(n -> at(n, from) >= 0 && at(n, to) < 0).toList();
    assertTrue(within.size() > 3 && within.size() < coming.size(), within.toString());
    assertEquals(
        lines(WARDEN, "from=" + from + "&to=" + to).stream().map(l -> text(l, "next")).toList(),
        within);
    assertEquals(
        lines(WARDEN, "to=" + from).size(), coming.stream().filter(n -> at(n, from) < 0).count());
    List<String> onTheWall = new ArrayList<>();
    get(WARDEN, "/api/audits/0/wall?show=all&size=1000&from=" + from + "&to=" + to)
        .is(200)
        .json()
        .get("items")
        .forEach(row -> onTheWall.add(text(row, "next")));
    assertEquals(onTheWall.stream().sorted().toList(), within.stream().sorted().toList());
  }

  @DataProvider
  public Object[][] wrong() {
    return new Object[][] {
      {"/api/meetings?from=tomorrow", "/from", "is no time; write it as 2026-05-01T09:00:00Z"},
      {"/api/meetings?page=first", "/page", "is no whole number"},
      {"/api/meetings?open=perhaps", "/open", "is true or false"},
      {"/api/meetings?size=501", "/size", "must be less than or equal to 500"},
      {"/api/meetings/week?from=2026-05-01T00:00:00Z", "/to", "is missing"}
    };
  }

  @Test(dataProvider = "wrong")
  public void whatIsWrongInTheAddressIsSaid(String address, String where, String what) {
    JsonNode said = get(WARDEN, address).is(422).json();
    assertEquals(text(said, "code"), "invalid");
    assertEquals(said.at("/faults/0/pointer").asString(), where);
    assertEquals(said.at("/faults/0/message").asString(), what);
  }

  private static int at(String one, String other) {
    return Instant.parse(one).compareTo(Instant.parse(other));
  }

  @Test
  public void theTableTheWallAndTheMeetingAgree() {
    Map<String, JsonNode> wall = new HashMap<>();
    get(WARDEN, "/api/audits/0/wall?show=all&size=1000")
        .is(200)
        .json()
        .get("items")
        .forEach(row -> wall.put(text(row, "meeting"), row));
    for (JsonNode line : lines(WARDEN, "")) {
      JsonNode row = wall.get(text(line, "id"));
      for (String same : List.of("findings", "worst", "exposure", "invited", "title", "host")) {
        assertEquals(text(line, same), text(row, same), same + " of " + line);
      }
    }
  }

  @Test
  public void aLineFollowsItsMeeting() {
    JsonNode meeting = get(WARDEN, "/api/meetings/m-0010").is(200).json();
    String waits = meeting.at("/controls/waiting-room").asString();
    double before = lineOf("m-0010").get("exposure").doubleValue();
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/m-0010/controls",
            Map.of(
                "version",
                meeting.get("version").longValue(),
                "controls",
                Map.of("waiting-room", waits.equals("on") ? "off" : "on", "passcode", "none")))
        .is(200);
    until("it is judged anew", () -> lineOf("m-0010").get("exposure").doubleValue() != before);
    assertEquals(
        lineOf("m-0010").get("exposure").doubleValue(),
        get(WARDEN, "/api/meetings/m-0010").json().at("/assessment/exposure/score").doubleValue());
  }

  private JsonNode lineOf(String meeting) {
    return lines(WARDEN, "").stream()
        .filter(l -> text(l, "id").equals(meeting))
        .findFirst()
        .orElseThrow();
  }

  @Test
  public void whatTheAuditHasNotComeToIsJudgedForThePage() {
    JsonNode judged = lineOf("m-0020");
    jdbc.sql(
            "update meeting_line set exposure = null, next_start = null, occurrences = null, findings"
                + " = 0, worst = 0, invited = 0 where meeting = 'm-0020'")
        .update();
    JsonNode now = lineOf("m-0020");
    for (String same : List.of("exposure", "band", "next", "occurrences", "invited")) {
      assertEquals(now.get(same), judged.get(same), same);
    }
    jdbc.sql("update meeting_line set exposure = 1 where meeting = 'm-0020'").update();
  }

  /** Which meetings have some words is kept; whoever writes reads what they wrote. */
  @Test
  public void aListHasWhatWasWrittenAMomentAgo() {
    String words = "text=" + encoded("kelp survey");
    for (int i = 0; i < 3; i++) {
      assertEquals(ids(words), List.of());
      String id = kelpSurvey();
      assertEquals(ids(words), List.of(id));
      assertEquals(ids(words), List.of(id));
      long version = get(HOST, "/api/meetings/" + id).json().get("version").longValue();
      send(HOST, "DELETE", "/api/meetings/" + id + "?send=false&version=" + version, null).is(200);
    }
    assertEquals(ids(words), List.of());
  }

  private String kelpSurvey() {
    Map<String, Object> form = new HashMap<>();
    form.put("title", "Kelp survey");
    form.put("host", HOST);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(3) + "T09:00");
    form.put("zone", "Europe/London");
    form.put("minutes", 30);
    form.put("controls", Map.of());
    form.put("invitees", List.of());
    Map<String, Object> body = new HashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "to be found");
    return text(post(HOST, "/api/meetings", body).is(200).json(), "id");
  }

  /** Rows before the place are not looked at again: one of them keeps a mark. */
  @Test
  public void theCurrentAuditGoesOnWhereItWasStopped() {
    long run =
        jdbc.sql("select id from audit_run where state = 'standing'").query(Long.class).single();
    long half =
        jdbc.sql("select id from meeting order by id limit 1 offset 60").query(Long.class).single();
    int before = count("select count(*) from finding where audit = " + run);
    String first =
        jdbc.sql("select public_id from meeting order by id limit 1").query(String.class).single();
    jdbc.sql("update audited_meeting set intrusion = 999 where audit = ? and meeting = ?")
        .params(run, first)
        .update();
    jdbc.sql(
            "delete f from finding f join meeting m on m.public_id = f.meeting where f.audit = ? and"
                + " m.id > ? and f.check_id not in ('number-spillover', 'host-double-booked',"
                + " 'reused-passcode')")
        .params(run, half)
        .update();
    jdbc.sql(
            "update audit_run set renewed_at = null, cursor_row = ?, message = 'time' where id = ?")
        .params(half, run)
        .update();
    until(
        "it came to its end",
        () -> count("select count(*) from audit_run where renewed_at is not null") == 1);
    assertEquals(count("select count(*) from finding where audit = " + run), before);
    assertEquals(
        count("select count(*) from audited_meeting where intrusion = 999"), 1, "it began anew");
  }
}
